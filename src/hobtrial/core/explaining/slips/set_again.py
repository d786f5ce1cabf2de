"""`set-again`: put back to its start every time, so it never grows.

Recognised by leaving the line out, or putting it before the loop: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Statement, before, blank, first_line, source_of, targets, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "set-again"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each value set in a handler, function or loop whose variable is changed elsewhere too."""
    script = subject.script
    for stmt in subject.statements:
        node = stmt.node
        if not isinstance(node, ast.Assign) or not isinstance(
            node.value, (ast.Constant, ast.List, ast.UnaryOp, ast.Name)
        ):
            continue
        loop = next((each for each in stmt.parents if isinstance(each, (ast.For, ast.While))), None)
        if (stmt.function is None and loop is None) or stmt.function in subject.restarts:
            continue
        name = unparse(node.targets[0])
        if not _changed(subject, stmt, name) or _stored_twice(subject, stmt, name):
            continue
        facts = {"name": name, "value": unparse(node.value), "line": Line(first_line(node))}
        yield Edit(ID, blank(script, node, stmt.block), name, facts)
        if loop is not None:
            moved = before(script, loop, source_of(script, node))
            yield Edit(ID, (moved, *blank(script, node, stmt.block)), name, facts)


def _stored_twice(subject: Subject, stmt: Statement, name: str) -> bool:
    """Whether the function stores it once more without going on from it: then the two are in each other's way."""
    return any(
        other.node is not stmt.node
        and other.function is stmt.function
        and other.block is stmt.block
        and isinstance(other.node, ast.Assign)
        and name in targets(other.node)
        and name not in unparse(other.node.value)
        for other in subject.statements
    )


def _changed(subject: Subject, stmt: Statement, name: str) -> bool:
    """Whether another statement goes on from the value of the variable."""
    return any(
        other.node is not stmt.node
        and name in targets(other.node)
        and (isinstance(other.node, ast.AugAssign) or name in unparse(other.node).split("=", 1)[1])
        for other in subject.statements
        if isinstance(other.node, (ast.AugAssign, ast.Assign))
    )


SLIP: Final = Slip(ID, Group.OWN, edits)
