"""Whether a teacher or a student may see one thing; which address names which thing is the server's table."""

from __future__ import annotations

from typing import Final, Literal

from .sessions import Person
from .store import Connection, queries

_SQL: Final = queries("access")
Thing = Literal["class", "round", "submission", "student", "draft", "play", "version", "teacher", "checked"]
LARGEST_ID: Final = 2**31 - 1


def may_see(connection: Connection, person: Person, thing: Thing, id_: int) -> bool:
    """Whether a thing is there and is a person's to see. For whom nothing is decided about a thing, it is not."""
    if not 0 < id_ <= LARGEST_ID:
        return False
    role, who = ("teacher", person.teacher_id) if person.teacher_id is not None else ("student", person.student_id)
    look = getattr(_SQL, f"{role}_{thing}", None)
    return look is not None and look(connection, person=who, thing=id_) is not None
