"""`wrong-amount`: changed, compared or moved by another number than the one asked for.

Recognised by the number that the reference has in the same part: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, replace_node, spans, unparse
from ..finding import Edit, Line
from ..subject import PROPERTIES, Subject
from .slip import Group, Slip

ID: Final = "wrong-amount"
Numbered = tuple[str, ast.expr]


def edits(subject: Subject) -> Iterator[Edit]:
    """For each number in a change, a test, a property or a call: those of the reference in the same part."""
    theirs: dict[str, list[str]] = {}
    for key, node in numbers(subject.reference.tree):
        theirs.setdefault(subject.here(key), []).append(unparse(node))
        theirs.setdefault(key.split(" ")[0], []).append(unparse(node))
    changes = [text for key, found in theirs.items() if key.startswith("change ") for text in found]
    for key, node in [*numbers(subject.script.tree), *_given(subject)]:
        met = unparse(node)
        wanted = theirs.get(key) or theirs.get(key.split(" ")[0], []) or (changes if key.startswith("given") else [])
        for right in dict.fromkeys(wanted):
            if right != met and not (key.startswith("test") and _next_to(met, right)):
                facts: dict[str, Any] = {
                    "met": met,
                    "right": right,
                    "name": key.split(" ", 1)[-1],
                    "text": code_of(subject.script, node),
                    "line": Line(node.lineno),
                }
                yield Edit(ID, spans(replace_node(subject.script, node, right)), facts["name"], facts)


def numbers(tree: ast.AST) -> Iterator[Numbered]:
    """The numbers of a script, each with its part: `change score`, `test score`, `set hob.x`, `call go`."""
    for node in ast.walk(tree):
        match node:
            case ast.AugAssign(target=target, value=value) if _number(value):
                yield f"change {unparse(target)}", value
            case ast.Assign(targets=[target], value=ast.BinOp(left=left, right=right)) if _number(right):
                if unparse(left) == unparse(target):
                    yield f"change {unparse(target)}", right
            case ast.Assign(targets=[ast.Attribute(attr=attr) as target], value=value) if (
                _number(value) and attr in PROPERTIES
            ):
                yield f"set {unparse(target)}", value
            case ast.Compare(left=left, comparators=[right]):
                if _number(right):
                    yield f"test {unparse(left)}", right
                elif _number(left):
                    yield f"test {unparse(right)}", left
            case ast.Call(func=ast.Attribute() | ast.Name(id="wait") as func, args=args):
                name = func.attr if isinstance(func, ast.Attribute) else "wait"
                for index, argument in enumerate(args):
                    if _number(argument) and not name.startswith("rand"):
                        yield f"call{index} {name}", argument


def _given(subject: Subject) -> Iterator[Numbered]:
    """The numbers that the script gives to functions of its own."""
    for node in ast.walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Name(id=name), args=args) if name in subject.function_names:
                for argument in args:
                    if _number(argument):
                        yield f"given {name}", argument


def _number(node: ast.expr) -> bool:
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        node = node.operand
    return isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool)


def _next_to(met: str, right: str) -> bool:
    """Whether two numbers are one apart: a test with such a number is off at its boundary."""
    return abs(float(met) - float(right)) == 1


SLIP: Final = Slip(ID, Group.OWN, edits)
