"""As the reference: when two runs go alike on something, and where they first do not.

One comparison of values, one tolerance in time. Checks of the kind `same`, the first parting on the strip, the
explainer and the proof all stand on it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from ..exercise.checks import CLOSE_FRAMES
from ..trial import Observable, Trace
from ..words import UNSET, seconds_of

MOST_COMPARED: Final = 100
"""Entries of a collection on the scoreboard that is compared by its text."""
CLOSE: Final = CLOSE_FRAMES
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


def same_value(what: Observable, a: Any, b: Any) -> bool:
    """Whether two sampled values of a thing are the same. A scoreboard shows texts: 3 and "3" look alike there."""
    if a is UNSET or b is UNSET:
        return a is b
    return bool(a == b) or (what.what == "board" and _short(a) and _short(b) and str(a) == str(b))


def _short(value: Any) -> bool:
    """Whether a value can be compared by its text: of a long list nobody sees the whole text."""
    return not isinstance(value, (list, tuple, dict)) or len(value) <= MOST_COMPARED


def same_steps(what: Observable, own: Trace, reference: Trace, within: int = CLOSE) -> bool:
    """Whether two runs go alike on a thing, as far as both go."""
    return parting(what, own, reference, within) is None


def parting(what: Observable, own: Trace, reference: Trace, within: int = CLOSE) -> Parting | None:
    """The first parting of two runs on one thing, up to the last frame that both have.

    A change in the last `within` frames is no parting while the other run's may still come.
    """
    last = min(own.last_frame, reference.last_frame)
    mine, theirs = _steps(what, own, last), _steps(what, reference, last)
    for index in range(max(len(mine), len(theirs))):
        a = mine[index] if index < len(mine) else None
        b = theirs[index] if index < len(theirs) else None
        if a is not None and b is not None:
            if abs(a[0] - b[0]) <= within:
                if same_value(what, a[1], b[1]):
                    continue
                return Parting(what, min(a[0], b[0]), a[1], b[1], True, True)
            if a[0] < b[0]:
                b = None
            else:
                a = None
        if a is not None:
            if a[0] > last - within and index == len(theirs):
                return None
            return Parting(what, a[0], a[1], reference.value(what, a[0]), True, False)
        assert b is not None
        if b[0] > last - within and index == len(mine):
            return None
        return Parting(what, b[0], own.value(what, b[0]), b[1], False, True)
    return None


def first_parting(watched: Iterable[Observable], own: Trace, reference: Trace, within: int = CLOSE) -> Parting | None:
    """The earliest parting on any of the things that are watched."""
    found = [each for each in (parting(what, own, reference, within) for what in watched) if each is not None]
    return min(found, key=lambda each: each.frame) if found else None


def _steps(what: Observable, trace: Trace, last: int) -> list[tuple[int, Any]]:
    """The changes of a thing up to a frame, without those that are none for `same_value`."""
    steps: list[tuple[int, Any]] = []
    for frame, value in trace.samples[what].changes():
        if frame <= last and not (steps and same_value(what, steps[-1][1], value)):
            steps.append((frame, value))
    return steps
