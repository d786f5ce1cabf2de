"""Handlers that wait: `wait(seconds)` suspends a handler, and the game goes on.

Each run of a handler that can wait is a greenlet. It switches back to the game when it waits, and
the game switches to it again when its time has come. Scripts that never wait need no greenlets.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any, Final

from greenlet import GreenletExit, getcurrent, greenlet

from ..script import Halt
from ..words import FRAMES_PER_SECOND, GameError, frame_of, short_text

LONGEST_WAIT: Final = 1e6
"""Seconds: longer than any trial."""
WORK_OF_A_CALL: Final = 4
MOST_WAITING: Final = 500
"""Handlers that wait at the same time."""


@dataclass(slots=True, eq=False)
class Sleeper:
    """A handler that waits: when it is due, and what the game must restore when it goes on."""

    due: float
    frame: int
    order: int
    thread: Any
    context: Any
    busy: Hashable | None


class Waits:
    """The waiting handlers of one trial. `now` gives the present frame; `context` what is to be restored."""

    def __init__(self, now: Callable[[], int], context: Callable[[], Any]) -> None:
        self.sleepers: list[Sleeper] = []
        self.busy: set[Hashable] = set()
        """Every-frame handlers, with their pair, that still wait and are not started again."""
        self._now = now
        self._context = context
        self._started = 0
        self.work = 0
        """Passes that the waiting was worth: each call inside which one waits is put away and taken up again."""
        self._game = getcurrent()
        self._running: dict[int, Hashable | None] = {}

    def run(self, work: Callable[[], Any], busy: Hashable | None = None) -> None:
        """Runs a piece of the script until it ends or waits."""
        thread = greenlet(work)
        self._running[id(thread)] = busy
        self._switch(thread)

    def resume(self, sleeper: Sleeper) -> None:
        """Goes on with a handler whose time has come."""
        self.sleepers.remove(sleeper)
        if sleeper.busy is not None:
            self.busy.discard(sleeper.busy)
        self._switch(sleeper.thread)

    def _switch(self, thread: Any) -> None:
        try:
            thread.switch()
        finally:
            if thread.dead:
                self._running.pop(id(thread), None)

    def due(self, frame: int) -> list[Sleeper]:
        """The handlers that go on in a frame, by due time and then age."""
        return sorted((each for each in self.sleepers if each.frame <= frame), key=lambda each: (each.due, each.order))

    def wait(self, seconds: Any) -> None:
        """Suspends the handler that calls it; it goes on so much later, and at least one frame later."""
        number = isinstance(seconds, (int, float)) and not isinstance(seconds, bool)
        if not number or not math.isfinite(seconds) or not 0 <= seconds <= LONGEST_WAIT:
            raise GameError(f"`wait` takes a number of seconds from 0 to 1,000,000, not {short_text(seconds)}.")
        due = max(self._now(), 0) / FRAMES_PER_SECOND + seconds  # what `start` waits for counts from frame 0
        self.sleep_until(max(self._now() + 1, frame_of(due)), due)

    def sleep_until(self, frame: int, due: float) -> None:
        """Suspends the running handler until a frame."""
        thread = getcurrent()
        if thread is self._game:
            raise GameError("`wait` works in a handler; while the file is read the game has not begun.")
        if len(self.sleepers) >= MOST_WAITING:
            raise Halt("waits", f"More than {MOST_WAITING} handlers wait at the same time.")
        self._started += 1
        busy = self._running.get(id(thread))
        context = self._context()
        self.work += WORK_OF_A_CALL * (1 + getattr(context, "depth", 0))
        self.sleepers.append(Sleeper(due, frame, self._started, thread, context, busy))
        if busy is not None:
            self.busy.add(busy)
        self._game.switch()

    def stop(self, which: Callable[[Any], bool] = lambda context: True) -> None:
        """Ends waiting handlers where they are, all or those with a context; no further line of them runs."""
        sleepers = [sleeper for sleeper in self.sleepers if which(sleeper.context)]
        self.sleepers = [sleeper for sleeper in self.sleepers if sleeper not in sleepers]
        for sleeper in sleepers:
            if sleeper.busy is not None:
                self.busy.discard(sleeper.busy)
            self._running.pop(id(sleeper.thread), None)
            sleeper.thread.parent = getcurrent()  # where it goes when it has ended
            sleeper.thread.throw(GreenletExit)
