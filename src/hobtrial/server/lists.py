"""Schools' lists (OneRoster): read, shown with what they would change, and taken over when a teacher says so."""

from __future__ import annotations

import asyncio
import io
import zipfile
from collections.abc import Mapping
from datetime import UTC, datetime
from typing import Annotated

from fastapi import Form, HTTPException, Response, UploadFile
from pydantic import Field, ValidationError

from ..core import oneroster
from ..core.words import UsageError
from ..crew.parcels import LARGEST_FILE, zip_entries
from ..store import Classes, Rounds, Students
from ..store.store import Connection
from .access import NOT_THERE, TeacherId
from .answering import Router
from .building import sentence
from .deps import Parts, Services
from .given import Given
from .people_views import ListedClass, ListedStudent, ListRead, What
from .views import Sorry

router = Router(prefix="/api", tags=["lists"], responses={409: {"model": Sorry}, 422: {"model": Sorry}})

Source = Annotated[str, Field(max_length=255)]


class Said(Given):
    """What a teacher says of a list: which classes they take, and under which names the students come in."""

    classes: list[Source] = Field(default=[], max_length=2000)
    names: dict[Source, Annotated[str, Field(max_length=60)]] = Field(default={}, max_length=20_000)
    take: bool = False
    """Whether it is taken over now; otherwise it is only shown."""


@router.post("/lists")
async def read(
    parts: Parts, teacher_id: TeacherId, file: UploadFile, said: Annotated[str, Form(max_length=2_000_000)] = "{}"
) -> ListRead:
    """Reads a school's list. Nothing is changed before `take` is said, and not while a name cannot be used."""
    content = await file.read(LARGEST_FILE + 1)

    def work() -> ListRead:
        try:
            given = Said.model_validate_json(said)
            files = dict(zip_entries(file.filename or "the list", content))
            listed = oneroster.read_lists(files)
        except ValidationError:
            raise HTTPException(422, "What was said of this list cannot be read.") from None
        except UsageError as error:
            raise HTTPException(422, sentence(error)) from None
        return _take(parts, teacher_id, listed, given)

    return await asyncio.to_thread(work)


def _take(parts: Services, teacher_id: int, listed: list[oneroster.ListedClass], given: Said) -> ListRead:
    with parts.store.transaction() as connection:
        views = [_class_view(connection, teacher_id, each, given) for each in listed]
        chosen = [view for view in views if view.chosen]
        clash = any(student.clash for view in chosen for student in view.students)
        if not given.take or clash or not chosen:
            return ListRead(classes=views, done=False)
        try:
            for view in chosen:
                _take_class(connection, teacher_id, view)
        except UsageError as error:
            raise HTTPException(409, sentence(error)) from None
        return ListRead(classes=views, done=True)


def _class_view(connection: Connection, teacher_id: int, listed: oneroster.ListedClass, given: Said) -> ListedClass:
    """What taking a class over would do."""
    class_id = Classes.by_source(connection, listed.source_id, teacher_id)
    rows = Classes.students(connection, class_id) if class_id is not None else []
    by_source = {row["source_id"]: row for row in rows if row["source_id"] is not None}
    unlinked = {row["name"]: row for row in rows if row["source_id"] is None}
    proposed = oneroster.names_for(listed.pupils)
    names = {number: given.names.get(number, name).strip() for number, name in proposed.items()}
    students = []
    for number, name in names.items():
        known = by_source.get(number)
        before = None
        what: What = "new"
        if known is not None:
            kept = number not in given.names and _is_kept(known["name"], name)
            name = known["name"] if kept else name
            before = known["name"] if known["name"] != name else None
            what = "back" if known["left_at"] is not None else "renamed" if before else "same"
        elif name in unlinked:
            what = "linked"
        students.append(ListedStudent(source_id=number, name=name, what=what, before=before, clash=None))
    sources = set(names)
    others = {row["name"] for row in rows if row["source_id"] is not None and row["source_id"] not in sources}
    return ListedClass(
        source_id=listed.source_id,
        title=listed.title,
        class_id=class_id,
        chosen=listed.source_id in given.classes,
        students=_with_clashes(students, others),
        leaving=[
            row["name"]
            for row in rows
            if row["source_id"] is not None and row["source_id"] not in sources and row["left_at"] is None
        ],
    )


