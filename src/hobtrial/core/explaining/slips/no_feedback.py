"""`no-feedback`: the text, sound or display that is asked for never comes.

Recognised by adding the reference's line where its place is: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from itertools import islice
from typing import Any, Final

from ...script.tree import Place, after, before, blank, body_start, handlers, targets, unparse
from ..finding import Edit, Line
from ..recognition import CALLS, Seen, has_text
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "no-feedback"
TELLS: Final = frozenset(("tell", "print", "sound", "board", "send"))
MOST_PLACES: Final = 12
"""Places at which one line is tried."""


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of the reference that shows, tells or sounds something and is not in the script: after
    each line that changes what it speaks of, in place of each line of its kind, at the end of each block.
    """
    script = subject.script
    own = {(unparse(place.node), place.function is None) for place in subject.places}
    for theirs in subject.reference_places:
        line = subject.here(unparse(theirs.node))
        if not _tells(theirs.node) or (line, theirs.function is None) in own or not subject.known_in(theirs.node):
            continue
        facts = {"wanted": line, "kind": _kind(theirs.node)}
        for place in islice(_likely(subject, theirs), MOST_PLACES):
            given = {**facts, "line": Line(place.node.lineno)}
            yield Edit(ID, (after(script, place.node, line),), line, given, shows_reference=True)
        for place in subject.places:
            if (
                _tells(place.node)
                and _kind(place.node) == facts["kind"]
                and (place.function is None) == (theirs.function is None)
            ):
                given = {**facts, "line": Line(place.node.lineno)}
                spans = (*blank(script, place.node, [place.node, place.node]), after(script, place.node, line))
                yield Edit(ID, tuple(sorted(spans)), line, given, shows_reference=True)
        if theirs.function is not None:
            for function, _ in subject.handlers():
                first = body_start(function)
                given = {**facts, "line": Line(function.lineno)}
                yield Edit(ID, (before(script, first, line),), line, given, shows_reference=True)


def _likely(subject: Subject, theirs: Place) -> Iterator[Place]:
    """Places after which the line may belong: those that change what it reads, then the ends of blocks."""
    read = {node.id for node in ast.walk(theirs.node) if isinstance(node, ast.Name)}
    events = [unparse(event) for function, event in handlers([theirs.function] if theirs.function else [])]
    at_top = theirs.function is None
    mine = {function.name for function, event in subject.handlers() if unparse(event) in events}
    ends = [place for place in subject.places if place.index == len(place.block) - 1]
    changing = [place for place in subject.places if set(targets(place.node)) & read and not at_top]
    ordered = [place for place in ends if place.function and place.function.name in mine]
    begun = [place for place in subject.places if at_top and place.function is None and not place.parents]
    for place in dict.fromkeys([*changing, *ordered, *reversed(begun), *ends]):
        if (place.function is None) == at_top and not isinstance(place.node, (ast.Return, ast.FunctionDef)):
            yield place


def _tells(node: ast.stmt) -> bool:
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Call) and _kind(node) in TELLS


def _kind(node: ast.stmt) -> str:
    match node:
        case ast.Expr(value=ast.Call(func=ast.Name(id=name))) | ast.Expr(value=ast.Call(func=ast.Attribute(attr=name))):
            return name
    return ""


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A label, a text, a sound or a message that is asked for stands nowhere in the script."""
    if seen.cause.kind == "not-shown":
        label = str(seen.cause.facts["label"])
        return None if has_text(seen.script, label) else {"wanted": f'board("{label}", …)'}
    for what in seen.needs:
        missing = str(what) == seen.cause.what and seen.cause.facts.get("own") in (0, None)
        if (
            what.what in CALLS
            and missing
            and not has_text(seen.script, what.name)
            and has_text(seen.reference, what.name)
        ):
            return {"wanted": f'{CALLS[what.what]}("{what.name}")'}
    return None


SLIP: Final = Slip(ID, Group.REFERENCE, edits, recognise=recognise)
