"""Expectations, checks and marks: traces give verdicts."""

from .agreement import CLOSE, Parting, first_parting, parting, same_steps, same_value
from .checks import PreparedCheck
from .craft import CraftRule
from .drawn import RUNS, Doings, doings_of, drawn_plans
from .examine import Examination, Examined
from .expectation import Expectation, read_expectation, read_predicted
from .live import LiveGame
from .marking import (
    TRIALS_OF_AN_EDIT,
    CraftVerdict,
    Played,
    broken_checks,
    by_concept,
    by_task,
    failed_checks,
    judge_craft,
    not_looked_at,
    play_all,
    play_scenario,
    reference_of,
    shortest_break,
    total,
)
from .names import ExpectationError, Surroundings, read_event
from .prepare import Prepared, open_exercise, pair_events, prepare
from .scenarios import PreparedScenario
from .start import Put, Start, by_hand, names_for, read_shown
from .verdict import BROKEN, HELD, NOT_REACHED, Answer, Verdict, judge, tidy
from .written import inputs_back, written_back

__all__ = [
    "BROKEN",
    "CLOSE",
    "HELD",
    "NOT_REACHED",
    "RUNS",
    "TRIALS_OF_AN_EDIT",
    "Answer",
    "CraftRule",
    "CraftVerdict",
    "Doings",
    "Examination",
    "Examined",
    "Expectation",
    "ExpectationError",
    "LiveGame",
    "Parting",
    "Played",
    "Prepared",
    "PreparedCheck",
    "PreparedScenario",
    "Put",
    "Start",
    "Surroundings",
    "Verdict",
    "broken_checks",
    "by_concept",
    "by_hand",
    "by_task",
    "doings_of",
    "drawn_plans",
    "failed_checks",
    "first_parting",
    "inputs_back",
    "judge",
    "judge_craft",
    "names_for",
    "not_looked_at",
    "open_exercise",
    "pair_events",
    "parting",
    "play_all",
    "play_scenario",
    "prepare",
    "read_event",
    "read_expectation",
    "read_predicted",
    "read_shown",
    "reference_of",
    "same_steps",
    "same_value",
    "shortest_break",
    "tidy",
    "total",
    "written_back",
]
