"""Classes and their students: names, cards, who has them, and what becomes of their data."""

from __future__ import annotations

import asyncio
import secrets
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from fastapi import HTTPException, Response, UploadFile

from ..core.cards import new_card
from ..core.roster import read_list, write_list
from ..core.words import UsageError
from ..crew.parcels import LARGEST_FILE
from ..store import Classes, Rounds, Students, Teachers
from ..store.hashes import AT_ONCE, hashed_card
from ..store.store import Connection
from .access import NOT_THERE, TeacherId
from .answering import Router
from .building import sentence
from .deps import Parts
from .hand_in_views import Added
from .people_views import (
    CardSheet,
    CardView,
    ChangedClass,
    ChangedStudent,
    ClassHead,
    ClassView,
    Id,
    NewClass,
    NewStudents,
    SharedWith,
    StudentLine,
    WhichCards,
)
from .student_data import student_zip
from .views import Sorry

router = Router(prefix="/api", tags=["classes"], responses={409: {"model": Sorry}})


@router.get("/classes")
def classes(parts: Parts, teacher_id: TeacherId) -> list[ClassHead]:
    """The classes of the teacher who asks."""
    with parts.store.transaction() as connection:
        rows = Classes.of(connection, teacher_id)
    return [ClassHead(**{key: row[key] for key in ClassHead.model_fields}) for row in rows]


@router.post("/classes", status_code=201)
def add(given: NewClass, parts: Parts, teacher_id: TeacherId) -> Id:
    """Makes a class."""
    name = given.name.strip()
    with parts.store.transaction() as connection:
        _name_is_free(connection, teacher_id, name)
        return Id(id=Classes.add(connection, name, teacher_id))


@router.get("/classes/{class_id}")
def one(class_id: int, parts: Parts, teacher_id: TeacherId) -> ClassView:
    """A class with its students."""
    with parts.store.transaction() as connection:
        row = Classes.one(connection, class_id)
        if row is None:
            raise HTTPException(404, NOT_THERE["class"])
        having = Classes.teachers(connection, class_id)
        students = Classes.students(connection, class_id)
        school = Teachers.all(connection)
    has = {each["id"] for each in having}
    return ClassView(
        id=row["id"],
        name=row["name"],
        word=row["word"],
        put_away_at=row["put_away_at"],
        teachers=[SharedWith(**each) for each in having],
        others=[SharedWith(id=each["id"], name=each["name"]) for each in school if each["id"] not in has],
        students=[StudentLine(**{key: each[key] for key in StudentLine.model_fields}) for each in students],
    )


@router.put("/classes/{class_id}", status_code=204)
def change(class_id: int, given: ChangedClass, parts: Parts, teacher_id: TeacherId) -> None:
    """Renames a class, puts it away, or brings it back."""
    with parts.store.transaction() as connection:
        if given.name is not None:
            _name_is_free(connection, teacher_id, given.name.strip(), but=class_id)
            Classes.rename(connection, class_id, given.name.strip())
        if given.put_away is not None:
            Classes.put_away(connection, class_id, given.put_away)


@router.delete("/classes/{class_id}", status_code=204)
def remove(class_id: int, parts: Parts) -> None:
    """Deletes a class with everything of its students."""
    with parts.store.transaction() as connection:
        Classes.remove(connection, class_id)


@router.put("/classes/{class_id}/teachers/{teacher_id}", status_code=204)
def share(class_id: int, teacher_id: int, parts: Parts) -> None:
    """Lets one more teacher have a class."""
    with parts.store.transaction() as connection:
        Classes.share(connection, class_id, teacher_id)


@router.delete("/classes/{class_id}/teachers/{teacher_id}", status_code=204)
def unshare(class_id: int, teacher_id: int, parts: Parts) -> None:
    """Takes a class from a teacher; one keeps it."""
    with _refusing(), parts.store.transaction() as connection:
        Classes.unshare(connection, class_id, teacher_id)


@router.post("/classes/{class_id}/cards")
def cards(class_id: int, given: WhichCards, parts: Parts) -> CardSheet:
    """New cards, to be printed now: afterwards nobody can see them again. Old ones of the same students end."""
    with parts.store.transaction() as connection:
        row = Classes.one(connection, class_id)
        if row is None:
            raise HTTPException(404, NOT_THERE["class"])
        there = {each["id"]: each for each in Classes.students(connection, class_id) if each["left_at"] is None}
        wanted = given.student_ids
        if wanted is None:
            wanted = [number for number, each in there.items() if not each["has_card"]]
        if not set(wanted) <= set(there):
            raise HTTPException(409, "One of them is not in this class any more. Look at the class again.")
        word = Classes.word(connection, class_id)
    made = {number: new_card(secrets.choice) for number in wanted}
    with ThreadPoolExecutor(AT_ONCE) as hands:  # a hash is slow on purpose, so no transaction waits for it
        hashed = list(hands.map(lambda card: hashed_card(card, bytes(row["salt"])), made.values()))
    with parts.store.transaction() as connection:
        Classes.set_cards(connection, class_id, dict(zip(made, hashed, strict=True)))
    return CardSheet(
        class_name=row["name"],
        word=word,
        cards=[CardView(student_id=number, name=there[number]["name"], card=card) for number, card in made.items()],
    )


