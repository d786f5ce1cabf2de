"""`no-once-guard`: an announcement, reward or stage that comes again and again.

Recognised by letting it happen only the first time: it mends, and it happened several times.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, before, body_start, code_of, first_line, spans, unparse
from ..finding import Edit, Line
from ..saying import times
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "no-once-guard"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each branch and each handler that ran several times: only once."""
    script = subject.script
    top = before(script, script.tree.body[0], "game.done = False")
    for stmt in subject.statements:
        node = stmt.node
        if isinstance(node, ast.If) and stmt.function is not None and subject.runs_of(first_line(node.body[0])) > 1:
            inner = node.body[0]
            if first_line(inner) == node.lineno:
                continue
            facts = {
                "what": code_of(script, node.test),
                "often": times(subject.runs_of(first_line(inner))),
                "line": Line(node.lineno),
            }
            end = script.lines[node.lineno - 1].rfind(":")
            start = node.test.col_offset
            test = script.lines[node.lineno - 1][start:end]
            if isinstance(node.test, ast.BoolOp):
                test = f"({test})"
            head = Span(node.lineno, start, end, f"{test} and not game.done")
            noted = before(script, inner, "game.done = True")
            yield Edit(ID, spans(top, head, noted), unparse(node.test), facts)
    for function, event in subject.handlers():
        begin = body_start(function)
        if subject.runs_of(first_line(begin)) > 1 or subject.runs_of(first_line(function.body[-1])) > 1:
            guard = before(script, begin, "if game.done:\n    return\ngame.done = True")
            facts = {
                "what": unparse(event),
                "often": times(subject.runs_of(first_line(function.body[-1]))),
                "line": Line(function.lineno),
            }
            yield Edit(ID, spans(top, guard), unparse(event), facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
