"""A round in class: its times, who is excused, giving back, and the class at work, live."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from datetime import UTC, datetime, timedelta
from typing import Any, Final

from fastapi import HTTPException, Request
from fastapi.responses import StreamingResponse

from ..core.reporting import Checked, Stuck, ideas_now, stuck
from ..store import Lessons, Rounds, may_see
from ..store.store import Row
from .access import NOT_THERE, person_of
from .answering import Router
from .building import NO_ROUND
from .checking import text_of
from .deps import Parts, Services
from .hand_in_views import Opened
from .handed_in import handed_in_view
from .lesson_views import (
    AtWork,
    DeskNow,
    FeedbackSheet,
    ForClass,
    GivenLevel,
    GivingBack,
    IdeaNow,
    Standing,
    StuckView,
    Times,
    WorkView,
)
from .views import Sorry

router = Router(prefix="/api/rounds", tags=["lesson"])

MINUTES: Final = 40
"""How far back a lesson is looked at."""
LOOK_SECONDS: Final = 2.0
"""How often a class at work is looked at, however many teachers watch it."""
STREAM_SECONDS: Final = 240
"""How long one stream lasts before the page asks again, and with it whether it still may."""


@router.put("/{round_id}/times", status_code=204)
def set_times(round_id: int, given: Times, parts: Parts) -> None:
    """Sets when a round opens, is due and closes, and what students see of it."""
    with parts.store.transaction() as connection:
        Lessons.set_times(
            connection,
            round_id,
            opens_at=given.opens_at,
            due_at=given.due_at,
            closes_at=given.closes_at,
            shows_hidden=given.shows_hidden,
            watches=given.watches,
        )


@router.put("/{round_id}/students/{student_id}/standing", status_code=204, responses={404: {"model": Sorry}})
def set_standing(round_id: int, student_id: int, given: Standing, parts: Parts) -> None:
    """Excuses a student from a round, or gives them a later date."""
    with parts.store.transaction() as connection:
        if student_id not in {row["id"] for row in Lessons.everybody(connection, round_id)}:
            raise HTTPException(404, NOT_THERE["student"])
        Lessons.set_standing(connection, round_id, student_id, excused=given.excused, due_at=given.due_at)


@router.put("/{round_id}/students/{student_id}/level", status_code=204, responses={404: {"model": Sorry}})
def set_level(round_id: int, student_id: int, given: GivenLevel, parts: Parts) -> None:
    """Gives a student a level for this round; what they have handed in is marked at it."""
    with parts.store.transaction() as connection:
        if student_id not in {row["id"] for row in Lessons.everybody(connection, round_id)}:
            raise HTTPException(404, NOT_THERE["student"])
        Rounds.set_level(connection, round_id, student_id, given.level)
        parts.queue.defer(connection, Rounds.unmarked(connection, round_id))


@router.post("/{round_id}/give-back", status_code=204, responses={404: {"model": Sorry}})
def give_back(round_id: int, given: GivingBack, parts: Parts) -> None:
    """Gives marks and findings back, to everybody or to one student; or takes them back."""
    with parts.store.transaction() as connection:
        everybody = {row["id"] for row in Lessons.everybody(connection, round_id)}
        if given.student_id is not None and given.student_id not in everybody:
            raise HTTPException(404, NOT_THERE["student"])
        Lessons.give_back(connection, round_id, given.student_id, back=given.back)


@router.post("/{round_id}/copy", responses={404: {"model": Sorry}})
def copy(round_id: int, given: ForClass, parts: Parts, request: Request) -> Opened:
    """Sets the same exercise for another class of the teacher's."""
    person = person_of(request)
    with parts.store.transaction() as connection:
        if person is None or not may_see(connection, person, "class", given.class_id):
            raise HTTPException(404, NOT_THERE["class"])
        return Opened(id=Lessons.copy(connection, round_id, given.class_id))


@router.get("/{round_id}/sheets")
async def sheets(round_id: int, parts: Parts) -> list[FeedbackSheet]:
    """The feedback sheets of a round, as the students see them once they are given back."""

    def read() -> tuple[Row | None, list[Row], Any, dict[int, Row]]:
        with parts.store.transaction() as connection:
            row = Rounds.one(connection, round_id)
            everybody = {each["id"]: each for each in Lessons.everybody(connection, round_id)}
            withdrawn = Rounds.withdrawn(connection, round_id)
            return row, Lessons.sheets(connection, round_id), withdrawn, everybody

    row, found, withdrawn, everybody = await asyncio.to_thread(read)
    if row is None:
        raise HTTPException(404, NO_ROUND)
    exercises = {each["version_id"]: await parts.marker.open(each["version_id"]) for each in found}
    due = {id_: _later(row["due_at"], each["due_at"]) for id_, each in everybody.items()}
    return [
        handed_in_view(
            each, exercises[each["version_id"]], round_id, {"due_at": due.get(each["student_id"])}, withdrawn, give=True
        )
        for each in found
    ]


