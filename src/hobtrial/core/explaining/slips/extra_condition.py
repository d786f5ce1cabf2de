"""`extra-condition`: a test that nobody asked for keeps something from happening.

Recognised by doing it without the test: it mends, and in the student's own run the answer was no.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, code_of, first_line, indent, last_line, targets, unparse, walk
from ...trial import Answered, Change, Trace
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
    """A moment in which the answer was no, and the line that made it so where one thing was asked for."""
    for test in trace.tests:
        if test.line == edit.facts["line"] and not test.answer:
            facts: dict[str, Any] = {"frame": test.frame, "values": test.parts}
            made = _made_so(trace, test)
            if made is not None:
                facts |= {"made_by": Line(made.line), "name": made.name, "new": made.new}
            return facts
    return None


def _made_so(trace: Trace, test: Answered) -> Change | None:
    """The change that gave the one variable that a test asks for its value, once the game ran."""
    if len(test.parts) != 1:
        return None
    name, value = test.parts[0]
    before = [change for change in trace.changes if change.name == name and change.frame <= test.frame]
    if any(change.scope != "script" for change in before):
        return None  # a local of that name: which of them was asked is not known
    if before and before[-1].frame >= 0 and before[-1].new == value and before[-1].line != test.line:
        return before[-1]
    return None


SLIP: Final = Slip(ID, Group.PARTS, edits, witness=witness)
