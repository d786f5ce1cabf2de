"""Report → what its student may see of it: evidence from visible scenarios only, help as far as it is allowed.

Of what only a hidden scenario shows there is the quiet nudge, without its inputs and values. What
writes out a part of the reference stays a nudge: the rest is the teacher's to tell.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from ..exercise import Help
from ..judging import Answer
from ..script.tree import ChangedLine
from .report import FindingReport, Marks, PartMarks, Report, ScenarioReport

LEVELS: Final = ("none", "nudge", "pointer", "fix")
HIDDEN: Final = "A hidden scenario"


@dataclass(frozen=True, slots=True)
class SeenCheck:
    """A check of a visible scenario."""

    verdict: Answer
    because: str


@dataclass(frozen=True, slots=True)
class SeenScenario:
    """A scenario; of a hidden one only the marks."""

    name: str
    marks: Marks
    out_of: Marks
    checks: tuple[SeenCheck, ...]


@dataclass(frozen=True, slots=True)
class SeenFinding:
    """A finding as far as it is told by now."""

    key: str
    marks_lost: Marks
    scenarios: tuple[str, ...]
    step: int
    """How many steps of help are told: 1 the nudge, 2 the pointer, 3 the fix."""
    seen: bool
    """Whether a visible scenario shows it, or the script itself."""
    scenario: int | None
    """Where the moment of it can be looked at: a visible scenario, and the frame."""
    frame: int | None
    nudge: str
    happened: tuple[str, ...]
    title: str | None
    pointer: str | None
    fix: tuple[ChangedLine, ...] | None
    certain: bool


@dataclass(frozen=True, slots=True)
class StudentReport:
    """What a student sees of a report; of a script that waits or could not be marked, that it is so."""

    marks: Marks | None = None
    out_of: Marks | None = None
    by_concept: dict[str, PartMarks] | None = None
    scenarios: tuple[SeenScenario, ...] = ()
    findings: tuple[SeenFinding, ...] = ()
    advice: tuple[str, ...] = ()
    may: int = 0
    """How many steps of help there may be by now."""
    unmarked: str = ""
    """Why it could not be marked, through no fault of the script."""


def for_student(
    report: Report | None,
    help_: Help,
    tries: int,
    visible: Sequence[bool],
    steps: Mapping[str, int] | None = None,
) -> StudentReport:
    """What a student may see of a report.

    `help_` is that of the exercise, `tries` the number of the try, `visible` says of each scenario
    whether students see it. With `steps` (by the key of a finding), only so much is told as was asked for.
    """
    if report is None:
        return StudentReport()
    if report.fault is not None:
        return StudentReport(out_of=report.out_of, unmarked=report.fault.message)
    level = _level(help_, tries)
    return StudentReport(
        marks=report.marks,
        out_of=report.out_of,
        by_concept=report.by_concept,
        scenarios=tuple(_scenario(each, shown) for each, shown in zip(report.scenarios, visible, strict=False)),
        findings=tuple(
            _finding(each, level if steps is None else min(level, steps.get(each.key, 0)), visible)
            for each in report.findings
        )
        if level
        else (),
        may=level,
        advice=tuple(each.text for each in report.advice),
    )


def tries_until(help_: Help, tries: int) -> tuple[int | None, ...]:
    """How many more tries each step of help needs, beginning with the nudge; nothing where it is never told."""
    most = LEVELS.index(help_.upto)
    return tuple(max(after - tries, 0) if step <= most else None for step, after in enumerate(help_.after, 1))


def _level(help_: Help, tries: int) -> int:
    """How many steps of help there are by now: 0 none, 1 the nudge, 2 the pointer, 3 the fix."""
    return min(LEVELS.index(help_.upto), sum(tries >= after for after in help_.after))


def _finding(found: FindingReport, level: int, visible: Sequence[bool]) -> SeenFinding:
    seen = found.scenario is None or (found.scenario < len(visible) and visible[found.scenario])
    fix = found.fix
    told = seen and not (fix is not None and fix.shows_reference)
    pointed = told and level >= 2
    return SeenFinding(
        key=found.key,
        marks_lost=found.marks_lost,
        scenarios=_names(found, visible) if seen else (HIDDEN,),
        step=min(level, 1 + 2 * told),
        seen=seen,
        scenario=found.scenario if seen else None,
        frame=found.frame if seen else None,
        nudge="" if not level else found.nudge if seen else found.quiet,
        happened=found.happened if seen and level else (),
        title=found.title if pointed else None,
        pointer=found.pointer if pointed else None,
        fix=fix.changes if told and level >= 3 and fix is not None else None,
        certain=found.confidence == "shown",
    )


def _names(found: FindingReport, visible: Sequence[bool]) -> tuple[str, ...]:
    """Names of the visible scenarios that a finding is about."""
    numbers = dict.fromkeys(number for number, _ in found.checks)
    return tuple(name for number, name in zip(numbers, found.scenarios, strict=False) if visible[number])


def _scenario(scenario: ScenarioReport, shown: bool) -> SeenScenario:
    return SeenScenario(
        name=scenario.name if shown else HIDDEN,
        marks=scenario.marks,
        out_of=sum(check.out_of for check in scenario.checks),
        checks=tuple(SeenCheck(check.verdict, check.because) for check in scenario.checks) if shown else (),
    )
