"""Cross-examination: in how many drawn runs a script parts from the reference.

The scenarios look at a few moments; a change can be right there by luck. Drawn runs look at many more, and do each
deed more often. A right change parts in none of them, or in few: where the script is otherwise built in some other way.
"""

from __future__ import annotations

from typing import Final, Literal

from ..script import Limits, Woven
from ..trial import Observable, Options, Plan, Trace, play
from .agreement import parting, same_steps
from .drawn import examining_plans
from .prepare import Prepared

FEW: Final = 1
"""Drawn runs in which a right change may part at most, of thirty."""

PASSES_OF_A_RUN: Final = 300_000
"""Passes of one drawn run: a thousand in each frame."""
MOST_PASSES: Final = 1_500_000
"""Passes of all drawn runs of a script and its edits."""

NEWLY: Final = 2
"""For how many a run counts in which the change does harm: something goes wrong there that went right without it."""


Examined = Literal["agrees", "beside", "parts"]
"""It goes as the reference; it would, but for something else that is wrong beside it; or it does not."""

BESIDE: Final = 2
"""How many runs an edit must mend for each in which something else is wrong as well."""


class Examination:
    """The drawn runs of one script as it was handed in, against which its edits are examined."""

    def __init__(self, prepared: Prepared, woven: Woven) -> None:
        self._prepared = prepared
        self._runs = _reference_runs(prepared)
        self._woven = woven
        self._own: dict[int, Trace] = {}
        self.passes = 0
        """The work of all runs so far."""

    def answer(self, edited: Woven, about: frozenset[Observable]) -> Examined:
        """Whether an edited script goes as the reference goes in the drawn runs.

        It parts where it goes otherwise on what it should mend, or on anything on which the script itself did not.
        A run in which something else is wrong as well, which the edit only puts off or does not alter, is held
        against it where such runs are not few beside those that it mends. `FEW` runs may be otherwise in any way.
        """
        parted = elsewhere = 0
        right: list[int] = []
        for index, (plan, theirs) in enumerate(self._runs):
            if self.passes > MOST_PASSES:
                return "parts"  # nobody knows: then it is not called proven
            trace = self._play(edited, plan)
            stopped = trace.stopped is not None and theirs.stopped is None
            odd = [what for what in trace.samples if not same_steps(what, trace, theirs)]
            asked = [what for what in odd if what in about]
            if not stopped and asked and all(self._no_sooner(index, what, trace) for what in asked):
                elsewhere += 1
            elif stopped or asked:
                parted += 1
            elif any(self._alike(index, what) for what in odd):
                parted += NEWLY
            else:
                right.append(index)
            if parted > FEW:
                return "parts"
        if parted + elsewhere <= FEW:
            return "agrees"
        mended = 0
        for index in right:
            mended += any(not self._alike(index, what) for what in about)
            if mended >= elsewhere * BESIDE:
                return "beside"
        return "parts"

    def _alike(self, index: int, what: Observable) -> bool:
        """Whether the script as it was handed in goes as the reference goes there."""
        own, theirs = self._own_run(index), self._runs[index][1]
        return own.stopped is None and (what not in theirs.samples or same_steps(what, own, theirs))

    def _no_sooner(self, index: int, what: Observable, edited: Trace) -> bool:
        """Whether the edited script goes just as the script was handed in, or goes right for longer."""
        own, theirs = self._own_run(index), self._runs[index][1]
        old, new = own.samples[what], edited.samples[what]
        if old.frames == new.frames and old.values == new.values:
            return True
        before, now = parting(what, own, theirs), parting(what, edited, theirs)
        if before is None and own.stopped is None:
            return False
        ends = own.stopped.frame if own.stopped is not None else own.last_frame
        return now is not None and now.frame > (before.frame if before is not None else ends)

    def _own_run(self, index: int) -> Trace:
        if index not in self._own:
            self._own[index] = self._play(self._woven, self._runs[index][0])
        return self._own[index]

    def _play(self, woven: Woven, plan: Plan) -> Trace:
        trace = _play(self._prepared, woven, plan, self._prepared.narrowed(PASSES_OF_A_RUN))
        self.passes += trace.passes
        return trace


def _reference_runs(prepared: Prepared) -> list[tuple[Plan, Trace]]:
    """The drawn runs with the reference's traces, played once a version of an exercise."""
    if not prepared.examining:
        prepared.examining.extend(
            (plan, _play(prepared, prepared.reference, plan, prepared.limits)) for plan in examining_plans(prepared)
        )
    return prepared.examining


def _play(prepared: Prepared, woven: Woven, plan: Plan, limits: Limits) -> Trace:
    observe = tuple(dict.fromkeys(what for scenario in prepared.scenarios for what in scenario.observe))
    return play(woven, prepared.scene, plan, Options(observe, prepared.alias, limits=limits))
