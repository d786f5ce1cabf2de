"""A piece of a tree as text: written as the product writes scripts, with double quotes."""

from __future__ import annotations

import ast
import functools
import re


@functools.lru_cache(maxsize=2048)
def unparse(node: ast.AST) -> str:
    """The source of a node. Comments and the student's own spacing are not kept."""
    return re.sub(r"'([^'\"\\{}]*)'", r'"\1"', ast.unparse(node))
