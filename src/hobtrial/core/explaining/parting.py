"""First parting: the first frame in which a script's run and the reference's differ."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from ..trial import Observable, Trace
from ..words import UNSET, Timeline, seconds_of

CLOSE: Final = 3
"""Frames by which the same change may come earlier or later and still be the same."""


@dataclass(frozen=True, slots=True)
class Parting:
    """Where two runs part on one thing: the frame, and the value that each has from there on."""

    what: Observable
    frame: int
    own: Any
    reference: Any
    own_changed: bool
    """Whether the script changed there and the reference did not (else the other way, or both)."""
    reference_changed: bool

    def as_json(self) -> dict[str, Any]:
        """The parting as the strip shows it."""
        return {"frame": self.frame, "seconds": round(seconds_of(self.frame), 3), "what": str(self.what)}


def same(a: Any, b: Any) -> bool:
    """Whether two sampled values count as the same; the scoreboard's 3 and "3" do."""
    if a is UNSET or b is UNSET:
        return a is b
    return bool(a == b) or str(a) == str(b)


def parting(what: Observable, own: Trace, reference: Trace) -> Parting | None:
    """The first parting of two runs on one thing, up to the last frame that both have."""
    last = min(own.last_frame, reference.last_frame)
    mine = _steps(own.samples[what], last)
    theirs = _steps(reference.samples[what], last)
    for place in range(max(len(mine), len(theirs))):
        a = mine[place] if place < len(mine) else None
        b = theirs[place] if place < len(theirs) else None
        if a is not None and b is not None:
            if abs(a[0] - b[0]) <= CLOSE:
                if same(a[1], b[1]):
                    continue
                return Parting(what, min(a[0], b[0]), a[1], b[1], True, True)
            if a[0] < b[0]:
                b = None
            else:
                a = None
        if a is not None:
            if a[0] > last - CLOSE and place == len(theirs):
                return None  # the reference's may come within the next frames
            return Parting(what, a[0], a[1], reference.value(what, a[0]), True, False)
        assert b is not None
        if b[0] > last - CLOSE and own.stopped is None and place == len(mine):
            return None
        return Parting(what, b[0], own.value(what, b[0]), b[1], False, True)
    return None


def first_parting(watched: Iterable[Observable], own: Trace, reference: Trace) -> Parting | None:
    """The earliest parting on any of the things that are watched."""
    found = [each for each in (parting(what, own, reference) for what in watched) if each is not None]
    return min(found, key=lambda each: each.frame) if found else None


def _steps(timeline: Timeline, last: int) -> list[tuple[int, Any]]:
    """The changes of a timeline up to a frame, without those that are none for `same`."""
    steps: list[tuple[int, Any]] = []
    for frame, value in timeline.changes():
        if frame <= last and not (steps and same(steps[-1][1], value)):
            steps.append((frame, value))
    return steps
