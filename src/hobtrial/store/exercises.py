"""Exercises and their versions."""

from __future__ import annotations

from typing import Any, Final

from psycopg.types.json import Jsonb

from .store import Link, Row, queries

_SQL: Final = queries("exercises")


class Exercises:
    """What is kept of exercises. Every call joins the transaction of the link it is given."""

    @staticmethod
    def add(link: Link, slug: str, digest: str, files: dict[str, bytes], facts: dict[str, Any]) -> int:
        """The version with these files, made if it is not there yet.

        `facts` are `title`, `out_of`, `seconds` and `scenarios`, as a worker read them.
        """
        exercise = _SQL.add_exercise(link, slug=slug)["id"]
        known = _SQL.version_by_digest(link, exercise_id=exercise, digest=digest)
        if known is not None:
            return int(known["id"])
        version = _SQL.add_version(
            link, exercise_id=exercise, digest=digest, **{**facts, "scenarios": Jsonb(facts["scenarios"])}
        )["id"]
        for name, content in files.items():
            _SQL.add_file(link, version_id=version, name=name, content=content)
        return int(version)

    @staticmethod
    def known(link: Link, slug: str, digest: str) -> bool:
        """Whether an exercise has a version with these files."""
        return _SQL.version_of_slug(link, slug=slug, digest=digest) is not None

    @staticmethod
    def newest(link: Link) -> list[Row]:
        """The newest version of each exercise, by title."""
        return list(_SQL.newest_versions(link))

    @staticmethod
    def there(link: Link, version: int) -> bool:
        """Whether there is a version of an exercise with this number."""
        return _SQL.version_there(link, version_id=version) is not None

    @staticmethod
    def files(link: Link, version: int) -> dict[str, bytes]:
        """The files of a version."""
        return {row["name"]: bytes(row["content"]) for row in _SQL.files_of_version(link, version_id=version)}
