"""`best-always-replaced`: the best is replaced by each result, also by a worse one.

Recognised by keeping the better of the two: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import replace_node, spans, unparse, walk, wrapped
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "best-always-replaced"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each variable that takes over another's value: only if that is more, or less."""
    yield from _given(subject)
    for stmt in subject.statements:
        match stmt.node:
            case ast.Assign(targets=[ast.Name() | ast.Attribute() as target], value=value) if (
                stmt.function is not None and not isinstance(value, ast.Constant)
            ):
                best, new = unparse(target), unparse(value)
                if best in new or not _compared(subject, best):
                    continue
                for sign in (">", "<"):
                    facts = {"best": best, "new": new, "sign": sign, "line": Line(stmt.node.lineno)}
                    head = f"if {new} {sign} {best}:"
                    yield Edit(ID, wrapped(subject.script, [stmt.node], head), best, facts)


def _given(subject: Subject) -> Iterator[Edit]:
    """A result that is handed to a function where the better of two is meant."""
    bests = [name for name in subject.variables if _compared(subject, name)]
    for node in walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Name(id=name), args=args) if name in subject.function_names:
                for argument in args:
                    for best in bests:
                        new = unparse(argument)
                        if isinstance(argument, (ast.Name, ast.Attribute)) and new != best:
                            facts = {"best": best, "new": new, "sign": ">", "line": Line(node.lineno)}
                            span = replace_node(subject.script, argument, f"max({new}, {best})")
                            yield Edit(ID, spans(span), best, facts)


def _compared(subject: Subject, best: str) -> bool:
    """Whether the reference compares that variable, or takes a `max` or `min` of it."""
    for node in walk(subject.reference.tree):
        if isinstance(node, ast.Compare) or (
            isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("max", "min")
        ):
            names = {subject.here(unparse(each)) for each in walk(node) if isinstance(each, (ast.Name, ast.Attribute))}
            if best in names:
                return True
    return False


SLIP: Final = Slip(ID, Group.OWN, edits)
