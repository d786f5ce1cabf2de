"""`overwritten`: set, shown or told twice before anything could see the first.

Recognised by leaving one of the two out: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Place, blank, targets, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "overwritten"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each two lines of one block, or of a block and one round it, that store the same: one left out."""
    for place in subject.places:
        if not isinstance(place.node, (ast.Assign, ast.Expr)) or place.function in subject.restarts:
            continue
        for target in targets(place.node):
            shows = target.startswith("board:")
            if isinstance(place.node, ast.Expr) is not shows or (subject.script.straight and _in_loop(place)):
                continue
            others = [
                other
                for other in subject.places
                if other.node is not place.node
                and other.function is place.function
                and target in targets(other.node)
                and isinstance(other.node, (ast.Assign, ast.Expr))
                and not (isinstance(other.node, ast.Assign) and target in unparse(other.node.value))
                and (place.function is not None or subject.script.straight)
            ]
            if others:
                facts: dict[str, Any] = {
                    "name": target.removeprefix("board:"),
                    "line": Line(place.node.lineno),
                    "other": Line(others[0].node.lineno),
                }
                yield Edit(ID, blank(subject.script, place.node, place.block), facts["name"], facts)
                break


def _in_loop(place: Place) -> bool:
    """Whether a line runs several times by itself."""
    return any(isinstance(each, (ast.For, ast.While)) for each in place.parents)


SLIP: Final = Slip(ID, Group.OWN, edits)
