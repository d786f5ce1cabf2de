"""`missing-else`: whatever else comes is taken as the last choice.

Recognised by asking for the last choice too: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import Script
from ...script.tree import Span, unparse, walk
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "missing-else"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each `else`: `elif` with a test of the reference, with and without the reference's own `else`."""
    script = subject.script
    wanted = [each for each in _chain_tests(subject) if subject.known_in(ast.parse(each))]
    for stmt in subject.statements:
        node = stmt.node
        if not isinstance(node, ast.If) or not node.orelse or isinstance(node.orelse[0], ast.If):
            continue
        line = _else_line(subject, node)
        if line is None:
            continue
        text = script.lines[line - 1]
        start = len(text) - len(text.lstrip())
        for test in wanted:
            if test != unparse(node.test) and _side(test) == _side(unparse(node.test)):
                facts = {"test": unparse(node.test), "right": test, "line": Line(line)}
                span = Span(line, start, start + 4, f"elif {test}")
                yield Edit(ID, (span,), test, facts, shows_reference=True)
                for rest in _last_branches(subject):
                    last = node.orelse[-1].end_lineno or line
                    end = len(script.lines[last - 1])
                    lead = text[:start]
                    added = "".join(f"\n{lead}    {each}" for each in rest)
                    spans = (span, Span(last, end, end, f"\n{lead}else:{added}"))
                    yield Edit(ID, spans, test, facts, shows_reference=True)


def _side(test: str) -> str:
    """What a comparison asks about."""
    return test.split(" ")[0]


def _else_line(subject: Subject, node: ast.If) -> int | None:
    """The line of the `else:` of a test."""
    last = node.body[-1].end_lineno or node.lineno
    for line in range(last + 1, node.orelse[0].lineno + 1):
        if subject.script.lines[line - 1].strip().startswith("else"):
            return line
    return None


def _chain_tests(subject: Subject) -> list[str]:
    tests = [unparse(stmt.node.test) for stmt in subject.reference_statements if isinstance(stmt.node, ast.If)]
    return list(dict.fromkeys(subject.here(test) for test in tests))


def _last_branches(subject: Subject) -> list[list[str]]:
    """The lines of the reference's `else` branches."""
    found: list[list[str]] = []
    for stmt in subject.reference_statements:
        node = stmt.node
        if isinstance(node, ast.If) and node.orelse and not isinstance(node.orelse[0], ast.If):
            text = "\n".join(subject.here(unparse(each)) for each in node.orelse)
            found.append(text.split("\n"))
    return found


def recognise(seen: Seen) -> dict[str, Any] | None:
    """An `else` stored the other value, and the reference tests for a choice that the script never asks for."""
    if not seen.other_value:
        return None
    asked = {node.value for node in walk(seen.script.tree) if isinstance(node, ast.Constant)}
    missing = _test_of_missing_choice(seen.reference, asked)
    for stmt in seen.stored_at() if missing is not None else ():
        for parent in stmt.parents:
            if isinstance(parent, ast.If) and _in_else(parent, stmt.node):
                return {"right": missing, "test": unparse(parent.test), "line": Line(stmt.node.lineno)}
    return None


def _in_else(parent: ast.If, node: ast.stmt) -> bool:
    return any(node is inner for each in parent.orelse for inner in walk(each)) and not (
        len(parent.orelse) == 1 and isinstance(parent.orelse[0], ast.If)
    )


def _test_of_missing_choice(reference: Script, asked: set[Any]) -> str | None:
    """A test of the reference for a text that the script never asks for."""
    for node in walk(reference.tree):
        match node:
            case ast.Compare(ops=[ast.Eq()], comparators=[ast.Constant(value=str(text))]) if text not in asked:
                return unparse(node)
    return None


SLIP: Final = Slip(ID, Group.PARTS, edits, recognise=recognise)
