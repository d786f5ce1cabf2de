"""Planted slips with variables: names, first values, amounts, signs, order."""

from __future__ import annotations

import ast
from collections.abc import Callable, Iterator
from typing import Final

from ..explaining import Edit
from ..script import Script
from ..script.tree import blank, replace_node, rewrite, source_of, spans, statements, unparse, walk


def changed_numbers(slip: str, kinds: tuple[type, ...]) -> Callable[[Script], Iterator[Edit]]:
    """Numbers in statements of some kinds, one more and doubled."""

    def plant(script: Script) -> Iterator[Edit]:
        for stmt in statements(script.tree):
            at_top = stmt.function is None and not script.straight
            wanted = at_top if slip == "wrong-start" else not at_top
            if not wanted or not isinstance(stmt.node, kinds):
                continue
            for node in walk(stmt.node):
                if not isinstance(node, ast.Constant) or _in_event(script, node) or isinstance(node.value, bool):
                    continue
                if isinstance(node.value, (int, float)):
                    for value in (node.value + 1, node.value * 3 + 2):
                        yield Edit(slip, spans(replace_node(script, node, repr(value))), "")

    return plant


def set_for_change(script: Script) -> Iterator[Edit]:
    """`score += 1` → `score = 1`."""
    for stmt in statements(script.tree):
        if isinstance(stmt.node, ast.AugAssign):
            node = stmt.node
            yield _line(script, node, "set-for-change", f"{unparse(node.target)} = {unparse(node.value)}")


def change_for_set(script: Script) -> Iterator[Edit]:
    """`height = 1` in a function → `height += 1`."""
    for stmt in statements(script.tree):
        match stmt.node:
            case ast.Assign(targets=[target], value=ast.Constant(value=int() as value)) if (
                stmt.function is not None and not isinstance(value, bool)
            ):
                yield _line(script, stmt.node, "change-for-set", f"{unparse(target)} += {value}")


def wrong_sign(script: Script) -> Iterator[Edit]:
    """`+=` ↔ `-=`."""
    for stmt in statements(script.tree):
        match stmt.node:
            case ast.AugAssign(target=target, op=ast.Add() | ast.Sub() as op, value=value):
                sign = "-" if isinstance(op, ast.Add) else "+"
                yield _line(script, stmt.node, "wrong-sign", f"{unparse(target)} {sign}= {unparse(value)}")


def missing_global(script: Script) -> Iterator[Edit]:
    """A function without its `global` line."""
    for stmt in statements(script.tree):
        if isinstance(stmt.node, ast.Global):
            yield Edit("missing-global", blank(script, stmt.node, stmt.block), "")


def misspelt_name(script: Script) -> Iterator[Edit]:
    """One place of a variable with another letter."""
    for node in walk(script.tree):
        if isinstance(node, ast.Name) and node.id in script.globals and len(node.id) > 2:
            yield Edit("misspelt-name", spans(replace_node(script, node, node.id[:-1] + "x")), "")


def wrong_variable(script: Script) -> Iterator[Edit]:
    """A name in a function replaced by another variable of the script."""
    names = sorted(
        {
            node.id
            for node in walk(script.tree)
            if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store) and node.id in script.globals
        }
    )
    for stmt in statements(script.tree):
        if stmt.function is None or isinstance(stmt.node, (ast.If, ast.For, ast.While)):
            continue
        for node in walk(stmt.node):
            if isinstance(node, ast.Name) and node.id in names and isinstance(node.ctx, ast.Load):
                for other in names:
                    if other != node.id:
                        yield Edit("wrong-variable", spans(replace_node(script, node, other)), "")


def number_for_variable(script: Script) -> Iterator[Edit]:
    """A variable in a test or sum, with the number that it begins with in its place."""
    starts = {
        target.id: unparse(node.value)
        for node in script.tree.body
        if isinstance(node, ast.Assign) and isinstance(node.value, ast.Constant)
        for target in node.targets
        if isinstance(target, ast.Name)
    }
    for stmt in statements(script.tree):
        if stmt.function is None:
            continue
        for node in walk(stmt.node):
            if isinstance(node, (ast.Compare, ast.BinOp)):
                for inner in walk(node):
                    if isinstance(inner, ast.Name) and inner.id in starts:
                        yield Edit("number-for-variable", spans(replace_node(script, inner, starts[inner.id])), "")


