"""What a student sees: built here from the records, never a teacher's view with parts taken out.

Of a hidden scenario there are its marks and nothing else; help goes as far as the exercise allows.
"""

from __future__ import annotations

import asyncio
from datetime import datetime

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel

from ..core.exercise import BRIEF
from ..core.judging import Answer
from ..core.reporting import Report, for_student, without
from ..core.script import Unreadable
from ..core.script.read import decode
from ..core.script.tree import ChangedLine
from ..store import Rounds
from ..store.store import Row
from .access import NOT_THERE, StudentId
from .deps import Parts

router = APIRouter(prefix="/api/desk", tags=["desk"])


class DeskTry(BaseModel):
    """A try of one's own."""

    id: int
    number: int
    handed_in_at: datetime
    marks: float | None
    own_marks: float | None
    """The teacher's own marks, which count where there are some."""


class DeskRound(BaseModel):
    """An exercise that is set, with one's own tries."""

    id: int
    title: str
    out_of: float
    opened_at: datetime
    tries: list[DeskTry]


class DeskView(BaseModel):
    """A student's own page."""

    rounds: list[DeskRound]


class DeskCheck(BaseModel):
    """A check of a visible scenario."""

    verdict: Answer
    because: str


class DeskScenario(BaseModel):
    """A scenario; of a hidden one only the marks."""

    name: str
    marks: float
    out_of: float
    checks: list[DeskCheck]


class DeskFinding(BaseModel):
    """What was found, as far as it is told by now."""

    marks_lost: float
    scenarios: list[str]
    nudge: str
    happened: list[str]
    title: str | None
    pointer: str | None
    fix: list[ChangedLine] | None
    certain: bool


class DeskTask(BaseModel):
    """An exercise as it is set: what to do, in the words of its author."""

    id: int
    title: str
    out_of: float
    brief: str
    scenarios: list[str]
    """The names of those that are shown."""
    tries: list[DeskTry]


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
    scenarios: list[DeskScenario]
    findings: list[DeskFinding]
    advice: list[str]


@router.get("")
def desk(parts: Parts, student_id: StudentId) -> DeskView:
    """The exercises that are set for a student, and their tries."""
    with parts.store.transaction() as connection:
        rounds, tries = Rounds.of_student(connection, student_id)
    return DeskView(
        rounds=[
            DeskRound(**row, tries=[_try(each) for each in tries if each["round_id"] == row["id"]]) for row in rounds
        ]
    )


@router.get("/rounds/{round_id}")
async def task(round_id: int, parts: Parts, student_id: StudentId) -> DeskTask:
    """One exercise that is set: its brief, and the names of the scenarios that are shown."""

    def read() -> tuple[Row, list[DeskTry]]:
        with parts.store.transaction() as connection:
            row = Rounds.one(connection, round_id)
            if row is None:
                raise HTTPException(404, NOT_THERE["round"])
            _, tries = Rounds.of_student(connection, student_id)
        return row, [_try(each) for each in tries if each["round_id"] == round_id]

    row, tries = await asyncio.to_thread(read)
    exercise = await parts.marker.open(row["version_id"])
    return DeskTask(
        id=round_id,
        title=exercise.title,
        out_of=exercise.out_of,
        brief=exercise.text(BRIEF),
        scenarios=[each["name"] for each in exercise.scenarios if each["visible"]],
        tries=tries,
    )


@router.get("/submissions/{submission_id}")
async def submission(submission_id: int, parts: Parts, student_id: StudentId) -> DeskSubmission:
    """One's own try."""

    def read() -> tuple[Row, set[tuple[str, str | None]]]:
        with parts.store.transaction() as connection:
            row = Rounds.one_submission(connection, submission_id)
            if row is None:
                raise HTTPException(404, NOT_THERE["submission"])
            return row, Rounds.withdrawn(connection, row["round_id"])

    row, withdrawn = await asyncio.to_thread(read)
    exercise = await parts.marker.open(row["version_id"])
    report = row["report"]
    kept = without(report, row["student"], withdrawn) if isinstance(report, Report) else None
    shown = for_student(kept, exercise.help, row["number"], [bool(each["visible"]) for each in exercise.scenarios])
    text = decode(bytes(row["source"]))
    return DeskSubmission(
        id=submission_id,
        round_id=row["round_id"],
        title=exercise.title,
        number=row["number"],
        source=text.text if isinstance(text, Unreadable) else text,
        marks=shown.marks,
        out_of=exercise.out_of,
        own_marks=row["own_marks"],
        comment=row["own_comment"] or "",
        unmarked=shown.unmarked,
        scenarios=[
            DeskScenario(
                name=each.name,
                marks=each.marks,
                out_of=each.out_of,
                checks=[DeskCheck(verdict=check.verdict, because=check.because) for check in each.checks],
            )
            for each in shown.scenarios
        ],
        findings=[
            DeskFinding(
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


def _try(row: Row) -> DeskTry:
    report = row["report"]
    return DeskTry(
        id=row["id"],
        number=row["number"],
        handed_in_at=row["handed_in_at"],
        marks=report.marks if isinstance(report, Report) else None,
        own_marks=row["own_marks"],
    )
