"""An exercise's files → a version in the records, with the versions that its levels have."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..core.exercise import LevelName
from ..core.workshop import at_level, levels_of
from ..store import Exercises
from ..store.store import Connection
from .crew import Crew, OpenedExercise


@dataclass(frozen=True)
class ReadVersion:
    """A version that workers have read: its files, what they said of it, and the same for each of its levels."""

    files: dict[str, bytes]
    opened: OpenedExercise
    levels: Mapping[LevelName, tuple[dict[str, bytes], OpenedExercise]]

    def keep(self, connection: Connection, slug: str, author_id: int | None) -> int:
        """The version in the records, made if it is not there yet; `author_id` is whose a new exercise is."""
        version_id = Exercises.add(connection, slug, self.opened.key, self.files, self.opened.facts, author_id)
        for level, (files, opened) in self.levels.items():
            Exercises.add_level(connection, version_id, level, opened.key, files, opened.facts)
        return version_id


async def read_version(crew: Crew, files: Mapping[str, bytes]) -> ReadVersion:
    """Has an exercise read, and what it is at each of its levels. Raises `ExerciseError` and `WorkerGoneError`."""
    opened = await crew.open(files)
    levels: dict[LevelName, tuple[dict[str, bytes], OpenedExercise]] = {}
    for level in levels_of(files):
        own = at_level(files, level)
        levels[level] = own, await crew.open(own)
    return ReadVersion(dict(files), opened, levels)
