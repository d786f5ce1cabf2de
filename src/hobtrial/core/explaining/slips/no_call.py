"""`no-call`: a function is named and not called: `win` without `()`.

Recognised by calling it: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, calls, column, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "no-call"
WITHOUT: Final = frozenset("win lose again outcome clock place stop_waits".split())
"""Functions of the game that can be called with nothing between the brackets."""
METHODS: Final = frozenset("remove restore freeze thaw put_down upper lower strip".split())


def edits(subject: Subject) -> Iterator[Edit]:
    """For each name of a function, or of something a piece can do, that stands without brackets: with them."""
    tree = subject.script.tree
    called = {id(node.func) for node in walk(tree) if isinstance(node, ast.Call)}
    inside = {id(inner) for function in subject.functions for each in function.decorator_list for inner in walk(each)}
    for node in walk(tree):
        if id(node) in called or id(node) in inside:
            continue
        match node:
            case ast.Name(id=name, ctx=ast.Load()) if name in WITHOUT or name in subject.function_names:
                pass
            case ast.Attribute(attr=name, ctx=ast.Load()) if name in METHODS:
                pass
            case _:
                continue
        assert isinstance(node, ast.expr) and node.end_lineno is not None
        end = column(subject.script, node.end_lineno, node.end_col_offset or 0)
        met = unparse(node)
        facts = {"met": met, "right": f"{met}()", "line": Line(node.lineno)}
        yield Edit(ID, spans(Span(node.end_lineno, end, end, "()")), met, facts)
        for call in calls(subject.reference.tree, met) if met in ("win", "lose") else ():
            given = unparse(call)[len(met) :]
            if call.args:
                span = Span(node.end_lineno, end, end, given)
                yield Edit(ID, (span,), met, {**facts, "right": met + given}, shows_reference=True)


SLIP: Final = Slip(ID, Group.WIRING, edits)
