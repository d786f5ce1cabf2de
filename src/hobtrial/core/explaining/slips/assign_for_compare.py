"""`assign-for-compare`: `:=` in a test where `==` is meant.

Recognised by comparing instead: it mends. A plain `=` there is no Python, and so `unreadable`.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, replace_between, replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "assign-for-compare"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each `:=`: `==` in its place."""
    for node in walk(subject.script.tree):
        if isinstance(node, ast.NamedExpr):
            met = code_of(subject.script, node)
            span = replace_between(subject.script, node.target, node.value, ":=", "==")
            facts = {"met": met, "right": met.replace(":=", "==", 1), "name": node.target.id, "line": Line(node.lineno)}
            yield Edit(ID, spans(span), node.target.id, facts)
            for name in subject.variables:
                right = f"{name} == {unparse(node.value)}"
                if name != node.target.id:
                    replaced = replace_node(subject.script, node, right)
                    yield Edit(ID, spans(replaced), name, {**facts, "right": right})


SLIP: Final = Slip(ID, Group.WIRING, edits)
