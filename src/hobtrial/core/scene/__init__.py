"""Pieces, motions and overlap: state and inputs give the next state. Knows nothing of scripts."""

from .bodies import Body
from .bounds import bounds
from .glide import Way
from .grid import MANY, Grid
from .motion_spec import MotionSpec
from .overlap import overlap
from .spec import MOST_PIECES, Fact, PieceSpec, SceneSpec, SpawnerSpec
from .spec_base import KeyName, Name, Point, Spec, Value
from .state import SceneState

__all__ = [
    "MANY",
    "MOST_PIECES",
    "Body",
    "Fact",
    "Grid",
    "KeyName",
    "MotionSpec",
    "Name",
    "PieceSpec",
    "Point",
    "SceneSpec",
    "SceneState",
    "SpawnerSpec",
    "Spec",
    "Value",
    "Way",
    "bounds",
    "overlap",
]
