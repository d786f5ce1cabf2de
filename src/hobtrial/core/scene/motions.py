"""What each motion does in one frame. Blocked motions go along one axis at a time and stop at solid
boxes and at the edge of the scene; what blocked a piece is noted as a contact.

Positions are kept to 6 decimals, so that sums of steps come out the same everywhere.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Iterable, Mapping
from typing import Final

from ..words import FRAMES_PER_SECOND
from .bodies import Body
from .motion_spec import Steered
from .overlap import TOUCH
from .spec import SceneSpec

DECIMALS: Final = 6
STEP: Final = 1 / FRAMES_PER_SECOND

Contact = Callable[[Body, Body], None]
Near = Callable[[float, float, float, float], Iterable[Body]]
"""The solid or pushed bodies that may be in a box (middle and half sizes)."""


class Motions:
    """Moves the pieces of one running scene. `near` finds what may be in the way."""

    def __init__(self, scene: SceneSpec, bodies: Mapping[str, Body], near: Near, contact: Contact) -> None:
        self.frame = -1
        self._scene = scene
        self._bodies = bodies
        self._near = near
        self._contact = contact
        self._blocker: Body | None = None

    def move(self, body: Body, down: Collection[str]) -> bool:
        """Moves a piece by one frame while these keys are down; whether it moved."""
        motion = body.motion
        x, y = body.x, body.y
        if motion.steered is not None:
            if down:
                self._steer(body, down)
            if body.gravity is not None:
                up = motion.steered.keys[2] in down
                self._fall(body, body.gravity, jump=motion.steered.jump if up else 0)
        elif body.gravity is not None:
            self._fall(body, body.gravity)
        elif motion.drifting is not None:
            self._drift(body, motion.drifting.edge)
        elif motion.patrolling is not None:
            self._patrol(body, motion.patrolling.to)
        elif motion.following is not None:
            self._follow(body, self._bodies[motion.following.who])
        return body.x != x or body.y != y

    def attach(self, body: Body) -> bool:
        """Puts an attached or carried piece to its place beside the other one; whether it moved."""
        attached = body.motion.attached
        other = body.carried_by or (self._bodies[attached.to] if attached else None)
        if other is None or other.removed:
            return False
        dx, dy = body.offset if body.carried_by is not None else attached.offset if attached else (0, 0)
        x, y = body.x, body.y
        body.x, body.y = round(other.x + dx, DECIMALS), round(other.y + dy, DECIMALS)
        return body.x != x or body.y != y

    # ---- the motions

    def _steer(self, body: Body, down: Collection[str]) -> None:
        spec = body.motion.steered
        assert spec is not None
        step = body.speed * STEP
        right, up = along_keys(spec, down)
        if right:
            x = body.x + right * step
            if body.half_width <= x <= self._scene.width - body.half_width and self.free(body, x, body.y):
                body.x = round(x, DECIMALS)
            else:
                body.x = self._advance(body, right * step, vertical=False, pushes=True)
        if up:
            body.y = self._advance(body, up * step, vertical=True, pushes=True)

    def _fall(self, body: Body, gravity: float, *, jump: float = 0) -> None:
        """Velocity before position; what it lands on or hits stops it."""
        if jump and body.grounded:
            body.vy = jump
        body.vy -= gravity * STEP
        wanted = body.vy * STEP
        y = body.y
        if wanted < 0 and y + wanted >= body.half_height and self.free(body, body.x, y + wanted):
            body.y, body.grounded, body.rested = round(y + wanted, DECIMALS), False, -1
            return
        body.y = self._advance(body, wanted, vertical=True, ceiling=body.motion.steered is not None)
        short = abs(body.y - (y + wanted)) > 10**-DECIMALS
        body.grounded = short and wanted < 0
        if short:
            body.vy = 0
        body.rested, body.rests_on = (self.frame, self._blocker) if body.grounded and body.y == y else (-1, None)

    def _drift(self, body: Body, edge: str) -> None:
        body.x, body.vx = self._drifted(body, body.x, body.vx, body.half_width, self._scene.width, edge)
        body.y, body.vy = self._drifted(body, body.y, body.vy, body.half_height, self._scene.height, edge)

    def _drifted(
        self, body: Body, here: float, velocity: float, half: float, size: float, edge: str
    ) -> tuple[float, float]:
        """Place and velocity along one axis, one frame later."""
        if not velocity:
            return here, velocity
        there = here + velocity * STEP
        low, high = half, size - half
        outside = there > high if velocity > 0 else there < low
        match edge:
            case "stop" if outside:
                there, velocity = (max(here, high) if velocity > 0 else min(here, low)), 0
            case "bounce" if outside and low <= high:
                wall = high if velocity > 0 else low
                there, velocity = min(max(2 * wall - there, low), high), -velocity
            case "wrap" if there - half > size and velocity > 0:
                there -= size + 2 * half
            case "wrap" if there + half < 0 and velocity < 0:
                there += size + 2 * half
            case "leave" if there - half >= size if velocity > 0 else there + half <= 0:
                body.removed = True
        return round(there, DECIMALS), velocity

    def _patrol(self, body: Body, to: tuple[float, float]) -> None:
        """Goes on to the end of its way; what is left of the step leads back from there."""
        left = body.speed * STEP
        for _ in range(4):  # a step that is longer than the way ends after two turns
            target = body.home if body.heading_back else to
            distance = math.hypot(target[0] - body.x, target[1] - body.y)
            if distance <= left:
                if not self._walk(body, *target):
                    return
                body.heading_back = not body.heading_back
                left -= distance
                if left <= 0:
                    return
            else:
                share = left / distance
                self._walk(body, body.x + (target[0] - body.x) * share, body.y + (target[1] - body.y) * share)
                return

    def _walk(self, body: Body, x: float, y: float) -> bool:
        """Goes to a place as far as solid pieces allow; whether it came there."""
        if x != body.x:
            body.x = self._advance(body, x - body.x, vertical=False, edges=False)
        if y != body.y:
            body.y = self._advance(body, y - body.y, vertical=True, edges=False)
        return body.x == round(x, DECIMALS) and body.y == round(y, DECIMALS)

    def _follow(self, body: Body, other: Body) -> None:
        if other.removed or other is body:
            return
        step = body.speed * STEP
        dx, dy = other.x - body.x, other.y - body.y
        distance = math.hypot(dx, dy)
        share = 1 if distance <= step else step / distance
        body.x = round(body.x + dx * share, DECIMALS)
        body.y = round(body.y + dy * share, DECIMALS)

    # ---- what is in the way

    def free(self, body: Body, x: float, y: float) -> bool:
        """Whether nothing can be in the way to a place: nothing stands in the box round here and there."""
        half_width, half_height = body.half_width + abs(x - body.x) / 2, body.half_height + abs(y - body.y) / 2
        x, y = (x + body.x) / 2, (y + body.y) / 2
        for other in self._near(x, y, half_width, half_height):
            if abs(y - other.y) < half_height + other.half_height and abs(x - other.x) < half_width + other.half_width:
                if other is not body:
                    return False
        return True

    def _advance(
        self,
        body: Body,
        delta: float,
        *,
        vertical: bool,
        pushes: bool = False,
        pushed: bool = False,
        edges: bool = True,
        ceiling: bool = True,
    ) -> float:
        """Where a body comes that wants to move by `delta` squares along one axis.

        One that `pushes` moves pushed pieces along; a `pushed` one is held up by others like it.
        """
        if vertical:
            here, half, size = body.y, body.half_height, self._scene.height
            x, y, half_x, half_y = body.x, body.y + delta / 2, body.half_width, half + abs(delta) / 2
        else:
            here, half, size = body.x, body.half_width, self._scene.width
            x, y, half_x, half_y = body.x + delta / 2, body.y, half + abs(delta) / 2, body.half_height
        target = here + delta
        if edges and delta < 0:
            target = max(target, min(here, half))
        elif edges and ceiling:
            target = min(target, max(here, size - half))
        blocker = None
        for other in self._near(x, y, half_x, half_y):
            if other is body or not other.present or other.carried_by is body:
                continue
            movable = other.mould.pushed
            if not (other.solid or (movable and (pushes or pushed))):
                continue
            limit = _limit(body, other, target, delta > 0, vertical)
            if limit is None:
                continue
            if movable and pushes:
                limit = self._push(body, other, target - limit, vertical)
                if (target > limit) != (delta > 0) or target == limit:
                    continue
            target, blocker = limit, other
        self._blocker = blocker
        if blocker is not None:
            self._contact(body, blocker)
        return round(target, DECIMALS)

    def _push(self, body: Body, other: Body, by: float, vertical: bool) -> float:
        """Moves a pushed piece along; how far the pushing one can come."""
        self._contact(body, other)
        if vertical:
            other.y = self._advance(other, by, vertical=True, pushed=True)
            reach = body.half_height + other.half_height
            there = other.y
        else:
            other.x = self._advance(other, by, vertical=False, pushed=True)
            reach = body.half_width + other.half_width
            there = other.x
        other.stamp = max(other.stamp, self.frame)
        return there - reach if by > 0 else there + reach


def along_keys(spec: Steered, down: Collection[str]) -> tuple[int, int]:
    """Which way the keys that are down steer, along x and y: -1, 0 or 1."""
    left, right, up, down_key = spec.keys
    along_x = 0 if spec.axes == "y" else (right in down) - (left in down)
    return along_x, 0 if spec.axes == "x" or spec.jump else (up in down) - (down_key in down)


def _limit(body: Body, other: Body, target: float, forward: bool, vertical: bool) -> float | None:
    """How far a body comes before the other one; nothing where that is not in its way."""
    if vertical:
        here, there = body.y, other.y
        reach = body.half_height + other.half_height
        beside = body.half_width + other.half_width - abs(body.x - other.x) <= TOUCH
    else:
        here, there = body.x, other.x
        reach = body.half_width + other.half_width
        beside = body.half_height + other.half_height - abs(body.y - other.y) <= TOUCH
    if beside:
        return None
    if forward and there - here >= reach - TOUCH and target > there - reach:
        return there - reach
    if not forward and here - there >= reach - TOUCH and target < there + reach:
        return there + reach
    return None
