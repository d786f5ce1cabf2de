"""`text-and-number`: glued or compared across types; `"2"` for `2`; a name in quotes, or a text without.

Recognised by taking the quotes off, putting them on, or by `int(…)` and `str(…)`: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, replace_node, spans, unparse
from ...trial import Trace
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "text-and-number"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each text that is a number or a name, each name that nothing has, each value that is glued or compared."""
    script = subject.script
    names = set(subject.variables) | set(subject.facts)
    bound = script.globals | subject.given | set(subject.facts) | {
        name for function in subject.functions for name in _locals(function)
    }  # fmt: skip
    skipped = {id(inner) for _, event in subject.handlers() for inner in ast.walk(event)}
    wrapped: list[ast.expr] = []
    for node in ast.walk(script.tree):
        if id(node) in skipped:
            continue
        match node:
            case ast.Constant(value=str(text)) if _is_number(text) or text in names:
                yield _edit(subject, node, text)
            case ast.Name(id=name, ctx=ast.Load()) if name not in bound:
                yield _edit(subject, node, f'"{name}"')
            case ast.BinOp(left=left, op=ast.Add(), right=right):
                wrapped += [each for each in (left, right) if not isinstance(each, ast.Constant)]
                for each in (left, right):
                    if isinstance(each, ast.Constant) and isinstance(each.value, (int, float)):
                        yield _edit(subject, each, f'"{each.value}"')
            case ast.BinOp(left=left, right=right):
                wrapped += [each for each in (left, right) if not isinstance(each, ast.Constant)]
            case ast.Compare(left=left, comparators=[right]):
                wrapped += [each for each in (left, right) if not isinstance(each, ast.Constant)]
                for each in (left, right):
                    if isinstance(each, ast.Constant) and isinstance(each.value, (int, float)):
                        yield _edit(subject, each, f'"{each.value}"')
            case ast.AugAssign(value=value) if not isinstance(value, ast.Constant):
                wrapped.append(value)
            case ast.Call(func=ast.Name(id="input")):
                wrapped.append(node)
    for each in dict.fromkeys(wrapped):
        source = unparse(each)
        match each:
            case ast.Call(func=ast.Name(id="str" | "int" | "float"), args=[inner]):
                yield _edit(subject, each, unparse(inner))
        for kind in ("int", "str", "float"):
            yield _edit(subject, each, f"{kind}({source})", kind)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """That a text and a number met: a `TypeError`, a test of both, or a text that is a number."""
    kind = edit.facts.get("kind", "")
    if not kind or (trace.stopped is not None and trace.stopped.kind in ("TypeError", "ValueError")):
        return {}
    for test in trace.tests:
        types = {isinstance(value, str) for _, value in test.parts}
        if test.line == edit.line and len(types) > 1:
            return {}
    if kind != "str" and any(isinstance(each.new, str) and _is_number(each.new) for each in trace.changes):
        return {}
    return None


def _locals(function: ast.FunctionDef) -> set[str]:
    return {argument.arg for argument in function.args.args} | {
        node.id for node in ast.walk(function) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)
    }


def _edit(subject: Subject, node: ast.expr, right: str, kind: str = "") -> Edit:
    facts: dict[str, Any] = {
        "met": code_of(subject.script, node),
        "right": right,
        "line": Line(node.lineno),
        "kind": kind,
    }
    return Edit(ID, spans(replace_node(subject.script, node, right)), facts["met"], facts)


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


SLIP: Final = Slip(ID, Group.WIRING, edits, witness=witness)
