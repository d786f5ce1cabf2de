"""The sheet: one group of findings for the projector or the printer, with nobody's name on it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Final

from fastapi import HTTPException

from ..core.reporting import groups, without
from ..core.script import Unreadable
from ..core.script.read import decode
from ..store import Lessons, Rounds
from .answering import Router
from .building import NO_ROUND, group_view
from .deps import Parts
from .views import SheetLine, SheetView, Sorry

router = Router(prefix="/api/rounds", tags=["sheet"])

LINES_ROUND: Final = 3
"""Lines of a sheet before and after each that it is about."""
MOST_LINES: Final = 4
"""Lines that a sheet is about: more do not fit on a projector."""


@router.get("/{round_id}/sheet", responses={404: {"model": Sorry}})
def sheet(round_id: int, key: str, parts: Parts, work: bool = False) -> SheetView:
    """A group of findings for the projector or the printer: lines, question and reason, and nobody's name.

    With `work`, it is of what the class checked last at their desks, and not of what was handed in.
    """
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        found = Lessons.latest_checked(connection, round_id) if work else Rounds.submissions(connection, round_id)
        submissions = [each for each in found if each["report"] is not None or not work]
        withdrawn = Rounds.withdrawn(connection, round_id)
        reports = {
            each["id"]: without(each["report"], each["student"], withdrawn) for each in submissions if each["report"]
        }
        group = next((each for each in groups(reports.items()) if each.key == key), None)
        if group is None:
            raise HTTPException(404, "There is no such group of findings in this round any more.")
        typical = (
            next(each for each in submissions if each["id"] == group.typical)
            if work
            else Rounds.one_submission(connection, group.typical)
        )
    assert typical is not None
    text = decode(bytes(typical["source"]))
    source = text.text if isinstance(text, Unreadable) else text
    source = re.sub(rf"\b{re.escape(typical['student'])}\b", "…", source, flags=re.IGNORECASE)  # in a comment
    finding = group.finding
    return SheetView(
        title=group.title,
        exercise=row["title"],
        scripts=len(group.owners),
        of=len(submissions),
        marks_lost=group.marks_lost,
        question=finding.nudge,
        pointer=finding.pointer,
        happened=list(finding.happened),
        note=finding.note,
        lines=_excerpt(source, finding.lines),
        typical=None if work else group_view(group, reports[group.typical]).typical,
    )


def _excerpt(source: str, about: Sequence[int]) -> list[SheetLine]:
    """The lines of a finding with the few round them; the head of a long script where it names none."""
    lines = source.split("\n")
    near = {number for line in about[:MOST_LINES] for number in range(line - LINES_ROUND, line + LINES_ROUND + 1)}
    shown = sorted(number for number in near or range(1, 2 * LINES_ROUND + 2) if 1 <= number <= len(lines))
    return [SheetLine(number=number, text=lines[number - 1], about=number in about) for number in shown]
