"""Edited runs beside the script's own and the reference's: what they mend and break, and where they still part."""

from __future__ import annotations

from collections.abc import Iterable

from ..judging import HELD, Played, Prepared, parting, reference_of, same_steps
from ..trial import Observable, Trace
from .finding import CheckRef


def apart_on(prepared: Prepared, played: list[Played], after: dict[int, Played]) -> int:
    """On how many things, over all scenarios, the edited runs part from the reference's."""
    apart = 0
    for run in played:
        edited, reference = after[run.number].trace, reference_of(prepared, run)
        shared = set(edited.samples) & set(reference.samples)
        apart += sum(not same_steps(what, edited, reference) for what in shared)
    return apart


def turned(before: Played, after: Played, *, held: bool) -> list[CheckRef]:
    """The checks that hold now and did not before (or the other way round)."""
    pairs = zip(before.verdicts, after.verdicts, strict=True)
    return [
        (before.number, index)
        for index, (old, new) in enumerate(pairs)
        if (new.verdict == HELD) is held and (old.verdict == HELD) is not held
    ]


def agrees(prepared: Prepared, about: frozenset[Observable], played: Iterable[Played]) -> bool:
    """Whether runs go as the reference's do on some things, in all scenarios."""
    return all(
        same_steps(what, run.trace, reference_of(prepared, run))
        for run in played
        for what in about & set(run.trace.samples)
    )


def mended_agree(
    prepared: Prepared,
    about: frozenset[Observable],
    mends: set[CheckRef],
    played: list[Played],
    after: dict[int, Played],
) -> bool:
    """Whether, on what the mended checks are about, the edited runs go as the reference's do."""
    for run in played:
        edited = after[run.number]
        scenario = prepared.scenarios[run.number]
        for what in about & set(edited.trace.samples):
            mended_here = any(number == run.number and what in scenario.checks[index].about for number, index in mends)
            if not mended_here and _unaltered(what, run.trace, edited.trace):
                continue
            if not same_steps(what, edited.trace, reference_of(prepared, run)):
                return False
    return True


def puts_off(prepared: Prepared, about: frozenset[Observable], played: list[Played], after: dict[int, Played]) -> bool:
    """Whether no run that the edit alters parts earlier than before."""
    for run in played:
        edited, reference = after[run.number].trace, reference_of(prepared, run)
        for what in about & set(edited.samples):
            if _unaltered(what, run.trace, edited):
                continue
            then = parting(what, edited, reference)
            if then is not None and then.frame < _parts_at(what, run.trace, reference):
                return False
    return True


def _parts_at(what: Observable, own: Trace, reference: Trace) -> int:
    """The frame in which a run parts; one that is stopped parts there at the latest."""
    found = parting(what, own, reference)
    if found is not None:
        return found.frame
    return own.stopped.frame if own.stopped is not None else own.last_frame + 1


def _unaltered(what: Observable, before: Trace, after: Trace) -> bool:
    old, new = before.samples[what], after.samples[what]
    return before.last_frame == after.last_frame and old.frames == new.frames and old.values == new.values
