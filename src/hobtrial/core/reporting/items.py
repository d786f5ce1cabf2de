"""What each check of an exercise tells of those who tried it: how many held it, and how well it tells them apart.

Method: the difficulty of an item is the share that held it; its discrimination is the point-biserial correlation of
holding it with the marks of everything else (Lord and Novick, *Statistical Theories of Mental Test Scores*, 1968,
ch. 15), so that an item does not correlate with itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from .report import Report

FEWEST: Final = 8
"""Scripts below which nothing is said: with fewer, chance says more than the check."""
TELLS_LITTLE: Final = 0.1
"""A discrimination below which a check is named to its author."""


@dataclass(frozen=True, slots=True)
class Item:
    """A check of an exercise. `apart` is nothing where everybody or nobody held it, or nothing else differed."""

    scenario: int
    index: int
    expect: str
    held: float
    """The share of scripts that held it, from 0 to 1."""
    apart: float | None
    """From -1 to 1: how well it tells those apart who did well otherwise."""
    scripts: int

    @property
    def tells_nothing(self) -> bool:
        """Whether its author should look at it: everybody holds it or nobody, or it goes with nothing else."""
        return self.scripts >= FEWEST and (self.apart is None or self.apart < TELLS_LITTLE)


def items(reports: Sequence[Report]) -> list[Item]:
    """The checks of an exercise over the last scripts of those who tried it; scripts that did not run are left out."""
    ran = [report for report in reports if report.scenarios and report.marks is not None]
    if not ran:
        return []
    found = []
    for number, scenario in enumerate(ran[0].scenarios):
        for index, check in enumerate(scenario.checks):
            mine = [_check(report, number, index) for report in ran]
            held = [each is not None and each[0] for each in mine]
            rest = [float(report.marks or 0) - (each[1] if each else 0) for report, each in zip(ran, mine, strict=True)]
            share = sum(held) / len(held)
            found.append(Item(number, index, check.expect, share, point_biserial(held, rest), len(ran)))
    return found


def _check(report: Report, scenario: int, index: int) -> tuple[bool, float] | None:
    """Whether a script held a check, and what it earned for it."""
    if scenario >= len(report.scenarios) or index >= len(report.scenarios[scenario].checks):
        return None
    check = report.scenarios[scenario].checks[index]
    return check.verdict == "held", float(check.marks)


def point_biserial(held: Sequence[bool], rest: Sequence[float]) -> float | None:
    """The point-biserial correlation of a yes or no with a number; nothing where either does not differ at all."""
    count = len(held)
    yes = [value for answer, value in zip(held, rest, strict=True) if answer]
    no = [value for answer, value in zip(held, rest, strict=True) if not answer]
    if not yes or not no:
        return None
    mean = sum(rest) / count
    spread = math.sqrt(sum((value - mean) ** 2 for value in rest) / count)
    if spread == 0:
        return None
    share = len(yes) / count
    return (sum(yes) / len(yes) - sum(no) / len(no)) / spread * math.sqrt(share * (1 - share))
