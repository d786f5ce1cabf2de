"""`event-as-question`: an event stands in a test, where a question is meant.

Recognised by the question in its place: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "event-as-question"


def edits(subject: Subject) -> Iterator[Edit]:
    """`pressed("a")` → `is_down("a")`, `meets(hob, bun)` → `hob.overlaps(bun)`, outside of `@on`."""
    inside = {id(inner) for function in subject.functions for each in function.decorator_list for inner in walk(each)}
    found: list[Edit] = []
    for node in walk(subject.script.tree):
        if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Name) or id(node) in inside:
            continue
        given = [unparse(argument) for argument in node.args]
        match node.func.id, given:
            case (("pressed" | "held" | "released"), [key]):
                right = f"is_down({key})"
            case (("meets" | "overlaps" | "parts"), [first, second]):
                right = f"{first}.overlaps({second})"
            case "entered", [place]:
                right = f"place() == {place}"
            case _:
                continue
        met = unparse(node)
        facts = {"met": met, "right": right, "line": Line(node.lineno)}
        found.append(Edit(ID, spans(replace_node(subject.script, node, right)), met, facts))
    if len(found) > 1:
        yield Edit(ID, tuple(sorted(span for edit in found for span in edit.spans)), found[0].about, found[0].facts)
    yield from found


SLIP: Final = Slip(ID, Group.WIRING, edits)
