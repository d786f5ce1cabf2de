"""The Round: a class and an exercise, students down, scenarios across, and the groups of findings."""

from __future__ import annotations

import asyncio
import zlib

from fastapi import HTTPException, Request, Response

from ..core.reporting import Report, groups, idea_of, why_changed, without
from ..core.words import HobError
from ..crew import read_version
from ..store import Classes, Exercises, Lessons, Rounds
from ..store.store import Connection, Row
from .access import Teacher, TeacherId
from .answering import Router
from .building import NO_ROUND, group_view, student_row, together
from .deps import Parts, Services
from .hand_in_views import NewRound, Opened, Waiting
from .plays import NO_EXERCISE
from .views import AtLevel, ChangedMarks, NewFollowUp, RoundView, Sorry, Withdrawal, WithoutTry

router = Router(prefix="/api/rounds", tags=["round"])


@router.get("/{round_id}", response_model=RoundView, responses={304: {"description": "It is as it was."}})
def one_round(round_id: int, parts: Parts, request: Request) -> Response:
    """A round as far as it is marked. Who has it as it still is, is told so."""
    with parts.store.transaction() as connection:
        state = Rounds.state(connection, round_id)
        tag = f'"{state}-{zlib.crc32((parts.marking.trouble or "").encode()):x}"'
        if state and request.headers.get("if-none-match") == tag:
            return Response(status_code=304, headers={"etag": tag})
        view = round_view(connection, parts, round_id)
    return Response(view.model_dump_json(), media_type="application/json", headers={"etag": tag})


def round_view(connection: Connection, parts: Services, round_id: int) -> RoundView:
    """All that the page of a round has. Raises `HTTPException` where there is no such round."""
    row = Rounds.one(connection, round_id)
    if row is None:
        raise HTTPException(404, NO_ROUND)
    submissions = Rounds.submissions(connection, round_id)
    newest = Rounds.newest(connection, row["version_id"])
    before = Rounds.reports_before(connection, round_id)
    withdrawn = Rounds.withdrawn(connection, round_id)
    predictions = Rounds.predictions(connection, round_id)
    follow_ups = Lessons.follow_ups(connection, round_id)
    everybody = {each["id"]: each for each in Lessons.everybody(connection, round_id)}
    levels = Exercises.levels(connection, row["version_id"])
    given = Rounds.levels(connection, round_id) if levels else []
    reports: dict[int, Report] = {each["id"]: each["report"] for each in submissions if each["report"] is not None}
    kept = [(each["id"], without(each["report"], each["student"], withdrawn)) for each in submissions if each["report"]]
    taken = [group for group in groups(reports.items()) if (group.key, None) in withdrawn]
    made = [each["made_at"] for each in submissions if each["made_at"] is not None]
    took = (max(made) - row["marking_since"]).total_seconds() if len(made) == len(submissions) and made else None
    return RoundView(
        id=row["id"],
        title=row["title"],
        version_number=row["version_number"],
        newest=newest["number"],
        changed=[changed for each in submissions if (changed := _changed(each, before.get(each["id"]))) is not None],
        class_id=row["class_id"],
        class_name=row["class"],
        out_of=row["out_of"],
        **{key: row[key] for key in ("opened_at", "opens_at", "due_at", "closes_at", "given_back_at")},
        shows_hidden=row["shows_hidden"],
        watches=row["watches"],
        levels=levels,
        at_level=[AtLevel(**each) for each in given],
        without=[
            WithoutTry(
                student_id=each["id"],
                student=each["name"],
                excused=each["excused"],
                due_at=each["due_at"],
                seen=each["seen_at"] is not None,
            )
            for each in everybody.values()
            if each["number"] is None and each["left_at"] is None
        ],
        trials=len(submissions) * sum(len(each.get("trials", [""])) for each in row["scenarios"]),
        game_seconds=len(submissions) * row["seconds"],
        done=len(reports),
        marking_trouble=parts.marking.trouble if len(reports) < len(submissions) else None,
        seconds=took if took is not None and took > 0 else None,
        scenarios=row["scenarios"],
        students=[
            student_row(each, withdrawn, predictions.get(each["id"], {}), everybody[each["student_id"]], row)
            for each in submissions
        ],
        groups=[
            *(group_view(group, reports[group.typical], follow_up=follow_ups.get(group.key)) for group in groups(kept)),
            *(group_view(group, reports[group.typical], withdrawn=True) for group in taken),
        ],
        by_concept=together(report.by_concept for report in reports.values()),
        by_task=together(report.by_task for report in reports.values()),
    )


