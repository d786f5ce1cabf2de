"""One change: small edits of a script, tried on its broken scenarios first and then on all.

An edit *shows* a slip when it mends at least one check and breaks none, when on what those checks
are about the edited run agrees with the reference's in every scenario that it alters, and when
the student's own run bears it out. Where several mistakes hide each other, no single edit can
agree: then one that puts off every parting is taken as a *step*, and stands only if what follows it
comes to agree in the end. The idea is that of mutation-based fault localisation
(Papadakis and Le Traon, 2015) with the reference's run as the oracle.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any, Final

from ..judging import HELD, TRIALS_OF_AN_EDIT, Played, Prepared, parting, play_scenario, reference_of, same_steps
from ..script import Script
from ..script.tree import apply
from ..trial import Observable, Trace
from .finding import CheckRef, Edit
from .slips.order import SLIPS, edits, narrower
from .slips.slip import Group
from .subject import Subject
from .witness import seen

MOST_EDITS: Final = 600
"""Edits tried for one script."""
MOST_TRIALS: Final = 2_000
"""Trials played for one script's edits: four seconds of processor time for short scenarios."""

MOST_PASSES: Final = 10_000_000
"""Loop passes and calls of all those trials together: five seconds of processor time for heavy scripts."""


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
    apart: int = 0
    """On how many things, over all scenarios, the edited runs still part from the reference's."""
    strays: int = 0
    """On how many of them the script's own run did not."""


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


def search(prepared: Prepared, subject: Subject, played: list[Played], budget: Budget) -> list[Tried]:
    """Tries the edits of a script, the narrowest slips first; gives those that show a slip, then the steps.

    The best stands first. `played` are all scenarios as they are now. A broader group is not asked
    where a narrower one has an edit that mends everything.
    """
    shown: list[Tried] = []
    wanted = {
        (run.number, index)
        for run in played
        if run.number in subject.traces
        for index, each in enumerate(run.verdicts)
        if each.verdict != HELD
    }
    known: set[str] = set()
    for group in Group:
        for edit in edits(subject, group):
            if not edit.spans or not _in_reach(edit, subject):
                continue
            text = apply(subject.script.text, edit.spans)
            if text in known:
                continue
            known.add(text)
            if budget.edits >= MOST_EDITS:
                budget.spent = True
            if budget.spent:
                return _ordered(shown)
            tried = _try(prepared, edit, text, subject, played, budget)
            if tried is not None:
                shown.append(tried)
        if any(tried.firm and tried.mends == wanted and not tried.strays for tried in shown):
            break
    return _ordered(shown)


def _ordered(shown: list[Tried]) -> list[Tried]:
    """The best first; of those that mend the same, one that a narrower one explains comes after that."""
    found = sorted(shown, key=_rank)
    if not found:
        return []
    equals = [tried for tried in found if tried.firm == found[0].firm and tried.mends == found[0].mends]
    equals = [tried for tried in equals if tried.apart == found[0].apart]
    best = next(
        (
            tried for tried in equals
            if not any(narrower(other.edit, tried.edit) for other in equals if other is not tried)
        ),
        found[0],
    )  # fmt: skip
    return [best, *(tried for tried in found if tried is not best)]


def _in_reach(edit: Edit, subject: Subject) -> bool:
    return edit.everywhere or any(
        _reaches(trace, {span.line for span in edit.spans}) for trace in subject.traces.values()
    )


def _rank(tried: Tried) -> tuple[bool, int, int, int, int, int]:
    return (
        not tried.firm, -len(tried.mends), tried.apart, tried.edit.group, tried.edit.size, tried.edit.line,
    )  # fmt: skip


def _reaches(trace: Trace, lines: set[int]) -> bool:
    """Whether a trial ran any of the lines; the heads of handlers count as run."""
    if trace.stopped is not None and trace.stopped.line in lines:
        return True
    return any(line in trace.lines or line + 1 in trace.lines or line + 2 in trace.lines for line in lines)


