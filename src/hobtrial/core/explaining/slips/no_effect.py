"""`no-effect`: a comparison or sum that stands alone as a line.

Recognised by storing what it works out: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import rewrite, spans, to_global, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "no-effect"
SIGNS: Final[dict[type[ast.operator], str]] = {ast.Add: "+=", ast.Sub: "-=", ast.Mult: "*="}


def edits(subject: Subject) -> Iterator[Edit]:
    """`score + 1` → `score += 1`, `score == 0` → `score = 0`, with `global` where it is needed."""
    script = subject.script
    for stmt in subject.statements:
        match stmt.node:
            case ast.Expr(value=ast.BinOp(left=ast.Name() | ast.Attribute() as left, op=op, right=right)) if (
                type(op) in SIGNS
            ):
                sign = SIGNS[type(op)]
            case ast.Expr(
                value=ast.Compare(left=ast.Name() | ast.Attribute() as left, ops=[ast.Eq()], comparators=[right])
            ):
                sign = "="
            case _:
                continue
        lead = script.lines[stmt.node.lineno - 1][: stmt.node.col_offset]
        stored = f"{unparse(left)} {sign} {unparse(right)}"
        declared = to_global(script, stmt.function, left.id) if stmt.function and isinstance(left, ast.Name) else None
        facts = {
            "name": unparse(left),
            "met": unparse(stmt.node),
            "stored": stored,
            "line": Line(stmt.node.lineno),
        }
        yield Edit(ID, spans(declared, *rewrite(script, stmt.node, lead + stored)), unparse(left), facts)


SLIP: Final = Slip(ID, Group.WIRING, edits)
