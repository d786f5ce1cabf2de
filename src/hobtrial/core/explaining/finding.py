"""What is found, as values: edits, fixes and findings. Sentences are made in `catalogue.py`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from ..script.tree import ChangedLine, Span

Confidence = Literal["shown", "likely", "open"]
CheckRef = tuple[int, int]
"""Number of the scenario and of the check in it, both from 0."""


class Line(int):
    """A fact that is the number of a line: it is told as that line of the script as it was handed in."""


@dataclass(frozen=True, slots=True)
class Edit:
    """One small change of a script that would mend a slip. `about` is its variable or event."""

    slip: str
    spans: tuple[Span, ...]
    about: str
    facts: dict[str, Any] = field(default_factory=dict, hash=False)
    everywhere: bool = False
    """Whether it may matter in scenarios that never come by its lines: something new is added."""
    shows_reference: bool = False
    """Whether it writes out a part that the reference shows."""
    own: bool = False
    """Whether such a part could be written without the reference: of words of the script and numbers of the brief."""
    extra: int = 0
    """What makes it less likely than its tokens say: a number that nobody speaks of, say."""
    group: int = 0
    """The group that its slip was tried in, from 0, the narrowest."""

    @property
    def line(self) -> int:
        """The first line that changes."""
        return self.spans[0].line

    @property
    def copied(self) -> bool:
        """Whether it copies code of the reference: that mends whatever is wrong, and so it shows nothing."""
        return self.shows_reference and not self.own


@dataclass(frozen=True, slots=True)
class Fix:
    """An edit that was tried: its lines, how many checks it mends and how many it breaks."""

    changes: tuple[ChangedLine, ...]
    mends: int
    breaks: int
    on_top: bool = False
    """Whether it mends these only once the findings before it are mended too."""
    shows_reference: bool = False
    """Whether its lines are the reference's: the teacher's to allow."""


@dataclass(frozen=True, slots=True)
class Finding:
    """One explained mistake that lost marks. `facts` fill the sentences of the catalogue."""

    slip: str
    confidence: Confidence
    lines: tuple[int, ...]
    about: str
    checks: tuple[CheckRef, ...]
    marks_lost: float
    facts: dict[str, Any]
    fix: Fix | None = None
    scenario: int | None = None
    """The scenario in which the replay opens, and its frame."""
    frame: int | None = None


def as_handed_in(facts: dict[str, Any], origin: Sequence[int]) -> dict[str, Any]:
    """Facts of an edited script with the lines of the script as handed in: `origin` has one for each line."""
    return {
        key: Line(origin[value - 1]) if isinstance(value, Line) and 0 < value <= len(origin) else value
        for key, value in facts.items()
    }
