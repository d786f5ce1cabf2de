"""The Round: a class and an exercise, students down, scenarios across, and the groups of findings."""

from __future__ import annotations

import asyncio
import re
from typing import Annotated, Any

from fastapi import APIRouter, Form, HTTPException, Response, UploadFile
from pydantic import Field, TypeAdapter, ValidationError

from ..core.explaining import Group, groups, key_of, why_changed
from ..core.roster import LONGEST_NAME, match, read_list, write_list
from ..core.script import Unreadable
from ..core.script.read import decode
from ..core.words import UsageError
from ..crew.parcels import LARGEST_FILE, scripts_in
from ..store import Exercises, Rounds
from ..store.store import Row
from .deps import Parts, Services
from .plays import NO_EXERCISE
from .views import (
    ChangedMarks,
    DoubtView,
    GroupView,
    HandedIn,
    NewRound,
    Opened,
    PartMarks,
    Predicted,
    RoundView,
    SheetLine,
    SheetView,
    Sorry,
    StudentRow,
    Typical,
    Withdrawal,
)

Student = Annotated[str, Field(max_length=LONGEST_NAME)]

router = APIRouter(prefix="/api/rounds", tags=["round"])

LINES_ROUND = 3
"""Lines of a sheet before and after each that it is about."""
MOST_LINES = 4
"""Lines that a sheet is about: more do not fit on a projector."""

NO_ROUND = "There is no such round. Choose one on the bench."


@router.get("/{round_id}")
def one_round(round_id: int, parts: Parts) -> RoundView:
    """A round as far as it is marked."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        tries = Rounds.tries(link, round_id)
        newest = Rounds.newest(link, row["version_id"])
        before = Rounds.reports_before(link, round_id)
        withdrawn = Rounds.withdrawn(link, round_id)
        predictions = Rounds.predictions(link, round_id)
    reports = [(each["id"], each["report"]) for each in tries if each["report"] is not None]
    kept = [(each["id"], without(each["report"], each["student"], withdrawn)) for each in tries if each["report"]]
    taken = [group for group in groups(reports) if (group.key, None) in withdrawn]
    made = [each["made_at"] for each in tries if each["made_at"] is not None]
    took = (max(made) - row["marking_since"]).total_seconds() if len(made) == len(tries) and made else None
    return RoundView(
        id=row["id"],
        title=row["title"],
        version=row["version"],
        newest=newest["number"],
        changed=[changed for each in tries if (changed := _changed(each, before.get(each["id"]))) is not None],
        class_name=row["class"],
        out_of=row["out_of"],
        opened_at=row["opened_at"],
        trials=len(tries) * sum(len(each.get("trials", [""])) for each in row["scenarios"]),
        game_seconds=len(tries) * row["seconds"],
        done=len(reports),
        seconds=took if took is not None and took > 0 else None,
        scenarios=row["scenarios"],
        students=[_student(each, withdrawn, predictions.get(each["id"], {})) for each in tries],
        groups=[*(_group(group) for group in groups(kept)), *(_group(group, withdrawn=True) for group in taken)],
        by_concept=_together("by_concept", reports),
        by_task=_together("by_task", reports),
    )


def _together(key: str, reports: list[tuple[int, dict[str, Any]]]) -> dict[str, PartMarks]:
    """Marks of all scripts for each concept or task."""
    found: dict[str, PartMarks] = {}
    for _, report in reports:
        for name, part in report.get(key, {}).items():
            sum_ = found.setdefault(name, PartMarks(marks=0, out_of=0))
            sum_.marks += part["marks"]
            sum_.out_of += part["out_of"]
    return found


def without(report: dict[str, Any], student: str, withdrawn: set[tuple[str, str | None]]) -> dict[str, Any]:
    """A report without the findings that are withdrawn for a student or for everybody."""
    return {**report, "findings": [each for each in report["findings"] if not _taken(key_of(each), student, withdrawn)]}


def _taken(key: str, student: str, withdrawn: set[tuple[str, str | None]]) -> bool:
    return (key, None) in withdrawn or (key, student) in withdrawn


@router.put("/{round_id}/withdrawn", status_code=204, responses={404: {"model": Sorry}})
def withdraw(round_id: int, wanted: Withdrawal, parts: Parts) -> None:
    """Withdraws a finding for one student or for a whole group, or puts it back. Marks stay as they are."""
    with parts.store.transaction() as link:
        if Rounds.one(link, round_id) is None:
            raise HTTPException(404, NO_ROUND)
        if wanted.try_id is not None:
            row = Rounds.one_try(link, wanted.try_id)
            if row is None or row["round_id"] != round_id:
                raise HTTPException(404, "There is no such try in this round.")
        Rounds.set_withdrawn(link, round_id, wanted.key, wanted.try_id, wanted.withdrawn)


@router.get("/{round_id}/sheet", responses={404: {"model": Sorry}})
def sheet(round_id: int, key: str, parts: Parts) -> SheetView:
    """A group of findings for the projector or the printer: lines, question and reason, and nobody's name."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        tries = Rounds.tries(link, round_id)
        withdrawn = Rounds.withdrawn(link, round_id)
        kept = [(each["id"], without(each["report"], each["student"], withdrawn)) for each in tries if each["report"]]
        group = next((each for each in groups(kept) if each.key == key), None)
        if group is None:
            raise HTTPException(404, "There is no such group of findings in this round any more.")
        typical = Rounds.one_try(link, group.typical)
    assert typical is not None
    text = decode(bytes(typical["source"]))
    source = text.text if isinstance(text, Unreadable) else text
    source = re.sub(rf"\b{re.escape(typical['student'])}\b", "…", source, flags=re.IGNORECASE)  # in a comment
    finding = group.finding
    return SheetView(
        title=group.title,
        exercise=row["title"],
        scripts=len(group.owners),
        of=len(tries),
        marks_lost=group.marks_lost,
        question=finding["nudge"],
        pointer=finding["pointer"],
        happened=finding["happened"],
        note=finding["note"],
        lines=_excerpt(source, finding["lines"]),
        typical=_group(group).typical,
    )


