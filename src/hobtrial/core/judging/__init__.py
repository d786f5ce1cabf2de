"""Expectations, checks and marks: traces give verdicts."""

from .expectation import Expectation, ExpectationError, Surroundings, read_event, read_expectation
from .live import LiveGame
from .marking import Played, broken_checks, by_concept, failed_checks, play_all, play_scenario, total
from .prepare import Course, Prepared, open_exercise, pair_events, prepare
from .verdict import BROKEN, HELD, NOT_REACHED, Verdict, judge, tidy

__all__ = [
    "BROKEN",
    "HELD",
    "NOT_REACHED",
    "Course",
    "Expectation",
    "ExpectationError",
    "LiveGame",
    "Played",
    "Prepared",
    "Surroundings",
    "Verdict",
    "broken_checks",
    "by_concept",
    "failed_checks",
    "judge",
    "open_exercise",
    "pair_events",
    "play_all",
    "play_scenario",
    "prepare",
    "read_event",
    "read_expectation",
    "tidy",
    "total",
]
