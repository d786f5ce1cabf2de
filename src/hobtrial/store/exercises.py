"""Exercises and their versions."""

from __future__ import annotations

from typing import Any, Final

from psycopg.types.json import Jsonb

from .store import Connection, Row, queries

_SQL: Final = queries("exercises")


class Exercises:
    """What is kept of exercises. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def add(
        connection: Connection,
        slug: str,
        digest: str,
        files: dict[str, bytes],
        facts: dict[str, Any],
        author_id: int | None = None,
    ) -> int:
        """The version with these files, made if it is not there yet; `author_id` is whose a new exercise is.

        `facts` are `title`, `out_of`, `seconds` and `scenarios`, as a worker read them.
        """
        exercise = _SQL.add_exercise(connection, slug=slug, author_id=author_id)["id"]
        known = _SQL.version_by_digest(connection, exercise_id=exercise, digest=digest)
        if known is not None:
            return int(known["id"])
        version_id = _SQL.add_version(
            connection, exercise_id=exercise, digest=digest, **{**facts, "scenarios": Jsonb(facts["scenarios"])}
        )["id"]
        for name, content in files.items():
            _SQL.add_file(connection, version_id=version_id, name=name, content=content)
        return int(version_id)

    @staticmethod
    def add_level(
        connection: Connection, version_id: int, level: str, digest: str, files: dict[str, bytes], facts: dict[str, Any]
    ) -> None:
        """Keeps a version as a level has it, once."""
        row = _SQL.add_level(
            connection,
            version_id=version_id,
            level=level,
            digest=digest,
            **{**facts, "scenarios": Jsonb(facts["scenarios"])},
        )
        for name, content in files.items() if row is not None else ():
            _SQL.add_file(connection, version_id=row["id"], name=name, content=content)

    @staticmethod
    def levels(connection: Connection, version_id: int) -> list[str]:
        """The levels of a version, from the supported one on."""
        return [row["level"] for row in _SQL.levels_of(connection, version_id=version_id)]

    @staticmethod
    def known(connection: Connection, slug: str, digest: str) -> bool:
        """Whether an exercise has a version with these files."""
        return _SQL.version_of_slug(connection, slug=slug, digest=digest) is not None

    @staticmethod
    def newest(connection: Connection) -> list[Row]:
        """The newest version of each exercise, by title."""
        return list(_SQL.newest_versions(connection))

    @staticmethod
    def there(connection: Connection, version_id: int, *, at_a_level: bool = False) -> bool:
        """Whether there is a version of an exercise with this number; `at_a_level` also one as a level has it."""
        row = _SQL.version_there(connection, version_id=version_id)
        return row is not None and (at_a_level or row["level"] is None)

    @staticmethod
    def own_slug(connection: Connection, version_id: int, teacher_id: int, *, owner: bool) -> str:
        """What an exercise is called among the others, where it is this teacher's to change; else nothing.

        An exercise without an author is the owner's to change.
        """
        row = _SQL.slug_of_version(connection, version_id=version_id)
        return str(row["slug"]) if row["author_id"] == teacher_id or (row["author_id"] is None and owner) else ""

    @staticmethod
    def digest(connection: Connection, version_id: int) -> str:
        """What tells the files of a version from those of any other; empty where there is no such version."""
        row = _SQL.digest_of_version(connection, version_id=version_id)
        return str(row["digest"]) if row is not None else ""

    @staticmethod
    def files(connection: Connection, version_id: int) -> dict[str, bytes]:
        """The files of a version."""
        return {row["name"]: bytes(row["content"]) for row in _SQL.files_of_version(connection, version_id=version_id)}
