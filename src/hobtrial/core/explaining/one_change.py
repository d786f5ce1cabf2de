"""One change: small edits of a script, tried on its broken scenarios first and then on all.

An edit *shows* a slip when it mends at least one check and breaks none, when on what those checks
are about the edited run agrees with the reference's in every scenario that it alters, and when
the student's own run bears it out. Where several mistakes hide each other, no single edit can
agree: then one that puts off every parting is taken as a *step*, and stands only if what follows it
comes to agree in the end. The idea is that of mutation-based fault localisation
(Papadakis and Le Traon, 2015) with the reference's run as the oracle.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterable
from dataclasses import replace
from typing import Any, Final, Literal

from ..judging import (
    CLOSE,
    HELD,
    TRIALS_OF_AN_EDIT,
    Played,
    Prepared,
    parting,
    play_scenario,
    same_steps,
)
from ..script import Script, Woven, reread
from ..script.tree import apply
from ..trial import Trace
from .comparing import apart_on, mended_agree, puts_off, turned
from .cost import cost
from .finding import Edit
from .recorded import UNKNOWN, answer
from .slips.order import SLIPS, edits, narrower
from .slips.slip import Group
from .subject import Subject
from .tried import Budget, Tried
from .witness import seen

MOST_EDITS: Final = 600
"""Edits tried for one script."""

ASKED_OTHERWISE: Final = frozenset(("boundary", "flipped", "exact-only", "and-or", "wrong-amount", "always-true"))
"""Slips whose edits may change a test alone: what it would have answered is worked out before anything is played."""
UNSEEN: Final = "unseen"
"""A change that mends, but not as its slip would: another slip may write the same."""
TOO_EARLY: Final = "too early"
"""A change that does nothing for what goes wrong first: it may for something that goes wrong later."""
MOST_EXAMINED: Final = 4
"""Edits that are cross-examined at one place of a chain."""


def search(prepared: Prepared, subject: Subject, played: list[Played], budget: Budget) -> list[Tried]:
    """Tries the edits of a script; gives those that mend something, the likeliest first, steps last.

    `played` are all scenarios as they are now. The script's own edits come first. Those that copy code of the
    reference are asked only where none of the others mends everything and stands up to the drawn runs.
    """
    found: list[Tried] = []
    known: set[str] = set()
    ordered: list[Tried] = []
    later = any(len(set(partings.values())) > 1 for partings in subject.partings.values())
    for copied, early in ((False, True), (False, False), (True, False)):
        if not early and not copied and not later:
            continue
        dearest: int | None = None
        for price, edit, text in _cheapest_first(subject, known, copied=copied):
            if dearest is not None and price > dearest:
                break  # everything is mended for less
            if text in known:
                continue
            budget.spent = budget.spent or budget.edits >= MOST_EDITS
            if budget.spent:
                return _best_first(prepared, found, played, budget)
            tried = _try(prepared, edit, text, subject, played, budget, early=early)
            if tried is not UNSEEN and not (tried is TOO_EARLY and later):
                known.add(text)
            if isinstance(tried, Tried):
                tried = replace(tried, cost=price)
                if dearest is None and _mends_all(tried, played):
                    whole = _whole(prepared, tried, played, budget)
                    tried = tried if whole is None else examined(whole, budget)
                    dearest = price if tried.proven else None
                found.append(tried)
        ordered = _best_first(prepared, found, played, budget)
        if ordered and ordered[0].proven:
            break  # what is left comes on top of it
    return ordered


def _mends_all(tried: Tried, played: list[Played]) -> bool:
    """Whether an edit of the script's own words mends every check that is broken."""
    broken = sum(verdict.verdict != HELD for run in played for verdict in run.verdicts)
    return tried.firm and not tried.edit.copied and len(tried.mends) == broken


def _cheapest_first(subject: Subject, known: set[str], *, copied: bool) -> list[tuple[int, Edit, str]]:
    """The edits worth trying with what they cost and the texts that they give; of one cost the narrower come first."""
    script = subject.script.text
    found: list[tuple[int, Edit, str]] = []
    prices: dict[str, int] = {}
    for group in Group:
        for edit in edits(subject, group):
            if edit.copied is copied and edit.spans and _in_reach(edit, subject):
                text = apply(script, edit.spans)
                if text in known:
                    continue
                if text not in prices:
                    prices[text] = cost(script, text)
                found.append((prices[text] + edit.extra, edit, text))
    return sorted(found, key=lambda each: each[0])


