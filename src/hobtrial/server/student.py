"""What a student sees: built here from the records, never a teacher's view with parts taken out.

Of a hidden scenario there are its marks and nothing else; help goes as far as the exercise allows.
"""

from __future__ import annotations

import asyncio

from fastapi import HTTPException
from fastapi.responses import JSONResponse

from ..core.reporting import Withdrawn
from ..crew import WorkerGoneError
from ..store import Desks, Lessons, Rounds
from ..store.store import Connection, Row
from .access import NOT_THERE, StudentId
from .answering import Router
from .checked import NO_SCENARIO
from .checking import handed_in_try
from .deps import Parts
from .desk_views import DeskRound, DeskView
from .handed_in import handed_in_view
from .lesson_views import FeedbackSheet, Reply
from .trial_views import TrialView
from .views import Sorry

router = Router(prefix="/api/desk", tags=["desk"])


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
async def submission(submission_id: int, parts: Parts, student_id: StudentId) -> FeedbackSheet:
    """One's own try. Nothing of its marks is told before it is given back, but those of hidden scenarios where the
    teacher allows it.
    """

    def read() -> tuple[Row, Row, Withdrawn]:
        with parts.store.transaction() as connection:
            row = _own(connection, submission_id)
            times = Desks.times(connection, row["round_id"], student_id)
            return row, times, Rounds.withdrawn(connection, row["round_id"])

    row, times, withdrawn = await asyncio.to_thread(read)
    exercise = await parts.marker.open(row["version_id"])
    give = times["given_back_at"] is not None
    view = handed_in_view(row, exercise, row["round_id"], times, withdrawn, give=give)
    if not give and times["shows_hidden"] and row["report"] is not None:
        whole = handed_in_view(row, exercise, row["round_id"], times, withdrawn, give=True)
        seen = [bool(each["visible"]) for each in exercise.scenarios]
        view.scenarios = [each for each, shown in zip(whole.scenarios, seen, strict=False) if not shown]
    return view


@router.put("/submissions/{submission_id}/reply", status_code=204)
def reply(submission_id: int, given: Reply, parts: Parts, student_id: StudentId) -> None:
    """Answers what was given back, in one line."""
    with parts.store.transaction() as connection:
        Lessons.set_reply(connection, submission_id, " ".join(given.reply.split()))


@router.get(
    "/submissions/{submission_id}/scenarios/{number}",
    response_model=TrialView,
    responses={404: {"model": Sorry}, 503: {"model": Sorry}},
)
async def one_trial(submission_id: int, number: int, parts: Parts, student_id: StudentId) -> JSONResponse:
    """A run of one's own try in a scenario that is shown, once the try is given back; without the reference."""

    def read() -> tuple[Row, Row]:
        with parts.store.transaction() as connection:
            row = _own(connection, submission_id)
            return row, Desks.times(connection, row["round_id"], student_id)

    row, times = await asyncio.to_thread(read)
    exercise = await parts.marker.open(row["version_id"])
    shown = 0 <= number < len(exercise.scenarios) and exercise.scenarios[number]["visible"]
    if not shown or times["given_back_at"] is None:
        raise HTTPException(404, NO_SCENARIO)
    try:
        trial = await parts.crew.replay(exercise, bytes(row["source"]), number, beside=False)
    except WorkerGoneError:
        raise HTTPException(503, "The machine ended this run before it could be shown. The marks are kept.") from None
    return JSONResponse({**trial, "version_id": row["version_id"]})


def _own(connection: Connection, submission_id: int) -> Row:
    row = Rounds.one_submission(connection, submission_id)
    if row is None:
        raise HTTPException(404, NOT_THERE["submission"])
    return row
