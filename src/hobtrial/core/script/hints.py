"""What can be said of a loop that never ends, read off the script."""

from __future__ import annotations

import ast

from .read import Script
from .tree import walk


def loop_hint(script: Script, line: int, often: str) -> str:
    """The message for a spent budget: what went round, how often, and what does not change in it."""
    for node in walk(script.tree):
        if isinstance(node, ast.While) and node.lineno == line:
            return f"This loop went round {often}: {_unchanged(node)}."
        if isinstance(node, ast.For) and node.lineno == line:
            return f"This loop went round {often}."
        if isinstance(node, ast.FunctionDef) and line in (node.lineno, *(d.lineno for d in node.decorator_list)):
            return f"The function `{node.name}` was called {often}."
    return f"The lines here ran {often}."


def _unchanged(loop: ast.While) -> str:
    asked = [node.id for node in walk(loop.test) if isinstance(node, ast.Name)]
    changed = {
        node.id
        for part in loop.body
        for node in walk(part)
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)
    }
    called = {
        node.func.id for node in walk(loop.test) if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
    }
    still = [name for name in dict.fromkeys(asked) if name not in changed | called]
    breaks = any(isinstance(node, (ast.Break, ast.Return)) for part in loop.body for node in walk(part))
    if isinstance(loop.test, ast.Constant):
        return "its `break` was never reached" if breaks else "nothing inside it ends it"
    if still and not any(name in changed for name in asked):
        return f"nothing inside it changes `{still[0]}`"
    return "its test never became false"
