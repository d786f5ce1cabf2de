"""`no-end`: nothing ever tests for the end of the game.

Recognised by adding the reference's test after what leads to it: it mends, and the script never calls that end.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import Script
from ...script.tree import after, before, calls, targets, unparse, walk
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "no-end"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each test of the reference that ends the game in a way that the script never does: after each change of
    what it asks about, and at the end of each handler.
    """
    script = subject.script
    for end in ("win", "lose"):
        if calls(script.tree, end):
            continue
        for theirs in subject.reference_statements:
            if not isinstance(theirs.node, ast.If) or not calls(theirs.node, end) or not subject.known_in(theirs.node):
                continue
            names = {
                subject.here(unparse(each))
                for each in walk(theirs.node.test)
                if isinstance(each, (ast.Name, ast.Attribute))
            }
            test = ast.If(
                theirs.node.test, [node for node in theirs.node.body if calls(node, end)] or theirs.node.body, []
            )
            text = subject.here(unparse(test))
            statements = [
                stmt
                for stmt in subject.statements
                if stmt.function is not None and not isinstance(stmt.node, ast.Expr) and set(targets(stmt.node)) & names
            ]
            facts = {"end": end, "test": subject.here(unparse(theirs.node.test))}
            for stmt in statements:
                last = stmt.block[-1]
                put = before(script, last, text) if isinstance(last, ast.Return) else after(script, last, text)
                given = {**facts, "line": Line(stmt.node.lineno)}
                yield Edit(ID, (put,), end, given, everywhere=True, shows_reference=True)
            if len(statements) > 1:
                puts = {
                    after(script, stmt.block[-1], text)
                    for stmt in statements
                    if not isinstance(stmt.block[-1], ast.Return)
                }
                yield Edit(
                    ID, tuple(sorted(puts)), end, {**facts, "line": Line(0)}, everywhere=True, shows_reference=True
                )
        yield from _without_test(subject, end)


def _without_test(subject: Subject, end: str) -> Iterator[Edit]:
    """The end that the reference calls in a handler without any test."""
    events = {
        unparse(event)
        for function in walk(subject.reference.tree)
        if isinstance(function, ast.FunctionDef) and calls(function, end)
        for decorator in function.decorator_list
        if isinstance(decorator, ast.Call)
        for event in decorator.args
    }
    for function, event in subject.handlers():
        if unparse(event) in events and not isinstance(function.body[-1], ast.Return):
            facts = {"end": end, "test": unparse(event), "line": Line(function.lineno)}
            yield Edit(ID, (after(subject.script, function.body[-1], f"{end}()"),), end, facts, everywhere=True)


def recognise(seen: Seen) -> dict[str, Any] | None:
    """The game goes on where the reference ends it, and the script never does."""
    if seen.cause.what != "outcome" or seen.cause.facts.get("own") != "playing":
        return None
    end = {"won": "win", "lost": "lose"}.get(str(seen.cause.facts.get("reference")), "")
    if not end or calls(seen.script.tree, end) or not calls(seen.reference.tree, end):
        return None
    return {"end": end, "test": _test_before(seen.reference, end)}


def _test_before(reference: Script, end: str) -> str:
    for node in walk(reference.tree):
        if isinstance(node, ast.If) and any(calls(each, end) for each in node.body):
            return unparse(node.test)
    return end


SLIP: Final = Slip(ID, Group.REFERENCE, edits, recognise=recognise)
