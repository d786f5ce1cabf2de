"""A student who plays by hand at their desk."""

from __future__ import annotations

import asyncio
import hashlib
from typing import Any

from ..store import Lessons
from .checked import FORETELL
from .checking import known_of_desk, waiting
from .deps import Services
from .desk import opened
from .plays import NO_SCENARIO, Playable


class DeskPlayable(Playable):
    """The exercise of a round, played by one of its students. Nothing of the reference is in it."""

    keeps = False
    beside = False

    def __init__(self, parts: Services, round_id: int, student_id: int, *found: Any) -> None:
        super().__init__(*found)
        self._parts = parts
        self._round_id = round_id
        self._student_id = student_id

    async def refusal(self, scenario: int, source: str) -> str:
        """Hidden scenarios are not there; one that asks for a prediction waits for it."""
        scenarios = self.exercise.scenarios
        if scenario >= len(scenarios) or not scenarios[scenario]["visible"]:
            return NO_SCENARIO
        known = await asyncio.to_thread(known_of_desk, self._parts, self.exercise, self._round_id, self._student_id)
        digest = hashlib.sha256(source.encode()).hexdigest()
        return FORETELL if waiting(self.exercise, scenario, digest, known) else ""

    async def began(self) -> None:
        """Notes that the student plays."""

        def note() -> None:
            with self._parts.store.transaction() as connection:
                Lessons.saw(connection, self._round_id, self._student_id, "plays")

        await asyncio.to_thread(note)

    async def keep(self, source: bytes, scenario: dict[str, Any], put: list[list[Any]]) -> int:
        """Nothing is kept here: the student's checks are."""
        return 0


async def playable_desk(parts: Services, round_id: int, student_id: int) -> Playable:
    """The exercise of a round as its student plays it."""
    row, exercise = await opened(parts, round_id, student_id)
    return DeskPlayable(parts, round_id, student_id, exercise, row["version_id"])
