"""Which pairs of pieces are looked at, and what each pair's overlap sets off.

Only pairs that a handler or a check asks about are tested, and of those only the ones in which a
box changed or something was blocked since the last frame. Where there are many, a grid finds the
ones that can overlap at all, and a pair is made when its two come near each other for the first
time; the order in which pairs come, and what a handler moves meanwhile, is the same both ways.
"""

from __future__ import annotations

import heapq
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Final

from ..events import Event, EventKind
from ..scene import Body, Grid, SceneState
from .handlers import Handler

MANY_PAIRS: Final = 200
"""Pairs from which on a grid is quicker than a look at each."""

Names = tuple[str, ...]
"""The names, its own and its kind's, by which events ask about a body."""
Key = tuple[int, int]
"""The indexes of two pieces, the lower first."""


@dataclass(slots=True, eq=False)
class Pair:
    """Two pieces, in the order in which the first asker names them."""

    first: Body
    second: Body
    key: Key
    on: bool = False
    touching: bool = False
    since: int = 0
    gone: bool = False
    """One of them was removed."""
    handlers: dict[EventKind, list[tuple[Handler, bool]]] = field(default_factory=dict)
    """For each event the handlers in file order; true where a handler names the two the other way."""
    patterns: dict[EventKind, list[Event]] = field(default_factory=dict)
    """For each event the patterns of checks that count it."""


