"""Teachers of the school: everybody sees the names, the owner adds and removes."""

from __future__ import annotations

from fastapi import HTTPException

from ..core.words import UsageError
from ..store import Sessions, Teachers
from .access import Teacher, TeacherId
from .answering import Router
from .building import sentence
from .deps import Parts
from .people_views import GivenPassword, Id, NewTeacher, TeacherLine
from .views import Sorry

router = Router(prefix="/api/teachers", tags=["teachers"], responses={409: {"model": Sorry}})


@router.get("")
def teachers(parts: Parts, you: Teacher) -> list[TeacherLine]:
    """All teachers by name."""
    with parts.store.transaction() as connection:
        rows = Teachers.all(connection)
    return [
        TeacherLine(
            id=row["id"],
            name=row["name"],
            owner=row["owner"],
            classes=row["classes"] if you.owner else None,
            you=row["id"] == you.teacher_id,
        )
        for row in rows
    ]


@router.post("", status_code=201)
def add(given: NewTeacher, parts: Parts) -> Id:
    """Adds a teacher, with a password that they should change."""
    try:
        with parts.store.transaction() as connection:
            return Id(id=Teachers.add(connection, given.name, given.password))
    except UsageError as error:
        raise HTTPException(409, sentence(error)) from None


@router.put("/{teacher_id}/password", status_code=204)
def give_password(teacher_id: int, given: GivenPassword, parts: Parts) -> None:
    """Gives a teacher who has forgotten theirs another password; all their sessions end."""
    try:
        with parts.store.transaction() as connection:
            Teachers.set_password(connection, teacher_id, given.new)
            Sessions.end_all_of_teacher(connection, teacher_id)
    except UsageError as error:
        raise HTTPException(409, sentence(error)) from None


@router.delete("/{teacher_id}", status_code=204)
def remove(teacher_id: int, parts: Parts, own_id: TeacherId) -> None:
    """Takes a teacher away. Drafts, and classes that nobody else has, come to the owner."""
    if teacher_id == own_id:
        raise HTTPException(409, "You look after this server, so you cannot take yourself away.")
    with parts.store.transaction() as connection:
        Teachers.remove(connection, teacher_id, own_id)
