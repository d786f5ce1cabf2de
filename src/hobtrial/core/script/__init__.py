"""Text → Script → Woven: what a student may write, and how it is made safe to run and to watch."""

from .guards import DIRECT, Guards
from .limits import DEFAULT_LIMITS, Halt, Limits
from .read import Reading, Script, Unreadable, bound_names, declared_global, functions, is_handler, read
from .weave import SCRIPT_FILE, Test, Woven, weave

__all__ = [
    "DEFAULT_LIMITS",
    "DIRECT",
    "SCRIPT_FILE",
    "Guards",
    "Halt",
    "Limits",
    "Reading",
    "Script",
    "Test",
    "Unreadable",
    "Woven",
    "bound_names",
    "declared_global",
    "functions",
    "is_handler",
    "read",
    "weave",
]
