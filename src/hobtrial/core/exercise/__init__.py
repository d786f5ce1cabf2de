"""The Exercise and its parts, and how they are read from files."""

from .checks import Case, Check, CheckKind, Craft, Input, Wild
from .edit import scenario_text, with_scenario
from .files import AT_LEVEL, BRIEF, FILES, REFERENCE, SETTINGS, STARTER, ExerciseError, Fault, is_part, load, save
from .locate import Lines
from .model import LEVELS, Exercise, Help, Level, LevelName, Scenario, Settings, Task, Variable
from .parts import LONGEST_TRIAL, LOOKS
from .schema import schema

__all__ = [
    "AT_LEVEL",
    "BRIEF",
    "FILES",
    "LEVELS",
    "LONGEST_TRIAL",
    "LOOKS",
    "REFERENCE",
    "SETTINGS",
    "STARTER",
    "Case",
    "Check",
    "CheckKind",
    "Craft",
    "Exercise",
    "ExerciseError",
    "Fault",
    "Help",
    "Input",
    "Level",
    "LevelName",
    "Lines",
    "Scenario",
    "Settings",
    "Task",
    "Variable",
    "Wild",
    "is_part",
    "load",
    "save",
    "scenario_text",
    "schema",
    "with_scenario",
]
