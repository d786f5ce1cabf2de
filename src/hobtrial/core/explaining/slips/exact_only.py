"""`exact-only`: `==` where the value can jump past.

Recognised by taking in what lies beyond: it mends.
"""

from __future__ import annotations

import ast
import operator
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, names_in, replace_between, replace_node, spans, unparse, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "exact-only"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each `==` and `!=` with a number or variable: the sign that takes in what lies beyond."""
    yield from _places(subject)
    for node in walk(subject.script.tree):
        if not isinstance(node, ast.Compare) or len(node.ops) != 1:
            continue
        right = node.comparators[0]
        if isinstance(right, ast.Constant) and not isinstance(right.value, (int, float)):
            continue
        match node.ops[0]:
            case ast.Eq():
                old, signs = "==", (">=", "<=")
            case ast.NotEq():
                old, signs = "!=", ("<", ">")
            case _:
                continue
        met = code_of(subject.script, node)
        for sign in signs:
            span = replace_between(subject.script, node.left, right, old, sign)
            names = names_in([node.left, right])
            if span is not None and names:
                facts = {
                    "test": met, "right": met.replace(old, sign, 1), "name": names[0], "number": unparse(right),
                    "line": Line(node.lineno), "sign": sign,
                    "bound": right.value if isinstance(right, ast.Constant) else None,
                }  # fmt: skip
                yield Edit(ID, spans(span), names[0], facts)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """That the value went past the number, the way that the sign takes in; nothing where it never did."""
    facts = edit.facts
    asked = [test for test in trace.tests if test.line == facts["line"]]
    number, left = str(facts["number"]), str(facts["test"]).partition("=")[0].rstrip("! ").strip()
    if facts.get("places") or not asked or left not in dict(asked[0].parts):
        return {}
    past = operator.gt if facts["sign"] in (">=", "<") else operator.lt
    bound = dict(asked[0].parts).get(number, facts["bound"])
    if not isinstance(bound, (int, float)):
        return {}
    values = [(test.frame, 2, dict(test.parts).get(left)) for test in asked]
    for change in trace.changes:
        if change.name == left:
            values += [(change.frame, 0, change.old), (change.frame, 1, change.new)]
    before = False
    for _, _, value in sorted(values, key=lambda each: each[:2]):
        if not isinstance(value, (int, float)):
            continue
        if past(value, bound) and before:
            return {}
        before = before or not past(value, bound)
    return None


def _places(subject: Subject) -> Iterator[Edit]:
    """`hob.x == bowl.x` → `hob.overlaps(bowl)`, all of them at once."""
    found: list[tuple[ast.Compare, str]] = []
    for node in walk(subject.script.tree):
        match node:
            case ast.Compare(
                left=ast.Attribute(value=ast.Name(id=first), attr="x" | "y" as axis),
                ops=[ast.Eq()],
                comparators=[ast.Attribute(value=ast.Name(id=second), attr=other)],
            ) if axis == other:
                found.append((node, f"{first}.overlaps({second})"))
    if found:
        node, right = found[0]
        met = code_of(subject.script, node)
        changed = spans(*(replace_node(subject.script, each, text) for each, text in found))
        name = unparse(node.left)
        facts = {"test": met, "right": right, "name": name, "number": unparse(node.comparators[0])}
        yield Edit(ID, changed, name, {**facts, "line": Line(node.lineno), "places": True})


SLIP: Final = Slip(ID, Group.OWN, edits, witness=witness)
