"""`change-for-set`: `+=` where the value is to be set.

Recognised by setting it instead: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, replace_node, rewrite, spans, targets, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .never_set import reference_starts
from .slip import Group, Slip

ID: Final = "change-for-set"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each value added or taken away: the value itself set, and the one at the start."""
    script, starts = subject.script, reference_starts(subject)
    for stmt in subject.statements:
        match stmt.node:
            case ast.AugAssign(target=target, op=ast.Add() | ast.Sub(), value=value):
                pass
            case ast.Assign(targets=[target], value=ast.BinOp(left=left, op=ast.Add() | ast.Sub(), right=value)) if (
                unparse(left) == unparse(target)
            ):
                pass
            case _:
                continue
        name = unparse(target)
        wanted = [code_of(script, value), f"-{code_of(script, value)}"]
        if any(name in targets(other.node) for other in subject.statements if other.function and other is not stmt):
            wanted.append(starts.get(name, "0"))  # else nothing would ever change it
        for text in dict.fromkeys(wanted):
            lead = script.lines[stmt.node.lineno - 1][: stmt.node.col_offset]
            facts = {"name": name, "change": unparse(stmt.node), "set": f"{name} = {text}"}
            yield Edit(ID, rewrite(script, stmt.node, f"{lead}{name} = {text}"), name, facts)
    yield from _through_helpers(subject, starts)
    yield from _turned_over(subject)


def _turned_over(subject: Subject) -> Iterator[Edit]:
    """`closed = not closed` → `closed = True`."""
    for stmt in subject.statements:
        match stmt.node:
            case ast.Assign(targets=[target], value=ast.UnaryOp(op=ast.Not(), operand=inner) as value) if unparse(
                inner
            ) == unparse(target):
                for right in ("True", "False"):
                    name = unparse(target)
                    facts = {"name": name, "change": unparse(stmt.node), "set": f"{name} = {right}"}
                    span = replace_node(subject.script, value, right)
                    yield Edit(ID, spans(span), name, {**facts, "line": Line(stmt.node.lineno)})


def _through_helpers(subject: Subject, starts: dict[str, str]) -> Iterator[Edit]:
    """`change(-1)` → `change(1 - height)`, where the helper adds what it is given."""
    for function in subject.functions:
        names = [argument.arg for argument in function.args.args]
        changed = [target for node in walk(function) for target in _changed_by(node, names)]
        for node in walk(subject.script.tree):
            match node:
                case ast.Call(func=ast.Name(id=called), args=[argument]) if called == function.name and changed:
                    name = changed[0]
                    if name in starts:
                        met = unparse(node)
                        facts = {"name": name, "change": met, "set": f"{name} = {starts[name]}"}
                        span = replace_node(subject.script, argument, f"{starts[name]} - {name}")
                        yield Edit(ID, spans(span), name, {**facts, "line": Line(node.lineno)})


def _changed_by(node: ast.AST, parameters: list[str]) -> list[str]:
    """The variable that a line changes by one of the parameters."""
    match node:
        case ast.AugAssign(target=ast.Name(id=name), op=ast.Add(), value=ast.Name(id=by)) if by in parameters:
            return [name]
        case ast.Assign(
            targets=[ast.Name(id=name)],
            value=ast.BinOp(left=ast.Name(id=left), op=ast.Add(), right=ast.Name(id=by)),
        ) if left == name and by in parameters:
            return [name]
    return []


SLIP: Final = Slip(ID, Group.OWN, edits)
