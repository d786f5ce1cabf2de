"""An edit that was tried, and the budget of all that are tried for one script: counts, never time."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any, Final

from ..judging import Examination, Examined, Played
from ..script import Woven
from ..trial import Observable
from .finding import CheckRef, Edit

MOST_TRIALS: Final = 1_300
"""Trials played for one script's edits: two seconds of processor time for short scenarios."""

MOST_PASSES: Final = 800_000
"""Loop passes and calls of all those trials together: half a second of processor time for heavy scripts."""
MOST_FRAMES: Final = 180_000
"""Frames of all those trials together: two seconds of processor time for long scenarios."""
MOST_LETTERS: Final = 2_400_000
"""Letters of all the texts that are tried: a second of processor time for one as long as a script may be."""
FEWEST_PASSES: Final = 50_000
"""Passes that each of those trials may take at least."""


@dataclass(frozen=True, eq=False)
class Tried:
    """An edit that was tried on all scenarios."""

    edit: Edit
    text: str
    woven: Woven
    played: tuple[Played, ...]
    mends: frozenset[CheckRef]
    facts: dict[str, Any]
    scenario: int
    about: frozenset[Observable]
    """What the mended checks are about."""
    cost: int
    """How many tokens it changes or writes."""
    firm: bool
    """Whether the edited runs agree with the reference's; else it is only a step."""
    eases: bool
    """Whether it mends no check, but something goes right that did not."""
    apart: int = 0
    """On how many things, over all scenarios, the edited runs still part from the reference's."""
    whole: bool = False
    """Whether all trials of wild scenarios were played, and not only a few."""
    drawn: Examined | None = None
    """Whether it goes as the reference goes in the drawn runs too; nothing until that was asked."""

    @property
    def proven(self) -> bool:
        """Whether the drawn runs bear it out."""
        return self.drawn in ("agrees", "beside")


@dataclass
class Budget:
    """Counts what was tried, so that the same input gives the same report."""

    examination: Examination
    """The drawn runs of the script as it was handed in."""
    edits: int = 0
    ruled_out: int = 0
    """Edits that were dropped without a run."""
    trials: int = 0
    passes: int = 0
    frames: int = 0
    letters: int = 0
    spent: bool = field(default=False)

    def take(self, trials: int) -> bool:
        """Whether so many more trials may be played."""
        if self.trials + trials > MOST_TRIALS:
            self.spent = True
            return False
        self.trials += trials
        return True

    def read(self, text: str) -> None:
        """Counts a text that is tried."""
        self.edits += 1
        self.letters += len(text)
        self.spent = self.spent or self.letters > MOST_LETTERS

    def count(self, played: Iterable[Played]) -> None:
        """Counts the work of trials that were played."""
        for run in played:
            self.add(run.passes, run.frames)

    def add(self, passes: int, frames: int) -> None:
        """Counts work."""
        self.passes += passes
        self.frames += frames
        self.spent = self.spent or self.passes > MOST_PASSES or self.frames > MOST_FRAMES

    @property
    def left(self) -> int:
        """How many passes the next trial may take."""
        return max(MOST_PASSES - self.passes, FEWEST_PASSES)
