"""`number-for-variable`: a number is written out where a variable or a fact is meant.

Recognised by the variable that has this number at the beginning: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "number-for-variable"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each number outside a first value: the variables and facts that begin with it, or are near it."""
    script = subject.script
    first = _first_values(subject)
    at_top = {
        id(inner)
        for stmt in script.tree.body
        if isinstance(stmt, (ast.Assign, ast.AnnAssign)) and not script.straight
        for inner in walk(stmt)
    }
    in_events = {id(inner) for _, event in subject.handlers() for inner in walk(event)}
    own = {
        id(inner): unparse(target)
        for stmt in subject.statements
        if isinstance(stmt.node, ast.Assign)
        for target in stmt.node.targets
        for inner in walk(stmt.node.value)
    }
    in_tuples = {
        id(inner)
        for stmt in subject.statements
        if isinstance(stmt.node, ast.Assign) and isinstance(stmt.node.value, ast.Tuple)
        for inner in walk(stmt.node.value)
    }
    for node in walk(script.tree):
        if not isinstance(node, ast.Constant) or isinstance(node.value, (bool, str)) or node.value is None:
            continue
        if id(node) in at_top or id(node) in in_events or id(node) in in_tuples:
            continue
        for name, values in first.items():
            if node.value in values and own.get(id(node)) != name:
                facts = {"number": repr(node.value), "name": name, "line": Line(node.lineno)}
                yield Edit(ID, spans(replace_node(script, node, name)), name, facts)


def _first_values(subject: Subject) -> dict[str, list[Any]]:
    """For each variable and fact the numbers that it has at the top of the script or before the first frame."""
    found: dict[str, list[Any]] = {}
    for node in walk(subject.script.tree) if subject.script.straight else subject.script.tree.body:
        match node:
            case ast.Assign(targets=[ast.Name(id=name)], value=ast.Constant(value=value)) if _is_number(value):
                found.setdefault(name, []).append(value)
    for fact in subject.prepared.scene.fact:
        if _is_number(fact.start):
            found.setdefault(fact.name, []).append(fact.start)
    for name in [name for name in subject.variables if "." not in name]:
        for trace in subject.traces.values():
            value = trace.final.get(name)
            if _is_number(value):
                found.setdefault(name, []).append(value)
    return found


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool)


SLIP: Final = Slip(ID, Group.OWN, edits)