def _best_first(prepared: Prepared, found: list[Tried], played: list[Played], budget: Budget) -> list[Tried]:
    """The likeliest first: of those that mend the same, the cheapest that stands up to the drawn runs."""
    ordered = sorted(found, key=_rank)
    for copied in (False, True):
        likely = _narrow_first([tried for tried in ordered if tried.firm and tried.edit.copied is copied])
        for tried in likely[:MOST_EXAMINED]:
            index = ordered.index(tried)
            whole = _whole(prepared, tried, played, budget)
            if whole is None:
                del ordered[index]
                continue
            ordered[index] = examined(whole, budget)
            if ordered[index].proven:
                return [ordered.pop(index), *ordered]
    while ordered:
        whole = _whole(prepared, ordered[0], played, budget)
        if whole is not None:
            return [whole, *ordered[1:]]
        ordered = ordered[1:]
    return ordered


def _narrow_first(ordered: list[Tried]) -> list[Tried]:
    """Of those that mend the same at the same cost, such as leave no room for another one stand before it."""
    if not ordered:
        return []
    first = ordered[0]
    equals = [tried for tried in ordered if tried.mends == first.mends and tried.cost == first.cost]
    stands = [tried for tried in equals if not any(narrower(other.edit, tried.edit) for other in equals)]
    return [*stands, *(tried for tried in ordered if tried not in stands)]


def _whole(prepared: Prepared, tried: Tried, before: list[Played], budget: Budget) -> Tried | None:
    """An edit with all trials of its wild scenarios, of which a few were played; nothing where it does not stand."""
    wild = [index for index, run in enumerate(before) if prepared.scenarios[run.number].spec.wild is not None]
    if tried.whole or not wild:
        return tried
    if not budget.take(sum(len(prepared.scenarios[before[index].number].plans) for index in wild)):
        return None
    after = list(tried.played)
    for index in wild:
        after[index] = play_scenario(prepared, tried.woven, before[index].number, like=before[index])
    budget.count(after[index] for index in wild)
    pairs = list(zip(before, after, strict=True))
    mends = {ref for old, new in pairs for ref in turned(old, new, held=True)}
    broken = {ref for old, new in pairs for ref in turned(old, new, held=False)}
    if (len(broken) >= len(mends) and not tried.eases) or (broken and (tried.firm or tried.eases)):
        return None
    return replace(tried, played=tuple(after), mends=frozenset(mends), whole=True)


def examined(tried: Tried, budget: Budget) -> Tried:
    """An edit with the answer of the drawn runs: whether it goes as the reference goes there too."""
    if tried.drawn is not None:
        return tried
    return replace(tried, drawn=budget.examination.answer(tried.woven, tried.about))


def _rank(tried: Tried) -> tuple[Any, ...]:
    """What makes one edit likelier than another, the strongest first."""
    index = list(SLIPS).index(tried.edit.slip)
    return (
        not tried.firm, tried.edit.copied, -len(tried.mends), tried.cost, tried.apart, tried.edit.group, index,
        len(tried.edit.spans), tried.edit.line,
    )  # fmt: skip


def _in_reach(edit: Edit, subject: Subject) -> bool:
    """Whether a broken scenario comes by the edit's lines before it parts: later lines cannot be what did it."""
    lines = {span.line for span in edit.spans}
    return edit.everywhere or any(
        _reaches(trace, lines, subject.last_parting[number]) for number, trace in subject.traces.items()
    )


def _reaches(trace: Trace, lines: set[int], last: int) -> bool:
    """Whether a trial ran any of the lines up to a frame; the heads of handlers count as run."""
    if trace.stopped is not None and trace.stopped.line in lines:
        return True
    return any(
        near in trace.lines and trace.lines[near][0][0] <= last for line in lines for near in (line, line + 1, line + 2)
    )


