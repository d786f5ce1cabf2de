"""`update-order`: used or saved before it was changed, or after it was cleared.

Recognised by moving one line past its neighbours: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, Statement, after, before, blank, source_of, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "update-order"
FARTHEST: Final = 4
"""Lines that one is moved past."""
SHOWS: Final = ("board", "tell", "print")


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of a function or straight script: past one, two or more of its neighbours."""
    for stmt, other, spans in moves(subject):
        if not shows_only(subject, stmt, other):
            facts = {
                "moved": Line(stmt.node.lineno),
                "past": Line(other.lineno),
                "line": Line(stmt.node.lineno),
            }
            yield Edit(ID, spans, _about(stmt), facts)


def moves(subject: Subject) -> Iterator[tuple[Statement, ast.stmt, tuple[Span, ...]]]:
    """Each line moved past some neighbours of its block that have to do with it."""
    script = subject.script
    own = {id(stmt.node) for stmt in subject.statements}
    for stmt in subject.statements:
        if stmt.function is None and not script.straight:
            continue
        if isinstance(stmt.node, (ast.Global, ast.FunctionDef, ast.Return, ast.Import, ast.ImportFrom)):
            continue
        if _is_elif(subject, stmt.node):
            continue
        names = _names(subject, stmt.node)
        for index in range(max(0, stmt.index - FARTHEST), min(len(stmt.block), stmt.index + FARTHEST + 1)):
            other = stmt.block[index]
            if index == stmt.index or id(other) not in own or isinstance(other, (ast.Global, ast.Return)):
                continue
            if index == stmt.index - 1 and not isinstance(other, ast.If):
                continue  # the same as the neighbour moved down
            if not names & _names(subject, other):
                continue
            text = source_of(script, stmt.node)
            put = after(script, other, text) if index > stmt.index else before(script, other, text)
            yield stmt, other, tuple(sorted((put, *blank(script, stmt.node, stmt.block))))


def shows_only(subject: Subject, stmt: Statement, other: ast.stmt) -> bool:
    """Whether a move only concerns a display: what is moved shows something, or all that it is moved past."""
    index = stmt.block.index(other)
    low, high = sorted((stmt.index, index))
    crossed = [node for node in stmt.block[low : high + 1] if node is not stmt.node]
    return displays(subject, stmt.node) or all(displays(subject, node) for node in crossed)


def displays(subject: Subject, node: ast.stmt) -> bool:
    """Whether a line only shows something, by itself or by a function of the script that does nothing else."""
    match node:
        case ast.Expr(value=ast.Call(func=ast.Name(id=name))):
            bodies = [function.body for function in subject.functions if function.name == name]
            return name in SHOWS or (bool(bodies) and all(displays(subject, each) for body in bodies for each in body))
        case ast.Expr(value=ast.Constant()):
            return True
    return False


def _is_elif(subject: Subject, node: ast.stmt) -> bool:
    return isinstance(node, ast.If) and subject.script.lines[node.lineno - 1].lstrip().startswith("elif")


def _names(subject: Subject, node: ast.AST) -> set[str]:
    """Variables and pieces that a statement has to do with, also through the functions that it calls."""
    found: set[str] = set()
    waiting: list[ast.AST] = [node]
    seen: set[str] = set()
    while waiting:
        for each in ast.walk(waiting.pop()):
            if not isinstance(each, ast.Name):
                continue
            found.add("outcome" if each.id in ("win", "lose", "again") else each.id)
            if each.id in subject.function_names and each.id not in seen:
                seen.add(each.id)
                waiting += [function for function in subject.functions if function.name == each.id]
    return found - {"board", "tell", "print"}


def _about(stmt: Statement) -> str:
    return unparse(stmt.node).split("\n")[0]


SLIP: Final = Slip(ID, Group.PARTS, edits)
