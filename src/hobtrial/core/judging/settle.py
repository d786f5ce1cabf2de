"""How each kind of check is settled by a trial: when, with which values, and why."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Final

from ..trial import CLOCK, Observable, Trace
from ..words import FRAMES_PER_SECOND, UNSET, frame_of, plural
from .agreement import CLOSE, first_parting
from .checks import PreparedCheck
from .expectation import Expectation

STOPPED: Final = "the script stopped before"
ENDED: Final = "the trial ended before"
Reference = Callable[[], Trace]


@dataclass(frozen=True, slots=True)
class Settled:
    """Whether a check holds (nothing: not reached), the frame that settled it, and the values there."""

    holds: bool | None
    frame: int | None
    reason: str | None = None
    values: tuple[tuple[str, Any], ...] = ()


def span_of(check: PreparedCheck, last: int) -> tuple[int, int]:
    """First and last frame that a check is about, in a trial whose last frame is given."""
    spec = check.spec
    if spec.at is not None:
        return (frame_of(spec.at),) * 2
    if spec.by is not None:
        return frame_of(spec.from_ or 0), frame_of(spec.by)
    if check.kind in ("end", "case"):
        return last, last
    if check.kind in ("always", "never", "unchanged"):
        return frame_of(spec.from_ or 0), last if spec.until is None else frame_of(spec.until)
    return 0, last


def settle(check: PreparedCheck, trace: Trace, reference: Reference) -> Settled:
    """Settles a check over one trial."""
    match check.kind:
        case "at" | "end" | "case":
            return _at(check, trace)
        case "after":
            return _after(check, trace)
        case "each":
            return _each(check, trace)
        case "same":
            return _same(check, trace, reference())
        case "unchanged":
            return _unchanged(check, trace)
        case "apart":
            return _apart(check, trace)
        case _:
            return _over_a_span(check, trace)


def _expectation(check: PreparedCheck) -> Expectation:
    assert check.expectation is not None
    return check.expectation


def _early(trace: Trace) -> Settled:
    """The trial did not come as far as the check asks."""
    return Settled(None, None, STOPPED if trace.stopped is not None else ENDED)


def _look(
    expectation: Expectation, trace: Trace, frame: int, before: Mapping[Observable, Any] | None = None
) -> Settled:
    """Whether an expectation holds in a frame's sample; `before` are the values for `was`, else a frame ago."""
    values = []
    for what, when in expectation.asks:
        if when == "now":
            values.append(trace.value(what, frame))
        elif when == "first":
            values.append(trace.first.get(what, UNSET))
        else:
            values.append(before[what] if before is not None else trace.before(what, frame))
    holds, reason = expectation.holds(values)
    return Settled(holds, frame, reason, expectation.parts(values))


def _at(check: PreparedCheck, trace: Trace) -> Settled:
    frame, _ = span_of(check, trace.planned)
    return _early(trace) if frame > trace.last_frame else _look(_expectation(check), trace, frame)


def _over_a_span(check: PreparedCheck, trace: Trace) -> Settled:
    """`by`, `always` and `never`."""
    expectation = _expectation(check)
    first, last = span_of(check, trace.planned)
    by, never = check.kind == "by", check.kind == "never"
    for frame in _moments(expectation, trace, first, min(last, trace.last_frame)):
        found = _look(expectation, trace, frame)
        if never and (found.holds or found.reason is not None):
            return Settled(False, frame, found.reason, found.values)
        if by and found.holds:
            return found
        if not by and not never and not found.holds:
            return found
    if last > trace.last_frame:
        return _early(trace)
    return _look(expectation, trace, last) if by else Settled(True, None)


def ever(expectation: Expectation, trace: Trace) -> bool:
    """Whether an expectation holds in any sample of a trial."""
    frames = _moments(expectation, trace, 0, trace.last_frame)
    return any(_look(expectation, trace, frame).holds for frame in frames)