def _is_kept(known: str, listed: str) -> bool:
    """Whether a name that a teacher chose stands for a listed one: `Wren B` for `Wren`."""
    return known.split(" ")[0].casefold() == listed.split(" ")[0].casefold()


def _with_clashes(students: list[ListedStudent], others: set[str]) -> list[ListedStudent]:
    """The same with why a name cannot be used: nobody has it, or two have it."""
    called = [each.name.casefold() for each in students]
    taken = {name.casefold() for name in others}

    def clash(each: ListedStudent) -> str | None:
        if not each.name:
            return "has no name"
        if called.count(each.name.casefold()) > 1:
            return "two have this name"
        return "somebody who leaves has this name" if each.name.casefold() in taken else None

    return [each.model_copy(update={"clash": clash(each)}) for each in students]


def _take_class(connection: Connection, teacher_id: int, view: ListedClass) -> None:
    class_id = view.class_id
    if class_id is None:
        class_id = Classes.named(connection, view.title, teacher_id)
        Classes.set_source(connection, class_id, view.source_id)
    rows = Classes.students(connection, class_id)
    by_source = {row["source_id"]: row["id"] for row in rows if row["source_id"] is not None}
    wanted = {each.source_id for each in view.students}
    for row in rows:
        if row["source_id"] is not None and row["source_id"] not in wanted and row["left_at"] is None:
            Students.leave(connection, row["id"], True)
    for each in (each for each in view.students if each.what in ("renamed", "back", "same")):
        Students.leave(connection, by_source[each.source_id], False)
        if each.before is not None:
            Students.rename(connection, by_source[each.source_id], each.name)
    fresh = [each for each in view.students if each.what in ("new", "linked")]
    ids = Classes.add_students(connection, class_id, [each.name for each in fresh])
    for each in fresh:
        Students.set_source(connection, ids[each.name], each.source_id)


@router.get("/classes/{class_id}/results.zip", response_class=Response)
def results(class_id: int, parts: Parts, teacher_id: TeacherId) -> Response:
    """What a class earned in all its rounds, as OneRoster writes it; own marks count where there are some."""
    with parts.store.transaction() as connection:
        row = Classes.one(connection, class_id)
        if row is None:
            raise HTTPException(404, NOT_THERE["class"])
        students = {each["name"]: each for each in Classes.students(connection, class_id)}
        rounds = Rounds.of_class(connection, class_id)
        found = {each["id"]: Rounds.submissions(connection, each["id"]) for each in rounds}
    items, rows = [], []
    for each in rounds:
        at = each["opened_at"].date().isoformat()
        items.append(oneroster.LineItem(each["id"], each["title"], float(each["out_of"]), at))
        for tried in found[each["id"]]:
            student = students.get(tried["student"])
            if student is not None:
                number = student["source_id"] or f"hob-student-{student['id']}"
                rows.append(oneroster.Result(each["id"], number, _counts(tried), at))
    files = oneroster.write_results(
        row["source_id"] or f"hob-class-{class_id}", items, rows, datetime.now(UTC).isoformat(timespec="seconds")
    )
    headers = {"content-disposition": 'attachment; filename="results.zip"'}
    return Response(_zipped(files), media_type="application/zip", headers=headers)


def _counts(row: Mapping[str, object]) -> float | None:
    """The marks that count: the teacher's own where there are some."""
    own, report = row["own_marks"], row["report"]
    marks = own if own is not None else getattr(report, "marks", None)
    return None if marks is None else float(marks)  # type: ignore[arg-type]


def _zipped(files: Mapping[str, bytes]) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return packed.getvalue()
