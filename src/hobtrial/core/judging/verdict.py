"""A check and a trace give a verdict: held, broken or not reached."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final, Literal

from ..exercise import Check, CheckKind
from ..trial import CLOCK, Trace
from ..words import as_json_value, frame_of
from .expectation import Expectation

Answer = Literal["held", "broken", "not reached"]
HELD: Final = "held"
BROKEN: Final = "broken"
NOT_REACHED: Final = "not reached"


@dataclass(frozen=True, slots=True)
class Verdict:
    """What became of one check. `frame` is where it was settled; `values` are those of every part."""

    expect: str
    kind: CheckKind
    verdict: Answer
    marks: float
    out_of: float
    frame: int | None
    values: tuple[tuple[str, Any], ...]
    reason: str | None
    concept: str | None
    because: str
    span: tuple[int, int]
    """First and last frame that the check is about."""

    def as_json(self) -> dict[str, Any]:
        """The verdict as the report shows it."""
        return {
            "expect": self.expect,
            "kind": self.kind,
            "verdict": self.verdict,
            "marks": tidy(self.marks),
            "out_of": tidy(self.out_of),
            "frame": self.frame,
            "values": {name: as_json_value(value) for name, value in self.values},
            "reason": self.reason,
            "concept": self.concept,
            "because": self.because,
            "span": list(self.span),
        }


def tidy(marks: float) -> int | float:
    """Marks that are whole are whole numbers."""
    return int(marks) if marks == int(marks) else marks


def span_of(check: Check, last: int) -> tuple[int, int]:
    """First and last frame that a check is about, in a trial whose last frame is given."""
    match check.kind:
        case "at":
            assert check.at is not None
            return (frame_of(check.at),) * 2
        case "by":
            assert check.by is not None
            return frame_of(check.from_ or 0), frame_of(check.by)
        case "end":
            return last, last
        case _:
            return frame_of(check.from_ or 0), last if check.until is None else frame_of(check.until)


def judge(check: Check, expectation: Expectation, trace: Trace) -> Verdict:
    """The verdict of one check over one trial."""
    first, last = span_of(check, trace.planned)

    def verdict(answer: Answer, frame: int | None, reason: str | None = None) -> Verdict:
        values = () if frame is None else tuple((str(what), trace.value(what, frame)) for what in expectation.needs)
        marks = check.marks if answer == HELD else 0
        return Verdict(
            expectation.text,
            check.kind,
            answer,
            marks,
            check.marks,
            frame,
            values,
            reason,
            check.concept,
            check.because,
            (first, last),
        )

    unarranged = [str(what) for what in expectation.needs if what.what == "variable" and what.name in trace.unarranged]
    if unarranged:
        return verdict(NOT_REACHED, None, f"the script has no `{unarranged[0]}` to arrange")
    reached = min(last, trace.last_frame)
    ended_early = trace.last_frame < last
    stopped = "the script stopped before" if trace.stopped is not None else "the trial ended before"

    if check.kind in ("at", "end"):
        if ended_early:
            return verdict(NOT_REACHED, None, stopped)
        holds, reason = _holds(expectation, trace, last)
        return verdict(HELD if holds else BROKEN, last, reason)

    wanted = check.kind in ("by", "never")  # the answer that settles the check early
    for frame in _moments(expectation, trace, first, reached):
        holds, reason = _holds(expectation, trace, frame)
        if check.kind == "never" and reason is not None:
            return verdict(BROKEN, frame, reason)
        if holds is wanted:
            return verdict(HELD if check.kind == "by" else BROKEN, frame, reason)
    if ended_early:
        return verdict(NOT_REACHED, None, stopped)
    if check.kind == "by":
        return verdict(BROKEN, last, _holds(expectation, trace, last)[1])
    return verdict(HELD, None)


def _holds(expectation: Expectation, trace: Trace, frame: int) -> tuple[bool, str | None]:
    return expectation.holds([trace.value(what, frame) for what in expectation.needs])


def _moments(expectation: Expectation, trace: Trace, first: int, last: int) -> list[int]:
    """The frames of a span in which the answer can be another than in the frame before."""
    if first > last:
        return []
    if CLOCK in expectation.needs:
        return list(range(first, last + 1))
    frames = {first}
    for what in expectation.needs:
        frames.update(frame for frame in trace.samples[what].frames if first <= frame <= last)
    return sorted(frames)
