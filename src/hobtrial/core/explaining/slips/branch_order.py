"""`branch-order`: the branches of a chain stand in an order in which one takes what another is for.

Recognised by exchanging two of them: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from itertools import combinations
from typing import Final

from ...script.tree import Span, calls, last_line, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "branch-order"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each chain of tests: each two branches exchanged, and each branch put first."""
    for stmt in subject.statements:
        node = stmt.node
        if isinstance(node, ast.If) and not subject.script.lines[node.lineno - 1].lstrip().startswith("elif"):
            branches = _branches(node)
            for a, b in combinations(range(len(branches)), 2):
                order = list(range(len(branches)))
                order[a], order[b] = order[b], order[a]
                yield _edit(subject, branches, order)
                if b - a > 1:
                    yield _edit(subject, branches, [b, *(each for each in range(len(branches)) if each != b)])


def _branches(node: ast.If) -> list[ast.If]:
    found = [node]
    while len(node.orelse) == 1 and isinstance(node.orelse[0], ast.If):
        node = node.orelse[0]
        found.append(node)
    return found


def _edit(subject: Subject, branches: list[ast.If], order: list[int]) -> Edit:
    script = subject.script
    found: list[Span] = []
    for here, there in enumerate(order):
        if here == there:
            continue
        mine, other = branches[here], branches[there]
        first = script.lines[mine.lineno - 1]
        word = first.lstrip().split(" ")[0].split("(")[0]
        head = script.lines[other.lineno - 1]
        body = script.lines[other.lineno : last_line(other.body[-1])]
        test = head.lstrip().removeprefix("elif").removeprefix("if").lstrip()
        text = "\n".join([f"{first[: len(first) - len(first.lstrip())]}{word} {test}", *body])
        found.append(Span(mine.lineno, 0, len(first), text))
        for line in range(mine.lineno + 1, last_line(mine.body[-1]) + 1):
            found.append(Span(line, 0, len(script.lines[line - 1]), ""))
    moved = branches[next(there for here, there in enumerate(order) if here != there)]
    test = unparse(moved.test)
    ends = all(
        any(calls(each, "win", "lose") for each in branches[there].body) for there in order if order[there] != there
    )
    return Edit(ID, tuple(found), test, {"test": test, "line": Line(moved.lineno), "ends": ends})


SLIP: Final = Slip(ID, Group.OWN, edits)
