"""How far each piece can move in one frame at most: so that a trial knows when nothing can touch or part.

Bounds hold for some frames on end in which no script runs and no key changes.
"""

from __future__ import annotations

import math
from collections.abc import Collection
from typing import Final

from .bodies import Body
from .motions import STEP
from .state import SceneState

Bound = tuple[float, float]
"""Squares a frame along x and along y."""
STILL: Final[Bound] = (0.0, 0.0)
ANYWHERE: Final[Bound] = (math.inf, math.inf)


def bounds(scene: SceneState, down: Collection[str], frames: int) -> dict[int, Bound]:
    """For each piece that may move within so many frames, by its index, how far it does in one of them."""
    found: dict[int, Bound] = {}
    pushing = 0.0
    for body in scene.movers:
        if body.removed or body.frozen or body.carried_by is not None:
            continue
        bound = _bound(scene, body, down, frames)
        if bound != STILL:
            found[body.index] = bound
            if body.motion.steered is not None:
                pushing = max(pushing, *bound)
    if pushing:
        for body in scene.bodies:
            if body.mould.pushed and not body.removed:
                x, y = found.get(body.index, STILL)
                found[body.index] = (max(x, pushing), max(y, pushing))
    for body in scene.placed_beside():
        other = scene.beside(body)
        seen: set[int] = set()
        while other is not None and other.index not in found and other.index not in seen:
            seen.add(other.index)
            other = scene.beside(other)
        if other is not None and other.index in found:
            found[body.index] = found[other.index]
    return found


def _bound(scene: SceneState, body: Body, down: Collection[str], frames: int) -> Bound:
    motion = body.motion
    step = body.speed * STEP
    if motion.drifting is not None:
        if motion.drifting.edge == "wrap":
            return ANYWHERE if body.vx or body.vy else STILL
        return (abs(body.vx) * STEP, abs(body.vy) * STEP)
    if motion.patrolling is not None or motion.following is not None:
        return (step, step) if step else STILL
    x = y = 0.0
    if motion.steered is not None and any(key in down for key in motion.steered.keys):
        x = step if motion.steered.axes != "y" else 0.0
        y = step if motion.steered.axes != "x" else 0.0
    if body.gravity is not None and not (rests(scene, body) and not x and not y):
        jump = motion.steered.jump if motion.steered is not None else 0
        y = (abs(body.vy) + jump + body.gravity * STEP * (frames + 1)) * STEP
    return (x, y)


def rests(scene: SceneState, body: Body) -> bool:
    """Whether a falling piece lies on the floor of the scene, or on something solid that does not move by itself."""
    if not body.grounded or body.vy:
        return False
    if body.y <= body.half_height:
        return True
    for pair in scene.contacts:
        if body.index in pair:
            other = scene.bodies[pair[0] if pair[1] == body.index else pair[1]]
            under = other.y < body.y and other.solid and other.present
            if under and not other.moves and other.carried_by is None:
                return True
    return False
