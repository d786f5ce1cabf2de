"""`never-set`: used before it has a value, or given one only where the game may never come by.

Recognised by setting it at the top of the script: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import MODULES
from ...script.tree import before, unparse, walk
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "never-set"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each listed variable and each name that the script changes: a first value at the top."""
    tree = subject.script.tree
    set_at_top = {
        node.id for stmt in tree.body for node in walk(stmt)
        if not isinstance(stmt, (ast.FunctionDef, ast.If, ast.For, ast.While))
        and isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)
    }  # fmt: skip
    used = {node.id for node in walk(tree) if isinstance(node, ast.Name)}
    starts = {
        each.name: repr(each.start) for each in subject.prepared.exercise.settings.variable if each.start is not None
    }
    starts |= {name: text for name, text in reference_starts(subject).items() if name not in starts}
    for name in sorted(used | set(starts)):
        if name in set_at_top or name in subject.given or name in subject.function_names:
            continue
        if name in starts or name in subject.script.globals:
            value = starts.get(name, "0")
            facts = {"name": name, "value": value, "line": Line(_first_use(tree, name))}
            yield Edit(ID, (before(subject.script, tree.body[0], f"{name} = {value}"),), name, facts, everywhere=True)


def reference_starts(subject: Subject) -> dict[str, str]:
    """What the reference gives each variable at the top, as text."""
    return {
        subject.here(target.id): unparse(node.value)
        for node in subject.reference.tree.body
        if isinstance(node, ast.Assign) and isinstance(node.value, (ast.Constant, ast.UnaryOp))
        for target in node.targets
        if isinstance(target, ast.Name)
    }


def _first_use(tree: ast.AST, name: str) -> int:
    lines = [node.lineno for node in walk(tree) if isinstance(node, ast.Name) and node.id == name]
    return min(lines, default=1)


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A variable never had a value, or the script stopped at one that has none; what is called is no variable."""
    if seen.exception == "NameError":
        called = {node.func.id for node in walk(seen.script.tree)
                  if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)}  # fmt: skip
        if not seen.named or seen.named in called or _is_meant_otherwise(seen):
            return None
        later = {"later": True} if seen.named in seen.script.globals else {}
        return {"name": seen.named, "value": "", **later}
    lines = [
        node.lineno for node in walk(seen.script.tree) if isinstance(node, ast.Name) and node.id == seen.cause.what
    ]
    if seen.cause.kind != "never-set" or not lines:
        return None
    return {"name": seen.cause.what, "value": "", "line": Line(min(lines))}


def _is_meant_otherwise(seen: Seen) -> bool:
    """Whether a name is no variable: something that can be imported, or a word that the exercise asks for as a text."""
    if seen.named in seen.script.globals or seen.named in {
        each.name for each in seen.prepared.exercise.settings.variable
    }:
        return False
    imported = seen.named in MODULES or any(seen.named in there for there in MODULES.values())
    return imported or any(
        isinstance(node, ast.Constant) and node.value == seen.named for node in walk(seen.reference.tree)
    )


SLIP: Final = Slip(ID, Group.PARTS, edits, recognise=recognise)
