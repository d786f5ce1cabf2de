"""`boundary`: `>` where `>=` is meant, and the like.

Recognised by changing the sign: it mends, and in the student's own run the two sides were equal.
"""

from __future__ import annotations

import ast
import operator
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, names_in, replace_between, replace_node, spans, walk
from ...trial import Trace
from ..finding import Edit
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "boundary"

SIGNS: Final[dict[type[ast.cmpop], tuple[str, str]]] = {
    ast.Gt: (">", ">="),
    ast.GtE: (">=", ">"),
    ast.Lt: ("<", "<="),
    ast.LtE: ("<=", "<"),
}
COMPARES: Final = {">": operator.gt, ">=": operator.ge, "<": operator.lt, "<=": operator.le}


def edits(subject: Subject) -> Iterator[Edit]:
    """For each comparison of order: the boundary itself in, or out; its number one less and one more."""
    script = subject.script
    for node in walk(script.tree):
        if not isinstance(node, ast.Compare):
            continue
        sides = [node.left, *node.comparators]
        for index, op in enumerate(node.ops):
            signs = SIGNS.get(type(op))
            if signs is None:
                continue
            left, right = sides[index], sides[index + 1]
            span = replace_between(script, left, right, *signs)
            names = names_in([left, right])
            if span is not None and names:
                facts = {
                    "test": code_of(script, node),
                    "left": code_of(script, left),
                    "right": code_of(script, right),
                    "name": names[0],
                    "subject": code_of(script, right if isinstance(left, ast.Constant) else left),
                    "new_test": code_of(script, node).replace(signs[0], signs[1], 1),
                }
                yield Edit(ID, spans(span), names[0], facts)
                if index == 0 and len(node.ops) == 1:
                    yield from _one_off(subject, node, facts)


def _one_off(subject: Subject, node: ast.Compare, facts: dict[str, Any]) -> Iterator[Edit]:
    """The number of a comparison one less or one more, where the other sign does not come to the same."""
    sign = SIGNS[type(node.ops[0])][0]
    step = -1 if sign in (">=", "<") else 1
    for side, turned in ((node.comparators[0], 1), (node.left, -1)):
        if isinstance(side, ast.Constant) and type(side.value) is int:
            number = side.value + step * turned
            span = replace_node(subject.script, side, str(number))
            given = {**facts, "number": number, "sign": sign, "left_side": turned < 0}
            extra = 0 if number in subject.numbers else 1
            yield Edit(ID, spans(span), facts["name"], given, extra=extra)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """The moment in which both sides were equal, from a trace of the script as handed in.

    A comparison that is not itself a test (`full = score > 5`) leaves no record of its values; that
    its line ran must do.
    """
    left, right = edit.facts["left"], edit.facts["right"]
    tests = [test for test in trace.tests if test.line == edit.line]
    if not tests and edit.line in trace.lines:
        return {"frame": trace.lines[edit.line][0][0]}
    for test in tests:
        values = dict(test.parts)
        sides = [values.get(side, _literal(side)) for side in (left, right)]
        if None not in sides and _decides(edit, *sides):
            value = values.get(edit.facts["subject"], sides[0])
            return {"frame": test.frame, "value": value, "answer": "yes" if test.answer else "no"}
    return None


def _decides(edit: Edit, left: Any, right: Any) -> bool:
    """Whether the test answers otherwise for these values once it is changed."""
    if "number" not in edit.facts:
        return bool(left == right)
    compare = COMPARES[edit.facts["sign"]]
    number = edit.facts["number"]
    after = compare(number, right) if edit.facts["left_side"] else compare(left, number)
    return bool(compare(left, right) != after)


def _literal(text: str) -> Any:
    try:
        return ast.literal_eval(text)
    except (ValueError, SyntaxError):
        return None


SLIP: Final = Slip(ID, Group.OWN, edits, witness=witness)
