"""Class lists as OneRoster 1.2 writes them in CSV (1EdTech, *OneRoster 1.2: CSV Binding*), in and out.

Computes only: files come and go as `{name: bytes}`, whoever zips and unzips is elsewhere. Of a student's record only
the given name is taken, and their number in the other system.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Final

from .words import UsageError, clean, safe_cell

VERSION: Final = "1.2"
MOST_ROWS: Final = 200_000
"""Rows of one file: a large school's enrolments."""
GONE: Final = "tobedeleted"


@dataclass(frozen=True, slots=True)
class Pupil:
    """A student of a list: their number there, the name they are called by, and the beginning of their other one."""

    source_id: str
    name: str
    initial: str = ""


@dataclass(frozen=True, slots=True)
class ListedClass:
    """A class of a list with its students, by name."""

    source_id: str
    title: str
    pupils: tuple[Pupil, ...]


@dataclass(frozen=True, slots=True)
class Result:
    """What a student earned in a round; `score` is missing where there are no marks."""

    round_id: int
    student: str
    score: float | None
    at: str
    """The day, as `2026-11-28`."""
    late: bool = False


@dataclass(frozen=True, slots=True)
class LineItem:
    """A round as a thing that is marked."""

    round_id: int
    title: str
    out_of: float
    at: str


def read_lists(files: Mapping[str, bytes]) -> list[ListedClass]:
    """The classes of a list, by title. Raises `UsageError` with file and line."""
    named = {name.rsplit("/", 1)[-1].casefold(): data for name, data in files.items()}
    if "manifest.csv" in named:
        said = {row["propertyName"]: row["value"] for row in _rows(named, "manifest.csv", "propertyName", "value")}
        version = said.get("oneroster.version", VERSION)
        if version != VERSION:
            raise UsageError(f"manifest.csv: this list is of OneRoster {version[:20]}; version {VERSION} is read")
    users = {
        row["sourcedId"]: Pupil(
            row["sourcedId"],
            (row.get("preferredGivenName") or row["givenName"]).strip()[:60],
            (row.get("preferredFamilyName") or row.get("familyName") or "").strip()[:1],
        )
        for row in _rows(named, "users.csv", "sourcedId", "givenName")
    }
    inside: dict[str, dict[str, Pupil]] = {}
    for row in _rows(named, "enrollments.csv", "classSourcedId", "userSourcedId", "role"):
        pupil = users.get(row["userSourcedId"])
        if row["role"].strip().casefold() == "student" and pupil is not None:
            inside.setdefault(row["classSourcedId"], {})[pupil.source_id] = pupil
    return sorted(
        (
            ListedClass(
                row["sourcedId"],
                row["title"].strip()[:60] or row["sourcedId"][:60],
                tuple(sorted(inside.get(row["sourcedId"], {}).values(), key=lambda each: (each.name, each.source_id))),
            )
            for row in _rows(named, "classes.csv", "sourcedId", "title")
        ),
        key=lambda each: (each.title, each.source_id),
    )


def names_for(pupils: Iterable[Pupil]) -> dict[str, str]:
    """A name for each student of a class: the given one, with an initial where two have the same.

    By their number in the list. Two that still have the same name are the teacher's to tell apart.
    """
    pupils = list(pupils)
    called = [each.name.casefold() for each in pupils]
    return {
        each.source_id: f"{each.name} {each.initial}".strip() if called.count(each.name.casefold()) > 1 else each.name
        for each in pupils
    }


