"""Quiet stretches: frames in which nothing can happen but pieces moving on.

No input, timer, spawner or waiting handler is due, what waits for every frame would do nothing, and bounds on speed
say that no pair that anybody asks about can touch or part. In such frames the motions alone are advanced, by the same
additions, and only what moves by itself is sampled. A property test holds that traces are the same with and without it.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Collection, Sequence
from typing import Final

from ..scene import Body, bounds
from ..scene.bounds import Bound
from ..scene.overlap import TOUCH
from .pairs import Pair
from .player import Player
from .state import GameState
from .steadily import Steadily
from .timers import Timers

LONGEST: Final = 60
"""Frames of one stretch in which something moves: bounds of what falls get wide."""
SHORTEST: Final = 3
"""Frames: a shorter stretch is not worth looking for, and neither is another one in the frames after it."""
RESTING: Final = (0.0, 0.0)
NOTHING: Final[Collection[int]] = ()


class Quiet:
    """Finds quiet stretches of one trial that is not recorded."""

    def __init__(
        self, state: GameState, player: Player, timers: Timers, inputs: Sequence[int], steadily: Steadily
    ) -> None:
        self._state = state
        self._player = player
        self._timers = timers
        self._inputs = sorted(inputs)
        self._steadily = steadily
        self._not_before = 1

    def until(self, frame: int, last: int, *, still: bool) -> tuple[int, Collection[int]]:
        """The frame before which nothing happens from `frame` on, and what may move until then, by its index."""
        if still:
            return last + 1, NOTHING
        if frame < self._not_before:
            return frame, NOTHING
        self._not_before = frame + SHORTEST
        end, moving = self._until(frame, last)
        return (frame, NOTHING) if end - frame < SHORTEST else (end, moving)

    def _until(self, frame: int, last: int) -> tuple[int, Collection[int]]:
        state = self._state
        if state.queue or (state.down and "held" in state.handlers.kinds):
            return frame, NOTHING
        end = self._due(frame, last + 1)
        if end - frame < SHORTEST:
            self._not_before = end + 1
            return frame, NOTHING
        if "frame" in state.handlers.kinds:
            end = min(end, frame + self._steadily.holds())
            if end == frame:
                self._not_before = frame + 1
        if end - frame < SHORTEST or state.scene.newest >= frame:
            return frame, NOTHING
        ahead = min(end - frame, LONGEST)
        moving = bounds(state.scene, state.down, ahead)
        if not self._settled(moving):
            return frame, NOTHING
        if moving:
            end = min(end, frame + ahead)
        for pair in state.pairs.looked_at():
            if pair.on and ("overlaps" in pair.handlers or "overlaps" in pair.patterns):
                return frame, NOTHING
            if moving:
                end = min(end, frame + _apart_for(pair, moving))
                if end - frame < SHORTEST:
                    return frame, NOTHING
        if moving and state.pairs.by_grid:
            return frame, NOTHING
        return end, moving

    def _due(self, frame: int, end: int) -> int:
        """The first frame in which something is due, or the end."""
        index = bisect_left(self._inputs, frame)
        if index < len(self._inputs):
            end = min(end, self._inputs[index])
        end = min(end, self._timers.next_frame, self._player.next_release)
        sleepers = self._state.waits.sleepers
        return min(end, min(sleeper.frame for sleeper in sleepers)) if sleepers else end

    def _settled(self, moving: dict[int, Bound]) -> bool:
        """Whether what blocks each other now goes on doing so: what lies on the ground, and nothing else."""
        bodies: list[Body] = self._state.scene.bodies
        for a, b in self._state.scene.contacts:
            if a in moving or b in moving or not (bodies[a].grounded or bodies[b].grounded):
                return False
        return True


def _apart_for(pair: Pair, moving: dict[int, Bound]) -> int:
    """For how many frames a pair stays as it is, at least."""
    a, b = pair.first, pair.second
    ax, ay = moving.get(a.index, RESTING)
    bx, by = moving.get(b.index, RESTING)
    x, y = ax + bx, ay + by
    if not x and not y:
        return LONGEST
    if pair.touching:
        return 0
    across = a.half_width + b.half_width - abs(a.x - b.x) - TOUCH
    along = a.half_height + b.half_height - abs(a.y - b.y) - TOUCH
    if pair.on:
        return min(_frames(across, x), _frames(along, y))
    return max(_frames(-across, x), _frames(-along, y))


def _frames(way: float, speed: float) -> int:
    """How many frames something certainly needs for a way; one less, for what rounding may add."""
    if way <= 0:
        return 0 if way < 0 or speed else LONGEST
    return LONGEST if not speed else min(LONGEST, int(way / speed) - 1)
