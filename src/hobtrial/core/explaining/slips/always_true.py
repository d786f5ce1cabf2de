"""`always-true`: a test with the same answer in every run, such as `x == 1 or 2`.

Recognised by the test that is meant: it mends, and the test as written always answered the same. In its broad form,
a test that has one answer in every run though the reference's had both, by a test of the reference in its place.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, replace_node, spans, unparse, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..recorded import UNKNOWN, answer
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "always-true"


def edits(subject: Subject) -> Iterator[Edit]:
    """`x == a or b` → `x == a or x == b`."""
    for node in walk(subject.script.tree):
        if isinstance(node, ast.BoolOp):
            yield from _completed(subject, node)
            yield from _halves(subject, node)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """That the test answered the same each time that it was asked."""
    asked = [test for test in trace.tests if test.line == edit.line]
    if not asked or len({test.answer for test in asked}) > 1:
        return None
    return {"frame": asked[0].frame, "times": len(asked), "answer": "yes" if asked[0].answer else "no"}


def _halves(subject: Subject, node: ast.BoolOp) -> Iterator[Edit]:
    """`x > 0 or x <= 0` → each part alone, where all ask about the same."""
    asked = {unparse(each.left) for each in node.values if isinstance(each, ast.Compare)}
    if len(asked) == 1 and all(isinstance(each, ast.Compare) for each in node.values) and _never_changes(node):
        for each in node.values:
            yield _edit(subject, node, unparse(each))


def _never_changes(node: ast.BoolOp) -> bool:
    """Whether a test of one value and several numbers has the same answer for every number."""
    numbers = {
        each.value for each in walk(node) if isinstance(each, ast.Constant) and isinstance(each.value, (int, float))
    }
    left = next(unparse(each.left) for each in node.values if isinstance(each, ast.Compare))
    answers = {answer(node, {left: number + step}) for number in numbers for step in (-1, -0.5, 0, 0.5, 1)}
    return len(answers) == 1 and UNKNOWN not in answers


def _completed(subject: Subject, node: ast.BoolOp) -> Iterator[Edit]:
    compared = [each for each in node.values if isinstance(each, ast.Compare) and len(each.ops) == 1]
    bare = [each for each in node.values if isinstance(each, (ast.Constant, ast.Name))]
    if not compared or not any(isinstance(each, ast.Constant) for each in bare):
        return
    first = compared[0]
    sign = unparse(ast.Compare(ast.Name("a"), first.ops, [ast.Name("b")]))[2:-2]
    for left in dict.fromkeys([unparse(first.left), unparse(first.comparators[0])]):
        parts = [f"{left} {sign} {unparse(each)}" if each in bare else unparse(each) for each in node.values]
        word = " and " if isinstance(node.op, ast.And) else " or "
        for joined in (word, " and " if word == " or " else " or "):
            yield _edit(subject, node, joined.join(parts))


def _edit(subject: Subject, node: ast.expr, right: str) -> Edit:
    met = code_of(subject.script, node)
    facts = {"test": met, "right": right, "line": Line(node.lineno)}
    return Edit(ID, spans(replace_node(subject.script, node, right)), met, facts)


def broad(subject: Subject) -> Iterator[Edit]:
    """For each test that never changed its answer: those of the reference."""
    tests = [
        subject.here(unparse(stmt.node.test))
        for stmt in subject.reference_statements
        if isinstance(stmt.node, (ast.If, ast.While))
    ]
    wanted = [each for each in dict.fromkeys(tests) if subject.known(each)]
    for stmt in subject.statements:
        node = stmt.node
        if isinstance(node, (ast.If, ast.While)) and _constant(subject, node):
            for right in wanted:
                met = code_of(subject.script, node.test)
                facts = {"test": met, "right": right, "line": Line(node.lineno)}
                yield Edit(ID, spans(replace_node(subject.script, node.test, right)), met, facts, shows_reference=True)


def _constant(subject: Subject, node: ast.If | ast.While) -> bool:
    answers = {test.answer for trace in subject.traces.values() for test in trace.tests if test.line == node.lineno}
    return len(answers) == 1 and isinstance(node.test, (ast.BoolOp, ast.Constant, ast.Name))


SLIP: Final = Slip(ID, Group.WIRING, edits, witness=witness, broad=broad)
