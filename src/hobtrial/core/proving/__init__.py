"""Proof: is an exercise fit to be set? Planted slips, what catches them, and what no scenario looks at."""

from .fitness import Fitness, fitness
from .plant import Planted, planted
from .prove import proof, try_planted

__all__ = ["Fitness", "Planted", "fitness", "planted", "proof", "try_planted"]
