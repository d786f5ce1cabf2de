"""`half-reset`: the restart does not put everything back.

Recognised by the reference's line of its restart: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import (
    Statement,
    after,
    before,
    body_start,
    calls,
    functions,
    spans,
    statements,
    targets,
    to_global,
    unparse,
    walk,
)
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "half-reset"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of the reference's restart that the script's has not: first, last, and all that are missing."""
    used = {node.id for node in walk(subject.script.tree) if isinstance(node, ast.Name)}
    wanted = _reset_lines(subject)
    forgotten = [f"{each.name}()" for each in subject.functions if each.name not in used and not each.decorator_list]
    showing = [f"{each.name}()" for each in subject.functions if not each.args.args and _only_shows(each)]
    for function in subject.restarts or _restart_like(subject):
        own = {unparse(node) for node in walk(function) if isinstance(node, ast.stmt)}
        missing = [text for text in wanted if text not in own]
        for text in (*missing, *forgotten, *(each for each in showing if each not in own)):
            yield from _edits(subject, function, [text])
        if len(missing) > 1:
            yield from _edits(subject, function, missing)


def _edits(subject: Subject, function: ast.FunctionDef, lines: list[str]) -> Iterator[Edit]:
    script = subject.script
    names = [
        name for line in lines for name in targets(ast.parse(line).body[0]) if name in script.globals and " = " in line
    ]
    told = to_global(script, function, *dict.fromkeys(names)) if names else None
    last, text = function.body[-1], "\n".join(lines)
    facts = {"missing": lines[0], "function": function.name, "line": Line(function.lineno)}
    own = all(_plain_reset(subject, line) for line in lines)
    put = before(script, last, text) if isinstance(last, ast.Return) else after(script, last, text)
    yield Edit(ID, spans(told, put), lines[0], facts, shows_reference=True, own=own)
    start = body_start(function)
    again = next((each for each in function.body if calls(each, "again") and not isinstance(each, ast.If)), None)
    if start is not last:
        yield Edit(
            ID, spans(told, before(script, again or start, text)), lines[0], facts, shows_reference=True, own=own
        )
    inside = next((each for each in function.body if isinstance(each, ast.If) and calls(each, "again")), None)
    if inside is not None:
        yield Edit(
            ID, spans(told, after(script, inside.body[-1], text)), lines[0], facts, shows_reference=True, own=own
        )


def _only_shows(function: ast.FunctionDef) -> bool:
    """Whether a function does nothing but put things on the scoreboard."""
    return not function.decorator_list and all(
        calls(each, "board") and isinstance(each, ast.Expr) for each in function.body
    )


def _plain_reset(subject: Subject, line: str) -> bool:
    """Whether a line puts back one thing as the script itself begins with it, or calls something of its own."""
    match ast.parse(line).body[0]:
        case ast.Expr(value=ast.Call(func=ast.Attribute(attr="restore" | "unfreeze"), args=[])):
            return True
        case ast.Expr(value=ast.Call(func=ast.Name(id=name))):
            return name in subject.function_names or name in ("again", "board")
        case ast.Assign(targets=[ast.Name(id=name)], value=ast.Constant() as value):
            starts = {
                unparse(stmt.node.value) for stmt in subject.statements
                if isinstance(stmt.node, ast.Assign) and stmt.function is None and name in targets(stmt.node)
            }  # fmt: skip
            return unparse(value) in starts
    return False


def _reset_lines(subject: Subject) -> list[str]:
    """What the reference's restart does, line by line, with what its helpers do."""
    theirs = {each.name: each for each in functions(subject.reference.tree)}
    found: list[str] = []
    for function in theirs.values():
        if not calls(function, "again"):
            continue
        for stmt in statements(ast.Module([function], [])):
            if _puts_back(stmt):
                found += [
                    subject.here(line) for line in _opened(stmt.node, theirs) if subject.known_in(ast.parse(line))
                ]
    return list(dict.fromkeys(found))


def _opened(node: ast.stmt, theirs: dict[str, ast.FunctionDef]) -> list[str]:
    match node:
        case ast.Expr(value=ast.Call(func=ast.Name(id=name), args=[])) if name in theirs:
            return [unparse(each) for each in theirs[name].body if isinstance(each, (ast.Expr, ast.Assign))]
    return [unparse(node)]


def _puts_back(stmt: Statement) -> bool:
    return isinstance(stmt.node, (ast.Assign, ast.Expr))


def _restart_like(subject: Subject) -> list[ast.FunctionDef]:
    """Handlers of the event on which the reference begins again, where the script forgets `again()`."""
    events = {
        unparse(event)
        for function in functions(subject.reference.tree)
        if calls(function, "again")
        for decorator in function.decorator_list
        if isinstance(decorator, ast.Call)
        for event in decorator.args
    }
    return [function for function, event in subject.handlers() if unparse(event) in events]


SLIP: Final = Slip(ID, Group.OWN, edits)
