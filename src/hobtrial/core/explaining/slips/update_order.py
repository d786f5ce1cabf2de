"""`update-order`: used or saved before it was changed, or after it was cleared.

Recognised by moving one line past its neighbours: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Place, Span, after, before, blank, source_of, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "update-order"
FARTHEST: Final = 4
"""Lines that one is moved past."""
SHOWS: Final = ("board", "tell", "print")


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of a function or straight script: past one, two or more of its neighbours."""
    for place, other, spans in moves(subject):
        if not shows_only(subject, place, other):
            facts = {"moved": Line(place.node.lineno), "past": Line(other.lineno), "line": Line(place.node.lineno)}
            yield Edit(ID, spans, _about(place), facts)


def moves(subject: Subject) -> Iterator[tuple[Place, ast.stmt, tuple[Span, ...]]]:
    """Each line moved past some neighbours of its block that have to do with it."""
    script = subject.script
    own = {id(place.node) for place in subject.places}
    for place in subject.places:
        if place.function is None and not script.straight:
            continue
        if isinstance(place.node, (ast.Global, ast.FunctionDef, ast.Return, ast.Import, ast.ImportFrom)):
            continue
        if _is_elif(subject, place.node):
            continue
        names = _names(subject, place.node)
        for index in range(max(0, place.index - FARTHEST), min(len(place.block), place.index + FARTHEST + 1)):
            other = place.block[index]
            if index == place.index or id(other) not in own or isinstance(other, (ast.Global, ast.Return)):
                continue
            if index == place.index - 1 and not isinstance(other, ast.If):
                continue  # the same as the neighbour moved down
            if not names & _names(subject, other):
                continue
            text = source_of(script, place.node)
            put = after(script, other, text) if index > place.index else before(script, other, text)
            yield place, other, tuple(sorted((put, *blank(script, place.node, place.block))))


def shows_only(subject: Subject, place: Place, other: ast.stmt) -> bool:
    """Whether a move only concerns a display: what is moved shows something, or all that it is moved past."""
    index = place.block.index(other)
    low, high = sorted((place.index, index))
    crossed = [node for node in place.block[low : high + 1] if node is not place.node]
    return displays(subject, place.node) or all(displays(subject, node) for node in crossed)


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


def _about(place: Place) -> str:
    return unparse(place.node).split("\n")[0]


SLIP: Final = Slip(ID, Group.PARTS, edits)
