"""`not-removed`: the thing stays where it must go, and counts again.

Recognised by removing it in the handler: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, after, before, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "not-removed"
ENDS: Final = (ast.Return, ast.Break, ast.Continue)


def edits(subject: Subject) -> Iterator[Edit]:
    """For each handler of a piece and each function with a parameter: it is removed, in each of its blocks."""
    script = subject.script
    if ".remove()" not in unparse(subject.reference.tree):
        return
    handled = {function: event for function, event in subject.handlers() if _gives_a_piece(event)}
    for function in subject.functions:
        event = handled.get(function)
        parameters = [argument.arg for argument in function.args.args]
        if not parameters and event is None:
            continue
        told: Span | None = None
        if not parameters:
            stmt = script.lines[function.lineno - 1].find("()", function.col_offset)
            if stmt < 0:
                continue
            told = Span(function.lineno, stmt + 1, stmt + 1, "which")
        for name in parameters or ["which"]:
            about = unparse(event) if event is not None else function.name
            for block in _blocks(function):
                last = block[-1]
                text = f"{name}.remove()"
                put = before(script, last, text) if isinstance(last, ENDS) else after(script, last, text)
                facts = {"piece": name, "event": about, "line": Line(function.lineno), "function": function.name}
                yield Edit(ID, spans(told, put), about, facts)
            own = [piece for piece in subject.pieces if event is not None and piece in unparse(event)]
            for piece in own:
                put = after(script, function.body[-1], f"{piece}.remove()")
                facts = {"piece": piece, "event": about, "line": Line(function.lineno), "function": function.name}
                yield Edit(ID, (put,), about, facts)


def _gives_a_piece(event: ast.expr) -> bool:
    return isinstance(event, ast.Call) and isinstance(event.func, ast.Name) and event.func.id in (
        "meets", "overlaps", "parts", "clicked", "appeared"
    )  # fmt: skip


def _blocks(function: ast.FunctionDef) -> Iterator[list[ast.stmt]]:
    """The body of a function and those of its branches."""
    yield function.body
    for node in walk(function):
        if isinstance(node, ast.If) and node.body[0].lineno != node.lineno:
            yield node.body


SLIP: Final = Slip(ID, Group.PARTS, edits)
