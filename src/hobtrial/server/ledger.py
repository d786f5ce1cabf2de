"""The ledger of a class over the term, out of it as files, and a round looked at more closely."""

from __future__ import annotations

import asyncio
from collections import Counter
from collections.abc import Mapping
from typing import Final, Literal

from fastapi import HTTPException
from fastapi.responses import Response

from ..core.exercise import AT_LEVEL, BRIEF, REFERENCE, STARTER
from ..core.explaining import idea_words
from ..core.likeness import alike
from ..core.reporting import PartMarks, Report, idea_of
from ..core.reporting.items import items
from ..store import Classes, Exercises, Lessons, Rounds
from ..store.store import Row
from .access import NOT_THERE
from .answering import Router
from .building import NO_ROUND
from .checking import text_of
from .deps import Parts, Services
from .handed_in import excerpt
from .lesson_views import (
    CloserView,
    ConceptOverTime,
    IdeaOverTime,
    ItemView,
    LedgerCell,
    LedgerRound,
    LedgerStudent,
    LedgerView,
    LikeView,
    NextExercise,
)
from .tables import as_csv, as_ods, as_xlsx
from .views import Sorry

router = Router(prefix="/api", tags=["ledger"])

RECENT: Final = 3
"""The last rounds in which a concept was asked for, by which it is said how much of it a class has just now."""
OPEN: Final = {
    "unsettled": "Marks were lost, and why stayed open",
    "unreadable": "The script could not be read",
    "craft": "It is not written as the exercise asks",
}
"""What findings are called together that have no idea in common but their kind."""
TYPES: Final = {
    "csv": "text/csv; charset=utf-8",
    "ods": "application/vnd.oasis.opendocument.spreadsheet",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}


@router.get("/classes/{class_id}/ledger")
def ledger(class_id: int, parts: Parts) -> LedgerView:
    """A class over the term: students by exercises, concepts over time, and what to teach next."""
    return _ledger(parts, class_id)


@router.get("/classes/{class_id}/ledger.{form}", response_class=Response, responses={404: {"model": Sorry}})
def ledger_file(class_id: int, form: Literal["csv", "ods", "xlsx"], parts: Parts) -> Response:
    """The ledger as a table to take along: a row a student, a column an exercise, and one for each concept."""
    view = _ledger(parts, class_id)
    make = {"csv": as_csv, "ods": as_ods, "xlsx": as_xlsx}[form]
    headers = {"content-disposition": f'attachment; filename="ledger-{class_id}.{form}"'}
    return Response(make(view), media_type=TYPES[form], headers=headers)


@router.get("/rounds/{round_id}/closer")
async def closer(round_id: int, parts: Parts) -> CloserView:
    """A round more closely: what each check tells, and pairs of scripts to ask about. For the teacher's eyes only."""

    def read() -> tuple[Row | None, list[Row]]:
        with parts.store.transaction() as connection:
            return Rounds.one(connection, round_id), Lessons.sheets(connection, round_id)

    row, found = await asyncio.to_thread(read)
    if row is None:
        raise HTTPException(404, NO_ROUND)
    exercise = await parts.marker.open(row["version_id"])
    beside = [name for name in exercise.files if name.startswith("also/") or AT_LEVEL.fullmatch(name)]
    given = [exercise.text(name) for name in (STARTER, BRIEF, REFERENCE, *beside)]
    return await asyncio.to_thread(_closer, row, found, given)


def _closer(row: Row, found: list[Row], given: list[str]) -> CloserView:
    # checks are compared among those who have the same: at the level that most have
    common = Counter(each["version_id"] for each in found).most_common(1)[0][0] if found else row["version_id"]
    reports: list[Report] = [
        each["report"] for each in found if each["report"] is not None and each["version_id"] == common
    ]
    # two who work together hand in one text
    texts = {each["student"]: text_of(each["source"]) for each in found}
    together = {frozenset((each["student"], each["with_name"])) for each in found if each["with_name"]}
    pairs = [pair for pair in alike(texts, given) if frozenset((pair.first, pair.second)) not in together]
    names = [scenario["name"] for scenario in row["scenarios"]]
    return CloserView(
        title=row["title"],
        class_name=row["class"],
        items=[
            ItemView(
                scenario=names[each.scenario] if each.scenario < len(names) else "",
                expect=each.expect,
                held=each.held,
                apart=each.apart,
                scripts=each.scripts,
                tells_nothing=each.tells_nothing,
            )
            for each in items(reports)
        ],
        alike=[
            LikeView(
                first=str(pair.first),
                second=str(pair.second),
                share=pair.share,
                first_lines=excerpt(texts[str(pair.first)], pair.lines[0], 0, 12),
                second_lines=excerpt(texts[str(pair.second)], pair.lines[1], 0, 12),
            )
            for pair in pairs
        ],
    )


