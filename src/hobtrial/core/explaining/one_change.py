"""One change: small edits of a script, tried on its broken scenarios first and then on all.

An edit *shows* a slip when it mends at least one check and breaks none, when on what those checks
are about the edited run agrees with the reference's in every scenario that it alters, and when
the student's own run bears it out. Where several mistakes hide each other, no single edit can
agree: then one that puts off every parting is taken as a *step*, and stands only if what follows it
comes to agree in the end. The idea is that of mutation-based fault localisation
(Papadakis and Le Traon, 2015) with the reference's run as the oracle.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any, Final

from ..judging import HELD, TRIALS_OF_AN_EDIT, Played, Prepared, play_scenario, reference_of
from ..script import DIRECT, Script
from ..trial import GAME_NAMES, Observable, Trace
from .edits import apply
from .finding import CheckRef, Edit
from .parting import parting
from .slips import boundary, every_frame, misspelt_name, set_for_change

MOST_EDITS: Final = 200
"""Edits tried for one script."""
MOST_TRIALS: Final = 1_000
"""Trials played for one script's edits: two seconds of processor time for short scenarios."""

MOST_PASSES: Final = 10_000_000
"""Loop passes and calls of all those trials together: five seconds of processor time for heavy scripts."""

Witness = Callable[[Edit, Trace], dict[str, Any] | None]
WITNESSES: Final[dict[str, Witness]] = {
    boundary.SLIP: boundary.witness,
    every_frame.SLIP: every_frame.witness,
    misspelt_name.SLIP: misspelt_name.witness,
    set_for_change.SLIP: set_for_change.witness,
}


@dataclass(frozen=True, eq=False)
class Tried:
    """An edit that was tried on all scenarios."""

    edit: Edit
    text: str
    played: tuple[Played, ...]
    mends: frozenset[CheckRef]
    breaks: frozenset[CheckRef]
    facts: dict[str, Any]
    scenario: int
    about: frozenset[Observable]
    """What the mended checks are about."""
    firm: bool
    """Whether the edited runs agree with the reference's; else it is only a step."""


@dataclass
class Budget:
    """Counts what was tried, so that the same input gives the same report."""

    edits: int = 0
    trials: int = 0
    passes: int = 0
    spent: bool = field(default=False)

    def take(self, trials: int) -> bool:
        """Whether so many more trials may be played."""
        if self.trials + trials > MOST_TRIALS:
            self.spent = True
            return False
        self.trials += trials
        return True

    def count(self, played: Iterable[Played]) -> None:
        """Counts the work of trials that were played."""
        self.passes += sum(run.passes for run in played)
        self.spent = self.spent or self.passes > MOST_PASSES


def candidates(prepared: Prepared, script: Script) -> Iterator[Edit]:
    """All edits worth trying on a script, slip by slip."""
    variables = prepared.exercise.settings.variable
    asked = [each.name for each in variables]
    given = GAME_NAMES | DIRECT | prepared.taken | {"str", "list", "dict", "set", "tuple"}
    labels = [each.label for each in variables if each.label]
    yield from misspelt_name.edits(script, asked, given, labels)
    yield from every_frame.edits(script)
    yield from boundary.edits(script)
    yield from set_for_change.edits(script)


def search(
    prepared: Prepared, script: Script, played: list[Played], traces: dict[int, Trace], budget: Budget
) -> list[Tried]:
    """Tries the edits of a script; gives those that show a slip, the best first, then the steps.

    `played` are all scenarios as they are now, `traces` the full traces of those that are broken.
    """
    shown: list[Tried] = []
    broken = [run.number for run in played if run.broken]
    for edit in candidates(prepared, script):
        if budget.edits >= MOST_EDITS:
            budget.spent = True
        if budget.spent:
            break
        lines = {span.line for span in edit.spans}
        reached = [number for number in broken if _reaches(traces[number], lines)]
        if not reached:
            continue
        budget.edits += 1
        tried = _try(prepared, edit, script, played, traces, reached, budget)
        if tried is not None:
            shown.append(tried)
    return sorted(shown, key=_rank)


def _rank(tried: Tried) -> tuple[bool, int, int, int]:
    return (not tried.firm, -len(tried.mends), tried.edit.size, tried.edit.line)


def _reaches(trace: Trace, lines: set[int]) -> bool:
    """Whether a trial ran any of the lines; the heads of handlers count as run."""
    if trace.stopped is not None and trace.stopped.line in lines:
        return True
    return any(line in trace.lines or line + 1 in trace.lines or line + 2 in trace.lines for line in lines)


