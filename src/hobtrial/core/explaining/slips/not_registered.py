"""`not-registered`: a function nobody calls, without its `@on`.

Recognised by giving it an event of the exercise: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import before, is_handler, unparse, walk
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "not-registered"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each function that is never called and waits for nothing: each event of the reference."""
    tree = subject.script.tree
    used = {node.id for node in walk(tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)}
    waited = [unparse(event) for _, event in subject.handlers()]
    events = sorted(subject.reference_events, key=lambda event: event in waited)
    for node in tree.body:
        if isinstance(node, ast.FunctionDef) and node.name not in used and not is_handler(node) and not _resets(node):
            for event in events:
                facts = {"function": node.name, "event": event, "line": Line(node.lineno)}
                span = before(subject.script, node, f"@on({event})")
                yield Edit(ID, (span,), event, facts, everywhere=True)


def _resets(node: ast.FunctionDef) -> bool:
    """Whether a function only puts pieces back: such a one belongs to a restart and not to an event."""
    return all(
        isinstance(each, ast.Expr)
        and isinstance(each.value, ast.Call)
        and isinstance(each.value.func, ast.Attribute)
        and each.value.func.attr in ("restore", "go")
        for each in node.body
    )


def recognise(seen: Seen) -> dict[str, Any] | None:
    """Nothing waits for an event, and there is one function that nobody calls."""
    if seen.cause.kind != "no-handler":
        return None
    tree = seen.script.tree
    used = {node.id for node in walk(tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)}
    idle = [
        node
        for node in tree.body
        if isinstance(node, ast.FunctionDef) and node.name not in used and not is_handler(node)
    ]
    if len(idle) != 1:
        return None
    return {"function": idle[0].name, "event": seen.cause.facts["event"], "line": Line(idle[0].lineno)}


SLIP: Final = Slip(ID, Group.WIRING, edits, recognise=recognise)
