"""What each motion does in one frame. All of it moves along one axis at a time and stops at
solid boxes and at the edge of the scene; what blocked a piece is noted as a contact.

Positions are kept to 6 decimals, so that sums of steps come out the same everywhere.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from typing import Final

from ..words import FRAMES_PER_SECOND
from .bodies import Body
from .overlap import TOUCH
from .spec import SceneSpec

DECIMALS: Final = 6
STEP: Final = 1 / FRAMES_PER_SECOND

Contact = Callable[[Body, Body], None]


def steer(body: Body, down: Collection[str], scene: SceneSpec, solids: list[Body], contact: Contact) -> bool:
    """Moves a steered piece by its speed while its keys are down; whether it moved."""
    spec = body.motion.steered
    assert spec is not None
    left, right, up, down_key = spec.keys
    step = body.speed * STEP
    x, y = body.x, body.y
    if spec.axes != "y":
        along = (right in down) - (left in down)
        if along:
            body.x = _blocked_x(body, along * step, scene, solids, contact)
    if spec.axes != "x":
        along = (up in down) - (down_key in down)
        if along:
            body.y = _blocked_y(body, along * step, scene, solids, contact, ceiling=True)
    return body.x != x or body.y != y


def fall(body: Body, scene: SceneSpec, solids: list[Body], contact: Contact) -> bool:
    """Accelerates a falling piece, velocity before position; whether it moved."""
    spec = body.motion.falling
    assert spec is not None
    body.vy -= spec.gravity * STEP
    wanted = body.vy * STEP
    y = body.y
    body.y = _blocked_y(body, wanted, scene, solids, contact, ceiling=False)
    if body.y > y + wanted + 10**-DECIMALS:
        body.vy = 0
    return body.y != y


def _blocked_x(body: Body, dx: float, scene: SceneSpec, solids: list[Body], contact: Contact) -> float:
    half = body.half_width
    target = body.x + dx
    if dx > 0:
        target = min(target, max(body.x, scene.width - half))
    else:
        target = max(target, min(body.x, half))
    blocker = None
    for solid in solids:
        if solid is body or not solid.present:
            continue
        if body.half_height + solid.half_height - abs(body.y - solid.y) <= TOUCH:
            continue
        reach = half + solid.half_width
        gap = solid.x - body.x
        if dx > 0 and gap >= reach - TOUCH and target > solid.x - reach:
            target, blocker = solid.x - reach, solid
        elif dx < 0 and -gap >= reach - TOUCH and target < solid.x + reach:
            target, blocker = solid.x + reach, solid
    if blocker is not None:
        contact(body, blocker)
    return round(target, DECIMALS)


def _blocked_y(
    body: Body, dy: float, scene: SceneSpec, solids: list[Body], contact: Contact, *, ceiling: bool
) -> float:
    half = body.half_height
    target = body.y + dy
    if dy < 0:
        target = max(target, min(body.y, half))
    elif ceiling:
        target = min(target, max(body.y, scene.height - half))
    blocker = None
    for solid in solids:
        if solid is body or not solid.present:
            continue
        if body.half_width + solid.half_width - abs(body.x - solid.x) <= TOUCH:
            continue
        reach = half + solid.half_height
        gap = solid.y - body.y
        if dy > 0 and gap >= reach - TOUCH and target > solid.y - reach:
            target, blocker = solid.y - reach, solid
        elif dy < 0 and -gap >= reach - TOUCH and target < solid.y + reach:
            target, blocker = solid.y + reach, solid
    if blocker is not None:
        contact(body, blocker)
    return round(target, DECIMALS)
