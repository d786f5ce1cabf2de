"""`wrong-formula`: a sum that works out another value than the one asked for.

Recognised by another sign, other brackets, sides exchanged, or the reference's sum: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-formula"
SIGNS: Final[dict[type[ast.operator], str]] = {
    ast.Add: "+",
    ast.Sub: "-",
    ast.Mult: "*",
    ast.Div: "/",
    ast.FloorDiv: "//",
    ast.Mod: "%",
    ast.Pow: "**",
}


def edits(subject: Subject) -> Iterator[Edit]:
    """For each sum: each other sign, the other brackets, the sides exchanged; what is worked out and never used."""
    script = subject.script
    stored = {
        id(node.value): unparse(target)
        for node in walk(script.tree)
        if isinstance(node, ast.Assign)
        for target in node.targets
    }
    for node in walk(script.tree):
        if isinstance(node, ast.BinOp) and type(node.op) in SIGNS:
            for right in dict.fromkeys(_others(node)):
                if right != stored.get(id(node)):  # that would store a value in itself
                    yield _edit(subject, node, right)
    yield from _left_out(subject)


def broad(subject: Subject) -> Iterator[Edit]:
    """For each sum that is stored, shown or told: the reference's."""
    script = subject.script
    theirs = formulas(subject.reference.tree)
    for name, node in formulas(script.tree):
        for other, formula in theirs:
            right = subject.here(unparse(formula))
            if isinstance(node, ast.Name):
                continue  # no sum, but another variable
            if (other == name or subject.here(other) == name) and right != unparse(node) and subject.known(right):
                yield _edit(subject, node, right, shows_reference=True)


def _left_out(subject: Subject) -> Iterator[Edit]:
    """A variable that is worked out and never used: times, plus or minus it, wherever another one is read after it."""
    script = subject.script
    read: dict[str, list[ast.Name]] = {}
    for node in walk(script.tree):
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load):
            read.setdefault(node.id, []).append(node)
    for stmt in subject.statements:
        match stmt.node:
            case ast.Assign(targets=[ast.Name(id=unused)]) if unused not in read and unused not in subject.asked:
                pass
            case _:
                continue
        line = stmt.node.lineno
        for name in [each for each in subject.variables if each != unused and "." not in each]:
            nodes = [node for node in read.get(name, ()) if node.lineno > line]
            for sign in ("*", "+", "-") if nodes else ():
                right = f"{name} {sign} {unused}"
                changed = [replace_node(script, node, right) for node in nodes]
                facts: dict[str, Any] = {"met": name, "right": right, "unused": unused, "line": Line(nodes[0].lineno)}
                yield Edit(ID, spans(*changed), name, facts)


def formulas(tree: ast.AST) -> list[tuple[str, ast.expr]]:
    """The sums that are stored, shown or told, each with where it goes."""
    found: list[tuple[str, ast.expr]] = []
    for node in walk(tree):
        match node:
            case ast.Assign(targets=[target], value=value) | ast.AugAssign(target=target, value=value) if (
                not isinstance(value, ast.Constant)
            ):
                found.append((unparse(target), value))
            case ast.Return(value=ast.BinOp() as value):
                found.append(("", value))
            case ast.Call(func=ast.Name(id="board"), args=[ast.Constant(value=str(label)), value, *_]):
                found.append((f"board {label}", value))
    return found


def _edit(subject: Subject, node: ast.expr, right: str, *, shows_reference: bool = False) -> Edit:
    facts: dict[str, Any] = {"met": code_of(subject.script, node), "right": right, "line": Line(node.lineno)}
    span = replace_node(subject.script, node, right)
    return Edit(ID, spans(span), facts["met"], facts, shows_reference=shows_reference)


def _others(node: ast.BinOp) -> Iterator[str]:
    left, right = _bracketed(node.left), _bracketed(node.right)
    for kind, sign in SIGNS.items():
        if not isinstance(node.op, kind):
            yield f"{left} {sign} {right}"
    own = SIGNS[type(node.op)]
    if own in ("-", "/", "//", "%", "**"):
        yield f"{right} {own} {left}"
    if isinstance(node.left, ast.BinOp) and type(node.left.op) in SIGNS:
        inner = node.left
        a, b, sign = unparse(inner.left), unparse(inner.right), SIGNS[type(inner.op)]
        yield f"{a} {sign} ({b} {own} {right})"
    if isinstance(node.right, ast.BinOp) and type(node.right.op) in SIGNS:
        inner = node.right
        a, b, sign = unparse(inner.left), unparse(inner.right), SIGNS[type(inner.op)]
        yield f"({left} {own} {a}) {sign} {b}"
    yield from _over_brackets(node)
    yield left
    yield right


def _over_brackets(node: ast.BinOp) -> Iterator[str]:
    """`(a + b) * c` → `a * c + b` and `a + b * c`; `a * b + c` → `(a + c) * b` and `a * (b + c)`."""
    for inner, outer in ((node.left, node.right), (node.right, node.left)):
        other = _bracketed(outer)
        if not isinstance(inner, ast.BinOp):
            continue
        first, last = _bracketed(inner.left), _bracketed(inner.right)
        if isinstance(node.op, ast.Mult) and isinstance(inner.op, (ast.Add, ast.Sub)):
            sign = SIGNS[type(inner.op)]
            yield f"{first} * {other} {sign} {last}"
            yield f"{first} {sign} {last} * {other}"
        elif isinstance(node.op, (ast.Add, ast.Sub)) and isinstance(inner.op, ast.Mult) and inner is node.left:
            sign = SIGNS[type(node.op)]
            yield f"({first} {sign} {other}) * {last}"
            yield f"{first} * ({last} {sign} {other})"


def _bracketed(node: ast.expr) -> str:
    text = unparse(node)
    return f"({text})" if isinstance(node, (ast.BinOp, ast.BoolOp, ast.Compare, ast.IfExp)) else text


SLIP: Final = Slip(ID, Group.PARTS, edits, broad=broad)
