"""`win-not-told`: the script knows that the game is over, and the player is not told.

Recognised by `win()` or `lose()` in the branch that knows: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import after, before, calls, code_of, rewrite, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "win-not-told"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each branch, each end that the reference has; for each line that only tells, the same."""
    script = subject.script
    ends = [end for end in ("win", "lose") if calls(subject.reference.tree, end)]
    for stmt in subject.statements:
        node = stmt.node
        match node:
            case ast.Expr(value=ast.Call(func=ast.Name(id="tell" | "print"), args=[text])):
                for end in ends:
                    lead = script.lines[node.lineno - 1][: node.col_offset]
                    facts = {"end": end, "met": unparse(node), "line": Line(node.lineno)}
                    yield Edit(ID, rewrite(script, node, f"{lead}{end}({unparse(text)})"), end, facts)
    for stmt in subject.statements:
        node = stmt.node
        if isinstance(node, ast.If) and node.body[0].lineno != node.lineno:
            last = node.body[-1]
            for end in ends:
                if not calls(node, end):
                    put = (
                        before(script, last, f"{end}()")
                        if isinstance(last, ast.Return)
                        else after(script, last, f"{end}()")
                    )
                    facts = {"end": end, "met": code_of(script, node.test), "line": Line(node.lineno)}
                    yield Edit(ID, (put,), end, facts)


SLIP: Final = Slip(ID, Group.PARTS, edits)
