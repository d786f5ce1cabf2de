"""`missing-condition`: something happens too early, or out of order.

Recognised by the reference's test before it: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import (
    Span,
    Statement,
    before,
    body_start,
    guards_of,
    indent,
    negated,
    targets,
    unparse,
    walk,
    wrapped,
)
from ..finding import Edit, Line
from ..recognition import Seen, asks_about, changed_facts, unguarded
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "missing-condition"
SKIPPED: Final = (ast.Global, ast.FunctionDef, ast.Return, ast.Import, ast.ImportFrom, ast.ClassDef)


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line: only where the reference's tests before the same thing say yes."""
    for stmt in subject.statements:
        if isinstance(stmt.node, SKIPPED) or (stmt.function is None and not subject.script.straight):
            continue
        own = guards_of(stmt)
        for name in targets(stmt.node):
            for test in subject.conditions.get(name, ()):
                if test not in own and subject.known(test) and not _asked_about(test, own):
                    facts = {"what": unparse(stmt.node), "test": test, "line": Line(stmt.node.lineno)}
                    for spans in (*guarded(subject, stmt, test), *_with_else(subject, stmt, test)):
                        yield Edit(ID, spans, name, facts, shows_reference=True)


def _asked_about(test: str, own: list[str]) -> bool:
    """Whether the script's tests before a line are about all that a test asks: then they ask it otherwise."""
    named = {node.id for node in walk(ast.parse(test)) if isinstance(node, ast.Name)}
    there = {node.id for each in own for node in walk(ast.parse(each)) if isinstance(node, ast.Name)}
    return bool(named) and named <= there


def _with_else(subject: Subject, stmt: Statement, test: str) -> Iterator[tuple[Span, ...]]:
    """The rest of a block under a test, with the reference's other branch below it."""
    rest = stmt.block[stmt.index :]
    if any(isinstance(node, SKIPPED) for node in rest):
        return
    lead, last = indent(subject.script, stmt.node), rest[-1].end_lineno or rest[-1].lineno
    for theirs in subject.reference_statements:
        node = theirs.node
        if not isinstance(node, ast.If) or not node.orelse:
            continue
        other = {subject.here(unparse(node.test)): node.orelse, subject.here(negated(node.test)): node.body}.get(test)
        if other is not None and all(subject.known_in(each) for each in other):
            lines = "\n".join(subject.here(unparse(each)) for each in other).split("\n")
            end = len(subject.script.lines[last - 1])
            added = f"\n{lead}else:" + "".join(f"\n{lead}    {line}" for line in lines)
            yield (*wrapped(subject.script, rest, f"if {test}:"), Span(last, end, end, added))


def guarded(subject: Subject, stmt: Statement, test: str) -> Iterator[tuple[Span, ...]]:
    """A line under a test: alone, with all that follows in its block, and with its whole function."""
    script = subject.script
    if isinstance(stmt.node, ast.If) and script.lines[stmt.node.lineno - 1].lstrip().startswith("elif"):
        return
    rest = [node for node in stmt.block[stmt.index :] if not isinstance(node, SKIPPED)]
    yield wrapped(script, [stmt.node], f"if {test}:")
    if len(rest) > 1 and rest[-1] is stmt.block[-1]:
        yield wrapped(script, rest, f"if {test}:")
    if stmt.function is not None:
        refused = negated(ast.parse(test, mode="eval").body)
        yield (before(script, body_start(stmt.function), f"if {refused}:\n    return"),)


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A change without a test, where the reference asks about something else first."""
    found = unguarded(seen)
    if found is None or asks_about(found[1], seen.cause.what.removeprefix("game.")):
        return None
    return {**changed_facts(seen, found[1]), "what": unparse(found[0].node)}


SLIP: Final = Slip(ID, Group.REFERENCE, edits, recognise=recognise)
