"""The frame order, the handlers and the recorder: a woven script, a scene and a plan give a Trace."""

from .as_json import asides_json, event_json, log_json, samples_json, steps_json, trace_json
from .event_names import EVENT_NAMES
from .host import TrialOver
from .names import GAME_NAMES
from .observe import CLOCK, OUTCOME, PLACE, Observable, ObservableKind, same_words, variable
from .options import Options
from .plan import Arrangement, InputKind, Plan, PlayerInput, click, done, held_key, pressed_key
from .run import KNOWN_FUNCTIONS, Run, play
from .trace import Answered, Came, Change, Shown, StepKind, StoryLine, Trace
from .variables import getter

__all__ = [
    "CLOCK",
    "EVENT_NAMES",
    "GAME_NAMES",
    "KNOWN_FUNCTIONS",
    "OUTCOME",
    "PLACE",
    "Answered",
    "Arrangement",
    "Came",
    "Change",
    "InputKind",
    "Observable",
    "ObservableKind",
    "Options",
    "Plan",
    "PlayerInput",
    "Run",
    "Shown",
    "StepKind",
    "StoryLine",
    "Trace",
    "TrialOver",
    "asides_json",
    "click",
    "done",
    "event_json",
    "getter",
    "held_key",
    "log_json",
    "play",
    "pressed_key",
    "same_words",
    "samples_json",
    "steps_json",
    "trace_json",
    "variable",
]
