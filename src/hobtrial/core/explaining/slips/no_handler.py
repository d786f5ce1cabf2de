"""`no-handler`: an event comes that must do something, and nothing waits for it.

Recognised by adding the reference's handler: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, called_by, calls, functions, handlers, last_line, unparse, walk
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
        if _alike(text) in waited or text in ("frame", "start") or _by_itself(event, subject):
            continue  # a script may do without those
        needed = [each for each in called_by(function, theirs) if each.name not in subject.function_names]
        copied = [subject.here(unparse(each)) for each in (*needed, function)]
        if any(not subject.known_in(each) for each in (*needed, function)):
            continue
        last = script.tree.body[-1]
        end = len(script.lines[last_line(last) - 1])
        added = "".join(f"\n\n\n{each}" for each in copied)
        facts = {"event": text, "line": Line(0), "came": happened_in(event)}
        yield Edit(ID, (Span(last_line(last), end, end, added),), text, facts, everywhere=True, shows_reference=True)


def _by_itself(event: ast.expr, subject: Subject) -> bool:
    """Whether a script has another way to the moment: it enters the place itself, or it waits or counts frames."""
    tree = subject.script.tree
    match event:
        case ast.Call(func=ast.Name(id="every" | "after")):
            counts = {
                each.target.id
                for function, by in subject.handlers()
                if unparse(by) == "frame"
                for each in walk(function)
                if isinstance(each, ast.AugAssign) and isinstance(each.target, ast.Name)
            }
            return bool(calls(tree, "wait") or counts - set(subject.asked))
        case ast.Call(func=ast.Name(id="entered"), args=[ast.Constant(value=place)]):
            return any(
                isinstance(each, ast.Constant) and each.value == place
                for call in calls(tree, "enter")
                for each in call.args
            )
    return False


def _alike(event: str) -> str:
    """An event as text, the pieces of a pair in one order."""
    head, _, rest = event.partition("(")
    if head in ("meets", "overlaps", "parts"):
        return f"pair({', '.join(sorted(rest.rstrip(')').split(', ')))})"
    return event


def recognise(seen: Seen) -> dict[str, Any] | None:
    """An event came, and nothing waits for it."""
    if seen.cause.kind != "no-handler" or seen.cause.event is None:
        return None
    return {"event": str(seen.cause.event), "came": happened(seen.cause.event)}


SLIP: Final = Slip(ID, Group.HANDLER, edits, recognise=recognise)
