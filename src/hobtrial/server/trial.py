"""The Trial: one script in one scenario, with everything that happened in it."""

from __future__ import annotations

import asyncio
from collections import Counter
from typing import Any

from fastapi import APIRouter, HTTPException
from fastapi.responses import JSONResponse

from ..core.explaining import key_of
from ..core.script import Unreadable
from ..core.script.read import decode
from ..crew import WorkerGoneError
from ..store import Rounds
from ..store.store import Row
from .deps import Parts
from .round import verdicts_of
from .views import FindingView, Neighbour, Sorry, TrialView, TryView

router = APIRouter(prefix="/api/tries", tags=["trial"])

NO_TRY = "There is no such try. Choose one in its round."


@router.get("/{try_id}")
def one_try(try_id: int, parts: Parts) -> TryView:
    """A try: its text, its marks and what was found."""
    with parts.store.transaction() as link:
        row = Rounds.one_try(link, try_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        round_row = Rounds.one(link, row["round_id"])
        assert round_row is not None  # a try's round is there by its foreign key
        tries = Rounds.tries(link, row["round_id"])
    report = row["report"]
    shared = Counter(
        key for each in tries if each["report"] for key in {key_of(found) for found in each["report"]["findings"]}
    )
    text = decode(bytes(row["source"]))
    return TryView(
        id=row["id"],
        round_id=row["round_id"],
        title=round_row["title"],
        class_name=round_row["class"],
        student=row["student"],
        number=row["number"],
        status=report["status"] if report else "waiting",
        marks=report["marks"] if report else None,
        out_of=round_row["out_of"],
        source=text.text if isinstance(text, Unreadable) else text,
        problems=report["problems"] if report else [],
        verdicts=verdicts_of(report),
        scenarios=round_row["scenarios"],
        findings=[FindingView(**found, others=shared[key_of(found)] - 1) for found in report["findings"]]
        if report
        else [],
        advice=[each["text"] for each in report["advice"]] if report else [],
        previous=_neighbour(tries, try_id, -1),
        next=_neighbour(tries, try_id, 1),
    )


def _neighbour(tries: list[Row], try_id: int, step: int) -> Neighbour | None:
    ids = [each["id"] for each in tries]
    if try_id not in ids:
        return None
    place = ids.index(try_id) + step
    if not 0 <= place < len(tries):
        return None
    return Neighbour(try_id=ids[place], student=tries[place]["student"])


@router.get("/{try_id}/scenarios/{number}", response_model=TrialView, responses={503: {"model": Sorry}})
async def one_trial(try_id: int, number: int, parts: Parts) -> JSONResponse:
    """Plays a scenario again, with the whole trace; the same input gives the same trace each time."""
    row, scenarios = await asyncio.to_thread(_row, parts, try_id)
    if not 0 <= number < scenarios:
        raise HTTPException(404, f"This exercise has scenarios 0 to {scenarios - 1}; there is no number {number}.")
    exercise = await parts.marker.open(row["version_id"])
    try:
        replay: dict[str, Any] = await parts.crew.replay(exercise, bytes(row["source"]), number)
    except WorkerGoneError:
        raise HTTPException(503, "This trial took too much time or memory to be shown. The marks are kept.") from None
    return JSONResponse(replay)


def _row(parts: Parts, try_id: int) -> tuple[Row, int]:
    with parts.store.transaction() as link:
        row = Rounds.one_try(link, try_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        round_row = Rounds.one(link, row["round_id"])
        assert round_row is not None
        return row, len(round_row["scenarios"])
