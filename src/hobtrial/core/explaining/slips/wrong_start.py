"""`wrong-start`: a variable begins with another value than the one asked for.

Recognised by the value that the exercise or the reference begins with: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Statement, code_of, replace_node, spans, unparse
from ..finding import Edit
from ..subject import Subject
from .never_set import reference_starts
from .slip import Group, Slip

ID: Final = "wrong-start"
NEAR: Final = 2
"""How far a counter's first value may be from the number that is meant."""


def edits(subject: Subject) -> Iterator[Edit]:
    """For each first value at the top, or in a handler of `start`: the one asked for."""
    starts = reference_starts(subject)
    starts |= {
        subject.here(each.name): repr(each.start)
        for each in subject.prepared.exercise.settings.variable
        if each.start is not None
    }
    seen: set[str] = set()
    for stmt in subject.statements:
        node = stmt.node
        if not isinstance(node, ast.Assign) or len(node.targets) != 1 or not _at_beginning(stmt):
            continue
        name = unparse(node.targets[0])
        wanted = starts.get(name) or starts.get(name.removeprefix("game."))
        met = code_of(subject.script, node.value)
        if name not in seen and wanted is not None and met != wanted:
            facts = {"name": name, "start": met, "wanted": wanted}
            yield Edit(ID, spans(replace_node(subject.script, node.value, wanted)), name, facts)
        elif name not in seen and wanted is None and type(getattr(node.value, "value", None)) is int:
            yield from _own(subject, name, node.value)
        seen.add(name)


def _own(subject: Subject, name: str, node: ast.expr) -> Iterator[Edit]:
    """A counter of the script's own: each number of the exercise that is near the one it begins with."""
    met = int(unparse(node))
    for number in sorted(subject.numbers, key=lambda number: abs(number - met)):
        if type(number) is int and number != met and abs(number - met) <= NEAR:
            facts = {"name": name, "start": str(met), "wanted": str(number)}
            asked = int(met in subject.numbers)  # it is a number of the exercise itself
            span = replace_node(subject.script, node, str(number))
            yield Edit(ID, spans(span), name, facts, extra=asked)


def _at_beginning(stmt: Statement) -> bool:
    function = stmt.function
    if function is None:
        return not stmt.parents
    return any("start" in unparse(each) for each in function.decorator_list)


SLIP: Final = Slip(ID, Group.OWN, edits)
