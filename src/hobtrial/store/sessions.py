"""Who is signed in, and how often somebody has tried to be: in the database, so that several servers count together."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Final

from .hashes import hashed_token, new_token
from .store import Connection, queries

_SQL: Final = queries("sessions")
SESSION_SECONDS: Final = 12 * 60 * 60
"""How long one is signed in: a school day."""
FIRST_LINK_SECONDS: Final = 60 * 60
WINDOW_SECONDS: Final = 15 * 60
"""Tries at signing in that failed count for so long."""


@dataclass(frozen=True, slots=True)
class Person:
    """Who is signed in: a teacher, or a student of a class."""

    teacher_id: int | None
    student_id: int | None
    name: str
    owner: bool = False
    class_id: int | None = None
    class_name: str | None = None


class Sessions:
    """What is kept of sessions. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def begin(connection: Connection, *, teacher_id: int | None = None, student_id: int | None = None) -> str:
        """A session of a teacher or a student. Gives what the browser keeps."""
        _SQL.forget_ended(connection)
        token = new_token()
        _SQL.begin(
            connection,
            token=hashed_token(token),
            teacher_id=teacher_id,
            student_id=student_id,
            seconds=SESSION_SECONDS,
        )
        return token

    @staticmethod
    def who(connection: Connection, token: str) -> Person | None:
        """Whose a session is, while it lasts."""
        row = _SQL.who(connection, token=hashed_token(token))
        if row is None:
            return None
        return Person(row["teacher_id"], row["student_id"], row["name"], row["owner"], row["class_id"], row["class"])

    @staticmethod
    def end(connection: Connection, token: str) -> None:
        """Ends one session."""
        _SQL.end_one(connection, token=hashed_token(token))

    @staticmethod
    def end_all_of_teacher(connection: Connection, teacher_id: int, but: str = "") -> None:
        """Ends all sessions of a teacher but one."""
        _SQL.end_teacher(connection, teacher_id=teacher_id, but=hashed_token(but))

    @staticmethod
    def note_try(connection: Connection, keys: Iterable[str]) -> list[int]:
        """Notes a try at signing in under some keys. Commit it before `may_try`: so that many at once count, too."""
        _SQL.forget_old_tries(connection, seconds=WINDOW_SECONDS)
        return [row["id"] for row in _SQL.note_tries(connection, keys=list(keys))]

    @staticmethod
    def may_try(connection: Connection, limits: Mapping[str, int], tries: list[int]) -> bool:
        """Whether no key has had more tries in a quarter of an hour than it may. One that is turned away counts not."""
        rows = _SQL.count_tries(connection, keys=list(limits), seconds=WINDOW_SECONDS)
        if all(row["tries"] <= limits[row["key"]] for row in rows):
            return True
        _SQL.forget_tries(connection, ids=tries)
        return False

    @staticmethod
    def succeeded(connection: Connection, tries: list[int]) -> None:
        """Takes back what was noted: only tries that fail count."""
        _SQL.forget_tries(connection, ids=tries)

    @staticmethod
    def first_link(connection: Connection) -> str:
        """The end of the link with which the first teacher comes in: good once, for an hour, in place of any before."""
        _SQL.forget_first_links(connection)
        token = new_token()
        _SQL.add_first_link(connection, token=hashed_token(token), seconds=FIRST_LINK_SECONDS)
        return token

    @staticmethod
    def use_first_link(connection: Connection, token: str) -> bool:
        """Whether a link for the first teacher is good; now it is used."""
        return _SQL.use_first_link(connection, token=hashed_token(token)) is not None
