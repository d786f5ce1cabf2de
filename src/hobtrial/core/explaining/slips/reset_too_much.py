"""`reset-too-much`: the restart clears what must be kept.

Recognised by leaving that line out: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import blank, targets, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "reset-too-much"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of a restart that sets something, here or in a function that it calls: without it."""
    called = {
        node.func.id
        for function in subject.restarts
        for node in walk(function)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
    }
    for stmt in subject.statements:
        inside = stmt.function in subject.restarts or (stmt.function is not None and stmt.function.name in called)
        if inside and isinstance(stmt.node, (ast.Assign, ast.Expr)) and subject.restarts:
            text = unparse(stmt.node)
            facts: dict[str, Any] = {
                "met": text,
                "name": (targets(stmt.node) or [text])[0],
                "line": Line(stmt.node.lineno),
            }
            yield Edit(ID, blank(subject.script, stmt.node, stmt.block), facts["name"], facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
