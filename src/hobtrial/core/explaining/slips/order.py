"""The order in which slips are tried, and which of two that explain the same is the narrower.

Slips of one group are tried together. Where some of them mend everything, no broader group is
asked. Of two that mend the same checks, the one of the narrower group stands alone, in a group
the one that `NARROWER` names first.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, Final

from ...trial import Trace
from ..finding import Edit
from ..subject import Subject
from . import (
    acts_after_end,
    always_true,
    and_or,
    assign_for_compare,
    best_always_replaced,
    both_ends,
    boundary,
    branch_order,
    change_for_set,
    event_as_question,
    every_frame,
    exact_only,
    flipped,
    gone_piece,
    half_reset,
    handled_twice,
    missing_condition,
    missing_else,
    missing_global,
    missing_limit,
    misspelt_name,
    name_twice,
    never_set,
    no_call,
    no_effect,
    no_end,
    no_feedback,
    no_handler,
    no_once_guard,
    not_a_member,
    not_registered,
    not_removed,
    number_for_variable,
    once_only,
    other_name,
    overwritten,
    reset_too_much,
    restarts_mid_game,
    same_answer,
    set_again,
    set_for_change,
    split_chain,
    stale_display,
    starter_left_in,
    text_and_number,
    unheard_message,
    update_order,
    win_not_told,
    wrong_amount,
    wrong_event,
    wrong_formula,
    wrong_indent,
    wrong_owner,
    wrong_range,
    wrong_sign,
    wrong_start,
    wrong_variable,
)

GROUPS: Final = (
    (
        misspelt_name, missing_global, no_call, no_effect, assign_for_compare, event_as_question, name_twice,
        not_registered, text_and_number, not_a_member, unheard_message, starter_left_in, always_true, gone_piece,
        every_frame,
    ),
    (
        boundary, set_for_change, change_for_set, wrong_sign, flipped, exact_only, and_or, other_name,
        wrong_owner, wrong_start, number_for_variable, wrong_amount, wrong_range, both_ends, split_chain, branch_order,
        restarts_mid_game, set_again, reset_too_much, wrong_indent, best_always_replaced, overwritten,
        once_only, half_reset, no_once_guard, handled_twice, stale_display,
    ),
    (
        wrong_event, not_removed, update_order, acts_after_end, missing_else, missing_limit, win_not_told, never_set,
    ),
    (wrong_variable,),
    (missing_condition, no_end, wrong_formula, no_feedback, same_answer),
    (no_handler,),
)  # fmt: skip
"""From the narrowest to the broadest."""

NARROWER: Final[tuple[tuple[str, str], ...]] = (
    ("starter-left-in", "handled-twice"),
    ("half-reset", "stale-display"),
    ("change-for-set", "half-reset"),
    ("set-again", "half-reset"),
    ("both-ends", "stale-display"),
    ("both-ends", "boundary"),
    ("both-ends", "number-for-variable"),
    ("no-once-guard", "and-or"),
    ("no-once-guard", "flipped"),
    ("no-once-guard", "exact-only"),
    ("no-once-guard", "boundary"),
    ("no-once-guard", "wrong-indent"),
    ("no-once-guard", "wrong-amount"),
    ("no-once-guard", "overwritten"),
    ("handled-twice", "wrong-amount"),
    ("handled-twice", "overwritten"),
    ("handled-twice", "wrong-sign"),
    ("handled-twice", "set-again"),
    ("overwritten", "stale-display"),
    ("wrong-indent", "stale-display"),
    ("stale-display", "flipped"),
    ("stale-display", "number-for-variable"),
    ("branch-order", "wrong-amount"),
    ("wrong-formula", "no-feedback"),
    ("wrong-amount", "wrong-formula"),
    ("misspelt-name", "text-and-number"),
    ("missing-global", "misspelt-name"),
    ("always-true", "text-and-number"),
    ("assign-for-compare", "always-true"),
    ("gone-piece", "starter-left-in"),
    ("every-frame", "not-registered"),
    ("boundary", "wrong-amount"),
    ("boundary", "flipped"),
    ("boundary", "number-for-variable"),
    ("exact-only", "flipped"),
    ("exact-only", "boundary"),
    ("both-ends", "branch-order"),
    ("both-ends", "split-chain"),
    ("both-ends", "flipped"),
    ("both-ends", "wrong-indent"),
    ("branch-order", "flipped"),
    ("branch-order", "boundary"),
    ("split-chain", "flipped"),
    ("split-chain", "wrong-indent"),
    ("restarts-mid-game", "flipped"),
    ("reset-too-much", "set-again"),
    ("reset-too-much", "overwritten"),
    ("reset-too-much", "number-for-variable"),
    ("reset-too-much", "set-for-change"),
    ("set-again", "wrong-indent"),
    ("set-again", "number-for-variable"),
    ("set-again", "wrong-start"),
    ("overwritten", "number-for-variable"),
    ("overwritten", "wrong-indent"),
    ("overwritten", "set-for-change"),
    ("number-for-variable", "wrong-amount"),
    ("number-for-variable", "flipped"),
    ("wrong-indent", "flipped"),
    ("wrong-sign", "wrong-amount"),
    ("set-for-change", "change-for-set"),
    ("set-for-change", "number-for-variable"),
    ("change-for-set", "wrong-sign"),
    ("change-for-set", "wrong-amount"),
    ("change-for-set", "number-for-variable"),
    ("once-only", "wrong-indent"),
    ("best-always-replaced", "wrong-indent"),
    ("and-or", "flipped"),
    ("and-or", "split-chain"),
    ("handled-twice", "wrong-event"),
    ("not-removed", "wrong-event"),
    ("update-order", "wrong-variable"),
    ("stale-display", "wrong-variable"),
    ("missing-limit", "acts-after-end"),
    ("missing-limit", "wrong-variable"),
    ("acts-after-end", "wrong-variable"),
    ("acts-after-end", "update-order"),
    ("win-not-told", "missing-limit"),
    ("missing-else", "wrong-variable"),
    ("never-set", "wrong-variable"),
    ("no-end", "missing-condition"),
    ("no-once-guard", "missing-condition"),
    ("wrong-formula", "always-true"),
    ("missing-condition", "always-true"),
)
"""Where both explain the same checks, the first of each pair stands alone."""


def edits(subject: Subject, group: int) -> Iterator[Edit]:
    """All edits of a group worth trying on a script, slip by slip."""
    for slip in GROUPS[group]:
        yield from slip.edits(subject)


def breadth(slip: str) -> int:
    """The group of a slip: 0 is the narrowest."""
    return _BREADTH[slip]


def narrower(a: str, b: str) -> bool:
    """Whether the first slip leaves no room for the second, where both explain the same."""
    return breadth(a) < breadth(b) or (a, b) in _PAIRS


Witness = Callable[[Edit, Trace], dict[str, Any] | None]
WITNESSES: Final[dict[str, Witness]] = {
    slip.SLIP: slip.witness for group in GROUPS for slip in group if hasattr(slip, "witness")
}
_BREADTH: Final = {slip.SLIP: number for number, group in enumerate(GROUPS) for slip in group}
_PAIRS: Final = frozenset(NARROWER)
