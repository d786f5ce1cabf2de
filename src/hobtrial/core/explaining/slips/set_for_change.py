"""`set-for-change`: `score = 1` where `score += 1` is meant, and `=+ 1`, `=- 1`.

Recognised by changing instead of setting: it mends, and the line ran.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import Script
from ...script.tree import Span, code_of, column, spans, unparse
from ...trial import Trace
from ..finding import Edit
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "set-for-change"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each number that a function or a loop sets: added and taken away, by itself and by one; for each other value
    the same.
    """
    script = subject.script
    for stmt in subject.statements:
        node = stmt.node
        if (stmt.function is None and not script.straight) or not isinstance(node, ast.Assign):
            continue
        if (
            len(node.targets) == 1
            and isinstance(node.targets[0], (ast.Name, ast.Attribute))
            and node.lineno == node.end_lineno
        ):
            amount = _amount(node.value)
            if amount is not None:
                yield from _changes(script, node, node.targets[0], amount)
            elif unparse(node.targets[0]) not in unparse(node.value) and not _is_truth(node.value):
                yield from _with_value(script, node, node.targets[0])


def _with_value(script: Script, node: ast.Assign, target: ast.expr) -> Iterator[Edit]:
    """`score = bonus` → `score += bonus`."""
    name, value = code_of(script, target), code_of(script, node.value)
    start = column(script, node.lineno, target.end_col_offset or 0)
    end = column(script, node.lineno, node.value.end_col_offset or 0)
    for sign in ("+", "-"):
        facts = {"name": name, "set": f"{name} = {value}", "sign": sign, "size": None}
        yield Edit(ID, (Span(node.lineno, start, end, f" {sign}= {value}"),), name, facts)


def _is_truth(node: ast.expr) -> bool:
    """Whether a value is yes or no: nothing can be added to that."""
    return isinstance(node, (ast.Compare, ast.BoolOp)) or unparse(node) in ("True", "False", "None")


def _amount(node: ast.expr) -> float | None:
    match node:
        case ast.UnaryOp(op=ast.UAdd() | ast.USub(), operand=inner):
            value = _amount(inner)
            return None if value is None else -value if isinstance(node.op, ast.USub) else value
        case ast.Constant(value=int() | float() as value) if not isinstance(value, bool):
            return value
        case ast.BinOp(left=left, op=ast.Add() | ast.Sub() as op, right=right):
            a, b = _amount(left), _amount(right)
            return None if a is None or b is None else a + b if isinstance(op, ast.Add) else a - b
    return None


def _changes(script: Script, node: ast.Assign, target: ast.expr, amount: float) -> Iterator[Edit]:
    assert target.end_col_offset is not None and node.value.end_col_offset is not None
    start = column(script, node.lineno, target.end_col_offset)
    end = column(script, node.lineno, node.value.end_col_offset)
    name = code_of(script, target)
    sign = "-" if amount < 0 else "+"
    other = "+" if amount < 0 else "-"
    wanted = [(sign, abs(amount)), (other, abs(amount)), (sign, 1), (other, 1)]
    for sign, size in dict.fromkeys((sign, size) for sign, size in wanted if size):
        facts = {
            "name": name,
            "amount": amount,
            "set": code_of(script, target) + script.lines[node.lineno - 1][start:end],
            "sign": sign,
            "size": size,
        }
        yield Edit(ID, spans(Span(node.lineno, start, end, f" {sign}= {size:g}")), name, facts)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """The first time that the line set a value that was not one step from the one before."""
    name = edit.facts["name"]
    size = edit.facts["size"]
    step = None if size is None else size if edit.facts["sign"] == "+" else -size
    for change in trace.changes:
        if change.line != edit.line or change.name.split(".")[-1] != name.split(".")[-1]:
            continue
        if isinstance(change.old, (int, float)) and (step is None or change.new != change.old + step):
            return {"frame": change.frame, "old": change.old, "new": change.new}
    return None


SLIP: Final = Slip(ID, Group.OWN, edits, witness=witness)
