"""What a script may use up, and the two ways in which it is stopped.

Both stops are no `Exception`, so that nothing a script writes can catch them. Each limit has its
reason beside it; all of them stand here and nowhere else.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final


class Halt(BaseException):
    """Ends the trial. `kind` is the name of the limit or refusal, `line` where it was met."""

    def __init__(self, kind: str, message: str, line: int = 0) -> None:
        super().__init__(message)
        self.kind = kind
        self.message = message
        self.line = line


class OutOfMemory(BaseException):
    """The machine has no more memory. Not the script's doing, so neither it nor a limit may make a stop of it."""


@dataclass(frozen=True)
class Limits:
    """Counted bounds of one trial; an exercise may narrow them."""

    passes_a_handler: int = 100_000
    """Loop passes and calls in one run of one handler: a frame's work of a large game has 1,000."""
    passes_a_trial: int = 2_000_000
    """Loop passes and calls in one trial: half a second of processor time."""
    depth: int = 100
    """Calls within calls: a beginner's recursion has 10."""
    story: int = 2_000
    """Lines of the story: more cannot be read."""
    letters: int = 200_000
    """Characters of the story in all: fifty pages."""
    text: int = 10_000
    """Characters of one text."""
    items: int = 10_000
    """Entries of one collection."""
    bits: int = 4_000
    """Bits of one whole number."""


DEFAULT_LIMITS: Final = Limits()
