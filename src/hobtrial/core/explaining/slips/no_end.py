"""`no-end`: nothing ever tests for the end of the game.

Recognised by adding the reference's test after what leads to it: it mends, and the script never calls that end.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ..edits import after, before
from ..finding import Edit
from ..source import unparse
from ..subject import Subject, calls, targets

SLIP: Final = "no-end"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each test of the reference that ends the game in a way that the script never does: after each change of
    what it asks about, and at the end of each handler.
    """
    script = subject.script
    for end in ("win", "lose"):
        if calls(script.tree, end):
            continue
        for theirs in subject.reference_places:
            if not isinstance(theirs.node, ast.If) or not calls(theirs.node, end) or not subject.known_in(theirs.node):
                continue
            names = {
                subject.here(unparse(each))
                for each in ast.walk(theirs.node.test)
                if isinstance(each, (ast.Name, ast.Attribute))
            }
            test = ast.If(
                theirs.node.test, [node for node in theirs.node.body if calls(node, end)] or theirs.node.body, []
            )
            text = subject.here(unparse(test))
            places = [
                place
                for place in subject.places
                if place.function is not None
                and not isinstance(place.node, ast.Expr)
                and set(targets(place.node)) & names
            ]
            facts = {"end": end, "test": subject.here(unparse(theirs.node.test))}
            for place in places:
                last = place.block[-1]
                put = before(script, last, text) if isinstance(last, ast.Return) else after(script, last, text)
                given = {**facts, "line": place.node.lineno}
                yield Edit(SLIP, (put,), end, given, everywhere=True, shows_reference=True)
            if len(places) > 1:
                puts = {
                    after(script, place.block[-1], text)
                    for place in places
                    if not isinstance(place.block[-1], ast.Return)
                }
                yield Edit(SLIP, tuple(sorted(puts)), end, {**facts, "line": 0}, everywhere=True, shows_reference=True)
        yield from _without_test(subject, end)


def _without_test(subject: Subject, end: str) -> Iterator[Edit]:
    """The end that the reference calls in a handler without any test."""
    events = {
        unparse(event)
        for function in ast.walk(subject.reference.tree)
        if isinstance(function, ast.FunctionDef) and calls(function, end)
        for decorator in function.decorator_list
        if isinstance(decorator, ast.Call)
        for event in decorator.args
    }
    for function, event in subject.handlers():
        if unparse(event) in events and not isinstance(function.body[-1], ast.Return):
            facts = {"end": end, "test": unparse(event), "line": function.lineno}
            yield Edit(SLIP, (after(subject.script, function.body[-1], f"{end}()"),), end, facts, everywhere=True)
