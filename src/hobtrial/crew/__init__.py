"""Trials in worker processes: students' scripts never run in the process that serves."""

from .crew import DESK, Crew, InternalError, OpenedExercise, digest_of
from .players import Game, Players, TooManyPlayersError
from .process import WorkerGoneError
from .queue import DESK_CHECK, HANDED_IN, Marker, NewerEditionError, Queue, prepare_queue, work
from .versions import ReadVersion, read_version

__all__ = [
    "DESK",
    "DESK_CHECK",
    "HANDED_IN",
    "Crew",
    "Game",
    "InternalError",
    "Marker",
    "NewerEditionError",
    "OpenedExercise",
    "Players",
    "Queue",
    "ReadVersion",
    "TooManyPlayersError",
    "WorkerGoneError",
    "digest_of",
    "prepare_queue",
    "read_version",
    "work",
]
