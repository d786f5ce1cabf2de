"""When two boxes overlap."""

from __future__ import annotations

from typing import Final

from .bodies import Body

TOUCH: Final = 0.001
"""Squares by which boxes must overlap in both directions: less is only touching."""


def overlap(a: Body, b: Body) -> bool:
    """Whether the boxes of two present pieces overlap by more than `TOUCH` in both directions."""
    return (
        a.half_width + b.half_width - abs(a.x - b.x) > TOUCH
        and a.half_height + b.half_height - abs(a.y - b.y) > TOUCH
        and a.present
        and b.present
    )
