"""`missing-limit`: a value goes on beyond its cap or its floor.

Recognised by the reference's test of that value before the change: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Statement, targets, unparse, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..recognition import Seen, asks_about, changed_facts, unguarded
from ..recorded import UNKNOWN, answer
from ..subject import Subject
from .missing_condition import guarded
from .slip import Facts, Group, Slip

ID: Final = "missing-limit"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each change: only as long as the reference's test of the same value says yes."""
    for stmt in subject.statements:
        if not isinstance(stmt.node, (ast.AugAssign, ast.Assign)):
            continue
        for name in targets(stmt.node):
            for test in _limits(subject, stmt, name):
                facts = {"name": name, "limit": test, "line": Line(stmt.node.lineno)}
                for spans in guarded(subject, stmt, test):
                    yield Edit(ID, spans, name, facts, shows_reference=True, own=_plain(subject, test))


def _limits(subject: Subject, stmt: Statement, name: str) -> list[str]:
    """The reference's tests before a change that speak of the value itself, and what `max` and `min` say."""
    tests = [test for test in subject.conditions.get(name, ()) if _speaks_of(test, name)]
    for theirs in subject.reference_statements:
        match theirs.node:
            case ast.Assign(targets=[target], value=ast.Call(func=ast.Name(id="max" | "min" as kind), args=[a, b])) if (
                subject.here(unparse(target)) == name
            ):
                bound = next((each for each in (a, b) if not _speaks_of(subject.here(unparse(each)), name)), b)
                tests.append(f"{name} {'>' if kind == 'max' else '<'} {subject.here(unparse(bound))}")
    return [test for test in dict.fromkeys(tests) if subject.known(test)]


def _plain(subject: Subject, test: str) -> bool:
    """Whether a test compares one variable with a number or another variable: a limit that the brief gives."""
    match ast.parse(test, mode="eval").body:
        case ast.Compare(left=ast.Name() | ast.Attribute(), ops=[_], comparators=[right]):
            return isinstance(right, ast.Name) or (isinstance(right, ast.Constant) and right.value in subject.numbers)
    return False


def witness(edit: Edit, trace: Trace) -> Facts | None:
    """The change that went beyond the limit; nothing where none did."""
    name, test = str(edit.facts["name"]).split(".")[-1], ast.parse(edit.facts["limit"], mode="eval").body
    changes = [each for each in trace.changes if each.line == edit.facts["line"] and each.name.split(".")[-1] == name]
    for change in changes:
        given = answer(test, {edit.facts["name"]: change.old})
        if given is UNKNOWN:
            return {}
        if not given:
            return {"frame": change.frame, "old": change.old, "new": change.new, "changed": change.name}
    return None


def _speaks_of(test: str, name: str) -> bool:
    return name in {unparse(node) for node in walk(ast.parse(test)) if isinstance(node, (ast.Name, ast.Attribute))}


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A change without a test, where the reference asks about the same variable first."""
    found = unguarded(seen)
    if found is None or not asks_about(found[1], seen.cause.what.removeprefix("game.")):
        return None
    return {**changed_facts(seen, found[1]), "limit": found[1]}


SLIP: Final = Slip(ID, Group.PARTS, edits, witness=witness, recognise=recognise)