def _ledger(parts: Services, class_id: int) -> LedgerView:
    with parts.store.transaction() as connection:
        row = Classes.one(connection, class_id)
        if row is None:
            raise HTTPException(404, NOT_THERE["class"])
        rounds, cells, excused, findings = Lessons.ledger(connection, class_id)
        students = Classes.students(connection, class_id)
        exercises = Exercises.newest(connection)
    by_place: dict[tuple[int, int], Row] = {(cell["round_id"], cell["student_id"]): cell for cell in cells}
    concepts = _concepts(rounds, by_place)
    weakest = _weakest(concepts)
    return LedgerView(
        class_id=class_id,
        class_name=row["name"],
        rounds=[LedgerRound(**{key: each[key] for key in ("id", "title", "out_of", "opened_at")}) for each in rounds],
        students=[
            LedgerStudent(
                id=student["id"],
                name=student["name"],
                left=student["left_at"] is not None,
                cells=[
                    _cell(each["id"], by_place.get((each["id"], student["id"])), (each["id"], student["id"]) in excused)
                    for each in rounds
                ],
            )
            for student in students
        ],
        concepts=concepts,
        ideas=_ideas(rounds, findings),
        weakest=weakest,
        next=_next(weakest, exercises, {each["title"] for each in rounds}),
    )


def _cell(round_id: int, row: Row | None, excused: bool) -> LedgerCell:
    parts = (row["by_concept"] or {}) if row is not None else {}
    return LedgerCell(
        round_id=round_id,
        submission_id=row["id"] if row is not None else None,
        marks=row["marks"] if row is not None else None,
        own_marks=row["own_marks"] if row is not None else None,
        out_of=row["out_of"] if row is not None else None,
        late=bool(row is not None and row["late"]),
        excused=excused,
        by_concept={name: PartMarks(**part) for name, part in parts.items()},
    )


def _concepts(rounds: list[Row], cells: Mapping[tuple[int, int], Row]) -> list[ConceptOverTime]:
    """For each concept and round the share of its marks that the class earned."""
    sums: dict[str, dict[int, tuple[float, float]]] = {}
    for (round_id, _), cell in cells.items():
        for name, part in (cell["by_concept"] or {}).items():
            marks, out_of = sums.setdefault(name, {}).get(round_id, (0.0, 0.0))
            sums[name][round_id] = (marks + float(part["marks"]), out_of + float(part["out_of"]))
    return [
        ConceptOverTime(concept=name, shares=[_share(found.get(each["id"])) for each in rounds])
        for name, found in sorted(sums.items())
    ]


def _share(part: tuple[float, float] | None) -> float | None:
    return part[0] / part[1] if part is not None and part[1] > 0 else None


def _weakest(concepts: list[ConceptOverTime]) -> str | None:
    """The concept of which least was earned in the last rounds that asked for it."""
    recent = {
        each.concept: [share for share in each.shares if share is not None][-RECENT:]
        for each in concepts
        if any(share is not None for share in each.shares)
    }
    return min(recent, key=lambda name: (sum(recent[name]) / len(recent[name]), name), default=None)


def _ideas(rounds: list[Row], findings: list[Row]) -> list[IdeaOverTime]:
    """How many students had each idea in each round, those of which most was seen first."""
    found: dict[str, dict[int, int]] = {}
    for row in findings:
        slip = row["key"].partition("|")[0]
        idea = slip if slip in OPEN else idea_of(row["key"])
        of = found.setdefault(idea, {})
        of[row["round_id"]] = of.get(row["round_id"], 0) + row["students"]
    ordered = sorted(found.items(), key=lambda entry: (-sum(entry[1].values()), entry[0]))
    return [
        IdeaOverTime(
            key=key, title=OPEN.get(key) or idea_words(key, key), students=[of.get(each["id"], 0) for each in rounds]
        )
        for key, of in ordered[:12]
    ]


def _next(weakest: str | None, exercises: list[Row], set_already: set[str]) -> list[NextExercise]:
    """Exercises that are for a concept and were not set for the class yet."""
    if weakest is None:
        return []
    return [
        NextExercise(version_id=each["version_id"], title=each["title"], concept=weakest)
        for each in exercises
        if weakest in (each["concepts"] or []) and each["title"] not in set_already
    ][:3]
