"""`name-twice`: one name for a variable and for a function or handler.

Recognised by giving the function a name of its own: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, column, functions, replace_node, spans, walk
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "name-twice"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each function whose name is stored to as well: another name for it, where it is called too."""
    tree = subject.script.tree
    stored = {node.id for node in walk(tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)}
    for function in subject.functions:
        if function.name not in stored:
            continue
        other = f"do_{function.name}"
        line = subject.script.lines[function.lineno - 1]
        start = line.find(function.name, column(subject.script, function.lineno, function.col_offset) + 3)
        calls = [
            replace_node(subject.script, node.func, other)
            for node in walk(tree)
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == function.name
        ]
        own = Span(function.lineno, start, start + len(function.name), other)
        facts = {"name": function.name, "line": Line(function.lineno)}
        yield Edit(ID, spans(own, *calls), function.name, facts, everywhere=True)


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A variable that is asked for never had a value, and a function has its name."""
    named = [node for node in functions(seen.script.tree) if node.name == seen.cause.what]
    if seen.cause.kind != "never-set" or not named:
        return None
    return {"name": seen.cause.what, "line": Line(named[0].lineno)}


SLIP: Final = Slip(ID, Group.WIRING, edits, recognise=recognise)
