"""The desk: one student and one exercise that is set for them. They write, check, look, hand in and ask for help."""

from __future__ import annotations

import asyncio
import base64
from datetime import UTC, datetime
from typing import Any, Final

from fastapi import HTTPException, Request
from fastapi.responses import JSONResponse, Response

from ..core.exercise import BRIEF, STARTER
from ..core.reporting import ProblemReport
from ..crew import HANDED_IN, OpenedExercise, WorkerGoneError
from ..store import Classes, Desks, Lessons, Rounds, StaleTextError, Students
from ..store.store import Row
from .access import NOT_THERE, StudentId
from .answering import Router
from .checking import handed_in_try, scenario_names, seen_of_desk, text_of
from .deps import Parts, Services
from .desk_views import (
    Asking,
    DeskTask,
    DeskText,
    GivenText,
    HandedInAtDesk,
    KeepText,
    KeptText,
    OtherText,
    PartnerCard,
    Wants,
)
from .play import SVG_HEADERS
from .signing_in import by_card
from .trial_views import SceneView, VariableView
from .views import Sorry

router = Router(prefix="/api/desk/rounds", tags=["desk"])

CLOSED: Final = "This round is closed, so nothing can be handed in any more. Your text is kept all the same."
OTHER: Final = "Another window has kept another text since. Look at both, and choose."
NOT_YOURSELF: Final = "That is your own card. The one who works with you types theirs."


@router.get("/{round_id}")
async def task(round_id: int, parts: Parts, student_id: StudentId) -> DeskTask:
    """One exercise that is set: its brief and scene, one's own text, and what one has checked and handed in."""
    row, exercise = await opened(parts, round_id, student_id)

    def read() -> dict[str, Any]:
        with parts.store.transaction() as connection:
            starter = base64.b64decode(exercise.files.get(STARTER, ""))
            desk = Desks.one(connection, round_id, student_id, starter)
            Lessons.saw(connection, round_id, student_id, "reads")
            times = Desks.times(connection, round_id, student_id)
            return {
                "text": _text(desk),
                "partner": desk["with_name"],
                "asking": _asking(Desks.line(connection, round_id), student_id),
                "checked": seen_of_desk(connection, exercise, round_id, student_id),
                "tries": [handed_in_try(each, times) for each in Rounds.tries(connection, student_id, round_id)],
                **{key: times[key] for key in ("due_at", "closes_at", "excused", "given_back_at")},
            }

    return DeskTask(
        id=round_id,
        version_id=row["version_id"],
        title=exercise.title,
        out_of=exercise.out_of,
        brief=exercise.text(BRIEF),
        starter=exercise.text(STARTER),
        straight=exercise.straight,
        scene=SceneView.model_validate(exercise.scene),
        variables=[VariableView(**each) for each in exercise.variables],
        scenarios=scenario_names(exercise),
        hidden=sum(not each["visible"] for each in exercise.scenarios),
        **await asyncio.to_thread(read),
    )


@router.put("/{round_id}/text", response_model=KeptText, responses={409: {"model": OtherText}})
async def keep_text(round_id: int, given: KeepText, parts: Parts, student_id: StudentId) -> Any:
    """Keeps a text, and says what of it cannot be read. Where another window kept another one, both stay."""
    _, exercise = await opened(parts, round_id, student_id)
    source = given.source.encode()

    def keep() -> int:
        with parts.store.transaction() as connection:
            Lessons.saw(connection, round_id, student_id, "writes")
            return Desks.keep(connection, round_id, student_id, given.at, source)

    try:
        at = await asyncio.to_thread(keep)
    except StaleTextError as error:
        other = OtherText(detail=OTHER, text=_text(error.row))
        return JSONResponse(other.model_dump(mode="json"), 409)
    return KeptText(at=at, problems=await problems_of(parts, exercise, source))