def _try(
    prepared: Prepared,
    edit: Edit,
    script: Script,
    played: list[Played],
    traces: dict[int, Trace],
    reached: list[int],
    budget: Budget,
) -> Tried | None:
    text = apply(script.text, edit)
    reading = prepared.read(text)
    if not isinstance(reading, Script) or not budget.take(_trials(prepared, reached)):
        return None
    woven = prepared.weave(reading)
    after = {number: play_scenario(prepared, woven, number, like=played[number], few=True) for number in reached}
    budget.count(after.values())
    mends = {ref for number in reached for ref in _now(played[number], after[number], held=True)}
    if not mends or any(_now(played[number], after[number], held=False) for number in reached):
        return None
    others = [run.number for run in played if run.number not in after]
    if not budget.take(_trials(prepared, others)):
        return None
    rest = {number: play_scenario(prepared, woven, number, like=played[number], few=True) for number in others}
    budget.count(rest.values())
    after |= rest
    breaks = {ref for run in played for ref in _now(run, after[run.number], held=False)}
    if breaks:
        return None
    about = frozenset(what for number, place in mends for what in prepared.courses[number].checks[place].about)
    firm = _agrees(prepared, about, mends, played, after)
    if not firm and not _puts_off(prepared, about, played, after):
        return None
    facts = _witnessed(edit, {number for number, _ in mends}, traces)
    if facts is None:
        return None
    found, scenario = facts
    wild = [run.number for run in played if prepared.courses[run.number].scenario.wild is not None]
    if not budget.take(sum(len(prepared.courses[number].plans) for number in wild)):
        return None
    whole = {number: play_scenario(prepared, woven, number, like=played[number]) for number in wild}
    budget.count(whole.values())
    after |= whole
    mends = {ref for run in played for ref in _now(run, after[run.number], held=True)}
    if not mends or any(_now(run, after[run.number], held=False) for run in played):
        return None
    ordered = tuple(after[run.number] for run in played)
    return Tried(edit, text, ordered, frozenset(mends), frozenset(breaks), found, scenario, about, firm)


def _trials(prepared: Prepared, numbers: list[int]) -> int:
    """How many trials scenarios have for an edited script."""
    return sum(min(len(prepared.courses[number].plans), TRIALS_OF_AN_EDIT) for number in numbers)


def _now(before: Played, after: Played, *, held: bool) -> list[CheckRef]:
    """The checks that hold now and did not before (or the other way round)."""
    pairs = zip(before.verdicts, after.verdicts, strict=True)
    return [
        (before.number, place)
        for place, (old, new) in enumerate(pairs)
        if (new.verdict == HELD) is held and (old.verdict == HELD) is not held
    ]


def agrees(prepared: Prepared, about: frozenset[Observable], played: Iterable[Played]) -> bool:
    """Whether runs go as the reference's do on some things, in all scenarios."""
    return all(
        parting(what, run.trace, reference_of(prepared, run)) is None
        for run in played
        for what in about & set(run.trace.samples)
    )


def _agrees(
    prepared: Prepared,
    about: frozenset[Observable],
    mends: set[CheckRef],
    played: list[Played],
    after: dict[int, Played],
) -> bool:
    """Whether, on what the mended checks are about, the edited runs go as the reference's do."""
    for run in played:
        edited = after[run.number]
        course = prepared.courses[run.number]
        for what in about & set(edited.trace.samples):
            mended_here = any(number == run.number and what in course.checks[place].about for number, place in mends)
            if not mended_here and _unaltered(what, run.trace, edited.trace):
                continue
            if parting(what, edited.trace, reference_of(prepared, run)) is not None:
                return False
    return True


def _puts_off(prepared: Prepared, about: frozenset[Observable], played: list[Played], after: dict[int, Played]) -> bool:
    """Whether each run that the edit alters parts later than before, or no more."""
    for run in played:
        edited, reference = after[run.number].trace, reference_of(prepared, run)
        for what in about & set(edited.samples):
            if _unaltered(what, run.trace, edited):
                continue
            then = parting(what, edited, reference)
            if then is not None and then.frame <= _parts_at(what, run.trace, reference):
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


def _witnessed(edit: Edit, numbers: set[int], traces: dict[int, Trace]) -> tuple[dict[str, Any], int] | None:
    for number in sorted(numbers):
        facts = WITNESSES[edit.slip](edit, traces[number])
        if facts is not None:
            return facts, number
    return None
