"""One piece while a trial runs: where its box is, how it moves, what may be seen of it."""

from __future__ import annotations

import math
from typing import Any

from .spec import PieceSpec


class Body:
    """A piece of a running scene. Lengths in squares, speeds in squares a second.

    `stamp` is the frame in which the box last changed, so that what stands still is not tested
    again; `half_width` and `half_height` are kept with `size` multiplied in. `mould` is what it was
    made from, `home` where it stood then; `moves`: whether it has a motion. `rested` is the frame in
    which it was last seen to lie where it lay (-1: it does not), `rests_on` what held it up (nothing:
    the floor).
    """

    __slots__ = (
        "carried_by",
        "carrying",
        "facing",
        "frozen",
        "gravity",
        "grounded",
        "half_height",
        "half_width",
        "heading_back",
        "height",
        "home",
        "index",
        "kind",
        "look",
        "motion",
        "mould",
        "moves",
        "name",
        "offset",
        "opacity",
        "removed",
        "removed_by",
        "rested",
        "rests_on",
        "size",
        "solid",
        "speed",
        "stamp",
        "values",
        "visible",
        "vx",
        "vy",
        "width",
        "x",
        "y",
    )

    def __init__(self, index: int, name: str, at: tuple[float, float], mould: PieceSpec) -> None:
        self.index = index
        self.name = name
        self.kind = mould.kind
        self.mould = mould
        self.motion = mould.motion
        self.gravity = mould.motion.gravity
        self.moves = mould.motion.name != "still"
        self.home = at
        self.width, self.height = mould.size
        self.half_width, self.half_height = self.width / 2, self.height / 2
        self.size: float = 1
        self.solid = mould.solid
        self.frozen = mould.frozen
        self.heading_back = False
        self.grounded = False
        self.carrying: Body | None = None
        self.carried_by: Body | None = None
        self.offset: tuple[float, float] = (0, 0)
        self.removed_by: int | None = None
        self.stamp = -1
        self.rested = -1
        self.rests_on: Body | None = None
        self.values: dict[str, Any] = dict(mould.vars)
        self.begin()

    def begin(self) -> None:
        """Place, speed, look and visibility as at the beginning."""
        mould = self.mould
        self.x, self.y = self.home
        self.facing: float = mould.facing
        self.speed: float = mould.motion.speed
        self.vx: float
        self.vy: float
        self.vx, self.vy = mould.motion.drifting.velocity if mould.motion.drifting else (0, 0)
        self.look = mould.all_looks[0]
        self.opacity: float = 1
        self.visible = not mould.hidden
        self.removed = False
        self.heading_back = False
        self.grounded = False

    @property
    def present(self) -> bool:
        """Whether it can overlap anything: hidden and removed pieces overlap nothing."""
        return self.visible and not self.removed

    def resize(self, size: float) -> None:
        """Scales the box about its middle."""
        self.size = size
        self.half_width = self.width * size / 2
        self.half_height = self.height * size / 2

    def covers(self, x: float, y: float) -> bool:
        """Whether a point, in squares, lies in its box."""
        return abs(x - self.x) <= self.half_width and abs(y - self.y) <= self.half_height

    def carry(self, other: Body) -> None:
        """Takes another piece, which then keeps its place beside this one; what was carried is put down."""
        self.put_down()
        if other.carried_by is not None:
            other.carried_by.put_down()
        self.carrying, other.carried_by = other, self
        other.offset = (other.x - self.x, other.y - self.y)

    def put_down(self) -> None:
        """Leaves what it carries where it is."""
        if self.carrying is not None:
            self.carrying.carried_by = None
            self.carrying = None

    def let_go(self) -> None:
        """Ends carrying and being carried."""
        self.put_down()
        if self.carried_by is not None:
            self.carried_by.put_down()

    def angle_to(self, other: Body) -> float:
        """The direction of another piece in degrees: 0 is right, 90 is up."""
        return round(math.degrees(math.atan2(other.y - self.y, other.x - self.x)) % 360, 6)