def _try(
    prepared: Prepared,
    edit: Edit,
    text: str,
    subject: Subject,
    played: list[Played],
    budget: Budget,
    *,
    early: bool,
) -> Tried | Literal["unseen", "too early"] | None:
    """An edit on the scenarios that show what went wrong and then on all; `early` asks for the first parting only."""
    lines = {span.line for span in edit.spans}
    last = subject.last_parting
    passed = [
        number for number, trace in subject.traces.items() if edit.everywhere or _reaches(trace, lines, last[number])
    ]
    reached = [number for number in passed if number in subject.probes] or passed[:1]
    if edit.slip in ASKED_OTHERWISE and _answers_alike(subject, reached, text, lines):
        budget.ruled_out += 1
        return None
    script = reread(text, subject.script)
    if script is None or not budget.take(len(reached)):
        return None
    budget.edits += 1
    woven = prepared.weave(script)
    try:
        woven.counting  # noqa: B018 - what Python cannot compile shows here
    except SyntaxError:
        return None
    if not any(_gets_on(prepared, woven, number, played[number], subject, budget, early) for number in reached):
        return TOO_EARLY if early else None
    if not budget.take(_trials(prepared, reached)):
        return None
    after = {
        number: play_scenario(prepared, woven, number, like=played[number], few=True, granted=budget.left)
        for number in reached
    }
    budget.count(after.values())
    mends = {ref for number in reached for ref in turned(played[number], after[number], held=True)}
    eased = frozenset(
        what
        for number in reached
        for what in subject.partings[number]
        if not mends and same_steps(what, after[number].trace, subject.theirs[number])
    )
    if (not mends and not eased) or not isinstance(prepared.read(text), Script):
        return None
    broken = {ref for number in reached for ref in turned(played[number], after[number], held=False)}
    probed = [played[number] for number in reached]
    first = eased | {what for number, index in mends for what in prepared.scenarios[number].checks[index].about}
    if not mended_agree(prepared, first, mends, probed, after) and not puts_off(prepared, first, probed, after):
        return None  # neither can come out over all scenarios any more
    others = [run.number for run in played if run.number not in after]
    if not budget.take(_trials(prepared, others)):
        return None
    for number in others:
        after[number] = play_scenario(prepared, woven, number, like=played[number], few=True, granted=budget.left)
        budget.count([after[number]])
        broken |= set(turned(played[number], after[number], held=False))
        if len(broken) > len(mends) + 1 or (eased and broken):
            return None
    mends = {ref for run in played for ref in turned(run, after[run.number], held=True)}
    if len(broken) >= len(mends) and not eased:
        return None  # a check may have held only because nothing happened, but not as many as that
    refs = mends | broken
    about = eased | {what for number, index in refs for what in prepared.scenarios[number].checks[index].about}
    firm = not broken and not eased and mended_agree(prepared, about, mends, played, after)
    if not firm and not puts_off(prepared, about, played, after):
        return None
    facts = witnessed(edit, {number for number, _ in mends} & set(subject.traces) or set(reached), subject)
    if facts is None:
        return UNSEEN
    found, scenario = facts
    ordered = tuple(after[run.number] for run in played)
    apart = apart_on(prepared, played, after)
    return Tried(edit, text, woven, ordered, frozenset(mends), found, scenario, about, 0, firm, bool(eased), apart)


def _answers_alike(subject: Subject, numbers: Iterable[int], text: str, lines: set[int]) -> bool:
    """Whether an edit of one test would have answered every time just as the script did, by what was recorded."""
    if len(lines) != 1:
        return False
    line = next(iter(lines))
    changed = text.split("\n")[line - 1].strip()
    found = re.fullmatch(r"(?:if|elif|while)\b(.+):", changed)
    if found is None:
        return False
    try:
        test = ast.parse(found[1].strip(), mode="eval").body
    except SyntaxError:
        return False
    for number in numbers:
        trace, last = subject.traces[number], subject.last_parting[number]
        if trace.thinned:
            return False
        for asked in trace.tests:
            if asked.line == line and asked.frame <= last + CLOSE:
                given = answer(test, dict(asked.parts))
                if given is UNKNOWN or bool(given) is not asked.answer:
                    return False
    return True


def _gets_on(
    prepared: Prepared, woven: Woven, number: int, before: Played, subject: Subject, budget: Budget, first: bool
) -> bool:
    """Whether an edited script parts later than before, or no more, on anything that is broken in a scenario.

    Only the trial that was looked at is played, and only to where the script itself parts: for the first time, or for
    the last.
    """
    partings = subject.partings[number]
    if first and partings:
        begins = min(partings.values())
        partings = {what: frame for what, frame in partings.items() if frame <= begins + CLOSE}
    scenario = prepared.scenarios[number]
    if not partings:
        return True
    plan = scenario.plans[before.trial]
    until = min(plan.last_frame, max(partings.values()) + CLOSE + 2)
    edited = prepared.play_plan(woven, scenario, replace(plan, last_frame=until), passes=budget.left)
    budget.add(edited.passes, edited.last_frame + 1)
    theirs = subject.theirs[number]
    for what, frame in partings.items():
        now = parting(what, edited, theirs)
        stopped = edited.stopped is not None and edited.stopped.frame <= frame
        if not stopped and (now is None or now.frame > frame):
            return True
    return False


def _trials(prepared: Prepared, numbers: list[int]) -> int:
    """How many trials scenarios have for an edited script."""
    return sum(min(len(prepared.scenarios[number].plans), TRIALS_OF_AN_EDIT) for number in numbers)


def witnessed(edit: Edit, numbers: set[int], subject: Subject) -> tuple[dict[str, Any], int] | None:
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
