"""A text that is checked at a desk: marks at once, findings as they come, predictions, and help step by step."""

from __future__ import annotations

import asyncio
from datetime import UTC, datetime
from typing import Any

from fastapi import HTTPException, Request, Response
from fastapi.responses import JSONResponse

from ..core.reporting import Report, tries_until
from ..core.words import UsageError
from ..crew import DESK_CHECK, OpenedExercise, WorkerGoneError
from ..store import Desks, Lessons
from ..store.store import Row
from .access import NOT_THERE, StudentId
from .answering import Router
from .building import sentence
from .checking import checked_view, known_of_desk, waiting
from .deps import Parts, Services
from .desk import opened
from .desk_views import DeskChecked, GivenText, GuessOf, StepOf
from .trial_views import TrialView
from .views import Sorry

router = Router(prefix="/api/desk", tags=["desk"])

FORETELL = "Say first what you expect of this scenario."
AGAIN_SECONDS = 10
"""Seconds after which a text that is still not explained is put in the queue again: something may have lost it."""
NO_SCENARIO = "There is no such scenario among those that are shown."


@router.post("/rounds/{round_id}/check", responses={503: {"model": Sorry}})
async def check(round_id: int, given: GivenText, parts: Parts, student_id: StudentId) -> DeskChecked:
    """Runs a text against all scenarios: the verdicts of those that are shown come at once, what was found later."""
    _, exercise = await opened(parts, round_id, student_id)
    source = given.source.encode()

    def note() -> int:
        with parts.store.transaction() as connection:
            Lessons.saw(connection, round_id, student_id, "checks")
            return Desks.check(connection, round_id, student_id, source)

    checked_id = await asyncio.to_thread(note)
    return await _view(parts, exercise, await asyncio.to_thread(_checked, parts, checked_id))


@router.get(
    "/checked/{checked_id}",
    response_model=DeskChecked,
    responses={304: {"description": "It is as it was."}, 404: {"model": Sorry}},
)
async def one_checked(checked_id: int, parts: Parts, student_id: StudentId, request: Request) -> Response:
    """A text that was checked, with what was found by now. Who has it as it still is, is told so."""
    tag = await asyncio.to_thread(_tag, parts, checked_id)
    if tag and request.headers.get("if-none-match") == tag:
        return Response(status_code=304, headers={"etag": tag})
    row = await asyncio.to_thread(_checked, parts, checked_id)
    view = await _view(parts, await parts.marker.open(row["version_id"]), row)
    headers = {"etag": tag} if tag else {}
    return Response(view.model_dump_json(by_alias=True), media_type="application/json", headers=headers)


@router.get(
    "/checked/{checked_id}/scenarios/{number}",
    response_model=TrialView,
    responses={404: {"model": Sorry}, 409: {"model": Sorry}, 422: {"model": Sorry}, 503: {"model": Sorry}},
)
async def one_trial(checked_id: int, number: int, parts: Parts, student_id: StudentId, show: str = "") -> JSONResponse:
    """A run of a text in a scenario that is shown, with what is on show besides the listed variables (`a, hob.x`)."""
    row, exercise = await _shown(parts, checked_id, number)
    known = await asyncio.to_thread(known_of_desk, parts, exercise, row["round_id"], row["student_id"])
    if waiting(exercise, number, row["digest"], known):
        raise HTTPException(409, FORETELL)
    shown = [each.strip() for each in show.split(",") if each.strip()]
    try:
        trial = await parts.crew.replay(exercise, bytes(row["source"]), number, shown=shown, beside=False)
    except WorkerGoneError:
        raise HTTPException(503, "The machine ended this run before it could be shown. The marks are kept.") from None
    except UsageError as error:
        raise HTTPException(422, sentence(error)) from None
    trial["version_id"] = row["version_id"]
    return JSONResponse(trial)


