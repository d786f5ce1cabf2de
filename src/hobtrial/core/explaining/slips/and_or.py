"""`and-or`: `or` where `and` is meant, the reverse, or a part left out of a test of all.

Recognised by the other word, or by the part that the reference asks for too: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "and-or"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each joined test the other word; for each test one more part of a joined test of the reference."""
    for node in walk(subject.script.tree):
        if isinstance(node, ast.BoolOp) and not any(isinstance(each, ast.Constant) for each in node.values):
            word = "or" if isinstance(node.op, ast.And) else "and"
            parts = [f"({unparse(each)})" if isinstance(each, ast.BoolOp) else unparse(each) for each in node.values]
            yield _edit(subject, node, f" {word} ".join(parts))
            if isinstance(node.op, ast.And):
                for index, part in enumerate(parts):
                    rest = " and ".join(each for number, each in enumerate(parts) if number != index)
                    yield _edit(subject, node, rest, too_many=part)
            if len(parts) > 2:
                mixed = [f"{parts[0]} {word} {parts[1]}", *parts[2:]]
                yield _edit(subject, node, f" {'and' if word == 'or' else 'or'} ".join(mixed))
    joined = [node for node in walk(subject.reference.tree) if isinstance(node, ast.BoolOp)]
    for test in _tests(subject.script.tree):
        own = {unparse(each) for each in (test.values if isinstance(test, ast.BoolOp) else [test])}
        for node in joined:
            theirs = [subject.here(unparse(each)) for each in node.values]
            missing = [each for each in theirs if each not in own and subject.known(each)]
            if own & set(theirs) and missing:
                word = "and" if isinstance(node.op, ast.And) else "or"
                right = f" {word} ".join([unparse(test), *missing])
                yield _edit(subject, test, right, left_out=missing[0])


def _tests(tree: ast.AST) -> Iterator[ast.expr]:
    for node in walk(tree):
        match node:
            case ast.If(test=test) | ast.While(test=test) | ast.IfExp(test=test) | ast.Return(value=ast.expr() as test):
                yield test
            case ast.Assign(value=(ast.BoolOp() | ast.Compare()) as test):
                yield test


def _edit(subject: Subject, node: ast.expr, right: str, left_out: str = "", too_many: str = "") -> Edit:
    met = code_of(subject.script, node)
    facts = {"test": met, "right": right, "line": Line(node.lineno), **({"left_out": left_out} if left_out else {})}
    facts |= {"too_many": too_many} if too_many else {}
    plain = left_out in subject.asked
    span = replace_node(subject.script, node, right)
    return Edit(ID, spans(span), met, facts, shows_reference=bool(left_out), own=plain)


SLIP: Final = Slip(ID, Group.OWN, edits)
