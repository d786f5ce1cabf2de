"""`extra-condition`: a test that nobody asked for keeps something from happening.

Recognised by doing it without the test: it mends, and in the student's own run the answer was no.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, code_of, first_line, indent, last_line, targets, unparse, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "extra-condition"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each test without another branch: what stands under it, without the test."""
    script = subject.script
    for stmt in subject.statements:
        node = stmt.node
        if not isinstance(node, ast.If) or node.orelse or first_line(node.body[0]) == node.lineno:
            continue
        if script.lines[node.lineno - 1].lstrip().startswith("elif"):
            continue
        outer, inner = indent(script, node), indent(script, node.body[0])
        head = Span(node.lineno, 0, len(script.lines[node.lineno - 1]), "")
        moved = [
            Span(line, 0, len(inner), outer)
            for line in range(node.lineno + 1, last_line(node) + 1)
            if script.lines[line - 1].startswith(inner)
        ]
        test = code_of(script, node.test)
        asked = {unparse(each) for each in walk(node.test) if isinstance(each, (ast.Name, ast.Attribute))}
        if asked & _asked_before(subject, node):
            continue  # the reference asks about it too
        yield Edit(ID, (head, *moved), test, {"test": test, "line": Line(node.lineno)})


def _asked_before(subject: Subject, node: ast.If) -> set[str]:
    """What the reference asks about before it does any of what stands under a test."""
    done = [target for each in walk(node) if isinstance(each, ast.stmt) for target in targets(each)]
    tests = [test for target in done for test in subject.conditions.get(target, ())]
    return {
        unparse(each) for test in tests for each in walk(ast.parse(test)) if isinstance(each, (ast.Name, ast.Attribute))
    }


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """A moment in which the answer was no."""
    for test in trace.tests:
        if test.line == edit.facts["line"] and not test.answer:
            return {"frame": test.frame, "values": test.parts}
    return None


SLIP: Final = Slip(ID, Group.PARTS, edits, witness=witness)
