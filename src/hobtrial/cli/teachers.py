"""`hob teacher`: adds and removes teachers, and gives them passwords."""

from __future__ import annotations

import getpass
import sys
from collections.abc import Callable

from ..core.words import HobError, UsageError
from ..store import Sessions, Store, Teachers
from ..store.store import Row
from .home import home
from .marking import complain
from .records import database_of


def add(name: str) -> int:
    """Adds a teacher. Gives the exit status."""

    def do(store: Store) -> str:
        given = _password()
        with store.transaction() as connection:
            Teachers.add(connection, name, given)
        return f"{name} can sign in now."

    return _with_store(do)


def password(name: str) -> int:
    """Gives a teacher another password. Gives the exit status."""

    def do(store: Store) -> str:
        with store.transaction() as connection:
            teacher_id = _id_of(Teachers.named(connection, name), name)
        given = _password()
        with store.transaction() as connection:
            Teachers.set_password(connection, teacher_id, given)
            Sessions.end_all_of_teacher(connection, teacher_id)
        return f"{name} has another password, and is signed out everywhere."

    return _with_store(do)


def remove(name: str, to: str) -> int:
    """Removes a teacher; what was theirs alone goes to another. Gives the exit status."""

    def do(store: Store) -> str:
        with store.transaction() as connection:
            teacher = Teachers.named(connection, name)
            teacher_id, to_id = _id_of(teacher, name), _id_of(Teachers.named(connection, to), to)
            if teacher_id == to_id:
                raise UsageError("what a teacher has cannot go to the same teacher; name another one after --to")
            Teachers.remove(connection, teacher_id, to_id)
            if teacher is not None and teacher["owner"]:
                Teachers.make_owner(connection, to_id)
        return f"{name} is removed; what was theirs alone is {to}'s now."

    return _with_store(do)


def _with_store(do: Callable[[Store], str]) -> int:
    try:
        store = Store(database_of(home()))
        try:
            print(do(store))
        finally:
            store.close()
    except HobError as error:
        complain(str(error).split("\n"))
        return 1
    return 0


def _id_of(row: Row | None, name: str) -> int:
    if row is None:
        raise UsageError(f"there is no teacher called {name}")
    return int(row["id"])


def _password() -> str:
    """A password: asked for twice at a terminal, else the first line of the input."""
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\r\n")
    given = getpass.getpass("Password: ")
    if getpass.getpass("The same once more: ") != given:
        raise UsageError("the two passwords are not the same; nothing was changed")
    return given