@router.get("/{round_id}/work")
def work(round_id: int, parts: Parts) -> WorkView:
    """A class at work, as it is now."""
    return work_view(parts, round_id, datetime.now(UTC))


@router.get("/{round_id}/work/live", response_class=StreamingResponse)
async def live(round_id: int, parts: Parts, request: Request) -> StreamingResponse:
    """The same as server-sent events: one now, and another whenever something has changed."""

    async def events() -> AsyncIterator[str]:
        before = ""
        end = asyncio.get_running_loop().time() + STREAM_SECONDS
        while asyncio.get_running_loop().time() < end and not await request.is_disconnected():
            now = await parts.classroom.look(round_id, lambda: work_view(parts, round_id, datetime.now(UTC)))
            if now != before:
                before = now
                yield f"data: {now}\n\n"
            else:
                yield ": nothing new\n\n"
            await asyncio.sleep(LOOK_SECONDS)

    return StreamingResponse(events(), media_type="text/event-stream", headers={"cache-control": "no-store"})


@router.get("/{round_id}/students/{student_id}/desk", responses={404: {"model": Sorry}, 409: {"model": Sorry}})
def desk_now(round_id: int, student_id: int, parts: Parts) -> DeskNow:
    """What is on a student's desk now, to be read. Where drafts are not watched, nobody sees it."""
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        if not row["watches"]:
            raise HTTPException(409, "In this round nobody looks at what is being written.")
        desk = Lessons.desk_text(connection, round_id, student_id)
    if desk is None:
        raise HTTPException(404, "Nobody has been at this desk yet.")
    return DeskNow(student=desk["student"], source=text_of(desk["source"]), changed_at=desk["changed_at"])


def work_view(parts: Services, round_id: int, now: datetime) -> WorkView:
    """A class at work. Raises `HTTPException` where there is no such round."""
    since = now - timedelta(minutes=MINUTES)
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        everybody = [each for each in Lessons.everybody(connection, round_id) if each["left_at"] is None]
        rows = Lessons.checked_since(connection, round_id, since)
    checks: dict[int, list[Checked]] = {each["id"]: [] for each in everybody}
    for each in rows:
        if each["student_id"] in checks:
            one = Checked(each["made_at"], each["marks"], tuple(each["keys"]), tuple(each["titles"]), each["explained"])
            checks[each["student_id"]].append(one)
    return WorkView(
        id=round_id,
        title=row["title"],
        class_name=row["class"],
        out_of=row["out_of"],
        now=now,
        minutes=MINUTES,
        watches=row["watches"],
        students=[_at_work(each, checks[each["id"]], since, now) for each in everybody],
        ideas=[
            IdeaNow(key=each.key, title=each.title, students=len(each.students), mended=each.mended)
            for each in ideas_now(checks)
        ],
    )


def _at_work(row: Row, checks: list[Checked], since: datetime, now: datetime) -> AtWork:
    seen = row["seen_at"] if row["seen_at"] is not None and row["seen_at"] >= since else None
    last = checks[-1] if checks else None
    handed = row["handed_in_at"]
    done = handed is not None and handed >= since and (last is None or handed >= last.at)
    found = stuck(checks, seen, now) if seen is not None and not done else None
    return AtWork(
        student_id=row["id"],
        student=row["name"],
        seen_at=seen,
        doing=row["doing"] if seen is not None else "",
        line=[((now - each.at).total_seconds(), float(each.marks)) for each in checks if each.marks is not None],
        marks=last.marks if last is not None else None,
        asks_since=row["wants_help_since"],
        stuck=_stuck(found) if found is not None else None,
        title=last.titles[0] if last is not None and last.titles else "",
        tries=len(checks),
        handed_in=row["handed_in_at"] is not None,
        excused=row["excused"],
    )


def _stuck(found: Stuck) -> StuckView:
    return StuckView(why=found.why, since=found.since, tries=found.tries, title=found.title)


def _later(one: datetime | None, other: datetime | None) -> datetime | None:
    """The later of two dates, where there are any."""
    given = [each for each in (one, other) if each is not None]
    return max(given, default=None)
