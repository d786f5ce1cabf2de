"""Games by worker: each player has a worker process of their own, behind both walls, ended with its player."""

from __future__ import annotations

import asyncio
import base64
import contextlib
from collections.abc import AsyncIterator, Mapping, Sequence
from types import TracebackType
from typing import Any, Final, Self

from ..core.words import HobError
from .crew import OpenedExercise
from .process import WorkerProcess

FRAME_SECONDS: Final = 20
"""Seconds in which a frame must be played: a handler's whole budget takes a tenth of one on a quiet machine."""
MOST_PLAYERS: Final = 60
"""Games at the same time: each takes 60 MB of memory."""


class TooManyPlayersError(HobError):
    """There are as many games as this machine can hold."""


class Game:
    """One player's process. Its calls raise `WorkerGoneError` when a script took it along."""

    def __init__(self, worker: WorkerProcess) -> None:
        self._hand = worker

    async def begin(
        self, exercise: OpenedExercise, source: bytes, start: Mapping[str, Any], shown: Sequence[str] = ()
    ) -> dict[str, Any]:
        """Begins a game again: `{"news": …, "names": …}`, `{"problems": …}` of a script that cannot be read, or
        `{"refused": …}` where `start` (the fields of `Start`) has something that cannot be.
        """
        task = {"do": "live", "exercise": exercise.key, "files": exercise.files, "start": dict(start)}
        return await self._hand.ask({**task, "source": base64.b64encode(source).decode(), "shown": list(shown)})

    async def show(self, shown: Sequence[str]) -> str:
        """Puts things on show besides the listed variables. Gives what is wrong with them, or nothing."""
        refused: str = (await self._hand.ask({"do": "show", "shown": list(shown)})).get("refused", "")
        return refused

    async def look(self, name: str, shown: Sequence[str], *, beside: bool) -> dict[str, Any]:
        """What was played so far as a trial, beside the reference or alone."""
        task = {"do": "look", "name": name, "shown": list(shown), "beside": beside}
        trial: dict[str, Any] = (await self._hand.ask(task))["trial"]
        return trial

    async def next(self, inputs: list[dict[str, Any]]) -> dict[str, Any]:
        """Plays one frame with these inputs; gives what is new."""
        news: dict[str, Any] = (await self._hand.ask({"do": "tick", "inputs": inputs}, FRAME_SECONDS))["news"]
        return news

    async def keep(self, name: str) -> tuple[dict[str, Any], list[list[Any]]]:
        """What was played, as a scenario of an exercise, and what was put in place by hand."""
        kept = await self._hand.ask({"do": "keep", "name": name})
        return kept["scenario"], kept["put"]


class Players:
    """All games of one server. Use as `async with Players() as players`."""

    def __init__(self, most: int = MOST_PLAYERS) -> None:
        self._most = most
        self._playing = 0

    async def __aenter__(self) -> Self:
        return self

    async def __aexit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Nothing is kept: each game ends its own process."""

    @contextlib.asynccontextmanager
    async def game(self) -> AsyncIterator[Game]:
        """A process for one player, ended with the block. Raises `TooManyPlayersError`."""
        if self._playing >= self._most:
            raise TooManyPlayersError(f"{self._most} games are being played already. Try again when one has ended.")
        self._playing += 1
        try:
            worker = await WorkerProcess.start()
            try:
                yield Game(worker)
            finally:
                await asyncio.shield(worker.end())
        finally:
            self._playing -= 1
