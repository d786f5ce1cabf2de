"""The handlers of a script: which functions wait for which events, in file order."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from ..events import PAIR_EVENTS, TIME_EVENTS, Event, EventKind
from ..scene import Body
from ..script import Halt


@dataclass(slots=True, eq=False)
class Handler:
    """A function with `@on(…)`, and how many parameters it takes."""

    name: str
    function: Any
    takes: int
    order: int
    line: int


MOST_HANDLERS: Final = 1_000
"""Handlers of one script: each may run in every frame. A large game has thirty."""


class Handlers:
    """All handlers but those of pairs, by their event; and how often each event that is counted came."""

    def __init__(self, counted: Iterable[Event]) -> None:
        self.counts: dict[Event, int] = dict.fromkeys(counted, 0)
        self.kinds: set[EventKind] = set()
        """Kinds of events for which there is a handler."""
        self._by_event: dict[Event, list[Handler]] = {}
        self._registered = 0

    def add(self, function: Any, events: tuple[Event, ...], takes: int) -> tuple[Handler, list[Event]]:
        """Registers a function, for each of its events once; gives the handler and its events."""
        self._registered += 1
        if self._registered > MOST_HANDLERS:
            raise Halt("handlers", f"A script has at most {MOST_HANDLERS:,} handlers.")
        handler = Handler(function.__name__, function, takes, self._registered, function.__code__.co_firstlineno)
        distinct = list(dict.fromkeys(events))
        for event in distinct:
            self.kinds.add(event.kind)
            if event.kind not in PAIR_EVENTS:
                self._by_event.setdefault(event, []).append(handler)
        return handler, distinct

    def timed(self) -> list[Event]:
        """The events of timers that a handler waits for or a check counts, the oldest first."""
        return [event for event in dict.fromkeys((*self._by_event, *self.counts)) if event.kind in TIME_EVENTS]

    def waiting_for(self, forms: tuple[Event, ...]) -> list[Handler]:
        """The handlers of something that came, in file order; `forms` are the events that it counts as."""
        if len(forms) == 1:
            return self._by_event.get(forms[0], [])
        found = {handler.order: handler for form in forms for handler in self._by_event.get(form, ())}
        return [found[order] for order in sorted(found)]

    def count(self, forms: Iterable[Event]) -> None:
        """Counts something that came."""
        for form in forms:
            if form in self.counts:
                self.counts[form] += 1


def forms_of(kind: EventKind, body: Body | None) -> tuple[Event, ...]:
    """The events that a click, an arrival or a removal counts as: by name, by kind, and `clicked()`."""
    forms: list[Event] = []
    if body is not None:
        forms += [Event(kind, (name,)) for name in dict.fromkeys((body.name, body.kind))]
    if kind == "clicked":
        forms.append(Event(kind))
    return tuple(forms)
