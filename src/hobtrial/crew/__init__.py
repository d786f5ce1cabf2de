"""Trials in worker processes: students' scripts never run in the process that serves."""

from .crew import Crew, OpenedExercise

__all__ = ["Crew", "OpenedExercise"]
