"""`once-only`: asked once at the beginning where it must be asked again and again.

Recognised by asking on every frame, or with `while` for `if`: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import (
    Span,
    after,
    before,
    blank,
    block_lines,
    body_start,
    code_of,
    indent,
    replace_node,
    rewrite,
    shifted,
    source_of,
    spans,
    targets,
    walk,
)
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "once-only"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each test at the top or in a handler of `start`: asked on every frame; in straight scripts: in a loop."""
    script = subject.script
    for node in script.tree.body:
        if not isinstance(node, ast.If) or script.lines[node.lineno - 1].lstrip().startswith("elif"):
            continue
        facts: dict[str, Any] = {"test": code_of(script, node.test), "line": Line(node.lineno)}
        if script.straight:
            start = node.col_offset
            yield Edit(ID, (Span(node.lineno, start, start + 2, "while"),), facts["test"], facts)
            continue
        stored = [
            target
            for stmt in subject.statements
            if node in stmt.parents
            for target in targets(stmt.node)
            if target in script.globals and not isinstance(stmt.node, ast.Expr)
        ]
        head = "@on(frame)\ndef look():\n"
        if stored:
            head += f"    global {', '.join(dict.fromkeys(stored))}\n"
        yield from _into_handlers(subject, node, facts)
        body = shifted(block_lines(script, node), indent(script, node), "    ")
        yield Edit(ID, rewrite(script, node, head + body), facts["test"], facts)
    yield from _decided_once(subject)
    for function, event in subject.handlers():
        tests = [node for node in walk(function) if isinstance(node, ast.If)]
        if isinstance(event, ast.Name) and event.id == "start" and tests:
            facts = {"test": code_of(script, tests[0].test), "line": Line(tests[0].lineno)}
            yield Edit(ID, spans(replace_node(script, event, "frame")), facts["test"], facts)


def _into_handlers(subject: Subject, node: ast.If, facts: dict[str, Any]) -> Iterator[Edit]:
    """A test at the top, asked at the end of each function that changes what it asks about."""
    script = subject.script
    asked = {each.id for each in walk(node.test) if isinstance(each, ast.Name)}
    changing = [
        function for function in subject.functions
        if any(stmt.function is function and set(targets(stmt.node)) & asked for stmt in subject.statements)
    ]  # fmt: skip
    if changing:
        text = source_of(script, node)
        put = [after(script, function.body[-1], text) for function in changing]
        yield Edit(ID, tuple(sorted([*put, *blank(script, node, [node, node])])), facts["test"], facts)


def _decided_once(subject: Subject) -> Iterator[Edit]:
    """A value that the top decides by a test, decided again in each function that uses it."""
    script, body = subject.script, subject.script.tree.body
    for index, node in enumerate(body):
        match node:
            case ast.If(test=test):
                names = {name for stmt in node.body for name in targets(stmt)}
            case ast.Assign(value=(ast.IfExp() | ast.Compare() | ast.BoolOp()) as value):
                test = value.test if isinstance(value, ast.IfExp) else value
                names = set(targets(node))
            case _:
                continue
        begun = [each for each in body[:index] if isinstance(each, ast.Assign) and set(targets(each)) & names]
        moved = [*begun, node]
        users = [
            each for each in subject.functions
            if any(isinstance(inner, ast.Name) and inner.id in names for inner in walk(each))
        ]  # fmt: skip
        if not users or script.straight:
            continue
        text = "\n".join(source_of(script, each) for each in moved)
        put = [before(script, body_start(each), text) for each in users]
        gone = [span for each in moved for span in blank(script, each, [each, each])]
        facts: dict[str, Any] = {"test": code_of(script, test), "line": Line(node.lineno)}
        yield Edit(ID, tuple(sorted([*put, *gone])), facts["test"], facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
