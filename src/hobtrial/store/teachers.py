"""Teachers: who looks after classes, and the first of whom looks after the server."""

from __future__ import annotations

from typing import Final

from ..core.words import UsageError
from .hashes import LONGEST_PASSWORD, SHORTEST_PASSWORD, hashed_password
from .store import Connection, Row, queries

_SQL: Final = queries("people")
LONGEST_NAME: Final = 60
"""Characters of a teacher's name."""


class Teachers:
    """What is kept of teachers. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def add(connection: Connection, name: str, password: str) -> int:
        """A new teacher. The first one owns what belonged to nobody. Raises `UsageError`; gives the id."""
        name = name.strip()
        if not 0 < len(name) <= LONGEST_NAME:
            raise UsageError(f"a teacher's name has 1 to {LONGEST_NAME} characters")
        checked(password)
        _SQL.lock_teachers(connection)
        first = _SQL.any_teacher(connection) is None
        made = _SQL.add_teacher(connection, name=name, password=hashed_password(password), owner=first)
        if made is None:
            raise UsageError(f"there is a teacher called {name} already; choose another name")
        if first:
            _SQL.claim_classes(connection, teacher_id=made["id"])
            _SQL.claim_drafts(connection, teacher_id=made["id"])
            _SQL.claim_plays(connection, teacher_id=made["id"])
        return int(made["id"])

    @staticmethod
    def any(connection: Connection) -> bool:
        """Whether there is a teacher."""
        return _SQL.any_teacher(connection) is not None

    @staticmethod
    def all(connection: Connection) -> list[Row]:
        """All teachers by name, with how many classes each has."""
        return list(_SQL.all_teachers(connection))

    @staticmethod
    def named(connection: Connection, name: str) -> Row | None:
        """A teacher by name, with the hash of the password."""
        row: Row | None = _SQL.teacher_by_name(connection, name=name.strip())
        return row

    @staticmethod
    def one(connection: Connection, teacher_id: int) -> Row | None:
        """A teacher, with the hash of the password."""
        row: Row | None = _SQL.one_teacher(connection, teacher_id=teacher_id)
        return row

    @staticmethod
    def set_password(connection: Connection, teacher_id: int, password: str) -> None:
        """Another password. Raises `UsageError` where it is too short or too long."""
        _SQL.set_password(connection, teacher_id=teacher_id, password=hashed_password(checked(password)))

    @staticmethod
    def make_owner(connection: Connection, teacher_id: int) -> None:
        """Lets a teacher look after the server."""
        _SQL.make_owner(connection, teacher_id=teacher_id)

    @staticmethod
    def remove(connection: Connection, teacher_id: int, to_id: int) -> None:
        """Takes a teacher away. Classes that nobody else has, and drafts, go to another one."""
        _SQL.hand_over_drafts(connection, teacher_id=teacher_id, to_id=to_id)
        _SQL.remove_teacher(connection, teacher_id=teacher_id)
        _SQL.claim_classes(connection, teacher_id=to_id)


def checked(password: str) -> str:
    """A password that may be used. Raises `UsageError`."""
    if not SHORTEST_PASSWORD <= len(password) <= LONGEST_PASSWORD:
        raise UsageError(f"a password has {SHORTEST_PASSWORD} to {LONGEST_PASSWORD} characters")
    return password
