"""Which collections a statement may change in place: `xs.append(1)`, `bag["rye"] = 2`, `shuffle(hob.cards)`."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from .tree import COMPREHENSIONS, bound_by, walk

MUTATING: Final = frozenset(
    "append extend insert remove pop sort reverse clear add discard update setdefault shuffle".split()
)
"""Methods that change the collection that they are called on (`shuffle` the one it is given)."""


def changed_places(node: ast.stmt) -> list[str]:
    """The variables whose collection a simple statement may have changed: `xs`, `game.bag`, `hob.bag`."""
    if not isinstance(node, (ast.Expr, ast.Assign, ast.AugAssign, ast.AnnAssign)):
        return []
    roots: dict[str, None] = {}
    for inner, own in _evaluated(node):
        match inner:
            case (
                ast.Call(func=ast.Attribute(attr="shuffle"), args=[place])
                | ast.Call(func=ast.Name(id="shuffle"), args=[place])
            ):
                root = _root(place)
            case ast.Call(func=ast.Attribute(value=place, attr=attr)) if attr in MUTATING:
                root = _root(place)
            case ast.Subscript(value=place, ctx=ast.Store()):
                root = _root(place)
            case _:
                continue
        if root and root.partition(".")[0] not in own:
            roots[root] = None
    return list(roots)


def _root(place: ast.expr) -> str:
    """The variable that a place belongs to: `xs`, `game.bag`, `hob.bag`; nothing for other values."""
    while isinstance(place, ast.Subscript):
        place = place.value
    match place:
        case ast.Name(id=root):
            return root
        case ast.Attribute(value=ast.Name(id=owner), attr=attribute):
            return f"{owner}.{attribute}"
    return ""


def _evaluated(node: ast.AST, own: frozenset[str] = frozenset()) -> Iterator[tuple[ast.AST, frozenset[str]]]:
    """The nodes that run with a statement, each with the names that only a loop inside the expression knows.

    What stands in a lambda does not run yet; its defaults do.
    """
    if isinstance(node, ast.Lambda):
        for default in (*node.args.defaults, *(each for each in node.args.kw_defaults if each is not None)):
            yield from _evaluated(default, own)
        return
    if isinstance(node, COMPREHENSIONS):
        own |= {bound for loop in node.generators for part in walk(loop.target) for bound in bound_by(part)}
    yield node, own
    for child in ast.iter_child_nodes(node):
        yield from _evaluated(child, own)
