"""Two reports of one student's work, check by check: what a newer version of the exercise or a change of
the script turned.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from ..judging import Answer
from .report import Marks, Report

MOST_REASONS: Final = 5
"""Reasons that are named; more cannot be taken in."""


@dataclass(frozen=True, slots=True)
class Turned:
    """A check with another verdict than before."""

    scenario: str
    expect: str
    before: Answer
    after: Answer


def turned(before: Report, after: Report) -> list[Turned]:
    """The checks with another verdict than before; of a text that could not be read all that hold now."""
    old = {
        (scenario.name, index): check.verdict
        for scenario in before.scenarios
        for index, check in enumerate(scenario.checks)
    }
    return [
        Turned(scenario.name, check.expect, was, check.verdict)
        for scenario in after.scenarios
        for index, check in enumerate(scenario.checks)
        if (was := old.get((scenario.name, index), "not reached")) != check.verdict
    ]


def why_changed(before: Report, after: Report) -> list[str]:
    """Why the marks of a text differ, in a few sentences; nothing where they are the same."""
    if before.marks == after.marks:
        return []
    old, new = _lines(before), _lines(after)
    reasons: list[str] = []
    for key, (verdict, marks) in new.items():
        if key not in old:
            reasons.append(f"{key} is new: {verdict}, {marks:g} marks.")
        elif old[key] != (verdict, marks):
            was, had = old[key]
            words = f"is {verdict}, it was {was}" if was != verdict else f"gives {marks:g} marks, it gave {had:g}"
            reasons.append(f"{key} {words}.")
    gone = [(key, marks) for key, (_, marks) in old.items() if key not in new]
    reasons += [f"{key} is no longer asked; it gave {marks:g} marks." for key, marks in gone]
    if before.status != after.status:
        reasons.insert(0, f"The script is {after.status} now; it was {before.status}.")
    return reasons[:MOST_REASONS]


def _lines(report: Report) -> dict[str, tuple[Answer, Marks]]:
    """Verdict and marks of every check and craft line, by the words for it."""
    checks = {
        f"{scenario.name}: `{check.expect}` ({check.kind})": (check.verdict, check.marks)
        for scenario in report.scenarios
        for check in scenario.checks
    }
    return checks | {f"Craft: `{line.expect}`": (line.verdict, line.marks) for line in report.craft}
