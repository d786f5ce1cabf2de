"""What things were just before an event, and when its own handlers and messages had ended.

Checks of the kind `each` ask this of every time that their event comes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Any

from ..events import Event
from .observe import Observable
from .recorder import keep
from .trace import Moment

Wanted = Mapping[Event, tuple[Observable, ...]]
"""For each event what is asked of it."""


class Moments:
    """Collects the moments of the events that checks ask about."""

    def __init__(self, asked: Wanted, getters: Mapping[Observable, Callable[[], Any]]) -> None:
        self.found: dict[Event, list[Moment]] = {event: [] for event in asked}
        self._asked = asked
        self._getters = getters

    def asks(self, event: Event) -> bool:
        """Whether a check asks about the moments of an event."""
        return event in self._asked

    def begin(self, forms: Iterable[Event], frame: int) -> list[tuple[Event, int, dict[Observable, Any]]]:
        """An event is about to be handled; gives what must be handed to `end`."""
        return [(form, frame, self._now(form)) for form in forms if form in self._asked]

    def end(self, begun: Iterable[tuple[Event, int, dict[Observable, Any]]]) -> None:
        """The handlers and messages of events have ended or wait."""
        for event, frame, before in begun:
            self.found[event].append(Moment(frame, before, self._now(event)))

    def _now(self, event: Event) -> dict[Observable, Any]:
        return {what: keep(self._getters[what]()) for what in self._asked[event]}
