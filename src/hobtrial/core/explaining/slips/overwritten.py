"""`overwritten`: set, shown or told twice before anything could see the first.

Recognised by leaving one of the two out: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Statement, blank, calls, targets, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "overwritten"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each two lines of one block, or of a block and one round it, that store the same: one left out."""
    yield from _told_twice(subject)
    for stmt in subject.statements:
        if not isinstance(stmt.node, (ast.Assign, ast.Expr)) or stmt.function in subject.restarts:
            continue
        for target in targets(stmt.node):
            shows = target.startswith("board:")
            if isinstance(stmt.node, ast.Expr) is not shows or (subject.script.straight and _in_loop(stmt)):
                continue
            others = [
                other
                for other in subject.statements
                if other.node is not stmt.node
                and other.function is stmt.function
                and target in targets(other.node)
                and isinstance(other.node, (ast.Assign, ast.Expr))
                and not (isinstance(other.node, ast.Assign) and target in unparse(other.node.value))
                and (stmt.function is not None or subject.script.straight)
            ]
            if others:
                facts: dict[str, Any] = {
                    "name": target.removeprefix("board:"),
                    "line": Line(stmt.node.lineno),
                    "other": Line(others[0].node.lineno),
                }
                yield Edit(ID, blank(subject.script, stmt.node, stmt.block), facts["name"], facts)
                break


def _told_twice(subject: Subject) -> Iterator[Edit]:
    """The same text told by two lines of one block."""
    for stmt in subject.statements:
        for other in stmt.block[stmt.index + 1 :]:
            text = _told(stmt.node)
            if text and text == _told(other):
                for node, twin in ((stmt.node, other), (other, stmt.node)):
                    if calls(node, "win", "lose"):
                        continue
                    facts: dict[str, Any] = {"name": text, "line": Line(node.lineno), "other": Line(twin.lineno)}
                    yield Edit(ID, blank(subject.script, node, stmt.block), text, {**facts, "told": True})


def _told(node: ast.stmt) -> str:
    """What a line tells, as it is written."""
    match node:
        case ast.Expr(value=ast.Call(func=ast.Name(id="tell" | "print" | "win" | "lose"), args=[text])):
            return unparse(text)
    return ""


def _in_loop(stmt: Statement) -> bool:
    """Whether a line runs several times by itself."""
    return any(isinstance(each, (ast.For, ast.While)) for each in stmt.parents)


SLIP: Final = Slip(ID, Group.OWN, edits)
