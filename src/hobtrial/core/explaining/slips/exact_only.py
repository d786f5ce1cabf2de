"""`exact-only`: `==` where the value can jump past.

Recognised by taking in what lies beyond: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, names_in, replace_between, spans, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "exact-only"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each `==` and `!=` with a number or variable: the sign that takes in what lies beyond."""
    for node in ast.walk(subject.script.tree):
        if not isinstance(node, ast.Compare) or len(node.ops) != 1:
            continue
        right = node.comparators[0]
        if isinstance(right, ast.Constant) and not isinstance(right.value, (int, float)):
            continue
        match node.ops[0]:
            case ast.Eq():
                old, signs = "==", (">=", "<=")
            case ast.NotEq():
                old, signs = "!=", ("<", ">")
            case _:
                continue
        met = code_of(subject.script, node)
        for sign in signs:
            span = replace_between(subject.script, node.left, right, old, sign)
            names = names_in([node.left, right])
            if span is not None and names:
                facts = {
                    "test": met, "right": met.replace(old, sign, 1), "name": names[0], "number": unparse(right),
                    "line": Line(node.lineno),
                }  # fmt: skip
                yield Edit(ID, spans(span), names[0], facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
