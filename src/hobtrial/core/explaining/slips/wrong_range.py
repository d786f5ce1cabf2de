"""`wrong-range`: of a random number, or drawn once where it must be drawn each time.

Recognised by the range that the reference draws from, or by drawing again in the function: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import before, body_start, imported_names, replace_node, spans, to_global, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-range"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each draw: the reference's numbers, one more or less at either end; and drawn in each function."""
    script = subject.script
    theirs = [_numbers(call) for call in draws(subject.reference.tree)]
    for call in draws(script.tree):
        own = _numbers(call)
        wanted = [each for each in theirs if len(each) == len(own)]
        if len(own) == 2 and all(_whole(each) for each in own):
            low, high = map(int, own)
            wanted += [[str(low), str(high + 1)], [str(low + 1), str(high)], [str(low + 1), str(high + 1)]]
        for numbers in wanted:
            if numbers != own:
                changed = [replace_node(script, node, text) for node, text in zip(call.args, numbers, strict=False)]
                facts = {"met": unparse(call), "right": ", ".join(numbers), "line": Line(call.lineno)}
                yield Edit(ID, spans(*changed), unparse(call.func), facts)
        for each in {unparse(other) for other in draws(subject.reference.tree)}:
            head = unparse(call.func)
            right = head + each[each.index("(") :]
            span = replace_node(script, call, right)
            facts = {"met": unparse(call), "right": each, "line": Line(call.lineno)}
            yield Edit(ID, spans(span), head, facts)
    yield from _again(subject)


def draws(tree: ast.AST) -> list[ast.Call]:
    """The calls that draw a random number."""
    direct = {name for name, (module, what) in imported_names(tree).items() if module == "random" and what}
    modules = {name for name, (module, what) in imported_names(tree).items() if module == "random" and not what}
    found: list[ast.Call] = []
    for node in walk(tree):
        match node:
            case ast.Call(func=ast.Attribute(value=ast.Name(id=owner))) if owner in modules:
                found.append(node)
            case ast.Call(func=ast.Name(id=name)) if name in direct:
                found.append(node)
    return found


def _numbers(call: ast.Call) -> list[str]:
    return [unparse(argument) for argument in call.args]


def _whole(text: str) -> bool:
    return text.lstrip("-").isdigit()


def _again(subject: Subject) -> Iterator[Edit]:
    """What is drawn once at the top, drawn again in the functions that use it."""
    script = subject.script
    for node in script.tree.body:
        if not (isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name)):
            continue
        inside = draws(script.tree)
        if not any(call in walk(node.value) for call in inside):
            continue
        name = node.targets[0].id
        users = [each for each in subject.functions if any(
            isinstance(inner, ast.Name) and inner.id == name for inner in walk(each)
        )]  # fmt: skip
        if users:
            first = replace_node(script, node.value, "0")
            drawn = [before(script, _first_line(each), f"{name} = {unparse(node.value)}") for each in users]
            told = [to_global(script, each, name) for each in users]
            facts = {"met": unparse(node.value), "right": unparse(node.value), "line": Line(node.lineno)}
            yield Edit(ID, spans(first, *told, *drawn), name, {**facts, "once": True})


def _first_line(function: ast.FunctionDef) -> ast.stmt:
    """The first statement of a function that does something."""
    return next((each for each in function.body if not isinstance(each, ast.Global)), body_start(function))


SLIP: Final = Slip(ID, Group.OWN, edits)
