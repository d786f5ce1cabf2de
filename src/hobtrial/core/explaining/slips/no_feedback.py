"""`no-feedback`: the text, sound or display that is asked for never comes.

Recognised by adding the reference's line where its place is: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from itertools import islice
from typing import Any, Final

from ...script.tree import Statement, after, before, blank, body_start, handlers, targets, unparse, walk
from ..finding import Edit, Line
from ..recognition import CALLS, Seen, has_text
from ..saying import TOLD, capital
from ..subject import Subject
from ..texts import other_texts
from .slip import Group, Slip

ID: Final = "no-feedback"
TELLS: Final = frozenset(("tell", "print", "sound", "board", "send", "question", "offer"))
MOST_PLACES: Final = 12
"""Places at which one line is tried."""


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of the reference that shows, tells or sounds something and is not in the script: after
    each line that changes what it speaks of, in place of each line of its kind, at the end of each block.
    """
    script = subject.script
    for each in other_texts(subject, "told", "sound"):
        met, right = f'"{each.met}"', f'"{each.right}"'
        facts = {"wanted": right, "met": met, "right": right, "line": Line(each.line), "kind": each.use}
        yield Edit(ID, each.spans, right, facts)
    own = {(unparse(stmt.node), stmt.function is None) for stmt in subject.statements}
    for theirs in subject.reference_statements:
        line = subject.here(unparse(theirs.node))
        if not _tells(theirs.node) or (line, theirs.function is None) in own or not subject.known_in(theirs.node):
            continue
        facts = {"wanted": f"`{line}`", "kind": _kind(theirs.node)}
        for stmt in islice(_likely(subject, theirs), MOST_PLACES):
            given = {**facts, "line": Line(stmt.node.lineno)}
            yield Edit(ID, (after(script, stmt.node, line),), line, given, shows_reference=True)
        for stmt in subject.statements:
            if (
                _tells(stmt.node)
                and _kind(stmt.node) == facts["kind"]
                and (stmt.function is None) == (theirs.function is None)
            ):
                given = {**facts, "line": Line(stmt.node.lineno)}
                spans = (
                    *blank(script, stmt.node, [stmt.node, stmt.node]),
                    after(script, stmt.node, line),
                )
                yield Edit(ID, tuple(sorted(spans)), line, given, shows_reference=True)
        if theirs.function is not None:
            for function, _ in subject.handlers():
                first = body_start(function)
                given = {**facts, "line": Line(function.lineno)}
                yield Edit(ID, (before(script, first, line),), line, given, shows_reference=True)


def _likely(subject: Subject, theirs: Statement) -> Iterator[Statement]:
    """Places after which the line may belong: those that change what it reads, then the ends of blocks."""
    read = {node.id for node in walk(theirs.node) if isinstance(node, ast.Name)}
    events = [unparse(event) for function, event in handlers([theirs.function] if theirs.function else [])]
    at_top = theirs.function is None
    mine = {function.name for function, event in subject.handlers() if unparse(event) in events}
    ends = [stmt for stmt in subject.statements if stmt.index == len(stmt.block) - 1]
    changing = [stmt for stmt in subject.statements if set(targets(stmt.node)) & read and not at_top]
    ordered = [stmt for stmt in ends if stmt.function and stmt.function.name in mine]
    begun = [stmt for stmt in subject.statements if at_top and stmt.function is None and not stmt.parents]
    for stmt in dict.fromkeys([*changing, *ordered, *reversed(begun), *ends]):
        if (stmt.function is None) == at_top and not isinstance(stmt.node, (ast.Return, ast.FunctionDef)):
            yield stmt


def _tells(node: ast.stmt) -> bool:
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Call) and _kind(node) in TELLS


def _kind(node: ast.stmt) -> str:
    match node:
        case ast.Expr(value=ast.Call(func=ast.Name(id=name))) | ast.Expr(value=ast.Call(func=ast.Attribute(attr=name))):
            return name
    return ""


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A label, a text, a sound or a message that is asked for stands nowhere in the script."""
    if seen.cause.kind == "not-shown":
        label = str(seen.cause.facts["label"])
        return None if has_text(seen.script, label) else {"wanted": f'Something under "{label}" on the scoreboard'}
    for what in seen.needs:
        missing = str(what) == seen.cause.what and seen.cause.facts.get("own") in (0, None)
        if (
            what.what in CALLS
            and missing
            and not has_text(seen.script, what.name)
            and has_text(seen.reference, what.name)
        ):
            return {"wanted": capital(f'{TOLD[what.what][0]}"{what.name}"')}
    return None


SLIP: Final = Slip(ID, Group.REFERENCE, edits, recognise=recognise)