@router.put("/{round_id}/withdrawn", status_code=204, responses={404: {"model": Sorry}})
def withdraw(round_id: int, wanted: Withdrawal, parts: Parts, teacher: Teacher) -> None:
    """Withdraws a finding for one student or for a whole group, or puts it back. Marks stay as they are."""
    with parts.store.transaction() as connection:
        if Rounds.one(connection, round_id) is None:
            raise HTTPException(404, NO_ROUND)
        if wanted.submission_id is not None:
            row = Rounds.one_submission(connection, wanted.submission_id)
            if row is None or row["round_id"] != round_id:
                raise HTTPException(404, "There is no such try in this round.")
        key = wanted.key if wanted.submission_id is not None else idea_of(wanted.key)
        Rounds.set_withdrawn(connection, round_id, key, wanted.submission_id, wanted.withdrawn, teacher.name)


@router.post("", responses={404: {"model": Sorry}})
def open_round(wanted: NewRound, parts: Parts, teacher_id: TeacherId) -> Opened:
    """Opens the round of a class at an exercise; the one that there is already is given again."""
    with parts.store.transaction() as connection:
        if not Exercises.there(connection, wanted.version_id):
            raise HTTPException(404, NO_EXERCISE)
        class_id = Classes.named(connection, wanted.class_name.strip(), teacher_id)
        return Opened(id=Rounds.open(connection, class_id, wanted.version_id))


@router.post("/{round_id}/follow-ups", responses={404: {"model": Sorry}, 409: {"model": Sorry}})
async def follow_up(round_id: int, wanted: NewFollowUp, parts: Parts, teacher_id: TeacherId) -> Opened:
    """Makes a short exercise from the slip of a group, and sets it for the students who have it."""

    def read() -> tuple[Row | None, set[int]]:
        with parts.store.transaction() as connection:
            row = Rounds.one(connection, round_id)
            withdrawn = Rounds.withdrawn(connection, round_id)
            found = Rounds.submissions(connection, round_id)
        have = [
            (each["student_id"], without(each["report"], each["student"], withdrawn))
            for each in found
            if each["report"]
        ]
        group = next((each for each in groups(have) if each.key == wanted.key), None)
        return row, set(group.owners) if group is not None else set()

    row, students = await asyncio.to_thread(read)
    if row is None or not students:
        raise HTTPException(404, "There is no such group of findings in this round any more.")
    try:
        files = await parts.crew.follow_up(await parts.marker.open(row["version_id"]), wanted.key.partition("|")[0])
        made = await read_version(parts.crew, files)
    except HobError as error:
        raise HTTPException(409, f"No follow-up can be made: {error}.") from None

    def keep() -> int:
        with parts.store.transaction() as connection:
            version_id = made.keep(connection, f"follow-up-{made.opened.key[:12]}", teacher_id)
            opened = Rounds.open(connection, row["class_id"], version_id)
            Lessons.follow(connection, opened, follows_id=round_id, key=wanted.key, student_ids=students)
        return opened

    return Opened(id=await asyncio.to_thread(keep))


@router.post("/{round_id}/mark", status_code=202)
def mark_again(round_id: int, parts: Parts) -> Waiting:
    """Marks a round again: its reports are made again."""
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        Rounds.mark_again(connection, round_id)
        waiting = Rounds.unmarked(connection, round_id)
        parts.queue.defer(connection, waiting)
    return Waiting(waiting=len(waiting))


@router.post("/{round_id}/renew", status_code=202, responses={409: {"model": Sorry}})
def renew(round_id: int, parts: Parts) -> Waiting:
    """Goes on with the newest version of the exercise; whose marks change is then shown with the round."""
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        newest = Rounds.newest(connection, row["version_id"])
        if newest["id"] == row["version_id"]:
            raise HTTPException(409, "This round has the newest version of its exercise already.")
        if not Rounds.renew(connection, round_id, newest["id"]):
            raise HTTPException(409, f"Class {row['class']} has a round of version {newest['number']} already.")
        waiting = Rounds.unmarked(connection, round_id)
        parts.queue.defer(connection, waiting)
    return Waiting(waiting=len(waiting))


def _changed(row: Row, before: Report | None) -> ChangedMarks | None:
    """How a newer version changed the marks of a try; nothing where they are the same or not known yet."""
    report: Report | None = row["report"]
    if before is None or before.marks is None or report is None or report.marks in (None, before.marks):
        return None
    return ChangedMarks(
        submission_id=row["id"],
        student=row["student"],
        before=before.marks,
        after=report.marks,
        why=why_changed(before, report),
    )
