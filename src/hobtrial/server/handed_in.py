"""Records → a try as its student sees it once it is given back: the page, and the sheet on paper."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from ..core.reporting import FindingReport, Report, SeenFinding, Withdrawn, for_student, without
from ..crew import OpenedExercise
from ..store.store import Row
from .checking import text_of
from .lesson_views import FeedbackSheet, HandedInCheck, HandedInFinding, HandedInScenario, SheetLineView

LINES_ROUND: Final = 2
"""Lines of a sheet before and after each that it is about."""


def handed_in_view(
    row: Row, exercise: OpenedExercise, round_id: int, times: Row, withdrawn: Withdrawn, *, give: bool
) -> FeedbackSheet:
    """A try. With `give`, everything that it may tell is told; before that only that it was handed in."""
    report: Report | None = row["report"]
    kept = without(report, row["student"], withdrawn) if give and report is not None else None
    visible = [bool(each["visible"]) for each in exercise.scenarios]
    shown = for_student(kept, exercise.help, row["number"], visible)
    source = text_of(row["source"])
    found = {each.key: each for each in kept.findings} if kept is not None else {}
    told = kept is not None and kept.fault is None
    return FeedbackSheet(
        id=row["id"],
        round_id=round_id,
        title=exercise.title,
        class_name=row["class"],
        student=row["student"],
        number=row["number"],
        handed_in_at=row["handed_in_at"],
        late=times["due_at"] is not None and row["handed_in_at"] > times["due_at"],
        with_name=row["with_name"],
        given_back=give,
        source=source,
        marks=shown.marks,
        out_of=exercise.out_of,
        own_marks=row["own_marks"] if give else None,
        comment=(row["own_comment"] or "") if give else "",
        reply=row["reply"],
        unmarked=shown.unmarked,
        scenarios=[
            HandedInScenario(
                name=each.name,
                marks=each.marks,
                out_of=each.out_of,
                checks=[HandedInCheck(verdict=check.verdict, because=check.because) for check in each.checks],
            )
            for each in shown.scenarios
        ],
        by_concept=dict(kept.by_concept) if told and kept is not None else {},
        by_task=dict(kept.by_task) if told and kept is not None else {},
        findings=[_finding(each, found.get(each.key), source) for each in shown.findings],
        advice=list(shown.advice),
    )


def _finding(seen: SeenFinding, found: FindingReport | None, source: str) -> HandedInFinding:
    return HandedInFinding(
        marks_lost=seen.marks_lost,
        scenarios=list(seen.scenarios),
        scenario=seen.scenario,
        frame=seen.frame,
        nudge=seen.nudge,
        happened=list(seen.happened),
        title=seen.title,
        pointer=seen.pointer,
        lines=excerpt(source, found.lines) if found is not None and seen.pointer is not None else [],
        fix=list(seen.fix) if seen.fix is not None else None,
        certain=seen.certain,
    )


def excerpt(source: str, about: Sequence[int], around: int = LINES_ROUND, most: int = 4) -> list[SheetLineView]:
    """The lines of a finding with the few round them; nothing where it names none."""
    lines = source.split("\n")
    near = {number for line in about[:most] for number in range(line - around, line + around + 1)}
    shown = sorted(number for number in near if 1 <= number <= len(lines))
    return [SheetLineView(number=number, text=lines[number - 1], about=number in about) for number in shown]
