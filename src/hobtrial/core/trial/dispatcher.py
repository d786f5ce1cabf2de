"""From events to handlers: what came runs the handlers that wait for it, in file order, and then
what they caused is delivered.
"""

from __future__ import annotations

from collections.abc import Hashable
from typing import Any, Final

from ..events import EVERY_FRAME, Event, EventKind
from ..scene import Body
from .handlers import Handler, forms_of
from .host import Host
from .moments import Moments
from .pairs import Pair
from .trace import Sent
from .waits import Sleeper

TOLD_UNHANDLED: Final = frozenset(
    ("pressed released clicked picked replied typed heard entered appeared gone finished").split()
)
"""Events that are recorded even where no handler waits for them."""


FRAME: Final = Event("frame")
FRAME_FORMS: Final = (FRAME,)


class Dispatcher:
    """Fires events in a game, and delivers what their handlers cause. `waits`: whether any handler can wait."""

    def __init__(self, host: Host, *, waits: bool) -> None:
        self.host = host
        self.state = host.state
        self.moments: Moments | None = None
        self.still = False
        """Whether the game stands still after its end: no handler runs any more."""
        self.ran = False
        """Whether any handler ran in this frame."""
        self.happened = False
        """Whether anything came in this frame, or a handler went on: else nothing changed but what moves by itself."""
        self._waits = waits
        self._unsettled: list[Any] = []
        self._delivering = False

    def fire(self, event: Event, *given: Any) -> None:
        """An event that is about no piece; `given` is what its handlers may take."""
        self._came((event,), event, given, (), (event,) if event.kind in EVERY_FRAME else ())

    def each_frame(self) -> None:
        """The end of a frame has come, for those who wait for it."""
        if self.state.recorder is not None or self.moments is not None:
            self.fire(FRAME)
            return
        handlers = self.state.handlers.waiting_for(FRAME_FORMS)
        self.state.handlers.count(FRAME_FORMS)
        for handler in handlers:
            self._handle(handler, (), (), (handler.order, FRAME))

    def fire_piece(self, kind: EventKind, body: Body | None) -> None:
        """A click, an arrival or a removal."""
        forms = forms_of(kind, body)
        given = (self.state.handle(body) if body is not None else None,)
        about = (body.index,) if body is not None else ()
        self._came(forms, forms[0], given, about, ())

    def fire_pair(self, kind: EventKind, pair: Pair) -> None:
        """What the overlap of two pieces sets off."""
        self.happened = True
        handlers, patterns = pair.handlers.get(kind, ()), pair.patterns.get(kind, ())
        self.state.handlers.count(patterns)
        begun = self.moments.begin(patterns, self.state.frame) if self.moments is not None and patterns else None
        if self.state.recorder is not None:
            event = Event(kind, (pair.first.name, pair.second.name))
            self.state.recorder.came(
                event,
                tuple(h.name for h, _ in handlers),
                tuple(h.line for h, _ in handlers),
                len(self.state.waits.sleepers),
            )
        for handler, swapped in handlers:
            first, second = (pair.second, pair.first) if swapped else (pair.first, pair.second)
            both = (self.state.handle(first), self.state.handle(second))
            given = both if handler.takes == 2 else both[1:] if handler.takes == 1 else ()
            self._handle(handler, given, pair.key, (handler.order, pair.key) if kind == "overlaps" else None)
        if begun:
            self._settle(begun)

    def _came(
        self,
        forms: tuple[Event, ...],
        event: Event,
        given: tuple[Any, ...],
        about: tuple[int, ...],
        busy: tuple[Event, ...],
    ) -> tuple[str, ...]:
        """Runs the handlers of an event, by all the forms that it counts as; gives their names."""
        self.happened = True
        handlers = self.state.handlers.waiting_for(forms)
        self.state.handlers.count(forms)
        begun = self.moments.begin(forms, self.state.frame) if self.moments is not None else None
        if self.state.recorder is not None and (handlers or event.kind in TOLD_UNHANDLED):
            self.state.recorder.came(
                event, tuple(h.name for h in handlers), tuple(h.line for h in handlers), len(self.state.waits.sleepers)
            )
        for handler in handlers:
            self._handle(handler, given[: handler.takes], about, (handler.order, *busy) if busy else None)
        if begun:
            self._settle(begun)
        return tuple(handler.name for handler in handlers)

    def _handle(
        self, handler: Handler, arguments: tuple[Any, ...], about: tuple[int, ...], busy: Hashable | None = None
    ) -> None:
        if self.still or (busy is not None and busy in self.state.waits.busy):
            return
        self.state.handler = handler
        self.state.about = about
        self.ran = self.happened = True
        self.state.depth = 0
        recorder = self.state.recorder
        if recorder is not None:
            recorder.handler = handler.name
        if self._waits:
            self.host.run(self.state.waits.run, lambda: handler.function(*arguments), busy)
        else:
            self.host.run(handler.function, *arguments)
        self.state.handler = None
        if recorder is not None:
            recorder.handler = None
        if self.state.queue:
            self.deliver()

    def deliver(self) -> None:
        """Delivers what was caused so far, in order, and what that causes after it."""
        if self._delivering:
            return
        self._delivering = True
        recorder = self.state.recorder
        cause = recorder.cause if recorder is not None else -1
        try:
            while self.state.queue:
                queued = self.state.queue.popleft()
                if queued.body is not None:
                    self.fire_piece(queued.kind, queued.body)
                elif queued.kind == "heard":
                    event = Event("heard", (queued.text,))
                    names = self._came((event,), event, (), (), ())
                    self.state.showing.sent.append(Sent(self.state.frame, queued.text, queued.line, names))
                else:
                    self.fire(Event(queued.kind, (queued.text,) if queued.kind == "entered" else ()))
                    if queued.kind == "finished" and self.state.plan.freeze_at_end and self.state.outcome != "playing":
                        self._freeze_game()
        finally:
            self._delivering = False
        if self._unsettled and self.moments is not None:
            self.moments.end(self._unsettled)
            self._unsettled = []
        if recorder is not None:
            recorder.cause = cause

    def _settle(self, begun: list[Any]) -> None:
        """The handlers of events have ended; where messages are being delivered, theirs are still to come."""
        if self._delivering:
            self._unsettled += begun
        elif self.moments is not None:
            self.moments.end(begun)

    def _freeze_game(self) -> None:
        """The exercise lets the game stand still after its end: no handler runs any more."""
        self.still = True
        self.state.queue.clear()
        self.state.waits.stop()

    def resume(self, sleeper: Sleeper) -> None:
        """Goes on with a handler whose waiting is over."""
        state = self.state
        state.handler, state.depth, cause, state.about = sleeper.context
        self.ran = self.happened = True
        if state.recorder is not None:
            state.recorder.handler = state.handler.name if state.handler else None
            state.recorder.cause = cause
        self.host.run(state.waits.resume, sleeper)
        state.handler = None
        if state.recorder is not None:
            state.recorder.handler = None
        if state.queue:
            self.deliver()
