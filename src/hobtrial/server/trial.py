"""The Trial: one script in one scenario, with everything that happened in it."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping
from typing import Any

from fastapi import HTTPException
from fastapi.responses import JSONResponse

from hobtrial.core.script.tree import with_changes

from ..core.reporting import FindingReport, Report, Withdrawn, foretold, to_json, turned, withdrawn_for
from ..core.script import Unreadable
from ..core.script.read import decode
from ..crew import WorkerGoneError
from ..store import Reports, Rounds
from ..store.store import Row
from .access import Teacher
from .answering import Router
from .building import verdicts_of
from .deps import Parts
from .hand_in_views import Waiting
from .submission_views import EarlierSubmission, FindingView, Neighbour, SubmissionView, TriedChange
from .trial_views import TrialView
from .views import Guesses, OwnMark, Sorry

router = Router(prefix="/api/submissions", tags=["trial"])

NO_TRY = "There is no such try. Choose one in its round."


@router.get("/{submission_id}")
def one_submission(submission_id: int, parts: Parts) -> SubmissionView:
    """A try: its text, its marks and what was found."""
    with parts.store.transaction() as connection:
        row = Rounds.one_submission(connection, submission_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        round_row = Rounds.one(connection, row["round_id"])
        assert round_row is not None  # a try's round is there by its foreign key
        submissions = Rounds.neighbours(connection, row["round_id"])
        others = Rounds.others_with(connection, row["round_id"], submission_id)
        withdrawn = Rounds.withdrawn(connection, row["round_id"])
        earlier = Rounds.submission_before(connection, submission_id)
        predictions = Rounds.predictions(connection, row["round_id"]).get(submission_id, {})
    report: Report | None = row["report"]
    text = decode(bytes(row["source"]))
    return SubmissionView(
        id=row["id"],
        round_id=row["round_id"],
        title=round_row["title"],
        class_name=round_row["class"],
        student=row["student"],
        number=row["number"],
        status=report.status if report else "waiting",
        fault=(report.fault or report.unexplained) if report else None,
        marks=report.marks if report else None,
        out_of=round_row["out_of"],
        source=text.text if isinstance(text, Unreadable) else text,
        problems=list(report.problems) if report else [],
        verdicts=verdicts_of(report),
        craft=list(report.craft) if report else [],
        by_concept=report.by_concept if report else {},
        by_task=report.by_task if report else {},
        look_at=[scenario.look_at for scenario in report.scenarios] if report else [],
        shortest=_shortest_words(report),
        own_marks=row["own_marks"],
        own_comment=row["own_comment"] or "",
        own_by=row["own_by"] or "",
        own_at=row["own_at"],
        reply=row["reply"],
        with_name=row["with_name"],
        scenarios=round_row["scenarios"],
        findings=[_finding(found, others, row["student"], withdrawn) for found in report.findings] if report else [],
        advice=[each.text for each in report.advice] if report else [],
        previous=_neighbour(submissions, submission_id, -1),
        next=_neighbour(submissions, submission_id, 1),
        earlier=_earlier(earlier),
        predictions=predictions,
        foretold={each.scenario: each.right for each in foretold(report, predictions)} if report else {},
    )


def _finding(found: FindingReport, others: Mapping[str, int], student: str, withdrawn: Withdrawn) -> FindingView:
    taken = withdrawn_for(found, student, withdrawn)
    return FindingView(**to_json(found), others=others.get(found.key, 0), key=found.key, withdrawn=taken)


def _earlier(row: Row | None) -> EarlierSubmission | None:
    if row is None:
        return None
    return EarlierSubmission(id=row["id"], number=row["number"], marks=row["report"].marks if row["report"] else None)


@router.post("/{submission_id}/mark", status_code=202, responses={404: {"model": Sorry}})
def mark_again(submission_id: int, parts: Parts) -> Waiting:
    """Marks one script again: for one that could not be marked."""
    with parts.store.transaction() as connection:
        row = Rounds.one_submission(connection, submission_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        Reports.forget(connection, row["version_id"], row["digest"])
        parts.queue.defer(connection, [(row["version_id"], row["digest"])])
    return Waiting(waiting=1)


@router.post("/{submission_id}/findings/{index}/change", responses={404: {"model": Sorry}, 409: {"model": Sorry}})
async def try_change(submission_id: int, index: int, parts: Parts) -> TriedChange:
    """Marks the script again with the fix of one of its findings; nothing is kept."""
    row, _ = await asyncio.to_thread(_row, parts, submission_id)
    report: Report | None = row["report"]
    if report is None or not 0 <= index < len(report.findings):
        raise HTTPException(404, "There is no such finding in this try.")
    fix = report.findings[index].fix
    text = decode(bytes(row["source"]))
    if fix is None or isinstance(text, Unreadable):
        raise HTTPException(409, "There is no fix to try for this finding.")
    changed = with_changes(text, fix.changes)
    if changed is None:
        raise HTTPException(409, "This fix stands on top of another one; mend that one first.")
    exercise = await parts.marker.open(row["version_id"])
    again = await parts.crew.mark(exercise, "changed", changed.encode(), explained=False)
    if again.fault is not None or again.marks is None or report.marks is None:
        raise HTTPException(503, again.fault.message if again.fault else "This script has no marks to compare with.")
    return TriedChange(
        marks_before=report.marks,
        marks=again.marks,
        out_of=again.out_of,
        checks=turned(report, again),
        source=changed,
    )


def _shortest_words(report: Report | None) -> dict[int, str]:
    scenarios = report.scenarios if report else ()
    return {number: each.shortest.words for number, each in enumerate(scenarios) if each.shortest is not None}


@router.put("/{submission_id}/own", status_code=204, responses={404: {"model": Sorry}})
def own_mark(submission_id: int, own: OwnMark, parts: Parts, teacher: Teacher) -> None:
    """Keeps a teacher's own mark and comment; the computed one stays as it is."""
    with parts.store.transaction() as connection:
        row = Rounds.one_submission(connection, submission_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        round_row = Rounds.one(connection, row["round_id"])
        assert round_row is not None
        if own.marks is not None and own.marks > round_row["out_of"]:
            raise HTTPException(
                422, f"This exercise has {round_row['out_of']:g} marks; {own.marks:g} are more than that."
            )
        Rounds.set_own(connection, submission_id, own.marks, own.comment, teacher.name)


@router.put("/{submission_id}/scenarios/{number}/prediction", status_code=204, responses={404: {"model": Sorry}})
def predict(submission_id: int, number: int, given: Guesses, parts: Parts, teacher: Teacher) -> None:
    """Keeps what is predicted for a scenario, before its run is looked at."""
    _, scenarios = _row(parts, submission_id)
    if not 0 <= number < len(scenarios):
        raise HTTPException(404, f"This exercise has scenarios 0 to {len(scenarios) - 1}; there is no number {number}.")
    with parts.store.transaction() as connection:
        Rounds.predict(connection, submission_id, number, given.guesses, teacher.name)


def _neighbour(submissions: list[Row], submission_id: int, step: int) -> Neighbour | None:
    ids = [each["id"] for each in submissions]
    if submission_id not in ids:
        return None
    index = ids.index(submission_id) + step
    if not 0 <= index < len(submissions):
        return None
    return Neighbour(submission_id=ids[index], student=submissions[index]["student"])


@router.get("/{submission_id}/scenarios/{number}", response_model=TrialView, responses={503: {"model": Sorry}})
async def one_trial(
    submission_id: int,
    number: int,
    parts: Parts,
    trial: int = 0,
    shortest: bool = False,
    earlier: bool = False,
    alone: bool = False,
) -> JSONResponse:
    """Plays a trial of a scenario again, with the whole trace; the same input gives the same trace each time.

    With `earlier`, the student's try before this one is played beside it in the reference's place. With
    `shortest`, a wild scenario is played with the shortest inputs that still break a check. With `alone`, nothing
    of the reference is in it: for a sheet that is given back.
    """
    row, scenarios = await asyncio.to_thread(_row, parts, submission_id)
    if not 0 <= number < len(scenarios):
        raise HTTPException(404, f"This exercise has scenarios 0 to {len(scenarios) - 1}; there is no number {number}.")
    trials = len(scenarios[number].get("trials", [""]))
    if not 0 <= trial < trials:
        raise HTTPException(404, f"This scenario has trials 0 to {trials - 1}; there is no number {trial}.")
    report: Report | None = row["report"]
    found = report.scenarios[number].shortest if shortest and report and number < len(report.scenarios) else None
    cut_down = found.scenario if found else None
    exercise = await parts.marker.open(row["version_id"])
    try:
        replay: dict[str, Any] = await parts.crew.replay(
            exercise, bytes(row["source"]), number, cut_down, trial=trial, beside=not alone
        )
        replay["version_id"] = row["version_id"]
        before = await asyncio.to_thread(_before, parts, submission_id) if earlier else None
        if before is not None:
            beside = await parts.crew.replay(exercise, bytes(before["source"]), number, cut_down, trial=trial)
            outcome = beside["trace"]["outcome"] if beside["trace"] else "playing"
            replay["reference"] = {"samples": beside["samples"], "outcome": outcome, "steps": beside["steps"]}
    except WorkerGoneError:
        raise HTTPException(503, "The machine ended this trial before it could be shown. The marks are kept.") from None
    return JSONResponse(replay)


def _before(parts: Parts, submission_id: int) -> Row | None:
    with parts.store.transaction() as connection:
        return Rounds.submission_before(connection, submission_id)


def _row(parts: Parts, submission_id: int) -> tuple[Row, list[dict[str, Any]]]:
    with parts.store.transaction() as connection:
        row = Rounds.one_submission(connection, submission_id)
        if row is None:
            raise HTTPException(404, NO_TRY)
        round_row = Rounds.one(connection, row["round_id"])
        assert round_row is not None
        return row, round_row["scenarios"]
