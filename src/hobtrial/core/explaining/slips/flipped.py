"""`flipped`: a test that asks for the opposite, or its two branches exchanged.

Recognised by turning the test round: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, negated, replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "flipped"
TURNED: Final[dict[type[ast.cmpop], tuple[str, ...]]] = {
    ast.Lt: (">", ">="),
    ast.LtE: (">=", ">"),
    ast.Gt: ("<", "<="),
    ast.GtE: ("<=", "<"),
    ast.Eq: ("!=",),
    ast.NotEq: ("==",),
    ast.In: ("not in",),
    ast.NotIn: ("in",),
    ast.Is: ("is not",),
    ast.IsNot: ("is",),
}


def edits(subject: Subject) -> Iterator[Edit]:
    """For each comparison and test turned round, those whose other answer is asked for."""
    yield from (edit for edit in _turned(subject) if _other_answer(subject, edit))


def _other_answer(subject: Subject, edit: Edit) -> bool:
    """Whether the line's tests had both answers in some run, or the reference asks just that."""
    right = edit.facts["right"]
    if edit.facts["met"].startswith("not ") or any(sign in right.split() for sign in ("<", ">", "<=", ">=")):
        return True
    answers = {test.answer for trace in subject.traces.values() for test in trace.tests if test.line == edit.line}
    return len(answers) != 1 or any(right in test or test in right for test in subject.reference_tests)


def _turned(subject: Subject) -> Iterator[Edit]:
    """For each comparison the other sign; for each whole test its opposite."""
    tests: list[ast.expr] = []
    for node in walk(subject.script.tree):
        if isinstance(node, ast.Compare) and len(node.ops) == 1:
            left, right = unparse(node.left), unparse(node.comparators[0])
            for sign in TURNED[type(node.ops[0])]:
                yield _edit(subject, node, f"{left} {sign} {right}")
        match node:
            case ast.If(test=test) | ast.While(test=test) | ast.IfExp(test=test):
                tests.append(test)
                tests += test.values if isinstance(test, ast.BoolOp) else []
    for test in tests:
        if not isinstance(test, ast.Compare):
            yield _edit(subject, test, negated(test))


def _edit(subject: Subject, node: ast.expr, right: str) -> Edit:
    met = code_of(subject.script, node)
    facts = {"met": met, "right": right, "line": Line(node.lineno)}
    return Edit(ID, spans(replace_node(subject.script, node, right)), met, facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
