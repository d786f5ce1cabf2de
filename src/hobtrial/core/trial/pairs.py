"""Which pairs of pieces are looked at, and what each pair's overlap sets off.

Only pairs that a handler or a check asks about are tested, and of those only the ones in which a
box changed or something was blocked since the last frame.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from ..scene import Body, SceneState
from ..words import Event, EventKind


@dataclass(slots=True, eq=False)
class Handler:
    """A function with `@on(…)`, and how many parameters it takes from a pair."""

    name: str
    function: Any
    takes: int
    order: int
    line: int


@dataclass(slots=True, eq=False)
class Pair:
    """Two pieces, in the order in which the first asker names them."""

    first: Body
    second: Body
    key: tuple[int, int]
    """The indexes of the two, the lower first."""
    on: bool = False
    touching: bool = False
    since: int = 0
    handlers: dict[EventKind, list[tuple[Handler, bool]]] = field(default_factory=dict)
    """For each event the handlers in file order; true where a handler names the two the other way."""
    patterns: dict[EventKind, list[Event]] = field(default_factory=dict)
    """For each event the patterns of checks that count it."""


class Pairs:
    """The watched pairs of one trial, in scene order."""

    def __init__(self, scene: SceneState) -> None:
        self.ordered: list[Pair] = []
        self._scene = scene
        self._pairs: dict[tuple[int, int], Pair] = {}
        self._asked: list[tuple[Event, Handler | None]] = []

    def ask(self, event: Event, handler: Handler | None) -> None:
        """Watches the pairs of an event, for a handler or (none) for a check that counts it."""
        self._asked.append((event, handler))
        first, second = event.about
        for a in self._scene.named(first):
            for b in self._scene.named(second):
                self._add(a, b, event, handler)
        self._order()

    def appeared(self, body: Body) -> None:
        """Watches the pairs of a piece that came later."""
        for event, handler in self._asked:
            first, second = event.about
            if self._is(body, first):
                for other in self._scene.named(second):
                    self._add(body, other, event, handler)
            if self._is(body, second):
                for other in self._scene.named(first):
                    self._add(other, body, event, handler)
        self._order()

    def _is(self, body: Body, name: str) -> bool:
        return body.name == name or (body.kind == name and name in self._scene.spec.kinds)

    def _add(self, a: Body, b: Body, event: Event, handler: Handler | None) -> None:
        if a is b or a.removed or b.removed:
            return
        key = (a.index, b.index) if a.index < b.index else (b.index, a.index)
        pair = self._pairs.get(key)
        if pair is None:
            pair = self._pairs[key] = Pair(a, b, key)
        if handler is None:
            patterns = pair.patterns.setdefault(event.kind, [])
            if event not in patterns:
                patterns.append(event)
            return
        handlers = pair.handlers.setdefault(event.kind, [])
        if all(known is not handler for known, _ in handlers):
            handlers.append((handler, pair.first is not a))
            handlers.sort(key=lambda entry: entry[0].order)

    def _order(self) -> None:
        self.ordered = [self._pairs[key] for key in sorted(self._pairs)]

    def forget_removed(self) -> None:
        """Drops pairs of removed pieces."""
        gone = [key for key, pair in self._pairs.items() if pair.first.removed or pair.second.removed]
        for key in gone:
            del self._pairs[key]
        self._order()
