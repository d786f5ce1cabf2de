"""A check and a trial give a verdict: held, broken or not reached."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final, Literal

from ..exercise import CheckKind
from ..trial import Trace
from ..words import as_json_value
from .checks import PreparedCheck
from .settle import Settled, ever, settle
from .settle import span_of as span_of

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
    trial: int | None = None
    """The trial that settled it, where the scenario has several."""

    def as_json(self) -> dict[str, Any]:
        """The verdict as the report shows it."""
        several = {"trial": self.trial} if self.trial is not None else {}
        return {
            "expect": self.expect,
            "kind": self.kind,
            "verdict": self.verdict,
            "marks": tidy(self.marks),
            "out_of": tidy(self.out_of),
            "frame": self.frame,
            "values": {name: as_json_value(value) for name, value in self.values},
            "reason": self.reason,
            **several,
            "concept": self.concept,
            "because": self.because,
            "span": list(self.span),
        }


def tidy(marks: float) -> int | float:
    """Marks that are whole are whole numbers."""
    return int(marks) if marks == int(marks) else marks


def judge(check: PreparedCheck, trace: Trace, reference: Callable[[], Trace]) -> Verdict:
    """The verdict of one check over one trial; `reference` gives the reference's trace of the same trial."""
    settled = _unsettled(check, trace) or settle(check, trace, reference)
    spec = check.spec
    answer: Answer = NOT_REACHED if settled.holds is None else HELD if settled.holds else BROKEN
    return Verdict(
        check.text,
        check.kind,
        answer,
        spec.marks if answer == HELD else 0,
        spec.marks,
        settled.frame,
        settled.values,
        settled.reason,
        spec.concept,
        spec.because,
        span_of(check, trace.planned),
    )


def over(verdicts: Sequence[tuple[int, Verdict]]) -> Verdict:
    """The verdict over several trials, each with its number: held in all, else broken where it first is."""
    for number, verdict in verdicts:
        if verdict.verdict == BROKEN:
            return replace(verdict, trial=number)
    held = [entry for entry in verdicts if entry[1].verdict == HELD]
    number, verdict = held[0] if held else verdicts[0]
    return replace(verdict, trial=number)


def _unsettled(check: PreparedCheck, trace: Trace) -> Settled | None:
    """Why a check is not reached whatever the trial shows."""
    unarranged = [str(what) for what in check.about if what.what == "variable" and what.name in trace.unarranged]
    if unarranged:
        return Settled(None, None, f"the script has no `{unarranged[0]}` to arrange")
    condition = check.only_if
    if condition is None:
        return None
    if ever(condition, trace):
        return None
    return Settled(None, None, f"`{condition.text}` was never so")