def write_results(class_source: str, items: Iterable[LineItem], results: Iterable[Result], at: str) -> dict[str, bytes]:
    """What a class earned, as the files that OneRoster calls line items and results. `at` is the moment, in UTC."""
    line_items = [
        {
            "sourcedId": f"hob-round-{each.round_id}",
            "status": "",
            "dateLastModified": "",
            "title": each.title,
            "description": "",
            "assignDate": each.at,
            "dueDate": each.at,
            "classSourcedId": class_source,
            "categorySourcedId": "hob-exercises",
            "gradingPeriodSourcedId": "",
            "resultValueMin": "0",
            "resultValueMax": f"{each.out_of:g}",
            "schoolSourcedId": "",
        }
        for each in items
    ]
    rows = [
        {
            "sourcedId": f"hob-result-{each.round_id}-{each.student}",
            "status": "",
            "dateLastModified": "",
            "lineItemSourcedId": f"hob-round-{each.round_id}",
            "studentSourcedId": each.student,
            "scoreStatus": "fully graded" if each.score is not None else "not submitted",
            "score": f"{each.score:g}" if each.score is not None else "",
            "scoreDate": each.at,
            "comment": "",
            "textScore": "",
            "classSourcedId": class_source,
            "inProgress": "false",
            "incomplete": "false",
            "late": "true" if each.late else "false",
            "missing": "true" if each.score is None else "false",
        }
        for each in results
    ]
    categories = [
        {"sourcedId": "hob-exercises", "status": "", "dateLastModified": "", "title": "Exercises", "weight": ""}
    ]
    files = {"categories": categories, "lineItems": line_items, "results": rows}
    return {
        "manifest.csv": _manifest(files, at),
        **{f"{name}.csv": _csv(list(COLUMNS[name]), table) for name, table in files.items()},
    }


COLUMNS: Final[Mapping[str, tuple[str, ...]]] = {
    "categories": ("sourcedId", "status", "dateLastModified", "title", "weight"),
    "lineItems": (
        "sourcedId", "status", "dateLastModified", "title", "description", "assignDate", "dueDate", "classSourcedId",
        "categorySourcedId", "gradingPeriodSourcedId", "resultValueMin", "resultValueMax", "schoolSourcedId",
    ),
    "results": (
        "sourcedId", "status", "dateLastModified", "lineItemSourcedId", "studentSourcedId", "scoreStatus", "score",
        "scoreDate", "comment", "textScore", "classSourcedId", "inProgress", "incomplete", "late", "missing",
    ),
}  # fmt: skip
"""The columns of the files that are written, in the standard's order."""

FILES: Final = (
    "academicSessions", "categories", "classes", "classResources", "courses", "courseResources", "demographics",
    "enrollments", "lineItemLearningObjectiveIds", "lineItems", "lineItemScoreScales", "orgs", "resources",
    "resultLearningObjectiveIds", "results", "resultScoreScales", "roles", "scoreScales", "userProfiles",
    "userResources", "users",
)  # fmt: skip
"""The files that a manifest speaks of."""


def _manifest(files: Mapping[str, object], at: str) -> bytes:
    properties = {
        "manifest.version": "1.0",
        "oneroster.version": VERSION,
        **{f"file.{name}": "bulk" if name in files else "absent" for name in FILES},
        "source.systemName": "Hob Trial",
        "source.systemCode": f"hob-trial {at}",
    }
    rows = [{"propertyName": name, "value": value} for name, value in properties.items()]
    return _csv(["propertyName", "value"], rows)


def _csv(columns: list[str], rows: Iterable[Mapping[str, str]]) -> bytes:
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, lineterminator="\r\n")
    writer.writeheader()
    writer.writerows({name: safe_cell(value) for name, value in row.items()} for row in rows)
    return out.getvalue().encode()


def _rows(files: Mapping[str, bytes], name: str, *needed: str) -> Iterator[dict[str, str]]:
    """The rows of a file that are not marked as deleted, as texts by column."""
    if name not in files:
        raise UsageError(f"{name} is missing; a OneRoster list has users.csv, classes.csv and enrollments.csv")
    try:
        text = files[name].decode("utf-8-sig")
    except UnicodeDecodeError:
        raise UsageError(f"{name} is not saved as UTF-8, which OneRoster asks for") from None
    reader = csv.DictReader(io.StringIO(text), strict=True)
    try:
        missing = [column for column in needed if column not in (reader.fieldnames or ())]
        if missing:
            raise UsageError(f"{name} has no column {missing[0]}")
        for number, row in enumerate(reader, 2):
            if number > MOST_ROWS:
                raise UsageError(f"{name} has more than {MOST_ROWS:,} rows")
            if None in row or any(value is None for value in row.values()):
                raise UsageError(f"{name}, line {reader.line_num}: this row has not as many cells as the first one")
            if any(not row[column].strip() for column in needed):
                raise UsageError(
                    f"{name}, line {reader.line_num}: {next(c for c in needed if not row[c].strip())} is empty"
                )
            if row.get("status", "").strip().casefold() != GONE:
                yield {column: clean(value) for column, value in row.items()}
    except csv.Error as error:
        raise UsageError(f"{name}, line {reader.reader.line_num}: this is not CSV: {error}") from None
