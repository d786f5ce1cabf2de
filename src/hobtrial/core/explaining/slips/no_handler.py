"""`no-handler`: an event comes that must do something, and nothing waits for it.

Recognised by adding the reference's handler: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, functions, handlers, last_line, unparse, walk
from ..finding import Edit, Line
from ..recognition import Seen
from ..saying import happened, happened_in
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "no-handler"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each event of the reference that the script does not wait for: the reference's handler, with its helpers."""
    script = subject.script
    waited = {_alike(unparse(event)) for _, event in subject.handlers()}
    theirs = {each.name: each for each in functions(subject.reference.tree)}
    for function, event in handlers(list(theirs.values())):
        text = unparse(event)
        if _alike(text) in waited or text in ("frame", "start"):
            continue  # a script may do without those
        needed = [theirs[name] for name in _called(function, theirs) if name not in subject.function_names]
        copied = [subject.here(unparse(each)) for each in (*needed, function)]
        if any(not subject.known_in(each) for each in (*needed, function)):
            continue
        last = script.tree.body[-1]
        end = len(script.lines[last_line(last) - 1])
        added = "".join(f"\n\n\n{each}" for each in copied)
        facts = {"event": text, "line": Line(0), "came": happened_in(event)}
        yield Edit(ID, (Span(last_line(last), end, end, added),), text, facts, everywhere=True, shows_reference=True)


def _alike(event: str) -> str:
    """An event as text, the pieces of a pair in one order."""
    head, _, rest = event.partition("(")
    if head in ("meets", "overlaps", "parts"):
        return f"pair({', '.join(sorted(rest.rstrip(')').split(', ')))})"
    return event


def _called(function: ast.FunctionDef, theirs: dict[str, ast.FunctionDef]) -> list[str]:
    """The helper functions that a handler of the reference calls, one through another."""
    found: list[str] = []
    waiting = [function]
    while waiting:
        for node in walk(waiting.pop()):
            if isinstance(node, ast.Name) and node.id in theirs and node.id not in found:
                found.append(node.id)
                waiting.append(theirs[node.id])
    return found


def recognise(seen: Seen) -> dict[str, Any] | None:
    """An event came, and nothing waits for it."""
    if seen.cause.kind != "no-handler" or seen.cause.event is None:
        return None
    return {"event": str(seen.cause.event), "came": happened(seen.cause.event)}


SLIP: Final = Slip(ID, Group.HANDLER, edits, recognise=recognise)
