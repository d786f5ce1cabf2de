"""One change: small edits of a script, tried on its broken scenarios first and then on all.

An edit *shows* a slip when it mends at least one check and breaks none, when on what those checks
are about the edited run agrees with the reference's in every scenario that it alters, and when
the student's own run bears it out. Where several mistakes hide each other, no single edit can
agree: then one that puts off every parting is taken as a *step*, and stands only if what follows it
comes to agree in the end. The idea is that of mutation-based fault localisation
(Papadakis and Le Traon, 2015) with the reference's run as the oracle.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any, Final

from ..judging import HELD, Played, Prepared, play_scenario
from ..script.tree import apply
from .comparing import turned
from .cost import cost
from .finding import Edit
from .slips.order import SLIPS, edits, narrower
from .slips.slip import Group
from .subject import Subject
from .tried import Budget, Tried
from .trying import TOO_EARLY, UNSEEN, reaches, try_edit

MOST_EDITS: Final = 600
"""Edits tried for one script."""
LARGEST: Final = 20_000
"""Statements times variables of a script: of a larger one no edits are made up, which takes as many steps and more."""

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
    if len(subject.statements) * len(subject.variables) > LARGEST:
        budget.spent = True
        return []
    later = any(len(set(partings.values())) > 1 for partings in subject.partings.values())
    reached = [edit for group in Group for edit in edits(subject, group) if edit.spans and _in_reach(edit, subject)]
    own = _cheapest_first(subject, [edit for edit in reached if not edit.copied], known)
    for copied, early in ((False, True), (False, False), (True, False)):
        if not early and not copied and not later:
            continue
        best: Tried | None = None
        worth = _cheapest_first(subject, [edit for edit in reached if edit.copied], known) if copied else own
        for price, edit, text in worth:
            if best is not None and price > best.cost:
                break  # everything is mended for less
            if text in known or (best is not None and _stands_behind(edit, best)):
                continue
            budget.spent = budget.spent or budget.edits >= MOST_EDITS
            if budget.spent:
                return _best_first(prepared, found, played, budget)
            tried = try_edit(prepared, edit, text, subject, played, budget, early=early)
            if tried is not UNSEEN and not (tried is TOO_EARLY and later):
                known.add(text)
            if isinstance(tried, Tried):
                tried = replace(tried, cost=price)
                if best is None and _mends_all(tried, played):
                    whole = _whole(prepared, tried, played, budget)
                    tried = tried if whole is None else examined(whole, budget)
                    best = tried if tried.proven else None
                found.append(tried)
        ordered = _best_first(prepared, found, played, budget)
        if ordered and ordered[0].proven:
            break  # what is left comes on top of it
    return ordered


def _mends_all(tried: Tried, played: list[Played]) -> bool:
    """Whether an edit of the script's own words mends every check that is broken."""
    broken = sum(verdict.verdict != HELD for run in played for verdict in run.verdicts)
    return tried.firm and not tried.edit.copied and len(tried.mends) == broken


def _stands_behind(edit: Edit, best: Tried) -> bool:
    """Whether an edit that costs as much as one that is proven could neither be likelier than it nor a rival to it."""
    if best.apart:
        return False
    if edit.slip != best.edit.slip:
        return narrower(best.edit, edit)
    return (edit.group, len(edit.spans), edit.line) >= (best.edit.group, len(best.edit.spans), best.edit.line)


def _cheapest_first(subject: Subject, reached: list[Edit], known: set[str]) -> list[tuple[int, Edit, str]]:
    """Edits with what they cost and the texts that they give, without texts that are known; of one cost the narrower
    come first.
    """
    script = subject.script.text
    found: list[tuple[int, Edit, str]] = []
    prices: dict[str, int] = {}
    for edit in reached:
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
        reaches(trace, lines, subject.last_parting[number]) for number, trace in subject.traces.items()
    )
