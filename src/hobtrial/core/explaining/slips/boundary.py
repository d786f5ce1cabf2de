"""`boundary`: `>` where `>=` is meant, and the like.

Recognised by changing the sign: it mends, and in the student's own run the two sides were equal.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import Script
from ...trial import Trace
from ..edits import names_in, replace_between, spans, text_of
from ..finding import Edit

SLIP: Final = "boundary"

SIGNS: Final[dict[type[ast.cmpop], tuple[str, str]]] = {
    ast.Gt: (">", ">="),
    ast.GtE: (">=", ">"),
    ast.Lt: ("<", "<="),
    ast.LtE: ("<=", "<"),
}


def edits(script: Script) -> Iterator[Edit]:
    """One edit for each comparison of order: the boundary itself in, or out."""
    for node in ast.walk(script.tree):
        if not isinstance(node, ast.Compare):
            continue
        sides = [node.left, *node.comparators]
        for place, op in enumerate(node.ops):
            signs = SIGNS.get(type(op))
            if signs is None:
                continue
            left, right = sides[place], sides[place + 1]
            span = replace_between(script, left, right, *signs)
            names = names_in([left, right])
            if span is not None and names:
                facts = {
                    "test": text_of(script, node),
                    "left": text_of(script, left),
                    "right": text_of(script, right),
                    "name": names[0],
                    "subject": text_of(script, right if isinstance(left, ast.Constant) else left),
                    "new_test": text_of(script, node).replace(signs[0], signs[1], 1),
                }
                yield Edit(SLIP, spans(span), names[0], facts)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """The moment in which both sides were equal, from a trace of the script as handed in.

    A comparison that is no test itself (`full = score > 5`) leaves no record of its values; that
    its line ran must do.
    """
    left, right = edit.facts["left"], edit.facts["right"]
    tests = [test for test in trace.tests if test.line == edit.line]
    if not tests and edit.line in trace.lines:
        return {"frame": trace.lines[edit.line][0][0]}
    for test in tests:
        values = dict(test.parts)
        sides = [values.get(side, _literal(side)) for side in (left, right)]
        if None not in sides and sides[0] == sides[1]:
            return {"frame": test.frame, "value": sides[0], "answer": "yes" if test.answer else "no"}
    return None


def _literal(text: str) -> Any:
    try:
        return ast.literal_eval(text)
    except (ValueError, SyntaxError):
        return None
