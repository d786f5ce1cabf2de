"""Cross-examination: in how many drawn runs a script parts from the reference.

The scenarios look at a few moments; a change can be right there by luck. Drawn runs look at many more, and do each
deed more often. A right change parts in none of them, or in few: where the script is otherwise built in some other way.
"""

from __future__ import annotations

from typing import Final

from ..script import Woven
from ..trial import Observable, Options, Plan, Trace, play
from .agreement import same_steps
from .drawn import examining_plans
from .prepare import Prepared

FEW: Final = 1
"""Drawn runs in which a right change may part at most, of thirty."""

NEWLY: Final = 2
"""For how many a run counts in which the change does harm: something goes wrong there that went right without it."""


class Examination:
    """The drawn runs of one script as it was handed in, against which its edits are examined."""

    def __init__(self, prepared: Prepared, woven: Woven) -> None:
        self._prepared = prepared
        self._runs = _reference_runs(prepared)
        self._woven = woven
        self._own: dict[int, Trace] = {}
        self.passes = 0
        """The work of all runs so far."""

    def parted(self, edited: Woven, about: frozenset[Observable], most: int = FEW) -> int:
        """In how many drawn runs an edited script parts from the reference, counted up to one more than `most`.

        It parts where it goes otherwise on what it should mend, or on anything on which the script itself did not.
        """
        parted = 0
        for index, (plan, theirs) in enumerate(self._runs):
            trace = self._play(edited, plan)
            stopped = trace.stopped is not None and theirs.stopped is None
            odd = [what for what in trace.samples if not same_steps(what, trace, theirs)]
            if stopped or any(what in about for what in odd):
                parted += 1
            elif any(self._alike(index, what) for what in odd):
                parted += NEWLY
            if parted > most:
                break
        return parted

    def _alike(self, index: int, what: Observable) -> bool:
        """Whether the script as it was handed in goes as the reference goes there."""
        plan, theirs = self._runs[index]
        if index not in self._own:
            self._own[index] = self._play(self._woven, plan)
        own = self._own[index]
        return own.stopped is None and same_steps(what, own, theirs)

    def _play(self, woven: Woven, plan: Plan) -> Trace:
        trace = _play(self._prepared, woven, plan)
        self.passes += trace.passes
        return trace


def _reference_runs(prepared: Prepared) -> list[tuple[Plan, Trace]]:
    """The drawn runs with the reference's traces, played once a version of an exercise."""
    if not prepared.examining:
        prepared.examining.extend(
            (plan, _play(prepared, prepared.reference, plan)) for plan in examining_plans(prepared)
        )
    return prepared.examining


def _play(prepared: Prepared, woven: Woven, plan: Plan) -> Trace:
    observe = tuple(dict.fromkeys(what for scenario in prepared.scenarios for what in scenario.observe))
    return play(woven, prepared.scene, plan, Options(observe, prepared.alias, limits=prepared.limits))
