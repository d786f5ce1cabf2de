"""The Exercise and its parts, and how they are read from files."""

from .files import BRIEF, FILES, REFERENCE, SETTINGS, STARTER, ExerciseError, Fault, load
from .locate import Lines
from .model import LONGEST_TRIAL, Check, CheckKind, Exercise, Help, Input, Scenario, Settings, Variable

__all__ = [
    "BRIEF",
    "FILES",
    "LONGEST_TRIAL",
    "REFERENCE",
    "SETTINGS",
    "STARTER",
    "Check",
    "CheckKind",
    "Exercise",
    "ExerciseError",
    "Fault",
    "Help",
    "Input",
    "Lines",
    "Scenario",
    "Settings",
    "Variable",
    "load",
]
