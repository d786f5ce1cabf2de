"""`change-for-set`: `+=` where the value is to be set.

Recognised by setting it instead: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, rewrite, unparse
from ..finding import Edit
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
        wanted = [code_of(script, value), f"-{code_of(script, value)}", starts.get(name, "0")]
        for text in dict.fromkeys(wanted):
            lead = script.lines[stmt.node.lineno - 1][: stmt.node.col_offset]
            facts = {"name": name, "change": unparse(stmt.node), "set": f"{name} = {text}"}
            yield Edit(ID, rewrite(script, stmt.node, f"{lead}{name} = {text}"), name, facts)


SLIP: Final = Slip(ID, Group.OWN, edits)
