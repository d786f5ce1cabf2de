"""Pieces, motions and overlap: state and inputs give the next state. Knows nothing of scripts."""

from .bodies import Body
from .overlap import overlap
from .spec import MotionSpec, PieceSpec, SceneSpec, SpawnerSpec
from .state import SceneState

__all__ = ["Body", "MotionSpec", "PieceSpec", "SceneSpec", "SceneState", "SpawnerSpec", "overlap"]