def text_and_number(script: Script) -> Iterator[Edit]:
    """A first value in quotes; `int(…)` left out."""
    for node in walk(script.tree):
        match node:
            case ast.Assign(value=ast.Constant(value=int() as value) as given) if not isinstance(value, bool):
                yield Edit("text-and-number", spans(replace_node(script, given, f'"{value}"')), "")
            case ast.Call(func=ast.Name(id="int"), args=[inner]):
                yield Edit("text-and-number", spans(replace_node(script, node, unparse(inner))), "")


def wrong_formula(script: Script) -> Iterator[Edit]:
    """Another sign in a sum, and its brackets left out."""
    others = {ast.Add: "-", ast.Sub: "+", ast.Mult: "+", ast.FloorDiv: "*", ast.Div: "*"}
    for node in walk(script.tree):
        if isinstance(node, ast.BinOp) and type(node.op) in others:
            sign = others[type(node.op)]
            text = f"{unparse(node.left)} {sign} {unparse(node.right)}"
            yield Edit("wrong-formula", spans(replace_node(script, node, text)), "")
            if isinstance(node.right, ast.BinOp) and isinstance(node.op, ast.Mult):
                text = f"{unparse(node.left)} * {unparse(node.right)}"
                yield Edit("wrong-formula", spans(replace_node(script, node, text)), "")


def wrong_range(script: Script) -> Iterator[Edit]:
    """A random number with another end."""
    for node in walk(script.tree):
        match node:
            case ast.Call(func=ast.Attribute(attr="randint"), args=[low, high]):
                for low_text, high_text in (
                    (unparse(low), f"{unparse(high)} - 1"),
                    (f"{unparse(low)} - 1", unparse(high)),
                ):
                    changed = (replace_node(script, low, low_text), replace_node(script, high, high_text))
                    yield Edit("wrong-range", spans(*changed), "")


def update_order(script: Script) -> Iterator[Edit]:
    """Two neighbours of a function that store and read the same, exchanged."""
    for stmt in statements(script.tree):
        following = stmt.block[stmt.index + 1] if stmt.index + 1 < len(stmt.block) else None
        simple = (ast.Assign, ast.AugAssign, ast.Expr)
        if stmt.function is None or not isinstance(stmt.node, simple) or not isinstance(following, simple):
            continue
        names = [{each.id for each in walk(node) if isinstance(each, ast.Name)} for node in (stmt.node, following)]
        if names[0] & names[1]:
            lead = " " * stmt.node.col_offset
            swapped = (
                *rewrite(script, stmt.node, lead + source_of(script, following)),
                *rewrite(script, following, lead + source_of(script, stmt.node)),
            )
            yield Edit("update-order", swapped, "")


def best_always_replaced(script: Script) -> Iterator[Edit]:
    """`if score > best: best = score` without its test."""
    for stmt in statements(script.tree):
        match stmt.node:
            case ast.If(test=ast.Compare(), body=[ast.Assign(value=ast.Name())], orelse=[]):
                yield Edit("best-always-replaced", spans(replace_node(script, stmt.node.test, "True")), "")


def _line(script: Script, node: ast.stmt, slip: str, text: str) -> Edit:
    return Edit(slip, rewrite(script, node, " " * node.col_offset + text), "")


def _in_event(script: Script, node: ast.AST) -> bool:
    return any(
        node is inner
        for each in walk(script.tree)
        if isinstance(each, ast.FunctionDef)
        for decorator in each.decorator_list
        for inner in walk(decorator)
    )


VALUES: Final[dict[str, Callable[[Script], Iterator[Edit]]]] = {
    "wrong-start": changed_numbers("wrong-start", (ast.Assign,)),
    "wrong-amount": changed_numbers("wrong-amount", (ast.AugAssign, ast.Assign)),
    "set-for-change": set_for_change,
    "change-for-set": change_for_set,
    "wrong-sign": wrong_sign,
    "missing-global": missing_global,
    "misspelt-name": misspelt_name,
    "wrong-variable": wrong_variable,
    "number-for-variable": number_for_variable,
    "text-and-number": text_and_number,
    "wrong-formula": wrong_formula,
    "wrong-range": wrong_range,
    "update-order": update_order,
    "best-always-replaced": best_always_replaced,
}