@router.put("/checked/{checked_id}/scenarios/{number}/prediction", status_code=204, responses={404: {"model": Sorry}})
async def foretell(checked_id: int, number: int, given: GuessOf, parts: Parts, student_id: StudentId) -> None:
    """Keeps what one expects of a scenario before one sees it. What was said first stands."""
    row, exercise = await _shown(parts, checked_id, number)
    asked = exercise.scenarios[number].get("predict")
    if asked is None:
        raise HTTPException(404, "Nothing is to be foretold of this scenario.")
    guesses = {name: given.guesses.get(name, "") for name in asked["names"]}

    def keep() -> None:
        with parts.store.transaction() as connection:
            Lessons.saw(connection, row["round_id"], student_id, "foretells")
            Desks.guess(connection, row["round_id"], student_id, number, row["digest"], guesses)

    await asyncio.to_thread(keep)


@router.post("/checked/{checked_id}/help", responses={404: {"model": Sorry}, 409: {"model": Sorry}})
async def ask_step(checked_id: int, given: StepOf, parts: Parts, student_id: StudentId) -> DeskChecked:
    """Asks for a step of help about a finding. That it was needed is kept."""
    row = await asyncio.to_thread(_checked, parts, checked_id)
    exercise = await parts.marker.open(row["version_id"])
    report: Report | None = row["report"]
    if report is None or given.index >= len(report.findings):
        raise HTTPException(404, "There is no such finding in this text.")
    left = tries_until(exercise.help, row["number"])[given.step - 1]
    if left is None:
        raise HTTPException(409, "In this exercise there is no such help.")
    if left > 0:
        raise HTTPException(409, f"There is more help after {left} more {'try' if left == 1 else 'tries'}.")

    def keep() -> None:
        with parts.store.transaction() as connection:
            for step in range(1, given.step + 1):
                Desks.ask_step(connection, row["round_id"], student_id, report.findings[given.index].key, step)

    await asyncio.to_thread(keep)
    return await _view(parts, exercise, row)


async def _view(parts: Services, exercise: OpenedExercise, row: Row) -> DeskChecked:
    """A text that was checked as it is seen; marked now where nothing is known of it yet."""
    if row["small"] is None or (row["report"] is None and row["first"] is None):
        report, small = await parts.checking.check(exercise, bytes(row["source"]))
        await asyncio.to_thread(_keep_first, parts, row, report, small)
        row = {**row, "first": report, "small": small}
    elif row["report"] is None and (datetime.now(UTC) - row["made_at"]).total_seconds() > AGAIN_SECONDS:
        await asyncio.to_thread(_explain, parts, row)
    known = await asyncio.to_thread(known_of_desk, parts, exercise, row["round_id"], row["student_id"])
    return checked_view(exercise, row, known)


def _keep_first(parts: Services, row: Row, report: Report, small: list[dict[str, Any]]) -> None:
    with parts.store.transaction() as connection:
        Desks.set_first(connection, row["id"], report, small)
        parts.queue.defer(connection, [(row["version_id"], row["digest"])], DESK_CHECK)


def _explain(parts: Services, row: Row) -> None:
    """Has a text explained, unless that is waited for already, or a newer one came."""
    with parts.store.transaction() as connection:
        if Desks.is_wanted(connection, row["version_id"], row["digest"]):
            parts.queue.defer(connection, [(row["version_id"], row["digest"])], DESK_CHECK)


def _tag(parts: Services, checked_id: int) -> str:
    """The tag of a text as it is shown now; nothing where something is to be done about it first."""
    with parts.store.transaction() as connection:
        state = Desks.state(connection, checked_id, AGAIN_SECONDS)
    return f'"{state}"' if state else ""


def _checked(parts: Services, checked_id: int) -> Row:
    with parts.store.transaction() as connection:
        row = Desks.checked(connection, checked_id)
    if row is None:
        raise HTTPException(404, NOT_THERE["checked"])
    return row


async def _shown(parts: Services, checked_id: int, number: int) -> tuple[Row, OpenedExercise]:
    """A text that was checked, where students see the scenario of that number. Raises `HTTPException`."""
    row = await asyncio.to_thread(_checked, parts, checked_id)
    exercise = await parts.marker.open(row["version_id"])
    if not 0 <= number < len(exercise.scenarios) or not exercise.scenarios[number]["visible"]:
        raise HTTPException(404, NO_SCENARIO)
    return row, exercise
