"""`handled-twice`: two handlers, two events or two calls do the same for one thing that happens.

Recognised by leaving one of the two out: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, blank, called_by, column, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "handled-twice"
DEEDS: Final = ("tell", "print", "sound", "send", "win", "lose", "enter", "question", "offer")
"""Calls that do something in the game, each time that they run."""


def edits(subject: Subject) -> Iterator[Edit]:
    """For each handler: without its `@on`, without one of its events; for each line that stands twice: once."""
    script = subject.script
    for function in subject.functions:
        for decorator in function.decorator_list:
            if not isinstance(decorator, ast.Call) or decorator.lineno != decorator.end_lineno:
                continue
            facts: dict[str, Any] = {
                "event": unparse(decorator.args[0]),
                "function": function.name,
                "line": Line(function.lineno),
            }
            if _done_elsewhere(subject, function):
                whole = Span(decorator.lineno, 0, len(script.lines[decorator.lineno - 1]), "")
                yield Edit(ID, (whole,), facts["event"], facts)
            for event in decorator.args if len(decorator.args) > 1 else ():
                if not again(event, decorator.args):
                    continue  # it is about something else: another event than the one asked for
                rest = ", ".join(unparse(each) for each in decorator.args if each is not event)
                start = column(script, decorator.lineno, decorator.col_offset)
                end = column(script, decorator.lineno, decorator.end_col_offset or 0)
                facts = {"event": unparse(event), "function": function.name, "line": Line(decorator.lineno)}
                yield Edit(ID, spans(Span(decorator.lineno, start, end, f"on({rest})")), facts["event"], facts)
    lines = [unparse(stmt.node) for stmt in subject.statements]
    last = {text: index for index, text in enumerate(lines)}
    for index, (stmt, text) in enumerate(zip(subject.statements, lines, strict=True)):
        inside = stmt.function is not None or script.straight
        doubled = lines.count(text) > 1 and isinstance(stmt.node, (ast.AugAssign, ast.Expr, ast.Assign))
        called = isinstance(stmt.node, ast.Expr) and isinstance(stmt.node.value, ast.Call) and (
            unparse(stmt.node.value.func) in subject.function_names
        )  # fmt: skip
        if inside and (doubled or called):
            facts = {
                "event": text,
                "function": stmt.function.name if stmt.function else "",
                "line": Line(stmt.node.lineno),
            }
            extra = 0 if doubled and index == last[text] else 1  # the second one is the one too many
            yield Edit(ID, blank(script, stmt.node, stmt.block), text, facts, extra=extra)


def _done_elsewhere(subject: Subject, function: ast.FunctionDef) -> bool:
    """Whether another handler does something that this one does too: only then it can count twice."""
    others = [other for other, _ in subject.handlers() if other is not function]
    return any(_does(subject, function) & _does(subject, other) for other in others)


def _does(subject: Subject, function: ast.FunctionDef) -> set[str]:
    """What a handler does, with the functions that it calls: what it stores beyond itself, tells, sounds and sends."""
    found: set[str] = set()
    for each in (function, *called_by(function, {each.name: each for each in subject.functions})):
        for node in walk(each):
            match node:
                case ast.Name(id=name, ctx=ast.Store()) if name in subject.script.globals:
                    found.add(name)
                case ast.Attribute(ctx=ast.Store()):
                    found.add(unparse(node))
                case ast.Call(func=ast.Name(id=name) | ast.Attribute(attr=name)) if name in DEEDS:
                    found.add(f"{name}({', '.join(unparse(each) for each in node.args)})")
    return found


def again(event: ast.expr, events: list[ast.expr]) -> bool:
    """Whether another of these events comes for the same deed: about the same things, and at one moment."""
    kind, _, things = unparse(event).partition("(")
    for each in events:
        other, _, about = unparse(each).partition("(")
        if each is not event and about == things and "parts" not in (kind, other) and "released" not in (kind, other):
            return True
    return False


SLIP: Final = Slip(ID, Group.OWN, edits)
