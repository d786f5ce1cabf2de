"""Several frames at once: where pieces come to that nothing can stop, by the same additions as frame by frame.

Most of a game's frames are such: something falls, someone walks, the rest lies where it lay. A way is given only where
no edge and no solid piece can be met on it; whoever asks goes frame by frame everywhere else.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Collection
from typing import NamedTuple

from .bodies import Body
from .motions import DECIMALS, STEP, along_keys
from .spec import SceneSpec
from .spec_base import Point

Free = Callable[[Body, float, float], bool]
"""Whether nothing can be in a body's way to a place."""


class Way(NamedTuple):
    """Where a body is in each of some frames, and how fast it falls at their end. Squares, and squares a second."""

    xs: list[float]
    ys: list[float]
    vy: float

    @property
    def end(self) -> Point:
        """Where it comes to."""
        return self.xs[-1], self.ys[-1]


def way(scene: SceneSpec, body: Body, frames: int, down: Collection[str], free: Free) -> Way | None:
    """The way of a body through so many frames while these keys are down; nothing where it may be met by something.

    What follows another piece has its way from `following`.
    """
    motion = body.motion
    if motion.steered is not None:
        found = _walk(body, frames, down)
    elif body.gravity is not None:
        found = _fall(body, frames, body.gravity)
    elif motion.drifting is not None:
        found = Way(_line(body.x, body.vx, frames), _line(body.y, body.vy, frames), body.vy)
        return found if _inside(scene, body, (body.x, body.y)) and _inside(scene, body, found.end) else None
    elif motion.patrolling is not None:
        found = _patrol(body, frames, body.home if body.heading_back else motion.patrolling.to)
        return found if found is not None and free(body, *found.end) else None
    else:
        return None
    return found if found is not None and _inside(scene, body, found.end) and free(body, *found.end) else None


def following(body: Body, frames: int, at: Callable[[int], Point]) -> Way:
    """The way of what goes after another piece; `at` is where it sees that one in each of the frames, from 0 on."""
    xs, ys = [], []
    x, y, step = body.x, body.y, body.speed * STEP
    for frame in range(frames):
        to_x, to_y = at(frame)
        dx, dy = to_x - x, to_y - y
        distance = math.hypot(dx, dy)
        share = 1 if distance <= step else step / distance
        x, y = round(x + dx * share, DECIMALS), round(y + dy * share, DECIMALS)
        xs.append(x)
        ys.append(y)
    return Way(xs, ys, body.vy)


def _walk(body: Body, frames: int, down: Collection[str]) -> Way | None:
    assert body.motion.steered is not None
    if body.gravity is not None:
        return None
    right, up = along_keys(body.motion.steered, down)
    step = body.speed * STEP
    return Way(_steps(body.x, right * step, frames), _steps(body.y, up * step, frames), body.vy)


def _fall(body: Body, frames: int, gravity: float) -> Way | None:
    y, vy, ys = body.y, body.vy, []
    if vy > 0:
        return None
    for _ in range(frames):
        vy -= gravity * STEP
        y = round(y + vy * STEP, DECIMALS)
        ys.append(y)
    return Way([body.x] * frames, ys, vy)


def _patrol(body: Body, frames: int, to: Point) -> Way | None:
    """Towards the end of its way; nothing where it turns."""
    xs, ys = [], []
    x, y, left = body.x, body.y, body.speed * STEP
    for _ in range(frames):
        distance = math.hypot(to[0] - x, to[1] - y)
        if distance <= left:
            return None
        share = left / distance
        there_x, there_y = x + (to[0] - x) * share, y + (to[1] - y) * share
        x = round(x + (there_x - x), DECIMALS) if there_x != x else x
        y = round(y + (there_y - y), DECIMALS) if there_y != y else y
        xs.append(x)
        ys.append(y)
    return Way(xs, ys, body.vy)


def _line(here: float, velocity: float, frames: int) -> list[float]:
    return _steps(here, velocity * STEP, frames)


def _steps(here: float, step: float, frames: int) -> list[float]:
    if not step:
        return [here] * frames
    found = []
    for _ in range(frames):
        here = round(here + step, DECIMALS)
        found.append(here)
    return found


def _inside(scene: SceneSpec, body: Body, at: Point) -> bool:
    """Whether a body at a place keeps clear of the scene's edges; above its ceiling it may be only while it falls."""
    return (
        body.half_width <= at[0] <= scene.width - body.half_width
        and body.half_height <= at[1]
        and (at[1] <= scene.height - body.half_height or body.gravity is not None)
    )
