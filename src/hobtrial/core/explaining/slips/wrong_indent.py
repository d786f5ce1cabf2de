"""`wrong-indent`: a line stands in a branch, loop or function that it does not belong to, or outside one that it does.

Recognised by moving it in or out: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, Statement, first_line, indent, last_line, spans, targets, to_global, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-indent"
BLOCKS: Final = (ast.If, ast.For, ast.While, ast.FunctionDef)


def edits(subject: Subject) -> Iterator[Edit]:
    """The last lines of each block moved out; the lines after each block moved in."""
    for stmt in subject.statements:
        if isinstance(stmt.node, ast.Global):
            continue
        parent = stmt.parents[-1] if stmt.parents else None
        if (
            isinstance(parent, (ast.If, ast.For, ast.While))
            and stmt.index > 0
            and stmt.block[-1] is parent_last(parent)
        ):
            yield _moved(subject, stmt, stmt.block[stmt.index :], indent(subject.script, parent))
        if stmt.index > 0 and isinstance(stmt.block[stmt.index - 1], BLOCKS):
            above = stmt.block[stmt.index - 1]
            assert isinstance(above, BLOCKS)
            if isinstance(above, ast.FunctionDef) and first_line(stmt.node) > last_line(above) + 1:
                continue  # what stands apart from a function is meant to
            inner = parent_last(above)
            for count in range(1, min(3, len(stmt.block) - stmt.index) + 1):
                nodes = stmt.block[stmt.index : stmt.index + count]
                yield _moved(subject, stmt, nodes, indent(subject.script, inner), above)


def parent_last(parent: ast.stmt) -> ast.stmt:
    """The last statement of the last branch of a statement: what can be moved out without anything after it."""
    orelse = getattr(parent, "orelse", None)
    body: list[ast.stmt] = orelse or parent.body  # type: ignore[attr-defined]
    return body[-1]


def _moved(subject: Subject, stmt: Statement, nodes: list[ast.stmt], lead: str, above: ast.stmt | None = None) -> Edit:
    script = subject.script
    changed: list[Span | None] = []
    for node in nodes:
        old = indent(script, node)
        for line in range(first_line(node), last_line(node) + 1):
            if script.lines[line - 1].startswith(old):
                changed.append(Span(line, 0, len(old), lead))
    if isinstance(above, ast.FunctionDef):
        stored = [
            name
            for node in nodes
            for name in targets(node)
            if name in script.globals and not isinstance(node, ast.Expr)
        ]
        changed.append(to_global(script, above, *stored) if stored else None)
    facts: dict[str, Any] = {"met": unparse(nodes[0]).split("\n")[0], "line": Line(first_line(stmt.node))}
    return Edit(ID, spans(*changed), facts["met"], facts, everywhere=above is None)


SLIP: Final = Slip(ID, Group.OWN, edits)