class Pairs:
    """The watched pairs of one trial, in scene order."""

    def __init__(self, scene: SceneState, many: int = MANY_PAIRS) -> None:
        self._scene = scene
        self._many = many
        self._pairs: dict[Key, Pair] = {}
        self._ordered: list[Pair] = []
        self._asked: list[tuple[Event, Handler | None]] = []
        self._grid: Grid | None = None
        self._live: set[Key] = set()
        """With a grid: pairs that overlap or touched."""
        self._roles: dict[int, Names] = {}
        self._meeting: dict[tuple[Names, Names], bool] = {}
        """Whether anybody asks about bodies with these names."""
        self._stirred: list[Body] = []
        """With a grid: pieces that a handler moved while the pairs are gone through."""

    def ask(self, event: Event, handler: Handler | None) -> None:
        """Watches the pairs of an event, for a handler or (none) for a check that counts it."""
        self._asked.append((event, handler))
        self._roles.clear()
        self._meeting.clear()
        first, second = (self._scene.named(str(name)) for name in event.about)
        if self._grid is None and len(first) * len(second) + len(self._pairs) > self._many:
            self._begin_grid()
        if self._grid is not None:
            for body in (*first, *second):
                self._put(body)
            for pair in self._pairs.values():
                self._add(pair.first, pair.second, event, handler)
            return
        for a in first:
            for b in second:
                self._join(a, b, event, handler)
        self._order()

    def appeared(self, body: Body) -> None:
        """Watches the pairs of a piece that came later or came back."""
        for event, handler in self._asked:
            first, second = (str(name) for name in event.about)
            for mine, other in ((first, second), (second, first)):
                if not self._is(body, mine):
                    continue
                if self._grid is not None:
                    self._put(body)
                    continue
                for there in self._scene.named(other):
                    a, b = (body, there) if mine is first else (there, body)
                    self._join(a, b, event, handler)
        self._order()

    def removed(self, body: Body) -> list[Pair]:
        """Drops the pairs of a removed piece; gives those that overlapped."""
        dropped = [pair for key, pair in self._pairs.items() if body.index in key]
        for pair in dropped:
            pair.gone = True
            del self._pairs[pair.key]
            self._live.discard(pair.key)
        if self._grid is not None:
            self._grid.take(body)
        else:
            self._order()
        return [pair for pair in dropped if pair.on]

    def stirred(self, body: Body) -> None:
        """A handler moved a piece: its pairs that have not come yet are looked at in this frame still."""
        if self._grid is not None:
            self._stirred.append(body)

    def overlapping(self) -> list[Pair]:
        """The pairs that overlap now, in scene order."""
        return [self._pairs[key] for key in sorted(self._pairs) if self._pairs[key].on]

    def looked_at(self) -> Iterable[Pair]:
        """The pairs that are looked at in each frame; with a grid those that overlap or touch."""
        return self._ordered if self._grid is None else [self._pairs[key] for key in self._live if key in self._pairs]

    @property
    def by_grid(self) -> bool:
        """Whether a grid finds the pairs, so that not all of them are made."""
        return self._grid is not None

    # ---- going through them

    def walk(self, frame: int) -> Iterator[Pair]:
        """The pairs that may begin, go on or end to overlap in a frame, in scene order."""
        if self._grid is None:
            yield from self._ordered
            return
        waiting = self._near_ones(frame)
        heapq.heapify(waiting)
        bodies = len(self._scene.bodies)
        before: Key = (-1, -1)
        while waiting:
            key = heapq.heappop(waiting)
            if key <= before:
                continue
            before = key
            pair = self._pairs.get(key) or self._made(key)
            if pair is None:
                continue
            yield pair
            if pair.on or pair.touching:
                self._live.add(key)
            else:
                self._live.discard(key)
            while self._stirred:
                body = self._stirred.pop()
                if body.index < bodies and not body.removed and self._names(body):
                    self._grid.put(body)
                    for other in self._beside(body):
                        heapq.heappush(waiting, other)

    def _near_ones(self, frame: int) -> list[Key]:
        assert self._grid is not None
        self._stirred.clear()
        keys = {*self._live, *self._scene.contacts}
        moved = [body for body in self._scene.bodies if body.stamp >= frame or frame == 0]
        asked = [body for body in moved if not body.removed and self._names(body)]
        for body in asked:
            self._grid.put(body)
        for body in asked:
            keys.update(self._beside(body))
        return list(keys)

    def _beside(self, body: Body) -> list[Key]:
        """The pairs of a body with those in the cells that it touches."""
        assert self._grid is not None
        names, index = self._names(body), body.index
        return [
            (index, other.index) if index < other.index else (other.index, index)
            for other in self._grid.beside(body)
            if other is not body and self._may_meet(names, self._names(other))
        ]

    def _names(self, body: Body) -> Names:
        names = self._roles.get(body.index)
        if names is None:
            asked = dict.fromkeys(str(name) for event, _ in self._asked for name in event.about)
            names = self._roles[body.index] = tuple(name for name in asked if self._is(body, name))
        return names

    def _may_meet(self, mine: Names, others: Names) -> bool:
        known = self._meeting.get((mine, others))
        if known is None:
            pairs = [event.about for event, _ in self._asked]
            known = any(
                (first in mine and second in others) or (second in mine and first in others) for first, second in pairs
            )
            self._meeting[mine, others] = known
        return known

    def _begin_grid(self) -> None:
        self._grid = Grid()
        for body in self._scene.bodies:
            if self._names(body):
                self._put(body)
        self._live = {key for key, pair in self._pairs.items() if pair.on or pair.touching}

    def _put(self, body: Body) -> None:
        assert self._grid is not None
        if not body.removed:
            self._grid.put(body)

    def _made(self, key: Key) -> Pair | None:
        """The pair of two pieces, where anybody asks about it."""
        a, b = (self._scene.bodies[index] for index in key)
        for event, handler in self._asked:
            self._add(a, b, event, handler)
        return self._pairs.get(key)

    # ---- making pairs

    def _is(self, body: Body, name: str) -> bool:
        return body.name == name or (body.kind == name and name in self._scene.kinds)

    def _add(self, a: Body, b: Body, event: Event, handler: Handler | None) -> None:
        """Joins two pieces for an event, as it names them, where it is about them."""
        first, second = (str(name) for name in event.about)
        if self._is(a, first) and self._is(b, second):
            self._join(a, b, event, handler)
        elif self._is(b, first) and self._is(a, second):
            self._join(b, a, event, handler)

    def _join(self, a: Body, b: Body, event: Event, handler: Handler | None) -> None:
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
        self._ordered = [self._pairs[key] for key in sorted(self._pairs)]
