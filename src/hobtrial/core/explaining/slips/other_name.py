"""`other-name`: a consistent name of one's own for the one asked for.

Recognised by renaming it throughout, where the name asked for is nowhere in the script: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import calls, replace_node, spans
from ..finding import Edit, Line
from ..near import near
from ..subject import Subject
from .misspelt_name import name_places, renamed_places
from .slip import Group, Slip

ID: Final = "other-name"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each listed variable that the script does not have: each variable of its own under that name."""
    statements = name_places(subject.script)
    listed = {name for each in subject.prepared.exercise.settings.variable for name in (each.name, *each.also)}
    for each in subject.prepared.exercise.settings.variable:
        if each.name in statements or any(name in statements for name in each.also):
            continue
        for own in subject.variables:
            plain = own.removeprefix("game.")
            if plain in listed or "." in plain or plain not in statements or near(plain, each.name):
                continue
            facts = {"own": plain, "right": each.name}
            yield Edit(ID, spans(*renamed_places(statements[plain], each.name)), each.name, facts, everywhere=True)
    yield from _labels(subject)


def _labels(subject: Subject) -> Iterator[Edit]:
    """A label of one's own on the scoreboard for one that is asked for and not there."""
    met: dict[str, list[ast.expr]] = {}
    for call in calls(subject.script.tree, "board"):
        match call.args:
            case [ast.Constant(value=str(text)) as label, *_]:
                met.setdefault(text, []).append(label)
    for right in [label for label in subject.labels if label not in met]:
        for text, nodes in met.items():
            if text not in subject.labels and not near(text, right):
                changed = spans(*(replace_node(subject.script, node, f'"{right}"') for node in nodes))
                yield Edit(
                    ID, changed, right, {"own": f'"{text}"', "right": f'"{right}"', "line": Line(nodes[0].lineno)}
                )


SLIP: Final = Slip(ID, Group.OWN, edits)
