"""One piece while a trial runs: where its box is, how it moves, what may be seen of it."""

from __future__ import annotations

from typing import Any

from .spec import MotionSpec


class Body:
    """A piece of a running scene. Lengths in squares, speeds in squares a second.

    `stamp` is the frame in which the box last changed, so that what stands still is not tested
    again; `half_width` and `half_height` are kept with `size` multiplied in.
    """

    __slots__ = (
        "facing",
        "half_height",
        "half_width",
        "height",
        "index",
        "kind",
        "look",
        "motion",
        "name",
        "opacity",
        "removed",
        "removed_by",
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

    def __init__(
        self,
        index: int,
        name: str,
        kind: str,
        at: tuple[float, float],
        size: tuple[float, float],
        look: str,
        motion: MotionSpec,
        *,
        solid: bool = False,
    ) -> None:
        self.index = index
        self.name = name
        self.kind = kind
        self.x, self.y = at
        self.width, self.height = size
        self.half_width, self.half_height = size[0] / 2, size[1] / 2
        self.size: float = 1
        self.look = look or kind
        self.motion = motion
        self.speed: float = motion.steered.speed if motion.steered else 0
        self.vx: float = 0
        self.vy: float = 0
        self.facing: float = 0
        self.opacity: float = 1
        self.visible = True
        self.removed = False
        self.removed_by: int | None = None
        self.solid = solid
        self.stamp = -1
        self.values: dict[str, Any] = {}

    @property
    def present(self) -> bool:
        """Whether it can overlap anything: hidden and removed pieces overlap nothing."""
        return self.visible and not self.removed

    def resize(self, size: float) -> None:
        """Scales the box about its middle."""
        self.size = size
        self.half_width = self.width * size / 2
        self.half_height = self.height * size / 2