def _excerpt(source: str, about: list[int]) -> list[SheetLine]:
    """The lines of a finding with the few round them; the head of a long script where it names none."""
    lines = source.split("\n")
    near = {number for line in about[:MOST_LINES] for number in range(line - LINES_ROUND, line + LINES_ROUND + 1)}
    shown = sorted(number for number in near or range(1, 2 * LINES_ROUND + 2) if 1 <= number <= len(lines))
    return [SheetLine(number=number, text=lines[number - 1], about=number in about) for number in shown]


@router.post("", responses={404: {"model": Sorry}})
def open_round(wanted: NewRound, parts: Parts) -> Opened:
    """Opens the round of a class at an exercise; the one that there is already is given again."""
    with parts.store.transaction() as link:
        if not Exercises.there(link, wanted.version):
            raise HTTPException(404, NO_EXERCISE)
        return Opened(id=Rounds.open(link, wanted.class_name.strip(), wanted.version))


@router.post("/{round_id}/mark", status_code=202)
def mark_again(round_id: int, parts: Parts) -> dict[str, int]:
    """Marks a round again: its reports are made anew."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        Rounds.mark_again(link, round_id)
        waiting = Rounds.unmarked(link, round_id)
        parts.queue.defer(link, row["version_id"], waiting)
    return {"waiting": len(waiting)}


@router.post("/{round_id}/renew", status_code=202, responses={409: {"model": Sorry}})
def renew(round_id: int, parts: Parts) -> dict[str, int]:
    """Goes on with the newest version of the exercise; whose marks change is then shown with the round."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        newest = Rounds.newest(link, row["version_id"])
        if newest["id"] == row["version_id"]:
            raise HTTPException(409, "This round has the newest version of its exercise already.")
        if not Rounds.renew(link, round_id, newest["id"]):
            raise HTTPException(409, f"Class {row['class']} has a round of version {newest['number']} already.")
        waiting = Rounds.unmarked(link, round_id)
        parts.queue.defer(link, newest["id"], waiting)
    return {"waiting": len(waiting)}


def _changed(row: Row, before: dict[str, Any] | None) -> ChangedMarks | None:
    """How a newer version changed the marks of a try; nothing where they are the same or not known yet."""
    report = row["report"]
    if before is None or report is None or before["marks"] == report["marks"]:
        return None
    return ChangedMarks(
        try_id=row["id"],
        student=row["student"],
        before=before["marks"],
        after=report["marks"],
        why=why_changed(before, report),
    )


@router.post("/{round_id}/scripts", responses={422: {"model": Sorry}})
async def hand_in(
    round_id: int, parts: Parts, files: list[UploadFile], answers: Annotated[str, Form(max_length=100_000)] = "{}"
) -> HandedIn:
    """Hands in files or zips: matched to students by name, or as `answers` ({file: student}) says.

    Nothing is handed in for a file that is doubtful and has no answer; send it again with one. An empty
    answer leaves it out.
    """
    contents = [(file.filename or "", await file.read(LARGEST_FILE + 1)) for file in files]
    try:
        said: dict[str, str] = TypeAdapter(dict[str, Student]).validate_json(answers)
        sources = dict(scripts_in(contents))
    except ValidationError:
        raise HTTPException(422, "The answers cannot be read; they are names of students by file.") from None
    except UsageError as error:
        raise HTTPException(422, str(error)) from None
    return await asyncio.to_thread(_hand_in, parts, round_id, sources, said)


