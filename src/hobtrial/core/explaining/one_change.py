"""One change: small edits of a script, tried on its broken scenarios first and then on all.

An edit *shows* a slip when it mends at least one check and breaks none, when on what those checks
are about the edited run agrees with the reference's in every scenario that it alters, and when
the student's own run bears it out. The idea is that of mutation-based fault localisation
(Papadakis and Le Traon, 2015) with the reference's run as the oracle.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any, Final

from ..judging import HELD, Played, Prepared, play_scenario
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


@dataclass
class Budget:
    """Counts what was tried, so that the same input gives the same report."""

    edits: int = 0
    trials: int = 0
    spent: bool = field(default=False)

    def take(self, trials: int) -> bool:
        """Whether so many more trials may be played."""
        if self.trials + trials > MOST_TRIALS:
            self.spent = True
            return False
        self.trials += trials
        return True


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
    """Tries the edits of a script; gives those that show a slip, the best first.

    `played` are all scenarios as they are now, `traces` the full traces of those that are broken.
    """
    shown: list[Tried] = []
    broken = [run.number for run in played if run.broken]
    for edit in candidates(prepared, script):
        if budget.edits >= MOST_EDITS:
            budget.spent = True
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


def _rank(tried: Tried) -> tuple[int, int, int]:
    return (-len(tried.mends), tried.edit.size, tried.edit.line)


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
    if not isinstance(reading, Script) or not budget.take(len(reached)):
        return None
    woven = prepared.weave(reading)
    after = {number: play_scenario(prepared, woven, number) for number in reached}
    mends = {ref for number in reached for ref in _now(played[number], after[number], held=True)}
    if not mends or any(_now(played[number], after[number], held=False) for number in reached):
        return None
    others = [run.number for run in played if run.number not in after]
    if not budget.take(len(others)):
        return None
    after |= {number: play_scenario(prepared, woven, number) for number in others}
    breaks = {ref for run in played for ref in _now(run, after[run.number], held=False)}
    if breaks or not _agrees(prepared, mends, played, after):
        return None
    facts = _witnessed(edit, {number for number, _ in mends}, traces)
    if facts is None:
        return None
    found, scenario = facts
    ordered = tuple(after[run.number] for run in played)
    return Tried(edit, text, ordered, frozenset(mends), frozenset(breaks), found, scenario)


def _now(before: Played, after: Played, *, held: bool) -> list[CheckRef]:
    """The checks that hold now and did not before (or the other way round)."""
    pairs = zip(before.verdicts, after.verdicts, strict=True)
    return [
        (before.number, place)
        for place, (old, new) in enumerate(pairs)
        if (new.verdict == HELD) is held and (old.verdict == HELD) is not held
    ]


def _agrees(prepared: Prepared, mends: set[CheckRef], played: list[Played], after: dict[int, Played]) -> bool:
    """Whether, on what the mended checks are about, the edited runs go as the reference's do."""
    about: set[Observable] = set()
    for number, place in mends:
        about.update(prepared.courses[number].checks[place][1].needs)
    for run in played:
        edited = after[run.number]
        course = prepared.courses[run.number]
        for what in about & set(edited.trace.samples):
            mended_here = any(number == run.number and what in course.checks[place][1].needs for number, place in mends)
            if not mended_here and _unaltered(what, run.trace, edited.trace):
                continue
            if parting(what, edited.trace, prepared.reference_trace(run.number)) is not None:
                return False
    return True


def _unaltered(what: Observable, before: Trace, after: Trace) -> bool:
    old, new = before.samples[what], after.samples[what]
    return before.last_frame == after.last_frame and old.frames == new.frames and old.values == new.values


def _witnessed(edit: Edit, numbers: set[int], traces: dict[int, Trace]) -> tuple[dict[str, Any], int] | None:
    for number in sorted(numbers):
        facts = WITNESSES[edit.slip](edit, traces[number])
        if facts is not None:
            return facts, number
    return None
