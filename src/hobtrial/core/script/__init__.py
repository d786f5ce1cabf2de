"""Text → Script → Woven: what a student may write, and how it is made safe to run and to watch."""

from .expressions import Test
from .guards import Guards
from .limits import DEFAULT_LIMITS, Halt, Limits, OutOfMemory
from .read import Reading, Script, Unreadable, mend, read, reread
from .ready_made import BUILTINS, DIRECT, builtins_of
from .stand_in import StandIn
from .stand_ins import stand_ins
from .texts import str_of, text_of
from .used import words_used
from .vocabulary import METHODS, MODULES
from .woven import SCRIPT_FILE, Woven, weave

__all__ = [
    "BUILTINS",
    "DEFAULT_LIMITS",
    "DIRECT",
    "METHODS",
    "MODULES",
    "SCRIPT_FILE",
    "Guards",
    "Halt",
    "Limits",
    "OutOfMemory",
    "Reading",
    "Script",
    "StandIn",
    "Test",
    "Unreadable",
    "Woven",
    "builtins_of",
    "mend",
    "read",
    "reread",
    "stand_ins",
    "str_of",
    "text_of",
    "weave",
    "words_used",
]
