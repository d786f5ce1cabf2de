"""Classes at work that are watched: each is looked at once, however many teachers watch it."""

from __future__ import annotations

import asyncio
import time
from collections.abc import Callable
from typing import Final

from .lesson_views import WorkView

FRESH_SECONDS: Final = 1.5
"""How long a look is good for everybody."""


class Classroom:
    """The last look at each round that is watched."""

    def __init__(self) -> None:
        self._looks: dict[int, tuple[float, asyncio.Task[str]]] = {}

    async def look(self, round_id: int, see: Callable[[], WorkView]) -> str:
        """A round at work as JSON: what was just seen of it, or what `see` gives, called in a thread."""
        now = time.monotonic()
        found = self._looks.get(round_id)
        if found is None or now - found[0] > FRESH_SECONDS or (found[1].done() and found[1].exception() is not None):
            task = asyncio.create_task(asyncio.to_thread(lambda: see().model_dump_json()))
            found = self._looks[round_id] = (now, task)
            for other in [id_ for id_, (at, _) in self._looks.items() if now - at > 60]:
                del self._looks[other]  # nobody watches it any more
        return await asyncio.shield(found[1])
