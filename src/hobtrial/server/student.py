"""What a student sees: built here from the records, never a teacher's view with parts taken out.

Of a hidden scenario there are its marks and nothing else; help goes as far as the exercise allows.
"""

from __future__ import annotations

import asyncio
from datetime import datetime

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel

from ..core.reporting import Report, for_student, without
from ..core.script.tree import ChangedLine
from ..store import Desks, Rounds
from ..store.store import Row
from .access import NOT_THERE, StudentId
from .checking import text_of
from .deps import Parts
from .desk_views import DeskCheck, DeskRound, DeskTry, DeskView

router = APIRouter(prefix="/api/desk", tags=["desk"])


class HandedInScenario(BaseModel):
    """A scenario; of a hidden one only the marks."""

    name: str
    marks: float
    out_of: float
    checks: list[DeskCheck]


class HandedInFinding(BaseModel):
    """What was found in a try that was given back, as far as it is told by now."""

    marks_lost: float
    scenarios: list[str]
    nudge: str
    happened: list[str]
    title: str | None
    pointer: str | None
    fix: list[ChangedLine] | None
    certain: bool


class DeskSubmission(BaseModel):
    """A try of one's own, with what was found."""

    id: int
    round_id: int
    title: str
    number: int
    source: str
    marks: float | None
    out_of: float
    own_marks: float | None
    comment: str
    """The teacher's words."""
    unmarked: str
    given_back: bool
    """Whether the teacher has given it back; before that nothing is told of its marks."""
    handed_in_at: datetime
    late: bool
    with_name: str | None
    scenarios: list[HandedInScenario]
    findings: list[HandedInFinding]
    advice: list[str]


@router.get("")
def desk(parts: Parts, student_id: StudentId) -> DeskView:
    """The exercises that are set for a student, and their tries."""
    with parts.store.transaction() as connection:
        rounds, tries = Rounds.of_student(connection, student_id)
    return DeskView(
        rounds=[
            DeskRound(**row, tries=[handed_in_try(each, row) for each in tries if each["round_id"] == row["id"]])
            for row in rounds
        ]
    )


@router.get("/submissions/{submission_id}")
async def submission(submission_id: int, parts: Parts, student_id: StudentId) -> DeskSubmission:
    """One's own try."""

    def read() -> tuple[Row, Row, set[tuple[str, str | None]]]:
        with parts.store.transaction() as connection:
            row = Rounds.one_submission(connection, submission_id)
            if row is None:
                raise HTTPException(404, NOT_THERE["submission"])
            times = Desks.times(connection, row["round_id"], student_id)
            return row, times, Rounds.withdrawn(connection, row["round_id"])

    row, times, withdrawn = await asyncio.to_thread(read)
    exercise = await parts.marker.open(row["version_id"])
    report, given_back = row["report"], times["given_back_at"] is not None
    kept = without(report, row["student"], withdrawn) if given_back and isinstance(report, Report) else None
    shown = for_student(kept, exercise.help, row["number"], [bool(each["visible"]) for each in exercise.scenarios])
    return DeskSubmission(
        id=submission_id,
        round_id=row["round_id"],
        title=exercise.title,
        number=row["number"],
        source=text_of(row["source"]),
        marks=shown.marks,
        out_of=exercise.out_of,
        own_marks=row["own_marks"] if given_back else None,
        comment=(row["own_comment"] or "") if given_back else "",
        given_back=given_back,
        handed_in_at=row["handed_in_at"],
        late=times["due_at"] is not None and row["handed_in_at"] > times["due_at"],
        with_name=row["with_name"],
        unmarked=shown.unmarked,
        scenarios=[
            HandedInScenario(
                name=each.name,
                marks=each.marks,
                out_of=each.out_of,
                checks=[DeskCheck(verdict=check.verdict, because=check.because) for check in each.checks],
            )
            for each in shown.scenarios
        ],
        findings=[
            HandedInFinding(
                marks_lost=each.marks_lost,
                scenarios=list(each.scenarios),
                nudge=each.nudge,
                happened=list(each.happened),
                title=each.title,
                pointer=each.pointer,
                fix=list(each.fix) if each.fix is not None else None,
                certain=each.certain,
            )
            for each in shown.findings
        ],
        advice=list(shown.advice),
    )


def handed_in_try(row: Row, times: Row) -> DeskTry:
    """A try as its student sees it; `times` are those of its round. Marks are told once they are given back."""
    report = row["report"] if times["given_back_at"] is not None else None
    return DeskTry(
        id=row["id"],
        number=row["number"],
        handed_in_at=row["handed_in_at"],
        late=times["due_at"] is not None and row["handed_in_at"] > times["due_at"],
        with_name=row["with_name"],
        marks=report.marks if isinstance(report, Report) else None,
        own_marks=row["own_marks"] if times["given_back_at"] is not None else None,
    )
