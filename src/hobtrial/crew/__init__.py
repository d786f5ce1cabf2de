"""Trials in worker processes: students' scripts never run in the process that serves."""

from .crew import Crew, OpenedExercise, WorkerGoneError
from .queue import Marker, Queue, prepare_queue, work

__all__ = ["Crew", "Marker", "OpenedExercise", "Queue", "WorkerGoneError", "prepare_queue", "work"]