def _try(
    prepared: Prepared, edit: Edit, text: str, subject: Subject, played: list[Played], budget: Budget
) -> Tried | None:
    lines = {span.line for span in edit.spans}
    passed = [number for number, trace in subject.traces.items() if edit.everywhere or _reaches(trace, lines)]
    reached = [number for number in passed if number in subject.probes] or passed[:1]
    reading = prepared.read(text)
    if not isinstance(reading, Script) or not budget.take(_trials(prepared, reached)):
        return None
    budget.edits += 1
    woven = prepared.weave(reading)
    after = {number: play_scenario(prepared, woven, number, like=played[number], few=True) for number in reached}
    budget.count(after.values())
    mends = {ref for number in reached for ref in _now(played[number], after[number], held=True)}
    if not mends or any(_now(played[number], after[number], held=False) for number in reached):
        return None
    probed = [played[number] for number in reached]
    first = frozenset(what for number, index in mends for what in prepared.scenarios[number].checks[index].about)
    if not _agrees(prepared, first, mends, probed, after) and not _puts_off(prepared, first, probed, after):
        return None  # neither can come out over all scenarios any more
    others = [run.number for run in played if run.number not in after]
    if not budget.take(_trials(prepared, others)):
        return None
    for number in others:
        after[number] = play_scenario(prepared, woven, number, like=played[number], few=True)
        budget.count([after[number]])
        if _now(played[number], after[number], held=False):
            return None
    mends = {ref for run in played for ref in _now(run, after[run.number], held=True)}
    about = frozenset(what for number, index in mends for what in prepared.scenarios[number].checks[index].about)
    firm = _agrees(prepared, about, mends, played, after)
    if not firm and not _puts_off(prepared, about, played, after):
        return None
    facts = _witnessed(edit, {number for number, _ in mends} & set(subject.traces), subject)
    if facts is None:
        return None
    found, scenario = facts
    wild = [run.number for run in played if prepared.scenarios[run.number].spec.wild is not None]
    if not budget.take(sum(len(prepared.scenarios[number].plans) for number in wild)):
        return None
    whole = {number: play_scenario(prepared, woven, number, like=played[number]) for number in wild}
    budget.count(whole.values())
    after |= whole
    mends = {ref for run in played for ref in _now(run, after[run.number], held=True)}
    if not mends or any(_now(run, after[run.number], held=False) for run in played):
        return None
    ordered = tuple(after[run.number] for run in played)
    apart, strays = _apart(prepared, played, after)
    return Tried(edit, text, ordered, frozenset(mends), frozenset(), found, scenario, about, firm, apart, strays)


def _apart(prepared: Prepared, played: list[Played], after: dict[int, Played]) -> tuple[int, int]:
    """On how many things the edited runs part from the reference's, and on how many of them the script's did not."""
    apart = strays = 0
    for run in played:
        edited, reference = after[run.number].trace, reference_of(prepared, run)
        for what in set(edited.samples) & set(reference.samples):
            if not same_steps(what, edited, reference):
                apart += 1
                strays += same_steps(what, run.trace, reference)
    return apart, strays


def _trials(prepared: Prepared, numbers: list[int]) -> int:
    """How many trials scenarios have for an edited script."""
    return sum(min(len(prepared.scenarios[number].plans), TRIALS_OF_AN_EDIT) for number in numbers)


def _now(before: Played, after: Played, *, held: bool) -> list[CheckRef]:
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
        scenario = prepared.scenarios[run.number]
        for what in about & set(edited.trace.samples):
            mended_here = any(number == run.number and what in scenario.checks[index].about for number, index in mends)
            if not mended_here and _unaltered(what, run.trace, edited.trace):
                continue
            if not same_steps(what, edited.trace, reference_of(prepared, run)):
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


def _witnessed(edit: Edit, numbers: set[int], subject: Subject) -> tuple[dict[str, Any], int] | None:
    """The evidence of the student's own run, and the scenario that it is from; nothing where no run bears it out."""
    own = SLIPS[edit.slip].witness
    hidden = [not scenario.spec.visible for scenario in subject.prepared.scenarios]
    for number in sorted(numbers, key=lambda number: (hidden[number], number)):
        trace = subject.traces[number]
        general = seen(edit, trace, subject.parts[number])
        facts = own(edit, trace) if own is not None else {}
        if facts is not None and (general is not None or own is not None):
            return {**(general or {}), **facts}, number
    return None