def _hand_in(parts: Services, round_id: int, sources: dict[str, bytes], said: dict[str, str]) -> HandedIn:
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        known = Rounds.students(link, row["class"])
        doubtful: list[DoubtView] = []
        handed = 0
        for found in match([file for file in sources if file not in said], known):
            if found.student is None:
                doubtful.append(DoubtView(file=found.file, candidates=list(found.candidates), why=found.why))
            else:
                said[found.file] = found.student
        for file, student in said.items():
            if student and file in sources:
                Rounds.hand_in(link, row["class"], round_id, student, file, sources[file])
                handed += 1
        parts.queue.defer(link, row["version_id"], Rounds.unmarked(link, round_id))
        return HandedIn(handed_in=handed, doubtful=doubtful, students=Rounds.students(link, row["class"]))


@router.get("/{round_id}/students.csv", response_class=Response)
def class_list(round_id: int, parts: Parts) -> Response:
    """The class as CSV, one name a line."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        names = Rounds.students(link, row["class"])
    headers = {"content-disposition": 'attachment; filename="students.csv"'}
    return Response(write_list(names), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/{round_id}/students", responses={422: {"model": Sorry}})
async def add_students(round_id: int, parts: Parts, file: UploadFile) -> dict[str, int]:
    """Adds the students of a CSV list to the class; who is there already stays."""
    try:
        names = read_list((await file.read(LARGEST_FILE + 1)).decode("utf-8-sig"))
    except UnicodeDecodeError:
        raise HTTPException(422, "This list is not saved as UTF-8; save it again with that encoding.") from None
    except UsageError as error:
        raise HTTPException(422, f"{file.filename}: {error}") from None

    def write() -> int:
        with parts.store.transaction() as link:
            row = Rounds.one(link, round_id)
            if row is None:
                raise HTTPException(404, NO_ROUND)
            before = len(Rounds.students(link, row["class"]))
            Rounds.add_students(link, row["class"], names)
            return len(Rounds.students(link, row["class"])) - before

    return {"added": await asyncio.to_thread(write)}


def verdicts_of(report: dict[str, Any] | None) -> list[list[Any]]:
    """The verdicts of a report, a list a scenario."""
    return [[check["verdict"] for check in scenario["checks"]] for scenario in report["scenarios"]] if report else []


def _predicted(report: dict[str, Any] | None, guesses: dict[int, dict[str, str]]) -> list[Predicted]:
    """What became of predictions, once the run is known."""
    found = []
    for scenario, given in sorted(guesses.items()):
        if report is not None and scenario < len(report["scenarios"]):
            values = report["scenarios"][scenario].get("predict", {}).get("values", {})
            right = sum(_alike(text, values.get(name)) for name, text in given.items())
            found.append(Predicted(scenario=scenario, right=right, of=len(values)))
    return found


def _alike(guess: str, value: str | None) -> bool:
    """Whether a guess is the value; quotes round a text do not matter."""
    return value is not None and guess.strip().strip("'\"") == value.strip("'\"")


def _student(row: Row, withdrawn: set[tuple[str, str | None]], guesses: dict[int, dict[str, str]]) -> StudentRow:
    report = row["report"]
    findings = without(report, row["student"], withdrawn)["findings"] if report else []
    return StudentRow(
        try_id=row["id"],
        student=row["student"],
        number=row["number"],
        status=report["status"] if report else "waiting",
        marks=report["marks"] if report else None,
        own_marks=row["own_marks"],
        verdicts=verdicts_of(report),
        craft=report["craft"] if report else [],
        first=findings[0]["title"] if findings else None,
        groups=list(dict.fromkeys(key_of(finding) for finding in findings)),
        predicted=_predicted(report, guesses),
    )


def _group(group: Group[int], *, withdrawn: bool = False) -> GroupView:
    finding = group.finding
    typical = None
    if finding["scenario"] is not None:
        typical = Typical(try_id=group.typical, scenario=finding["scenario"], frame=finding["frame"])
    elif finding["slip"] == "unreadable":
        typical = Typical(try_id=group.typical, scenario=0, frame=None)
    return GroupView(
        key=group.key,
        slip=group.slip,
        title=group.title,
        confidence=group.confidence,
        tries=list(group.owners),
        marks_lost=group.marks_lost,
        excerpt=finding.get("excerpt") or None,
        pointer=finding["pointer"],
        typical=typical,
        withdrawn=withdrawn,
    )
