"""Walks a tree: statements with what is round them, handlers with their events, calls, and the tests on the way."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TypeGuard

from .nodes import walk
from .written import unparse


@dataclass(frozen=True, eq=False)
class Statement:
    """A statement, the block that it stands in, and what is round it."""

    node: ast.stmt
    block: list[ast.stmt]
    index: int
    function: ast.FunctionDef | None
    parents: tuple[ast.stmt, ...]
    """The statements round it, the outermost first."""


def is_handler(node: ast.AST) -> TypeGuard[ast.FunctionDef]:
    """Whether a node is a function with `@on(…)`."""
    return isinstance(node, ast.FunctionDef) and bool(node.decorator_list)


def handlers(found: list[ast.FunctionDef]) -> Iterator[tuple[ast.FunctionDef, ast.expr]]:
    """Each handler among some functions, with each of its events."""
    for function in found:
        if is_handler(function):
            for decorator in function.decorator_list:
                for event in decorator.args if isinstance(decorator, ast.Call) else ():
                    yield function, event


def statements(tree: ast.Module) -> Iterator[Statement]:
    """All statements of a tree with what is round them."""

    def inside_of(
        block: list[ast.stmt], function: ast.FunctionDef | None, parents: tuple[ast.stmt, ...]
    ) -> Iterator[Statement]:
        for index, node in enumerate(block):
            yield Statement(node, block, index, function, parents)
            inside = node if isinstance(node, ast.FunctionDef) else function
            for name in ("body", "orelse"):
                inner = getattr(node, name, None)
                if isinstance(inner, list) and not isinstance(node, ast.ClassDef):
                    yield from inside_of(inner, inside, (*parents, node))
            for case in getattr(node, "cases", ()):
                yield from inside_of(case.body, inside, (*parents, node))

    return inside_of(tree.body, None, ())


def calls(node: ast.AST, *names: str) -> list[ast.Call]:
    """The calls of some functions inside a node."""
    return [
        each
        for each in walk(node)
        if isinstance(each, ast.Call) and isinstance(each.func, ast.Name) and each.func.id in names
    ]


def targets(node: ast.stmt) -> list[str]:
    """What a statement stores, or causes by a call: `score`, `hob.x`, `win`, `board:Buns`, `bun.remove`."""
    found: list[str] = []
    match node:
        case ast.Assign(targets=given):
            found += [unparse(each) for target in given for each in _each_target(target)]
        case ast.AugAssign(target=target) | ast.AnnAssign(target=target):
            found.append(unparse(target))
        case ast.Expr(value=ast.Call(func=ast.Name(id="board"), args=[ast.Constant(value=str(label)), *_])):
            found.append(f"board:{label}")
        case ast.Expr(value=ast.Call(func=ast.Name(id=name))):
            found.append(name)
        case ast.Expr(value=ast.Call(func=ast.Attribute(attr=name))):
            found.append(f".{name}")
    return found


def _each_target(target: ast.expr) -> list[ast.expr]:
    return list(target.elts) if isinstance(target, (ast.Tuple, ast.List)) else [target]


def guards_of(stmt: Statement) -> list[str]:
    """The tests that must have answered yes for a statement to run, as far as they are written round it."""
    found: list[str] = []
    inner: ast.stmt = stmt.node
    for parent in reversed(stmt.parents):
        match parent:
            case ast.If(test=test, body=body) | ast.While(test=test, body=body):
                found.append(unparse(test) if inner in body else negated(test))
        block = next((b for b in _blocks(parent) if inner in b), [])
        found += _early(block, inner)
        inner = parent
    return list(dict.fromkeys(found))


def _blocks(node: ast.AST) -> list[list[ast.stmt]]:
    return [block for name in ("body", "orelse") if isinstance(block := getattr(node, name, None), list)]


def _early(block: list[ast.stmt], until: ast.stmt) -> list[str]:
    """Tests that end the function before a statement is come to, the other way round."""
    found = []
    for node in block[: block.index(until)] if until in block else ():
        if isinstance(node, ast.If) and not node.orelse and isinstance(node.body[-1], (ast.Return, ast.Break)):
            found.append(negated(node.test))
    return found


OPPOSITES = {
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Lt: ast.GtE,
    ast.GtE: ast.Lt,
    ast.Gt: ast.LtE,
    ast.LtE: ast.Gt,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}


def negated(test: ast.expr) -> str:
    """The test that answers the other way round, as text."""
    match test:
        case ast.UnaryOp(op=ast.Not(), operand=inner):
            return unparse(inner)
        case ast.Compare(left=left, ops=[op], comparators=[right]) if type(op) in OPPOSITES:
            return unparse(ast.Compare(left, [OPPOSITES[type(op)]()], [right]))
    return f"not ({unparse(test)})" if isinstance(test, ast.BoolOp) else f"not {unparse(test)}"


def stored(target: ast.expr) -> Iterator[ast.expr]:
    """The single targets of an assignment; of a place in a collection the collection."""
    if isinstance(target, (ast.Tuple, ast.List)):
        for part in target.elts:
            yield from stored(part)
    else:
        yield target.value if isinstance(target, (ast.Starred, ast.Subscript)) else target


def goes_on_with_elif(node: ast.AST) -> bool:
    """Whether an `if` goes on with `elif`: the one in its `else` begins at its own column."""
    return (
        isinstance(node, ast.If)
        and len(node.orelse) == 1
        and isinstance(node.orelse[0], ast.If)
        and node.orelse[0].col_offset == node.col_offset
    )
