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
from .trial_views import TrialView
from .views import FindingView, Neighbour, OwnMark, Sorry, TryView

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
        craft=report["craft"] if report else [],
        by_concept=report["by_concept"] if report else {},
        by_task=report.get("by_task", {}) if report else {},
        look_at=[scenario.get("trial", 0) for scenario in report["scenarios"]] if report else [],
        shortest=_shortest_words(report),
        own_marks=row["own_marks"],
        own_comment=row["own_comment"] or "",
        own_by=row["own_by"] or "",
        own_at=row["own_at"],
        scenarios=round_row["scenarios"],
        findings=[FindingView(**found, others=shared[key_of(found)] - 1) for found in report["findings"]]
        if report
        else [],
        advice=[each["text"] for each in report["advice"]] if report else [],
        previous=_neighbour(tries, try_id, -1),
        next=_neighbour(tries, try_id, 1),
    )


def _shortest(report: dict[str, Any] | None, number: int) -> dict[str, Any] | None:
    """The shortest inputs that a wild scenario found, if it found any."""
    checks = report["scenarios"][number]["checks"] if report and report["scenarios"] else []
    found: dict[str, Any] | None = next((check["shortest"] for check in checks if "shortest" in check), None)
    return found


def _shortest_words(report: dict[str, Any] | None) -> dict[int, str]:
    numbers = range(len(report["scenarios"])) if report else range(0)
    found = {number: _shortest(report, number) for number in numbers}
    return {number: each["words"] for number, each in found.items() if each is not None}


@router.put("/{try_id}/own", status_code=204, responses={404: {"model": Sorry}})
def own_mark(try_id: int, own: OwnMark, parts: Parts) -> None:
    """Keeps a teacher's own mark and comment; the computed one stays as it is."""
    with parts.store.transaction() as link:
        if Rounds.one_try(link, try_id) is None:
            raise HTTPException(404, NO_TRY)
        Rounds.set_own(link, try_id, own.marks, own.comment)


def _neighbour(tries: list[Row], try_id: int, step: int) -> Neighbour | None:
    ids = [each["id"] for each in tries]
    if try_id not in ids:
        return None
    place = ids.index(try_id) + step
    if not 0 <= place < len(tries):
        return None
    return Neighbour(try_id=ids[place], student=tries[place]["student"])


@router.get("/{try_id}/scenarios/{number}", response_model=TrialView, responses={503: {"model": Sorry}})
async def one_trial(try_id: int, number: int, parts: Parts, trial: int = 0, shortest: bool = False) -> JSONResponse:
    """Plays a trial of a scenario again, with the whole trace; the same input gives the same trace each time.

    With `shortest`, a wild scenario is played with the shortest inputs that still break a check.
    """
    row, scenarios = await asyncio.to_thread(_row, parts, try_id)
    if not 0 <= number < len(scenarios):
        raise HTTPException(404, f"This exercise has scenarios 0 to {len(scenarios) - 1}; there is no number {number}.")
    trials = len(scenarios[number].get("trials", [""]))
    if not 0 <= trial < trials:
        raise HTTPException(404, f"This scenario has trials 0 to {trials - 1}; there is no number {trial}.")
    found = _shortest(row["report"], number) if shortest else None
    exercise = await parts.marker.open(row["version_id"])
    try:
        replay: dict[str, Any] = await parts.crew.replay(
            exercise, bytes(row["source"]), number, found["scenario"] if found else None, trial=trial
        )
        replay["version"] = row["version_id"]
    except WorkerGoneError:
        raise HTTPException(503, "This trial took too much time or memory to be shown. The marks are kept.") from None
    return JSONResponse(replay)


def _row(parts: Parts, try_id: int) -> tuple[Row, list[dict[str, Any]]]:
    with parts.store.transaction() as link:
        row = Rounds.one_try(link, try_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        round_row = Rounds.one(link, row["round_id"])
        assert round_row is not None
        return row, round_row["scenarios"]
