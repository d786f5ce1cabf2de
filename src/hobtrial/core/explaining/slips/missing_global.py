"""`missing-global`: assigned in a function and so forgotten at its end, or used before its local value.

Recognised by declaring it `global`: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import Script
from ...script.tree import (
    bound_names,
    declared,
    declared_global,
    functions,
    own_locals,
    spans,
    targets,
    to_global,
    walk,
)
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "missing-global"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each variable: declared in every function that forgets it; for each function: all that it forgets."""
    missing = [(function, names) for function in subject.functions if (names := forgotten(subject, function))]
    for name in dict.fromkeys(name for _, names in missing for name in names):
        inside = [function for function, names in missing if name in names]
        yield _edit(subject.script, [(function, [name]) for function in inside])
        if len(inside) > 1:
            yield from (_edit(subject.script, [(function, [name])]) for function in inside)
    for function, names in missing:
        if len(names) > 1:
            yield _edit(subject.script, [(function, names)])
    if len(missing) > 1:
        yield _edit(subject.script, missing)


def forgotten(subject: Subject, function: ast.FunctionDef) -> list[str]:
    """The game's variables that a function binds without `global`, the one that it binds first at the beginning."""
    shared = (subject.script.globals | set(subject.asked)) - subject.function_names
    parameters = {argument.arg for argument in (*function.args.args, *function.args.kwonlyargs)}
    local = bound_names(function) - declared_global(function) - declared(function, ast.Nonlocal) - parameters
    return sorted(local & shared, key=lambda name: (_store(function, name), name))


def _edit(script: Script, wanted: list[tuple[ast.FunctionDef, list[str]]]) -> Edit:
    first, names = wanted[0]
    facts = {"name": names[0], "function": first.name, "line": Line(_store(first, names[0]))}
    return Edit(ID, spans(*(to_global(script, function, *each) for function, each in wanted)), names[0], facts)


def _store(function: ast.FunctionDef, name: str) -> int:
    """The first line of a function that binds a name."""
    stores = (
        node.lineno
        for node in walk(function)
        if isinstance(node, ast.Name) and node.id == name and isinstance(node.ctx, ast.Store)
    )
    return min(stores, default=function.lineno)


def recognise(seen: Seen) -> dict[str, Any] | None:
    """The script stopped at a local that has the name of one of its variables."""
    if seen.exception == "NameError" and seen.named not in seen.script.globals:
        there = [each for each in functions(seen.script.tree) if seen.named in own_locals(each)]
        if len(there) != 1 or seen.named in {argument.arg for argument in there[0].args.args}:
            return None
        stores = [node for node in walk(there[0]) if isinstance(node, (ast.Assign, ast.AugAssign))]
        if not any(seen.named in targets(node) for node in stores):
            return None  # what a loop goes through is of use in there alone
        return {"name": seen.named, "function": there[0].name, "line": Line(_store(there[0], seen.named))}
    if seen.exception != "UnboundLocalError" or seen.named not in seen.script.globals:
        return None
    return {"name": seen.named, "function": seen.cause.facts.get("handler") or "a function"}


SLIP: Final = Slip(ID, Group.WIRING, edits, recognise=recognise)
