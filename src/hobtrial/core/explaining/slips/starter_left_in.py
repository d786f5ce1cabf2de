"""`starter-left-in`: a line of the starter stands where it does harm.

Recognised by leaving it out: it mends, and the reference does not have it.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from ...script import Script
from ...script.tree import blank, first_line, statements, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "starter-left-in"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each statement that the starter has word for word and the reference has not: without it."""
    starter = subject.prepared.read(subject.prepared.exercise.starter)
    if not isinstance(starter, Script):
        return
    theirs = {unparse(stmt.node) for stmt in subject.reference_statements}
    given = {unparse(stmt.node) for stmt in statements(starter.tree)} - theirs
    for stmt in subject.statements:
        if unparse(stmt.node) in given:
            text = unparse(stmt.node).split("\n")[0]
            facts = {"met": text, "line": Line(first_line(stmt.node))}
            yield Edit(ID, blank(subject.script, stmt.node, stmt.block), text, facts)


SLIP: Final = Slip(ID, Group.WIRING, edits)
