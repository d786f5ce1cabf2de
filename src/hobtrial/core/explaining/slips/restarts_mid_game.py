"""`restarts-mid-game`: the restart works also while the game is still being played.

Recognised by asking first whether the game has ended: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import before, body_start, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "restarts-mid-game"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each function that begins again, and each handler that calls one: not while the game is played."""
    names = {function.name for function in subject.restarts}
    callers = [function for function, _ in subject.handlers() if names & _called(function)]
    for function in dict.fromkeys([*subject.restarts, *callers]):
        guard = before(subject.script, body_start(function), 'if outcome() == "playing":\n    return')
        yield Edit(ID, (guard,), function.name, {"function": function.name, "line": Line(function.lineno)})


def _called(function: ast.FunctionDef) -> set[str]:
    return {node.func.id for node in walk(function) if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)}


SLIP: Final = Slip(ID, Group.OWN, edits)