@router.post("/classes/{class_id}/students")
def add_students(class_id: int, given: NewStudents, parts: Parts) -> Added:
    """Adds students by name; who is there already stays, and who had left is back."""
    return Added(added=_add(parts, class_id, [name.strip() for name in given.names]))


@router.post("/classes/{class_id}/students/file", responses={422: {"model": Sorry}})
async def add_list(class_id: int, parts: Parts, file: UploadFile) -> Added:
    """Adds the students of a CSV list to the class; who is there already stays."""
    content = await file.read(LARGEST_FILE + 1)

    def work() -> int:
        try:
            names = read_list(content.decode("utf-8-sig"))
        except UnicodeDecodeError:
            raise HTTPException(422, "This list is not saved as UTF-8; save it again with that encoding.") from None
        except UsageError as error:
            raise HTTPException(422, f"{file.filename}: {error}") from None
        return _add(parts, class_id, names)

    return Added(added=await asyncio.to_thread(work))


@router.get("/classes/{class_id}/students.csv", response_class=Response)
def class_list(class_id: int, parts: Parts) -> Response:
    """The class as CSV, one name a line."""
    with parts.store.transaction() as connection:
        names = Classes.names(connection, class_id)
    headers = {"content-disposition": 'attachment; filename="students.csv"'}
    return Response(write_list(names), media_type="text/csv; charset=utf-8", headers=headers)


@router.put("/students/{student_id}", status_code=204)
def change_student(student_id: int, given: ChangedStudent, parts: Parts, teacher_id: TeacherId) -> None:
    """Renames a student, notes that they left or are back, moves them to another class of this teacher, or gives them
    a level.
    """
    with _refusing(), parts.store.transaction() as connection:
        if given.class_id is not None:
            if given.class_id not in {each["id"] for each in Classes.of(connection, teacher_id)}:
                raise HTTPException(404, NOT_THERE["class"])
            Students.move(connection, student_id, given.class_id)
        if given.name is not None:
            Students.rename(connection, student_id, given.name.strip())
        if given.left is not None:
            Students.leave(connection, student_id, given.left)
        if given.level is not None:
            for round_id in Students.set_level(connection, student_id, given.level or None):
                parts.queue.defer(connection, Rounds.unmarked(connection, round_id))


@router.delete("/students/{student_id}", status_code=204)
def remove_student(student_id: int, parts: Parts) -> None:
    """Deletes a student with everything of theirs."""
    with parts.store.transaction() as connection:
        Students.remove(connection, student_id)


@router.get("/students/{student_id}/data.zip", response_class=Response)
def data(student_id: int, parts: Parts) -> Response:
    """Everything that is kept of a student."""
    with parts.store.transaction() as connection:
        row = Students.one(connection, student_id)
        if row is None:
            raise HTTPException(404, NOT_THERE["student"])
        everything = Students.everything(connection, student_id)
    headers = {"content-disposition": f'attachment; filename="student-{student_id}.zip"'}
    return Response(student_zip(row, everything), media_type="application/zip", headers=headers)


def _add(parts: Any, class_id: int, names: list[str]) -> int:
    with _refusing(), parts.store.transaction() as connection:
        before = len(Classes.names(connection, class_id))
        Classes.add_students(connection, class_id, names)
        return len(Classes.names(connection, class_id)) - before


def _name_is_free(connection: Connection, teacher_id: int, name: str, but: int | None = None) -> None:
    rows = Classes.of(connection, teacher_id)
    if any(row["name"] == name and row["id"] != but and row["put_away_at"] is None for row in rows):
        raise HTTPException(409, f"You have a class called {name} already. Choose another name.")


class _refusing:  # noqa: N801 - reads as a word of its `with`
    """Says what is refused as an answer."""

    def __enter__(self) -> None:
        return None

    def __exit__(self, kind: object, error: BaseException | None, trace: object) -> None:
        if isinstance(error, UsageError):
            raise HTTPException(409, sentence(error)) from None
