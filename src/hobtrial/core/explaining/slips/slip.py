"""A slip as one value: how it is recognised. Its wording stands in `wording`, under the same id."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import IntEnum
from typing import Any

from ...trial import Trace
from ..finding import Edit
from ..recognition import Seen
from ..subject import Subject


class Group(IntEnum):
    """From the narrowest slips to the broadest. Those of one group are tried together."""

    WIRING = 0
    """A name, a word or a wire of the language is wrong."""
    OWN = 1
    """A sign, a value or a line of the script's own is another one, or stands elsewhere."""
    PARTS = 2
    """A part is missing that the script's own lines show."""
    VARIABLE = 3
    """Another variable is meant."""
    REFERENCE = 4
    """What the reference has there is missing."""
    HANDLER = 5
    """A whole handler is missing."""


Facts = dict[str, Any]


@dataclass(frozen=True)
class Slip:
    """One kind of mistake, with what it takes to recognise it."""

    id: str
    group: Group
    edits: Callable[[Subject], Iterator[Edit]] | None = None
    """The changes that would mend it."""
    witness: Callable[[Edit, Trace], Facts | None] | None = None
    """Where the run must bear it out in a way of its own: the facts of the student's own run, or nothing."""
    broad: Callable[[Subject], Iterator[Edit]] | None = None
    """Changes that say less of it, tried with the slips of `Group.REFERENCE`."""
    recognise: Callable[[Seen], Facts | None] | None = None
    """What the two traces settle without any change that mends: the facts, or nothing."""
