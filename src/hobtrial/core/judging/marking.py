"""A script over all scenarios of an exercise: verdicts and marks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from ..script import Woven
from ..trial import Trace
from ..words import as_json_value
from .prepare import Prepared
from .verdict import BROKEN, HELD, Verdict, judge, tidy


@dataclass(frozen=True, eq=False)
class Played:
    """One scenario played by a script, with the verdict of each of its checks."""

    number: int
    name: str
    trace: Trace
    verdicts: tuple[Verdict, ...]

    @property
    def broken(self) -> bool:
        """Whether any check is broken or was not reached."""
        return any(verdict.verdict != HELD for verdict in self.verdicts)

    def as_json(self) -> dict[str, Any]:
        """The scenario as the report shows it."""
        trace = self.trace
        return {
            "name": self.name,
            "outcome": trace.outcome,
            "final": {name: as_json_value(value) for name, value in trace.final.items()},
            "stopped": trace.stopped.as_json() if trace.stopped else None,
            "frames": trace.last_frame + 1,
            "trials": 1,
            "checks": [verdict.as_json() for verdict in self.verdicts],
        }


def play_scenario(prepared: Prepared, woven: Woven, number: int, *, record: bool = False) -> Played:
    """Plays one scenario and judges it."""
    course = prepared.courses[number]
    trace = prepared.play(woven, course, record=record)
    verdicts = tuple(judge(check, expectation, trace) for check, expectation in course.checks)
    if course.scenario.all_or_nothing and any(verdict.verdict != HELD for verdict in verdicts):
        verdicts = tuple(_without_marks(verdict) for verdict in verdicts)
    return Played(number, course.scenario.name, trace, verdicts)


def play_all(prepared: Prepared, woven: Woven, ended: Callable[[Played], None] | None = None) -> list[Played]:
    """Plays all scenarios for verdicts only; `ended` hears of each as it ends."""
    played: list[Played] = []
    for number, _ in enumerate(prepared.courses):
        played.append(play_scenario(prepared, woven, number))
        if ended is not None:
            ended(played[-1])
    return played


def _without_marks(verdict: Verdict) -> Verdict:
    values = {name: getattr(verdict, name) for name in Verdict.__slots__}
    return Verdict(**{**values, "marks": 0})


def total(verdicts: Iterable[Verdict]) -> float:
    """The marks earned."""
    return sum(verdict.marks for verdict in verdicts)


def by_concept(verdicts: Iterable[Verdict]) -> dict[str, dict[str, int | float]]:
    """Marks earned and possible for each concept."""
    earned: dict[str, float] = defaultdict(float)
    possible: dict[str, float] = defaultdict(float)
    for verdict in verdicts:
        if verdict.concept is not None:
            earned[verdict.concept] += verdict.marks
            possible[verdict.concept] += verdict.out_of
    return {concept: {"marks": tidy(earned[concept]), "out_of": tidy(possible[concept])} for concept in possible}


def broken_checks(played: Iterable[Played]) -> set[tuple[int, int]]:
    """Scenario and check numbers of all checks that are broken (not: not reached)."""
    return {
        (run.number, place) for run in played for place, verdict in enumerate(run.verdicts) if verdict.verdict == BROKEN
    }


def failed_checks(played: Iterable[Played]) -> set[tuple[int, int]]:
    """Scenario and check numbers of all checks that did not hold."""
    return {
        (run.number, place) for run in played for place, verdict in enumerate(run.verdicts) if verdict.verdict != HELD
    }
