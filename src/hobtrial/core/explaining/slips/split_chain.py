"""`split-chain`: separate `if`s where `elif` is meant, or the reverse.

Recognised by joining or splitting: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import Span, code_of
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "split-chain"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each `if` after an `if`: `elif`, one by one and all of a row; for each `elif`: `if`."""
    script = subject.script
    row: list[Span] = []
    for stmt in subject.statements:
        node = stmt.node
        if not isinstance(node, ast.If):
            continue
        line = script.lines[node.lineno - 1]
        start = len(line) - len(line.lstrip())
        facts: dict[str, Any] = {"test": code_of(script, node.test), "line": Line(node.lineno)}
        if line.lstrip().startswith("elif"):
            alone = {**facts, "word": "elif", "right": "if", "asked_when": "only if the tests above said no"}
            yield Edit(ID, (Span(node.lineno, start, start + 4, "if"),), facts["test"], alone)
            continue
        earlier = stmt.block[stmt.index - 1] if stmt.index else None
        if isinstance(earlier, ast.If) and _open(earlier):
            span = Span(node.lineno, start, start + 2, "elif")
            row.append(span)
            chained = {**facts, "word": "if", "right": "elif", "asked_when": "even if a test above said yes"}
            yield Edit(ID, (span,), facts["test"], chained)
            if len(row) > 1:
                yield Edit(ID, tuple(row), facts["test"], chained)
        else:
            row = []


def _open(node: ast.If) -> bool:
    """Whether a chain of tests has no `else`, so that another `elif` can follow."""
    while len(node.orelse) == 1 and isinstance(node.orelse[0], ast.If):
        node = node.orelse[0]
    return not node.orelse


SLIP: Final = Slip(ID, Group.OWN, edits)
