"""`stale-display`: the scoreboard is not brought up to date, or too early.

Recognised by showing the value after it has changed: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Statement, after, calls, spans, targets, unparse, walk
from ..finding import Edit, Line
from ..stopping import stopped_unset
from ..subject import Subject
from .slip import Group, Slip
from .update_order import displays, moves, shows_only

ID: Final = "stale-display"


def edits(subject: Subject) -> Iterator[Edit]:
    """Lines that show moved past others; and shown again after each change, where it is not shown there."""
    for stmt, other, moved in () if stopped_unset(subject) else moves(subject):
        if shows_only(subject, stmt, other):
            shown = stmt.node if displays(subject, stmt.node) else other
            facts: dict[str, Any] = {"line": Line(shown.lineno), "name": _label(shown), "shown": unparse(shown)}
            facts |= {} if calls(shown, "board") or _calls_own(subject, shown) else {"told": True}
            yield Edit(ID, moved, facts["name"], facts)
    for text in dict.fromkeys(unparse(call) for call in calls(subject.script.tree, "board")):
        yield from _shown_again(subject, text)
    yield from _through_helpers(subject)


def _shown_again(subject: Subject, shown: str) -> Iterator[Edit]:
    script = subject.script
    read = {node.id for node in walk(ast.parse(shown)) if isinstance(node, ast.Name)} | {
        unparse(node) for node in walk(ast.parse(shown)) if isinstance(node, ast.Attribute)
    }
    missing = [
        stmt
        for stmt in subject.statements
        if stmt.function is not None
        and set(targets(stmt.node)) & read
        and isinstance(stmt.node, (ast.Assign, ast.AugAssign))
        and not _told_after(subject, stmt, shown)
    ]
    if not missing:
        return
    label = shown.split("(")[1].split(",")[0]
    facts: dict[str, Any] = {"name": label, "shown": shown, "line": Line(missing[0].node.lineno), "untold": True}
    yield Edit(ID, spans(*(after(script, stmt.node, shown) for stmt in missing)), label, facts)
    if len(missing) > 1:
        for stmt in missing:
            yield Edit(ID, (after(script, stmt.node, shown),), label, {**facts, "line": Line(stmt.node.lineno)})


def _told_after(subject: Subject, stmt: Statement, shown: str) -> bool:
    """Whether a line is followed, in its block or one round it, by one that shows, itself or by a function."""
    assert stmt.function is not None
    showing = [each.name for each in subject.functions if any(unparse(call) == shown for call in calls(each, "board"))]
    after_it = [call for node in stmt.block[stmt.index :] for call in calls(node, "board", *showing)]
    outside = [
        call
        for call in calls(stmt.function, "board", *showing)
        if call.lineno > stmt.node.lineno and call.col_offset < stmt.node.col_offset
    ]
    return any(unparse(call) == shown or unparse(call.func) in showing for call in (*after_it, *outside))


def _through_helpers(subject: Subject) -> Iterator[Edit]:
    """Functions that show, called once more after a change."""
    script = subject.script
    showing = [
        each for each in subject.functions if calls(each, "board") and not each.args.args and not each.decorator_list
    ]
    for function in showing:
        for stmt in subject.statements:
            changes = isinstance(stmt.node, (ast.Assign, ast.AugAssign)) and stmt.function is not None
            if changes and stmt.function is not function and not calls(stmt.function, function.name):  # type: ignore[arg-type]
                call = f"{function.name}()"
                facts: dict[str, Any] = {"name": function.name, "shown": call, "line": Line(stmt.node.lineno)}
                facts["untold"] = True
                yield Edit(ID, (after(script, stmt.node, call),), function.name, facts)


def _calls_own(subject: Subject, node: ast.stmt) -> bool:
    """Whether a line calls a function of the script."""
    return any(isinstance(each, ast.Name) and each.id in subject.function_names for each in walk(node))


def _label(node: ast.stmt) -> str:
    match node:
        case ast.Expr(value=ast.Call(args=[first, *_])):
            return unparse(first)
    return "the display"


SLIP: Final = Slip(ID, Group.OWN, edits)
