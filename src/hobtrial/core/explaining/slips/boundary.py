"""`boundary`: `>` where `>=` is meant, and the like.

Recognised by changing the sign: it mends, and in the student's own run the two sides were equal.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...trial import Trace
from ..edits import names_in, replace_between, replace_node, spans, text_of
from ..finding import Edit
from ..subject import Subject

SLIP: Final = "boundary"

SIGNS: Final[dict[type[ast.cmpop], tuple[str, str]]] = {
    ast.Gt: (">", ">="),
    ast.GtE: (">=", ">"),
    ast.Lt: ("<", "<="),
    ast.LtE: ("<=", "<"),
}


def edits(subject: Subject) -> Iterator[Edit]:
    """For each comparison of order: the boundary itself in, or out; its number one less and one more."""
    script = subject.script
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
                yield from _one_off(subject, node, facts)


def _one_off(subject: Subject, node: ast.Compare, facts: dict[str, Any]) -> Iterator[Edit]:
    """The number of a comparison one less and one more."""
    for side in (node.left, *node.comparators):
        if isinstance(side, ast.Constant) and type(side.value) is int:
            for number in (side.value - 1, side.value + 1):
                span = replace_node(subject.script, side, str(number))
                yield Edit(SLIP, spans(span), facts["name"], {**facts, "number": number})


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
        near = 1 if "number" in edit.facts else 0
        if None not in sides and _apart(sides[0], sides[1]) <= near:
            value = values.get(edit.facts["subject"], sides[0])
            return {"frame": test.frame, "value": value, "answer": "yes" if test.answer else "no"}
    return None


def _apart(a: Any, b: Any) -> float:
    """How far two values are apart; texts are the same or not."""
    if isinstance(a, (int, float)) and isinstance(b, (int, float)):
        return abs(a - b)
    return 0 if a == b else 2


def _literal(text: str) -> Any:
    try:
        return ast.literal_eval(text)
    except (ValueError, SyntaxError):
        return None
