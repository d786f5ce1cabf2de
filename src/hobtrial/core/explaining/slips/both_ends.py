"""`both-ends`: won and lost in one go, the wrong one first.

Recognised by asking in the other order: it mends, and the game did end.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from itertools import pairwise
from typing import Any, Final

from ...script.tree import before, blank, calls, source_of
from ...trial import OUTCOME, Trace
from ..finding import Edit, Line
from ..subject import Subject
from .branch_order import edits as exchanged
from .slip import Group, Slip
from .update_order import moves

ID: Final = "both-ends"


def edits(subject: Subject) -> Iterator[Edit]:
    """Tests, branches and handlers that end the game, exchanged."""
    script = subject.script
    for stmt, other, spans in moves(subject):
        if calls(stmt.node, "win", "lose") and calls(other, "win", "lose"):
            facts = {"line": Line(stmt.node.lineno), "other": Line(other.lineno)}
            yield Edit(ID, spans, "outcome", facts)
    for edit in exchanged(subject):
        if edit.facts["ends"]:
            yield Edit(ID, edit.spans, "outcome", {"line": Line(edit.line)})
    ending = [node for node in script.tree.body if isinstance(node, ast.FunctionDef) and calls(node, "win", "lose")]
    for first, second in pairwise(ending):
        spans = (before(script, first, source_of(script, second)), *blank(script, second, [second, second]))
        yield Edit(ID, tuple(sorted(spans)), "outcome", {"line": Line(second.lineno), "other": Line(first.lineno)})


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """The frame in which the game ended."""
    timeline = trace.samples.get(OUTCOME)
    ends = [frame for frame, value in timeline.changes() if value != "playing"] if timeline is not None else []
    return {"frame": ends[0]} if ends else None


SLIP: Final = Slip(ID, Group.OWN, edits, witness=witness)
