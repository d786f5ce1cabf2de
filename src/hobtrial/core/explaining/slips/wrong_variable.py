"""`wrong-variable`: another variable, piece or label is meant, as in a copied block with the old name left in.

Recognised by putting the other one in its place: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, column, replace_node, spans, to_global, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-variable"
AXES: Final = {"x": "y", "y": "x", "vx": "vy", "vy": "vx"}


def edits(subject: Subject) -> Iterator[Edit]:
    """Each name in functions (in straight scripts anywhere), alone and in its whole function; labels; x and y."""
    tree, script = subject.script.tree, subject.script
    plain = [name for name in subject.variables if "." not in name]
    themselves = {
        (id(node.value), target.id)
        for node in ast.walk(tree)
        if isinstance(node, ast.Assign)
        for target in node.targets
        if isinstance(target, ast.Name)
    }
    """What is stored in a name: the name itself in its place would store nothing."""
    for function in [*subject.functions, None] if script.straight else subject.functions:
        scope: ast.AST = function or tree
        names = [node for node in ast.walk(scope) if isinstance(node, ast.Name) and node.id in plain]
        for node in names:
            for right in plain:
                if right != node.id and (id(node), right) not in themselves:
                    yield _edit(subject, function, [node], right)
        for met in dict.fromkeys(node.id for node in names):
            several = [node for node in names if node.id == met]
            for right in plain if function is not None and len(several) > 1 else ():
                if right != met:
                    yield _edit(subject, function, several, right)
    for function in subject.functions:
        yield from _pieces(subject, function)
    yield from _labels(subject)
    for each in ast.walk(tree):
        if isinstance(each, ast.Attribute) and each.attr in AXES and each.end_col_offset is not None:
            end = column(script, each.end_lineno or each.lineno, each.end_col_offset)
            span = Span(each.end_lineno or each.lineno, end - len(each.attr), end, AXES[each.attr])
            text = unparse(each)
            other = text.removesuffix(each.attr) + AXES[each.attr]
            yield Edit(ID, (span,), text, {"met": text, "right": other, "line": Line(each.lineno)})


def _edit(subject: Subject, function: ast.FunctionDef | None, nodes: list[ast.Name], right: str) -> Edit:
    met = nodes[0].id
    stored = any(isinstance(node.ctx, ast.Store) for node in nodes)
    declared = to_global(subject.script, function, right) if function is not None and stored else None
    changed = [replace_node(subject.script, node, right) for node in nodes]
    return Edit(ID, spans(declared, *changed), right, {"met": met, "right": right, "line": Line(nodes[0].lineno)})


def _pieces(subject: Subject, function: ast.FunctionDef) -> Iterator[Edit]:
    """Pieces and parameters whose methods are called or whose properties are set."""
    parameters = [argument.arg for argument in function.args.args]
    owners = [*parameters, *subject.pieces]
    for node in ast.walk(function):
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id in owners:
            for right in owners:
                if right != node.value.id:
                    span = replace_node(subject.script, node.value, right)
                    facts = {"met": node.value.id, "right": right, "line": Line(node.lineno)}
                    yield Edit(ID, spans(span), right, facts)


def _labels(subject: Subject) -> Iterator[Edit]:
    for node in ast.walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Name(id="board"), args=[ast.Constant(value=str(met)) as label, *_]):
                for right in subject.labels:
                    if right != met and met in subject.labels:
                        facts = {"met": f'"{met}"', "right": f'"{right}"', "line": Line(node.lineno)}
                        yield Edit(ID, spans(replace_node(subject.script, label, f'"{right}"')), right, facts)


SLIP: Final = Slip(ID, Group.VARIABLE, edits)
