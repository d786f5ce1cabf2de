"""`set-again`: put back to its start every time, so it never grows.

Recognised by leaving the line out, or putting it before the loop: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Place, before, blank, first_line, source_of, targets, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "set-again"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each value set in a handler, function or loop whose variable is changed elsewhere too."""
    script = subject.script
    for place in subject.places:
        node = place.node
        if not isinstance(node, ast.Assign) or not isinstance(
            node.value, (ast.Constant, ast.List, ast.UnaryOp, ast.Name)
        ):
            continue
        loop = next((each for each in place.parents if isinstance(each, (ast.For, ast.While))), None)
        if (place.function is None and loop is None) or place.function in subject.restarts:
            continue
        name = unparse(node.targets[0])
        if not _changed(subject, place, name) or _stored_twice(subject, place, name):
            continue
        facts = {"name": name, "value": unparse(node.value), "line": Line(first_line(node))}
        yield Edit(ID, blank(script, node, place.block), name, facts)
        if loop is not None:
            moved = before(script, loop, source_of(script, node))
            yield Edit(ID, (moved, *blank(script, node, place.block)), name, facts)


def _stored_twice(subject: Subject, place: Place, name: str) -> bool:
    """Whether the function stores it once more without going on from it: then the two are in each other's way."""
    return any(
        other.node is not place.node
        and other.function is place.function
        and other.block is place.block
        and isinstance(other.node, ast.Assign)
        and name in targets(other.node)
        and name not in unparse(other.node.value)
        for other in subject.places
    )


def _changed(subject: Subject, place: Place, name: str) -> bool:
    """Whether another statement goes on from the value of the variable."""
    return any(
        other.node is not place.node
        and name in targets(other.node)
        and (isinstance(other.node, ast.AugAssign) or name in unparse(other.node).split("=", 1)[1])
        for other in subject.places
        if isinstance(other.node, (ast.AugAssign, ast.Assign))
    )


SLIP: Final = Slip(ID, Group.OWN, edits)
