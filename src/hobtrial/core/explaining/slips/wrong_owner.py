"""`wrong-owner`: a variable is put on another piece than the one that should have it.

Recognised by giving it to the right owner throughout: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, column, replace_node, spans, to_global, walk
from ..finding import Edit, Line
from ..subject import PROPERTIES, Subject
from .misspelt_name import name_places
from .slip import Group, Slip

ID: Final = "wrong-owner"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each variable of a piece: on each other piece, and as the game's own; and the reverse."""
    script = subject.script
    held: dict[tuple[str, str], list[ast.Attribute]] = {}
    for node in walk(script.tree):
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.attr not in PROPERTIES:
            held.setdefault((node.value.id, node.attr), []).append(node)
    wanted = {(what.name, what.attribute) for what in subject.broken if what.what == "property"}
    listed = {what.name for what in subject.broken if what.what == "variable"} | set(subject.asked)
    for (owner, attr), nodes in held.items():
        stored = any(isinstance(node.ctx, ast.Store) for node in nodes)
        if not stored or owner == "game":
            continue
        owners = [piece for piece, name in sorted(wanted) if name == attr and piece != owner]
        if attr in listed and attr not in script.globals:
            owners.append("game")
        for right in dict.fromkeys(owners):
            moved = [_owner(subject, node, right) for node in nodes]
            yield Edit(ID, spans(*moved), f"{right}.{attr}", _facts(owner, attr, right), everywhere=True)
        everyone = [node for (_, name), found in held.items() if name == attr for node in found]
        for right in dict.fromkeys(owners):
            moved = [_owner(subject, node, right) for node in everyone]
            if len(everyone) > len(nodes):
                yield Edit(ID, spans(*moved), f"{right}.{attr}", _facts(owner, attr, right), everywhere=True)
    yield from _to_pieces(subject, wanted)
    yield from _of_a_parameter(subject, held, listed)


def _of_a_parameter(
    subject: Subject, held: dict[tuple[str, str], list[ast.Attribute]], listed: set[str]
) -> Iterator[Edit]:
    """`which.lives` → `lives`, where that is a variable of the script."""
    script = subject.script
    for (owner, attr), nodes in held.items():
        if attr not in listed or attr not in script.globals:
            continue
        stored = any(isinstance(node.ctx, ast.Store) for node in nodes)
        inside = [each for each in subject.functions if any(node in walk(each) for node in nodes)]
        told = [to_global(script, each, attr) for each in inside] if stored else []
        changed = [replace_node(script, node, attr) for node in nodes]
        facts = {"met": f"{owner}.{attr}", "right": attr, "owner": owner, "wanted": "the game", "name": attr}
        yield Edit(ID, spans(*told, *changed), attr, {**facts, "line": Line(nodes[0].lineno)}, everywhere=True)


def _to_pieces(subject: Subject, wanted: set[tuple[str, str]]) -> Iterator[Edit]:
    """The game's own variable, given to the piece that is asked for it."""
    statements = name_places(subject.script)
    for piece, attr in sorted(wanted):
        if attr in subject.script.globals and attr not in PROPERTIES:
            lines = subject.script.lines
            moved = [
                Span(span.line, span.start, span.end, f"{piece}.{attr}")
                for span in statements[attr]
                if not lines[span.line - 1].strip().startswith("global")
            ]
            declared = [
                Span(number, len(line) - len(line.lstrip()), len(line), "pass")
                for number, line in enumerate(lines, 1)
                if line.strip() == f"global {attr}"
            ]
            facts = {"met": attr, "right": f"{piece}.{attr}", "owner": "the game", "wanted": piece, "name": attr}
            yield Edit(ID, spans(*moved, *declared), f"{piece}.{attr}", facts, everywhere=True)


def _owner(subject: Subject, node: ast.Attribute, right: str) -> Span:
    assert isinstance(node.value, ast.Name)
    start = column(subject.script, node.lineno, node.col_offset)
    return Span(node.lineno, start, start + len(node.value.id), right)


def _facts(owner: str, attr: str, right: str) -> dict[str, str]:
    wanted = "the game" if right == "game" else right
    return {"met": f"{owner}.{attr}", "right": f"{right}.{attr}", "owner": owner, "wanted": wanted, "name": attr}


SLIP: Final = Slip(ID, Group.OWN, edits)
