"""All slips, the order in which they are tried, and which of two that explain the same is the narrower.

Slips of one group are tried together. Where some of them mend everything, no broader group is
asked. Of two that mend the same checks, the one of the narrower group stands alone, in a group
the one that `NARROWER` names first.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator
from dataclasses import replace
from types import ModuleType
from typing import Final

from ..finding import Edit
from ..recognition import Seen
from ..subject import Subject
from .slip import Facts, Group, Slip

NARROWER: Final[tuple[tuple[str, str], ...]] = (
    ("half-reset", "stale-display"),
    ("change-for-set", "half-reset"),
    ("set-again", "half-reset"),
    ("no-once-guard", "and-or"),
    ("no-once-guard", "exact-only"),
    ("no-once-guard", "overwritten"),
    ("handled-twice", "overwritten"),
    ("handled-twice", "set-again"),
    ("wrong-indent", "stale-display"),
    ("stale-display", "number-for-variable"),
    ("wrong-formula", "no-feedback"),
    ("misspelt-name", "text-and-number"),
    ("missing-global", "misspelt-name"),
    ("always-true", "text-and-number"),
    ("assign-for-compare", "always-true"),
    ("gone-piece", "starter-left-in"),
    ("every-frame", "not-registered"),
    ("boundary", "number-for-variable"),
    ("exact-only", "boundary"),
    ("both-ends", "branch-order"),
    ("both-ends", "split-chain"),
    ("branch-order", "boundary"),
    ("split-chain", "wrong-indent"),
    ("restarts-mid-game", "flipped"),
    ("reset-too-much", "set-again"),
    ("reset-too-much", "overwritten"),
    ("set-again", "wrong-indent"),
    ("set-again", "wrong-start"),
    ("overwritten", "wrong-indent"),
    ("overwritten", "set-for-change"),
    ("number-for-variable", "flipped"),
    ("wrong-sign", "wrong-amount"),
    ("flipped", "wrong-amount"),
    ("set-for-change", "change-for-set"),
    ("change-for-set", "wrong-sign"),
    ("once-only", "wrong-indent"),
    ("best-always-replaced", "wrong-indent"),
    ("and-or", "split-chain"),
    ("not-removed", "wrong-event"),
    ("missing-limit", "acts-after-end"),
    ("acts-after-end", "update-order"),
    ("win-not-told", "missing-limit"),
    ("no-end", "missing-condition"),
    ("wrong-formula", "always-true"),
    ("missing-condition", "always-true"),
)
"""Where both explain the same checks, the first of each pair stands alone; so does what stands before the first."""

RIVALS: Final = frozenset(
    (("boundary", "wrong-amount"), ("exact-only", "wrong-amount"), ("flipped", "wrong-amount"),
     ("wrong-amount", "wrong-variable"), ("wrong-start", "wrong-variable"))
)  # fmt: skip
"""Pairs where both can be meant, if they change different lines or how a value is asked for, as `==` does."""

TRIED: Final = (
    "misspelt-name missing-global no-call no-effect assign-for-compare event-as-question name-twice "
    "not-registered text-and-number not-a-member unheard-message starter-left-in always-true gone-piece "
    "every-frame boundary set-for-change change-for-set wrong-sign flipped exact-only and-or other-name "
    "wrong-owner wrong-start number-for-variable wrong-amount wrong-range both-ends split-chain branch-order "
    "restarts-mid-game set-again reset-too-much wrong-indent best-always-replaced overwritten once-only "
    "half-reset no-once-guard handled-twice stale-display wrong-event not-removed update-order acts-after-end "
    "extra-condition missing-else missing-limit win-not-told never-set wrong-variable missing-condition no-end "
    "wrong-formula no-feedback no-handler "
).split()
"""The order within each group: of two slips that would write the same text, the first is asked. A slip that is not
listed comes after those of its group that are.
"""

RECOGNISED: Final = (
    "gone-piece",
    "missing-global",
    "misspelt-name",
    "name-twice",
    "never-set",
    "not-registered",
    "no-handler",
    "fixed-result",
    "no-feedback",
    "no-end",
    "unheard-message",
    "missing-else",
    "missing-limit",
    "missing-condition",
)
"""The order in which slips are looked for in what no edit explains; the first that is settled stands."""


def _modules() -> list[ModuleType]:
    folder = __name__.rpartition(".")[0]
    names = sorted(each.name for each in pkgutil.iter_modules(importlib.import_module(folder).__path__))
    return [importlib.import_module(f"{folder}.{name}") for name in names if name not in ("order", "slip")]


def _all_slips() -> dict[str, Slip]:
    """Every slip of this folder by its id, from narrow to broad."""
    found: list[Slip] = [module.SLIP for module in _modules()]
    indices = {slip: index for index, slip in enumerate(TRIED)}
    ordered = sorted(found, key=lambda slip: (slip.group, indices.get(slip.id, len(TRIED)), slip.id))
    return {slip.id: slip for slip in ordered}


def documentation() -> dict[str, str]:
    """For each slip what the head of its file says of it."""
    return {module.SLIP.id: module.__doc__ or "" for module in _modules()}


def _closed(pairs: tuple[tuple[str, str], ...]) -> frozenset[tuple[str, str]]:
    """The pairs and whatever follows from them."""
    found = set(pairs)
    while True:
        more = {(first, last) for first, middle in found for again, last in found if middle == again} - found
        if not more:
            return frozenset(found)
        found |= more


SLIPS: Final[dict[str, Slip]] = _all_slips()
_BEFORE: Final = _closed(NARROWER)


def edits(subject: Subject, group: Group) -> Iterator[Edit]:
    """All edits of a group worth trying on a script, slip by slip; each knows its group."""
    for slip in SLIPS.values():
        if slip.group == group and slip.edits is not None:
            yield from (replace(edit, group=group) for edit in slip.edits(subject))
        if group == Group.REFERENCE and slip.broad is not None:
            yield from (replace(edit, group=group) for edit in slip.broad(subject))


def narrower(a: Edit, b: Edit) -> bool:
    """Whether the first edit's slip leaves no room for the second's, where both explain the same."""
    elsewhere = {span.line for span in a.spans} != {span.line for span in b.spans}
    both = elsewhere or (a.slip == "exact-only" and "sign" in a.facts) or " != " in str(a.facts.get("right"))
    if (a.slip, b.slip) in RIVALS and both:
        return False
    return a.group < b.group or (a.group == b.group and (a.slip, b.slip) in _BEFORE)


def recognise(seen: Seen) -> tuple[str, Facts] | None:
    """The slip that a cause can only come from, with the facts that its texts need; nothing where that is open."""
    for slip in RECOGNISED:
        ask = SLIPS[slip].recognise
        assert ask is not None
        facts = ask(seen)
        if facts is not None:
            return slip, facts
    return None
