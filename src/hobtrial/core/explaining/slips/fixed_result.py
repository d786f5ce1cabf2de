"""`fixed-result`: the expected number is written out instead of counted.

Recognised by a line that stores, shows or tells a number which the checks expect, where the reference counts it.
"""

from __future__ import annotations

import ast
import re
from typing import Any, Final

from ...judging import Prepared
from ...script import Script
from ...script.tree import statements, targets, unparse, walk
from ..finding import Line
from ..recognition import Seen
from .slip import Group, Slip

ID: Final = "fixed-result"


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A number that is told, or that the other value was set to, stands written out in a line that ran."""
    if any(what.what == "told" for what in seen.needs):
        told = _told(seen)
        if told is not None:
            return told
    if (
        not seen.other_value
        or seen.cause.kind == "extra-change"
        or not _counts(seen.reference, seen.cause.what, seen.prepared)
    ):
        return None
    name = seen.cause.what.removeprefix("game.")
    theirs = {
        _fixed(stmt.node) for stmt in statements(seen.reference.tree)
        if stmt.parents and (isinstance(stmt.node, ast.Return) or name in targets(stmt.node))
    }  # fmt: skip
    for stmt in seen.stored_at():
        number = _fixed(stmt.node)
        if number is not None and number in _expected(seen.prepared) and number not in theirs:
            return {"number": repr(number), "reference": seen.cause.facts.get("reference")}
    return None


def _told(seen: Seen) -> dict[str, Any] | None:
    """A number that the story tells, that the reference does not tell, and that a line which ran has written out."""
    told = {word for line in seen.own.story for word in re.findall(r"\d+", line.text)}
    right = {word for line in seen.theirs.story for word in re.findall(r"\d+", line.text)}
    for stmt in statements(seen.script.tree):
        fixed = _fixed(stmt.node)
        inside = stmt.function is not None or seen.script.straight
        if inside and fixed not in (None, 0, 1) and str(fixed) in told - right and stmt.node.lineno in seen.own.lines:
            other = sorted(right - told)
            if other:
                line = Line(stmt.node.lineno)
                return {"number": repr(fixed), "reference": int(other[0]), "line": line}
    return None


def _fixed(node: ast.stmt) -> int | float | None:
    match node:
        case ast.Assign(value=ast.Constant(value=value)) | ast.Return(value=ast.Constant(value=value)):
            return value if isinstance(value, (int, float)) and not isinstance(value, bool) else None
        case ast.Expr(value=ast.Call(func=ast.Name(id="board"), args=[_, ast.Constant(value=value), *_])):
            return value if isinstance(value, (int, float)) and not isinstance(value, bool) else None
    return None


def _counts(reference: Script, what: str, prepared: Prepared) -> bool:
    """Whether the reference works out the value, and never sets it to a number but at the beginning."""
    name = what.removeprefix("game.")
    labels = {each.label: each.name for each in prepared.exercise.settings.variable if each.label}
    shown = re.match(r'board\("(.+)"\)', what)
    name = labels.get(shown[1], name) if shown else name
    return any(
        isinstance(node, ast.AugAssign) and unparse(node.target).removeprefix("game.") == name
        for node in walk(reference.tree)
    ) or any(
        isinstance(stmt.node, ast.Assign)
        and not isinstance(stmt.node.value, ast.Constant)
        and any(unparse(target).removeprefix("game.") == name for target in stmt.node.targets)
        for stmt in statements(reference.tree)
    )


def _expected(prepared: Prepared) -> set[Any]:
    """The numbers that the checks expect."""
    return {
        node.value
        for scenario in prepared.scenarios
        for asked in scenario.checks
        for node in walk(ast.parse(asked.spec.expect or "None", mode="eval"))
        if isinstance(node, ast.Constant) and isinstance(node.value, (int, float))
    }


SLIP: Final = Slip(ID, Group.PARTS, recognise=recognise)
