"""`wrong-sign`: added where it must be taken away, or the reverse; `-2` for `2`.

Recognised by turning the sign round: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import replace_node, rewrite, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-sign"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each change its opposite, for each number in a move or property its negative."""
    script = subject.script
    for stmt in subject.statements:
        node = stmt.node
        match node:
            case ast.AugAssign(target=target, op=ast.Add() | ast.Sub() as op, value=value):
                sign = "-" if isinstance(op, ast.Add) else "+"
                after = f"{unparse(target)} {sign}= {unparse(value)}"
            case ast.Assign(
                targets=[target],
                value=ast.BinOp(left=ast.Name() | ast.Attribute() as left, op=ast.Add() | ast.Sub() as op, right=right),
            ) if unparse(left) == unparse(target):
                sign = "-" if isinstance(op, ast.Add) else "+"
                after = f"{unparse(target)} = {unparse(left)} {sign} {unparse(right)}"
            case _:
                continue
        lead = script.lines[node.lineno - 1][: node.col_offset]
        facts: dict[str, Any] = {
            "name": unparse(target),
            "met": unparse(node),
            "right": after,
            "line": Line(node.lineno),
        }
        yield Edit(ID, rewrite(script, node, lead + after), facts["name"], facts)
    yield from _numbers(subject)
    yield from _sums(subject)


def _numbers(subject: Subject) -> Iterator[Edit]:
    """Numbers that a piece is moved by or set to."""
    for node in walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Attribute(attr="move" | "go" | "walk" as name), args=args):
                numbers = [argument for argument in args if isinstance(argument, (ast.Constant, ast.UnaryOp))]
            case ast.Assign(targets=[ast.Attribute(attr="vx" | "vy" | "x" | "y" as name)], value=value):
                numbers = [value] if isinstance(value, (ast.Constant, ast.UnaryOp)) else []
            case _:
                continue
        for number in numbers:
            met = unparse(number)
            right = met[1:] if met.startswith("-") else f"-{met}"
            facts = {"name": name, "met": met, "right": right, "line": Line(number.lineno)}
            yield Edit(ID, spans(replace_node(subject.script, number, right)), name, facts)


def _sums(subject: Subject) -> Iterator[Edit]:
    """Sums of a variable and a number that are no changes of their own, as `become(height - 1)`."""
    stored = {id(node.value) for node in walk(subject.script.tree) if isinstance(node, ast.Assign)}
    for node in walk(subject.script.tree):
        match node:
            case ast.BinOp(
                left=ast.Name() | ast.Attribute() as left, op=ast.Add() | ast.Sub() as op, right=ast.Constant() as right
            ) if id(node) not in stored:
                met = unparse(node)
                other = f"{unparse(left)} {'-' if isinstance(op, ast.Add) else '+'} {unparse(right)}"
                facts = {"name": unparse(left), "met": met, "right": other, "line": Line(node.lineno)}
                yield Edit(ID, spans(replace_node(subject.script, node, other)), unparse(left), facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
