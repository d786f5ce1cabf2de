"""What can be played by hand, and where it is kept: in the database, or files on disk with a memory."""

from __future__ import annotations

import asyncio
from abc import ABC, abstractmethod
from collections.abc import AsyncIterator, Callable
from dataclasses import dataclass, field
from typing import Any, Final

from fastapi import HTTPException

from ..core.script import Unreadable
from ..core.script.read import decode
from ..crew import Crew, Marker, OpenedExercise
from ..store import Exercises, Store
from ..store import Plays as StoredRows
from .live_views import Changed

NO_EXERCISE: Final = "There is no such exercise. Choose one on the bench."
NO_PLAY: Final = "There is no such game. It may have been played in another program run."
NO_SCENARIO: Final = "There is no such scenario to begin with. Choose one of those that are shown."
LOOK_SECONDS: Final = 0.5
"""Seconds between looks at a file that is being edited."""


@dataclass(frozen=True)
class KeptPlay:
    """A game that was kept: which exercise, the script, the scenario that plays it again, and what was put in
    place by hand.
    """

    version_id: int
    source: bytes
    scenario: dict[str, Any]
    put: list[list[Any]]


class Playable(ABC):
    """An exercise that somebody plays."""

    shows_what_is_kept = False
    """Whether the player is given what was played, as a scenario."""
    keeps = True
    """Whether games can be kept."""
    beside = True
    """Whether what was played is shown beside the reference."""

    def __init__(self, exercise: OpenedExercise, version_id: int) -> None:
        self.exercise = exercise
        self.version_id = version_id

    async def refusal(self, scenario: int, source: str) -> str:
        """Why the player may not begin as a scenario does; nothing where they may."""
        return "" if scenario < len(self.exercise.scenarios) else NO_SCENARIO

    async def began(self) -> None:
        """Hears that a game is begun."""
        return

    @abstractmethod
    async def keep(self, source: bytes, scenario: dict[str, Any], put: list[list[Any]]) -> int:
        """Keeps a game with what was put in place by hand; gives its number."""

    async def changes(self) -> AsyncIterator[Changed]:
        """The new texts of the script while it is edited elsewhere."""
        return
        yield


class Plays(ABC):
    """Where exercises to play come from, and where games are kept."""

    @abstractmethod
    async def playable(self, version_id: int, teacher_id: int | None = None) -> Playable:
        """An exercise to play, and whose the games are that are kept. Raises `HTTPException` where there is none."""

    @abstractmethod
    async def kept(self, number: int) -> KeptPlay:
        """A game that was kept. Raises `HTTPException` where there is none."""

    @abstractmethod
    async def script(self, version_id: int, submission_id: int | None, teacher_id: int | None) -> str:
        """The script to begin with."""


class StoredPlays(Plays):
    """Exercises and games of the database."""

    def __init__(self, store: Store, marker: Marker) -> None:
        self._store = store
        self._marker = marker

    async def playable(self, version_id: int, teacher_id: int | None = None) -> Playable:
        """A version of an exercise."""
        if not await asyncio.to_thread(self._there, version_id):
            raise HTTPException(404, NO_EXERCISE)
        return _StoredPlayable(await self._marker.open(version_id), version_id, self._store, teacher_id)

    async def kept(self, number: int) -> KeptPlay:
        """A game of the database."""
        with self._store.transaction() as connection:
            row = StoredRows.one(connection, number)
        if row is None:
            raise HTTPException(404, NO_PLAY)
        return KeptPlay(row["version_id"], bytes(row["source"]), row["scenario"], row["put"])

    async def script(self, version_id: int, submission_id: int | None, teacher_id: int | None) -> str:
        """A student's try, or the exercise's starter."""
        with self._store.transaction() as connection:
            source = StoredRows.script(connection, version_id, submission_id, teacher_id or 0)
        text = decode(source)
        return text.text if isinstance(text, Unreadable) else text

    def _there(self, version_id: int) -> bool:
        with self._store.transaction() as connection:
            return Exercises.there(connection, version_id, at_a_level=True)


class _StoredPlayable(Playable):
    def __init__(self, exercise: OpenedExercise, version_id: int, store: Store, teacher_id: int | None) -> None:
        super().__init__(exercise, version_id)
        self._teacher_id = teacher_id
        self._store = store

    async def keep(self, source: bytes, scenario: dict[str, Any], put: list[list[Any]]) -> int:
        """Keeps a game in the database."""

        def write() -> int:
            with self._store.transaction() as connection:
                return StoredRows.keep(connection, self.version_id, source, scenario, put, self._teacher_id)

        return await asyncio.to_thread(write)


DISK: Final = 1
"""The number of the one exercise when files on disk are played."""


@dataclass
class DiskPlays(Plays):
    """One exercise and one script on disk; games are kept as long as the program runs."""

    crew: Crew
    files: dict[str, bytes]
    read_script: Callable[[], bytes]
    games: list[KeptPlay] = field(default_factory=list)
    _opened: OpenedExercise | None = None

    async def playable(self, version_id: int, teacher_id: int | None = None) -> Playable:
        """The exercise on disk."""
        if version_id != DISK:
            raise HTTPException(404, NO_EXERCISE)
        if self._opened is None:
            self._opened = await self.crew.open(self.files)
        return _DiskPlayable(self._opened, self)

    async def kept(self, number: int) -> KeptPlay:
        """A game of this run."""
        if not 1 <= number <= len(self.games):
            raise HTTPException(404, NO_PLAY)
        return self.games[number - 1]

    async def script(self, version_id: int, submission_id: int | None, teacher_id: int | None) -> str:
        """The script as it is on disk now."""
        return self.text()

    def text(self) -> str:
        """The script's text, as far as it can be read."""
        text = decode(self.read_script())
        return text.text if isinstance(text, Unreadable) else text


class _DiskPlayable(Playable):
    def __init__(self, exercise: OpenedExercise, plays: DiskPlays) -> None:
        super().__init__(exercise, DISK)
        self._plays = plays

    async def keep(self, source: bytes, scenario: dict[str, Any], put: list[list[Any]]) -> int:
        """Keeps a game in memory."""
        self._plays.games.append(KeptPlay(DISK, source, scenario, put))
        return len(self._plays.games)

    async def changes(self) -> AsyncIterator[Changed]:
        """Looks at the file again and again."""
        before = self._text()
        while True:
            await asyncio.sleep(LOOK_SECONDS)
            text = await asyncio.to_thread(self._text)
            if text is not None and text != before:
                before = text
                yield Changed(source=text)

    def _text(self) -> str | None:
        """The script as it is now; nothing while an editor is just replacing the file."""
        try:
            return self._plays.text()
        except OSError:
            return None
