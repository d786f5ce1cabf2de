"""`not-registered`: a function nobody calls, without its `@on`.

Recognised by giving it an event of the exercise: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script import is_handler
from ..edits import before
from ..finding import Edit
from ..source import unparse
from ..subject import Subject

SLIP: Final = "not-registered"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each function that is never called and waits for nothing: each event of the reference."""
    tree = subject.script.tree
    used = {node.id for node in ast.walk(tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)}
    waited = [unparse(event) for _, event in subject.handlers()]
    events = sorted(subject.reference_events, key=lambda event: event in waited)
    for node in tree.body:
        if isinstance(node, ast.FunctionDef) and node.name not in used and not is_handler(node) and not _resets(node):
            for event in events:
                facts = {"function": node.name, "event": event, "line": node.lineno}
                span = before(subject.script, node, f"@on({event})")
                yield Edit(SLIP, (span,), event, facts, everywhere=True)


def _resets(node: ast.FunctionDef) -> bool:
    """Whether a function only puts pieces back: such a one belongs to a restart and not to an event."""
    return all(
        isinstance(each, ast.Expr)
        and isinstance(each.value, ast.Call)
        and isinstance(each.value.func, ast.Attribute)
        and each.value.func.attr in ("restore", "go")
        for each in node.body
    )