def _moments(expectation: Expectation, trace: Trace, first: int, last: int) -> list[int]:
    """The frames of a span in which the answer can be another than in the frame before."""
    if first > last:
        return []
    if CLOCK in expectation.needs:
        return list(range(first, last + 1))
    frames = {first}
    for what, when in expectation.asks:
        for frame in trace.samples[what].frames:
            frames.update((frame, frame + 1) if when == "was" else (frame,))
    return sorted(frame for frame in frames if first <= frame <= last)


def _after(check: PreparedCheck, trace: Trace) -> Settled:
    assert check.event is not None
    nth = check.spec.nth or 1
    counts = trace.samples[Observable("times", event=check.event)]
    came = next((frame for frame, count in counts.changes() if count >= nth), None)
    if came is None:
        often = counts.values[-1] if counts.values else 0
        words = f"came {plural(often, 'time')}" if often else "never came"
        return Settled(None, None, f"{check.event} {words}")
    frame = came + frame_of(check.spec.later or 0)
    if frame > trace.planned:
        return Settled(None, None, ENDED)
    return _early(trace) if frame > trace.last_frame else _look(_expectation(check), trace, frame)


def _each(check: PreparedCheck, trace: Trace) -> Settled:
    assert check.event is not None
    expectation = _expectation(check)
    found = trace.moments.get(check.event, ())
    for number, moment in enumerate(found, 1):
        sides = {"now": moment.after, "was": moment.before, "first": trace.first}
        values = [sides[when].get(what, UNSET) for what, when in expectation.asks]
        holds, reason = expectation.holds(values)
        if holds:
            continue
        last = max(moment.frame, 0) + (check.spec.within or 0)
        frames = range(max(moment.frame, 0), min(last, trace.last_frame) + 1)
        if any(_look(expectation, trace, frame, moment.before).holds for frame in frames):
            continue
        if last > trace.last_frame:
            return _early(trace)
        often = f"the {_ordinal(number)} time that {check.event} came" if len(found) > 1 else None
        return Settled(False, max(moment.frame, 0), reason or often, expectation.parts(values))
    if trace.last_frame < trace.planned:
        return _early(trace)
    return Settled(True, None) if found else Settled(None, None, f"{check.event} never came")


def _apart(check: PreparedCheck, trace: Trace) -> Settled:
    """Whether no two of the events are closer than asked for."""
    assert check.event is not None and check.spec.apart is not None
    frames = [max(moment.frame, 0) for moment in trace.moments.get(check.event, ())]
    least = frame_of(check.spec.apart)
    for before, frame in itertools.pairwise(frames):
        if frame - before < least:
            seconds = (frame - before) / FRAMES_PER_SECOND
            reason = (
                f"{check.event} came twice within {seconds:.2g} s" if seconds else f"{check.event} came twice at once"
            )
            return Settled(False, frame, reason, (("seconds apart", round(seconds, 2)),))
    if trace.last_frame < trace.planned:
        return _early(trace)
    return Settled(True, None) if frames else Settled(None, None, f"{check.event} never came")


def _ordinal(number: int) -> str:
    ending = "th" if 10 <= number % 100 <= 20 else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{ending}"


def _same(check: PreparedCheck, trace: Trace, reference: Trace) -> Settled:
    within = CLOSE if check.spec.within is None else check.spec.within
    found = first_parting(check.names, trace, reference, within)
    if found is None:
        return _early(trace) if trace.last_frame < trace.planned else Settled(True, None)
    what, frame = found.what, found.frame
    values = ((str(what), trace.value(what, frame)), ("reference", reference.value(what, frame)))
    return Settled(False, frame, f"`{what}` does not change as in the reference", values)


def _unchanged(check: PreparedCheck, trace: Trace) -> Settled:
    first, last = span_of(check, trace.planned)
    for what in check.names:
        if trace.value(what, first) is UNSET and first <= trace.last_frame:
            return Settled(False, first, f"`{what}` has no value", ((str(what), UNSET),))
        for frame in trace.samples[what].frames:
            if first < frame <= min(last, trace.last_frame):
                values = ((f"was({what})", trace.value(what, first)), (str(what), trace.value(what, frame)))
                return Settled(False, frame, f"`{what}` changed", values)
    return _early(trace) if last > trace.last_frame else Settled(True, None)
