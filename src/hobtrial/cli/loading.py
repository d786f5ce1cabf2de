"""`hob load EXERCISE CLASS FILES`: hands in scripts for a class, matched to students by file name.

What is doubtful is asked where there is a terminal, and named where there is none. The server marks what was
handed in: at once where it runs, else when it starts.
"""

from __future__ import annotations

import asyncio
import sys
from pathlib import Path

from ..core.roster import Match, match, name_from_file, read_list
from ..core.words import HobError, UsageError
from ..crew import Crew, Queue, ReadVersion, read_version
from ..store import Classes, Rounds, Store, Teachers
from ..store.store import Connection
from .home import home
from .inputs import Given, exercise_files
from .marking import collect, complain
from .records import database_of


def load(exercise: Path, class_name: str, paths: list[Path], students: Path | None, teacher: str | None) -> int:
    """Hands in. Gives the exit status: 1 when something could not be used or belongs to nobody."""
    given, status = collect(paths)
    try:
        files = exercise_files(exercise)
        listed = read_list(_text(students)) if students is not None else []
        version = asyncio.run(_read(files))
    except UsageError as error:
        complain(f"{exercise}: {line}" if str(exercise) not in line else line for line in str(error).split("\n"))
        return 1
    try:
        return max(status, _hand_in(database_of(home()), exercise, version, class_name, given, listed, teacher))
    except HobError as error:
        complain(str(error).split("\n"))
        return 1


async def _read(files: dict[str, bytes]) -> ReadVersion:
    async with Crew(1) as crew:
        return await read_version(crew, files)


def _text(path: Path) -> str:
    try:
        return path.read_bytes().decode("utf-8-sig")
    except OSError as error:
        raise UsageError(f"{path} cannot be read: {error.strerror}") from error
    except UnicodeDecodeError:
        raise UsageError(f"{path} is not saved as UTF-8; save it again with that encoding") from None


def _hand_in(
    dsn: str,
    exercise: Path,
    version: ReadVersion,
    class_name: str,
    given: list[Given],
    listed: list[str],
    teacher: str | None,
) -> int:
    store, queue = Store(dsn), Queue(dsn)
    status = 0
    sources = {each.name: each.source for each in given}
    with store.transaction() as connection:
        teacher_id = _teacher(connection, teacher)
        slug = exercise.resolve().name.removesuffix(".zip")
        version_id = version.keep(connection, slug, teacher_id)
        class_id = Classes.named(connection, class_name, teacher_id)
        round_id = Rounds.open(connection, class_id, version_id)
        Classes.add_students(connection, class_id, listed)
        known = Classes.names(connection, class_id)
        handed = 0
        for found in match(sources, known):
            student = found.student or (name_from_file(found.file) if not known else _asked(found, known))
            if student is None:
                complain([f"{found.file}: {found.why}; nothing was handed in for it"])
                status = 1
                continue
            student_id = Classes.add_students(connection, class_id, [student])[student]
            Rounds.hand_in(connection, round_id, student_id, found.file, sources[found.file])
            handed += 1
        queue.defer(connection, Rounds.unmarked(connection, round_id))
    queue.close()
    store.close()
    print(f"{handed} of {len(sources)} scripts were handed in for {class_name}: {version.opened.title}")
    return status


def _teacher(connection: Connection, name: str | None) -> int | None:
    """Whose the class is: the teacher who is named, else the only one there is. Raises `UsageError`."""
    teachers = Teachers.all(connection)
    if name is not None:
        row = Teachers.named(connection, name)
        if row is None:
            raise UsageError(f"there is no teacher called {name}; ./hob teacher add {name} makes one")
        return int(row["id"])
    if len(teachers) > 1:
        names = ", ".join(each["name"] for each in teachers)
        raise UsageError(f"there are several teachers; say whose class it is: --teacher NAME, one of {names}")
    return int(teachers[0]["id"]) if teachers else None


def _asked(found: Match, known: list[str]) -> str | None:
    """Whose a file is, as the person at the terminal says; nothing where there is no terminal."""
    if not sys.stdin.isatty():
        return None
    guess = f" Perhaps {', '.join(found.candidates)}?" if found.candidates else ""
    answer = input(f"{found.file}: {found.why}.{guess} Whose is it (empty leaves it out)? ").strip()
    if not answer:
        return None
    return next((name for name in known if name.casefold() == answer.casefold()), answer)