@router.post("/{round_id}/hand-in", responses={409: {"model": Sorry}})
async def hand_in(round_id: int, given: GivenText, parts: Parts, student_id: StudentId) -> HandedInAtDesk:
    """Hands in a text, for the one who works here, too."""
    source = given.source.encode()

    def work() -> HandedInAtDesk:
        with parts.store.transaction() as connection:
            times = Desks.times(connection, round_id, student_id)
            now = datetime.now(UTC)
            if times["closes_at"] is not None and now > times["closes_at"]:
                raise HTTPException(409, CLOSED)
            made = Desks.hand_in(connection, round_id, student_id, source)
            Lessons.saw(connection, round_id, student_id, "handed in")
            parts.queue.defer(connection, Rounds.unmarked(connection, round_id), HANDED_IN)
        return HandedInAtDesk(submission_id=made, late=times["due_at"] is not None and now > times["due_at"])

    return await asyncio.to_thread(work)


@router.put("/{round_id}/asking", status_code=204)
def ask(round_id: int, given: Wants, parts: Parts, student_id: StudentId) -> None:
    """Puts oneself in the line of those who want the teacher's help, or takes oneself out of it."""
    with parts.store.transaction() as connection:
        Desks.ask(connection, round_id, student_id, given.wants)


@router.put("/{round_id}/partner", status_code=204, responses={each: {"model": Sorry} for each in (401, 409, 429)})
def work_together(round_id: int, given: PartnerCard, request: Request, parts: Parts, student_id: StudentId) -> None:
    """Somebody of the class works here, too: they type their card. What is handed in is then a try of both."""
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        me = Students.one(connection, student_id)
        assert row is not None and me is not None
        word = Classes.word(connection, me["class_id"])
    other = by_card(parts, request, word, given.card)
    if other["id"] == student_id:
        raise HTTPException(409, NOT_YOURSELF)
    with parts.store.transaction() as connection:
        Desks.set_partner(connection, round_id, student_id, other["id"])


@router.delete("/{round_id}/partner", status_code=204)
def work_alone(round_id: int, parts: Parts, student_id: StudentId) -> None:
    """Nobody else works here any more."""
    with parts.store.transaction() as connection:
        Desks.set_partner(connection, round_id, student_id, None)


@router.get("/{round_id}/looks/{name}.svg", responses={404: {"model": Sorry}})
async def look(round_id: int, name: str, parts: Parts, student_id: StudentId) -> Response:
    """A picture of the exercise's own, for its scene."""
    _, exercise = await opened(parts, round_id, student_id)
    packed = exercise.files.get(f"looks/{name}.svg")
    if packed is None:
        raise HTTPException(404, f"This exercise has no look of its own called {name!r}.")
    return Response(base64.b64decode(packed), media_type="image/svg+xml", headers=SVG_HEADERS)


async def opened(parts: Services, round_id: int, student_id: int) -> tuple[Row, OpenedExercise]:
    """A round and its exercise as a student has it, by their level. Raises `HTTPException` where there is none."""

    def read() -> Row | None:
        with parts.store.transaction() as connection:
            row = Rounds.one(connection, round_id)
            own = Rounds.version_for(connection, round_id, student_id)
        return None if row is None else {**row, "version_id": own}

    row = await asyncio.to_thread(read)
    if row is None:
        raise HTTPException(404, NOT_THERE["round"])
    return row, await parts.marker.open(row["version_id"])


async def problems_of(parts: Services, exercise: OpenedExercise, source: bytes) -> list[ProblemReport]:
    """What of a text cannot be read; nothing where the machine could not look."""
    try:
        return [ProblemReport(**each) for each in await parts.checking.read(exercise, source)]
    except WorkerGoneError:
        return []


def _text(row: Row) -> DeskText:
    return DeskText(source=text_of(row["source"]), at=row["at"], changed_at=row["changed_at"])


def _asking(line: list[Row], student_id: int) -> Asking | None:
    for place, row in enumerate(line, 1):
        if row["student_id"] == student_id:
            return Asking(since=row["wants_help_since"], place=place)
    return None
