"""Frames in which the handlers of `frame` would do again what they did in the last one: nothing.

What a steady function (`script/steady.py`) does follows from the variables that it reads, from the outcome, the place
and the scoreboard. A run of it that left all of those alone, and told and sounded nothing, is the same run in every
frame until one of them changes. What such runs spend is counted, as if they had been run.
"""

from __future__ import annotations

from types import FunctionType
from typing import Any, Final

from ..script import Woven
from .dispatcher import FRAME, FRAME_FORMS, Dispatcher
from .host import Host
from .showing import MOST_WRITTEN

PLAIN: Final = frozenset((int, float, str, bool, type(None), FunctionType))
"""Types of values that cannot change in themselves."""


class Steadily:
    """Runs the handlers of `frame`, and knows when they need not be run."""

    def __init__(self, dispatcher: Dispatcher, host: Host, woven: Woven) -> None:
        self._dispatcher = dispatcher
        self._state = host.state
        self._host = host
        self._woven = woven
        self._handlers: list[Any] | None = None
        self._names: tuple[str, ...] | None = None
        self._idle: tuple[Any, ...] | None = None
        """What everything was when a run changed nothing."""
        self._cost = (0, 0, 0, 0)
        """What that run spent: passes, calls, charged work, writings on the scoreboard."""

    def each_frame(self) -> None:
        """The end of a frame: runs the handlers, and notes whether they changed anything."""
        if not self._steady():
            self._dispatcher.each_frame()
            return
        before, spent = self._now(), self._spent()
        self._dispatcher.each_frame()
        self._idle = before if before is not None and before == self._now() else None
        if self._idle is not None:
            after = self._spent()
            self._cost = (after[0] - spent[0], after[1] - spent[1], after[2] - spent[2], after[3] - spent[3])

    def holds(self) -> int:
        """For how many more frames the handlers would do nothing if nothing else happens; 0 where nobody knows."""
        if self._idle is None or not self._steady() or self._idle != self._now():
            return 0
        passes, written = self._cost[0], self._cost[3]
        room = self._host.room // passes if passes else MOST_WRITTEN
        return max(0, min(room, (MOST_WRITTEN - self._state.showing.written) // written if written else room))

    def passed(self, frames: int) -> None:
        """Counts what the handlers would have spent in so many frames."""
        passes, calls, charged, written = self._cost
        self._host.spend(passes * frames, calls * frames, charged * frames)
        self._state.showing.written += written * frames

    def _steady(self) -> bool:
        """Whether all handlers of `frame` are steady, and no check asks how often it came."""
        handlers = self._state.handlers.waiting_for(FRAME_FORMS)
        if self._handlers != handlers:
            self._handlers, self._names, self._idle = list(handlers), None, None
            moments = self._dispatcher.moments
            counted = FRAME in self._state.handlers.counts or (moments is not None and moments.asks(FRAME))
            if handlers and not counted:
                names = [self._woven.steady(handler.name) for handler in handlers]
                if None not in names:
                    self._names = tuple({name: None for each in names if each is not None for name in each})
        return self._names is not None

    def _now(self) -> tuple[Any, ...] | None:
        """All that the handlers can read or do; nothing where a value can change in itself."""
        assert self._names is not None
        state, look, names = self._state, self._host.globals.get, self._state.names
        showing = state.showing
        values = [look(name, names.get(name)) for name in self._names]
        if not PLAIN.issuperset(map(type, values)) or state.queue:
            return None
        told = (len(state.story.lines), len(showing.shown), len(showing.sounds), len(state.missed))
        return (*map(type, values), *values, state.outcome, showing.place, told, tuple(showing.board.items()))

    def _spent(self) -> tuple[int, int, int, int]:
        return (*self._host.spent, self._state.showing.written)
