"""All nodes of a tree, in the order of `ast.walk` and several times as fast."""

from __future__ import annotations

import ast
import functools
from collections.abc import Iterator


def walk(node: ast.AST) -> Iterator[ast.AST]:
    """A node and all below it, level by level."""
    return iter(_nodes(node)) if isinstance(node, (ast.Module, ast.FunctionDef)) else iter(_collected(node))


def children(node: ast.AST) -> list[ast.AST]:
    """The nodes just below one, in the order of its fields."""
    found: list[ast.AST] = []
    for field in node._fields:
        value = getattr(node, field, None)
        if isinstance(value, ast.AST):
            found.append(value)
        elif isinstance(value, list):
            found += [item for item in value if isinstance(item, ast.AST)]
    return found


@functools.lru_cache(maxsize=256)
def _nodes(tree: ast.Module | ast.FunctionDef) -> list[ast.AST]:
    """The nodes of a tree or function, which never changes once it is read: kept for a while, as it is asked often."""
    return _collected(tree)


def _collected(node: ast.AST) -> list[ast.AST]:
    found = [node]
    for each in found:  # it grows while it is gone through
        for field in each._fields:
            value = getattr(each, field, None)
            if isinstance(value, ast.AST):
                found.append(value)
            elif isinstance(value, list):
                found += [item for item in value if isinstance(item, ast.AST)]
    return found
