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

Free = Callable[[Body, float, float], bool]
"""Whether nothing can be in a body's way to a place."""


class Way(NamedTuple):
    """Where a body comes to, and how fast it falls then. Squares, and squares a second."""

    x: float
    y: float
    vy: float


def way(scene: SceneSpec, body: Body, frames: int, down: Collection[str], free: Free) -> Way | None:
    """The way of a body through so many frames while these keys are down; nothing where it may be met by something."""
    motion = body.motion
    if motion.steered is not None:
        found = _walk(body, frames, down)
    elif body.gravity is not None:
        found = _fall(body, frames, body.gravity)
    elif motion.drifting is not None:
        found = Way(_line(body.x, body.vx, frames), _line(body.y, body.vy, frames), body.vy)
        return found if _inside(scene, body, body.x, body.y) and _inside(scene, body, *found[:2]) else None
    elif motion.patrolling is not None:
        found = _patrol(body, frames, body.home if body.heading_back else motion.patrolling.to)
        return found if found is not None and free(body, found.x, found.y) else None
    else:
        return None
    if found is None or not _inside(scene, body, found.x, found.y) or not free(body, found.x, found.y):
        return None
    return found


def _walk(body: Body, frames: int, down: Collection[str]) -> Way | None:
    assert body.motion.steered is not None
    if body.gravity is not None:
        return None
    x, y, step = body.x, body.y, body.speed * STEP
    right, up = along_keys(body.motion.steered, down)
    for _ in range(frames if right else 0):
        x = round(x + right * step, DECIMALS)
    for _ in range(frames if up else 0):
        y = round(y + up * step, DECIMALS)
    return Way(x, y, body.vy)


def _fall(body: Body, frames: int, gravity: float) -> Way | None:
    y, vy = body.y, body.vy
    if vy > 0:
        return None
    for _ in range(frames):
        vy -= gravity * STEP
        y = round(y + vy * STEP, DECIMALS)
    return Way(body.x, y, vy)


def _patrol(body: Body, frames: int, to: tuple[float, float]) -> Way | None:
    """Towards the end of its way; nothing where it turns."""
    x, y, left = body.x, body.y, body.speed * STEP
    for _ in range(frames):
        distance = math.hypot(to[0] - x, to[1] - y)
        if distance <= left:
            return None
        share = left / distance
        there_x, there_y = x + (to[0] - x) * share, y + (to[1] - y) * share
        x = round(x + (there_x - x), DECIMALS) if there_x != x else x
        y = round(y + (there_y - y), DECIMALS) if there_y != y else y
    return Way(x, y, body.vy)


def _line(here: float, velocity: float, frames: int) -> float:
    for _ in range(frames if velocity else 0):
        here = round(here + velocity * STEP, DECIMALS)
    return here


def _inside(scene: SceneSpec, body: Body, x: float, y: float) -> bool:
    """Whether a body at a place keeps clear of the scene's edges; above its ceiling it may be only while it falls."""
    return (
        body.half_width <= x <= scene.width - body.half_width
        and body.half_height <= y
        and (y <= scene.height - body.half_height or body.gravity is not None)
    )
