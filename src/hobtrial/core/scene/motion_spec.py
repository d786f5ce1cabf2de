"""The motions that a teacher can give to a piece. Speeds in squares a second, gravity in squares/s²."""

from __future__ import annotations

import functools
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from .spec_base import Coordinate, KeyName, Name, Point, Spec

Speed = Annotated[float, Field(ge=0, le=1000)]
GRAVITY = 10.0


class Still(Spec):
    """Does nothing."""


class Steered(Spec):
    """Moves by `speed` while its keys (left, right, up, down) are down; leaves the ground on up with `jump`.

    A piece that jumps also falls, by `GRAVITY` unless a falling motion beside it says otherwise,
    and its up and down keys do not move it.
    """

    speed: Speed = 6
    axes: Literal["x", "y", "both"] = "both"
    keys: tuple[KeyName, KeyName, KeyName, KeyName] = ("left", "right", "up", "down")
    jump: Speed = 0


class Drifting(Spec):
    """Moves by its velocity; `edge` says what happens at the edge of the scene."""

    velocity: Point
    edge: Literal["bounce", "wrap", "stop", "leave"] = "stop"


class Patrolling(Spec):
    """Goes to and fro between its place and another point."""

    to: Point
    speed: Speed


class Following(Spec):
    """Heads for another piece."""

    who: Name
    speed: Speed


class Falling(Spec):
    """Accelerates downwards by `gravity` squares/s², lands on solid pieces and the floor."""

    gravity: Speed = GRAVITY


class Attached(Spec):
    """Stays at an offset from another piece."""

    to: Name
    offset: tuple[Coordinate, Coordinate] = (0.0, 0.0)


class MotionSpec(Spec):
    """Exactly one motion, as a table with one key: `{steered = {speed = 6}}`.

    Only `steered` with `jump` may stand beside `falling`, which then says how fast it falls.
    """

    still: Still | None = None
    steered: Steered | None = None
    drifting: Drifting | None = None
    patrolling: Patrolling | None = None
    following: Following | None = None
    falling: Falling | None = None
    attached: Attached | None = None

    @model_validator(mode="before")
    @classmethod
    def _exactly_one(cls, data: Any) -> Any:
        if isinstance(data, dict) and len(data) != 1 and set(data) != {"steered", "falling"}:
            known = ", ".join(cls.model_fields)
            raise ValueError(f"needs exactly one motion of: {known}")
        return data

    @functools.cached_property
    def name(self) -> str:
        """`still`, `steered`, `drifting`, `patrolling`, `following`, `falling` or `attached`."""
        return next((name for name in type(self).model_fields if name in self.model_fields_set), "still")

    @functools.cached_property
    def gravity(self) -> float | None:
        """How fast the piece falls, in squares/s²; nothing where it does not fall."""
        if self.falling is not None:
            return self.falling.gravity
        return GRAVITY if self.steered is not None and self.steered.jump else None

    @functools.cached_property
    def speed(self) -> float:
        """The speed that the piece begins with; 0 where its motion has none."""
        for motion in (self.steered, self.patrolling, self.following):
            if motion is not None:
                return motion.speed
        return 0

    @property
    def other(self) -> str | None:
        """The piece that the motion depends on."""
        if self.following is not None:
            return self.following.who
        return self.attached.to if self.attached is not None else None
