"""From events to handlers: what came runs the handlers that wait for it, in file order, and then
what they caused is delivered.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterable
from typing import Any, Final

from ..events import EVERY_FRAME, PAIR_EVENTS, Event, EventKind
from ..scene import Body, SceneState
from ..script import Limits, Woven
from .handlers import Handler, Handlers, forms_of
from .host import Host
from .moments import Moments
from .pairs import Pair, Pairs
from .plan import Plan
from .trace import Overlapped, Sent

TOLD_UNHANDLED: Final = frozenset(
    ("pressed released clicked picked replied typed heard entered appeared gone finished").split()
)
"""Events that are recorded even where no handler waits for them."""


class Firing(Host):
    """A Host with its handlers and the queue of events that they cause."""

    def __init__(
        self,
        woven: Woven,
        scene: SceneState,
        plan: Plan,
        limits: Limits,
        counted: Iterable[Event],
        *,
        record: bool,
    ) -> None:
        super().__init__(woven, scene, plan, limits, record=record)
        self.handlers = Handlers(counted)
        self.pairs = Pairs(scene)
        self.moments: Moments | None = None
        self._unsettled: list[Any] = []
        self._delivering = False
        self._still = False
        self._ran = False

    # ---- what handles and calls tell

    def register(self, function: Any, events: tuple[Event, ...], takes: int) -> None:
        """Adds a handler, for each of its events once, in file order."""
        handler, distinct = self.handlers.add(function, events, takes)
        for event in distinct:
            if event.kind in PAIR_EVENTS:
                self.pairs.ask(event, handler)

    def joined(self, body: Body) -> None:
        """A piece was added or came back."""
        self.pairs.appeared(body)

    def removed(self, body: Body) -> None:
        """A piece was taken off the scene: its pairs end without `parts`."""
        body.let_go()
        for pair in self.pairs.removed(body):
            self._note_overlap(pair, max(self.frame, 0))
        self.cause("gone", body)

    def touched(self, body: Body) -> None:
        """A script changed a piece."""
        super().touched(body)
        self.pairs.stirred(body)

    # ---- events

    def fire(self, event: Event, *given: Any) -> None:
        """An event that is about no piece; `given` is what its handlers may take."""
        self._came((event,), event, given, (), (event,) if event.kind in EVERY_FRAME else ())

    def fire_piece(self, kind: EventKind, body: Body | None) -> None:
        """A click, an arrival or a removal."""
        forms = forms_of(kind, body)
        given = (self.handle(body) if body is not None else None,)
        about = (body.index,) if body is not None else ()
        self._came(forms, forms[0], given, about, ())

    def fire_pair(self, kind: EventKind, pair: Pair) -> None:
        """What the overlap of two pieces sets off."""
        handlers, patterns = pair.handlers.get(kind, ()), pair.patterns.get(kind, ())
        self.handlers.count(patterns)
        begun = self.moments.begin(patterns, self.frame) if self.moments is not None and patterns else None
        if self.recorder is not None:
            event = Event(kind, (pair.first.name, pair.second.name))
            self.recorder.came(
                event, tuple(h.name for h, _ in handlers), tuple(h.line for h, _ in handlers), len(self.waits.sleepers)
            )
        for handler, swapped in handlers:
            first, second = (pair.second, pair.first) if swapped else (pair.first, pair.second)
            both = (self.handle(first), self.handle(second))
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
        handlers = self.handlers.waiting_for(forms)
        self.handlers.count(forms)
        begun = self.moments.begin(forms, self.frame) if self.moments is not None else None
        if self.recorder is not None and (handlers or event.kind in TOLD_UNHANDLED):
            self.recorder.came(
                event, tuple(h.name for h in handlers), tuple(h.line for h in handlers), len(self.waits.sleepers)
            )
        for handler in handlers:
            self._handle(handler, given[: handler.takes], about, (handler.order, *busy) if busy else None)
        if begun:
            self._settle(begun)
        return tuple(handler.name for handler in handlers)

    def _handle(
        self, handler: Handler, arguments: tuple[Any, ...], about: tuple[int, ...], busy: Hashable | None = None
    ) -> None:
        if self._still or (busy is not None and busy in self.waits.busy):
            return
        self._handler = handler
        self._about = about
        self._ran = True
        self._depth = 0
        recorder = self.recorder
        if recorder is not None:
            recorder.handler = handler.name
        if self._woven.waits:
            self._guarded(lambda: self.waits.run(lambda: handler.function(*arguments), busy))
        else:
            self._guarded(lambda: handler.function(*arguments))
        self._handler = None
        if recorder is not None:
            recorder.handler = None
        if self._queue:
            self.deliver()

    # ---- what handlers cause

    def deliver(self) -> None:
        """Delivers what was caused so far, in order, and what that causes after it."""
        if self._delivering:
            return
        self._delivering = True
        recorder = self.recorder
        cause = recorder.cause if recorder is not None else -1
        try:
            while self._queue:
                queued = self._queue.popleft()
                if queued.body is not None:
                    self.fire_piece(queued.kind, queued.body)
                elif queued.kind == "heard":
                    event = Event("heard", (queued.text,))
                    names = self._came((event,), event, (), (), ())
                    self.showing.sent.append(Sent(self.frame, queued.text, queued.line, names))
                else:
                    self.fire(Event(queued.kind, (queued.text,) if queued.kind == "entered" else ()))
                    if queued.kind == "finished" and self.plan.freeze_at_end and self.outcome != "playing":
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
        self._still = True
        self._queue.clear()
        self.waits.stop()

    def _note_overlap(self, pair: Pair, last: int) -> None:
        if self.recorder is not None:
            self.recorder.overlaps.append(Overlapped(pair.first.name, pair.second.name, pair.since, last))
