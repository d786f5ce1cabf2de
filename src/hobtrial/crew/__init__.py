"""Trials in worker processes: students' scripts never run in the process that serves."""

from .crew import Crew, InternalError, OpenedExercise, digest_of
from .players import Game, Players, TooManyPlayersError
from .process import WorkerGoneError
from .queue import Marker, NewerEditionError, Queue, prepare_queue, work

__all__ = [
    "Crew",
    "Game",
    "InternalError",
    "Marker",
    "NewerEditionError",
    "OpenedExercise",
    "Players",
    "Queue",
    "TooManyPlayersError",
    "WorkerGoneError",
    "digest_of",
    "prepare_queue",
    "work",
]
