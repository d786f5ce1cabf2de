"""Samples what checks ask about, in every trial: at the end of each frame, and only where something changed."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Any, Final

from ..scene import Body, Way
from ..words import Timeline
from .observe import Observable

COLLECTIONS: Final = frozenset((list, tuple, dict))


class Sampler:
    """Samples at the end of each frame; keeps an entry only where a value changed."""

    def __init__(self, getters: Sequence[tuple[Timeline, Callable[[], Any]]]) -> None:
        self._getters = getters
        self.parts = 0
        """Parts of collections that were looked at: of large ones that is most of the work of a frame."""

    def sample(self, frame: int) -> None:
        """Notes what everything is at the end of a frame."""
        for timeline, get in self._getters:
            value = get()
            if type(value) in COLLECTIONS:
                self.parts += len(value)
            values = timeline.values
            if values:
                last = values[-1]
                if last is value or (type(last) is type(value) and last == value):
                    continue
            timeline.frames.append(frame)
            values.append(value)


class MovingSampler(Sampler):
    """Samples what can change while nothing happens: properties of pieces, and the clock."""

    def __init__(self, watched: Mapping[Observable, Timeline], getters: Mapping[Observable, Callable[[], Any]]) -> None:
        moving = {what: each for what, each in watched.items() if what.what in ("property", "clock")}
        super().__init__([(timeline, getters[what]) for what, timeline in moving.items()])
        self.clock = any(what.what == "clock" for what in moving)
        """Whether the clock is among it."""
        self._properties = [(what.name, what.attribute, each) for what, each in moving.items() if what.name]

    def can_glide(self, by_name: Mapping[str, Body], moving: Collection[int]) -> bool:
        """Whether all that changes while these pieces move is where those of them are that have a motion."""
        if not moving or not self._properties:
            return not self.clock
        watched = ((by_name.get(name), attribute) for name, attribute, _ in self._properties)
        there = ((body, attribute) for body, attribute in watched if body is not None and body.index in moving)
        return not self.clock and all(
            attribute in ("x", "y") and body.carried_by is None and body.motion.attached is None
            for body, attribute in there
        )

    def glided(self, frame: int, by_name: Mapping[str, Body], ways: Mapping[int, Way]) -> None:
        """Notes where pieces were in the frames from this one on."""
        for name, attribute, timeline in self._properties:
            body = by_name.get(name)
            found = ways.get(body.index) if body is not None else None
            if found is not None and attribute in ("x", "y"):
                for number, value in enumerate(found.xs if attribute == "x" else found.ys, frame):
                    if not _same(timeline.values[-1], value):
                        timeline.frames.append(number)
                        timeline.values.append(value)


def _same(last: Any, value: Any) -> bool:
    return type(last) is type(value) and bool(last == value)
