"""The frame order, the handlers and the recorder: a woven script, a scene and a plan give a Trace."""

from .as_json import samples_json, trace_json
from .names import EVENT_NAMES, GAME_NAMES
from .observe import CLOCK, OUTCOME, Observable, variable
from .plan import Arrangement, KeyInput, Plan, held_key, pressed_key
from .run import KNOWN_FUNCTIONS, play
from .trace import Answered, Came, Change, Shown, StoryLine, Trace

__all__ = [
    "CLOCK",
    "EVENT_NAMES",
    "GAME_NAMES",
    "KNOWN_FUNCTIONS",
    "OUTCOME",
    "Answered",
    "Arrangement",
    "Came",
    "Change",
    "KeyInput",
    "Observable",
    "Plan",
    "Shown",
    "StoryLine",
    "Trace",
    "held_key",
    "play",
    "pressed_key",
    "samples_json",
    "trace_json",
    "variable",
]
