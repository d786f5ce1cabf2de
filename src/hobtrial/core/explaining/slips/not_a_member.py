"""`not-a-member`: a value outside the enumeration, or arithmetic on its members.

Recognised by a member in its place, or by its `.value`: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, imported_names, replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..near import near
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "not-a-member"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each value where a member may be meant, and each member where its value may be meant; all of these."""
    found = list(_single(subject))
    values = [edit for edit in found if edit.facts["right"] == f"{edit.facts['met']}.value"]
    if len(values) > 1:
        every = tuple(sorted({span for edit in values for span in edit.spans}))
        yield Edit(ID, every, values[0].about, values[0].facts)
    yield from found


def _single(subject: Subject) -> Iterator[Edit]:
    script = subject.script
    enums = enumerations(script.tree)
    if not enums:
        return
    inside = {id(inner) for node in script.tree.body if isinstance(node, ast.ClassDef) for inner in walk(node)}
    read = {id(node.value) for node in walk(script.tree) if isinstance(node, ast.Attribute)}
    used = {unparse(node) for node in walk(script.tree) if isinstance(node, ast.Attribute)}
    for node in walk(script.tree):
        if id(node) in inside:
            continue
        match node:
            case ast.Attribute(value=ast.Name(id=name), attr=attr) if name in enums:
                members = enums[name]
                if attr in members:
                    if id(node) not in read:
                        yield _edit(subject, node, f"{unparse(node)}.value")
                else:
                    # one that stands elsewhere is not meant here too, unless it is nearly the same
                    for member in (each for each in members if near(attr, each) or f"{name}.{each}" not in used):
                        yield _edit(subject, node, f"{name}.{member}")
            case ast.Attribute(value=inner, attr="value" | "name"):
                yield _edit(subject, node, unparse(inner))
            case ast.Constant(value=value) if not isinstance(value, bool) and value is not None:
                for name, members in enums.items():
                    for member, given in members.items():
                        if given == value or (isinstance(value, str) and value.casefold() == member.casefold()):
                            yield _edit(subject, node, f"{name}.{member}")
            case ast.BinOp(left=left, right=right) | ast.Compare(left=left, comparators=[right]):
                for side in (left, right):
                    if isinstance(side, ast.Name):
                        yield _edit(subject, side, f"{side.id}.value")
            case ast.AugAssign(value=ast.Name() as side):
                yield _edit(subject, side, f"{side.id}.value")


def enumerations(tree: ast.Module) -> dict[str, dict[str, Any]]:
    """For each enumeration its members with their values, as far as they are written out."""
    imported = {name for name, (module, _) in imported_names(tree).items() if module == "enum"}
    found: dict[str, dict[str, Any]] = {}
    for node in tree.body:
        if isinstance(node, ast.ClassDef) and any(
            isinstance(base, (ast.Name, ast.Attribute)) and unparse(base).split(".")[0] in imported
            for base in node.bases
        ):
            found[node.name] = {
                target.id: value.value if isinstance(value := each.value, ast.Constant) else unparse(value)
                for each in node.body
                if isinstance(each, ast.Assign)
                for target in each.targets
                if isinstance(target, ast.Name)
            }
    return found


def _edit(subject: Subject, node: ast.expr, right: str) -> Edit:
    facts: dict[str, Any] = {"met": code_of(subject.script, node), "right": right, "line": Line(node.lineno)}
    return Edit(ID, spans(replace_node(subject.script, node, right)), facts["met"], facts)


SLIP: Final = Slip(ID, Group.WIRING, edits)
