"""Functions that do the same again as long as nothing that they read has changed.

`@on(frame)` with a scoreboard and a test runs thousands of times and does nothing new in most of them. A function is
*steady* where it can only read plain variables, show, tell and end the game: then a run that changed nothing says what
the next one will do, and it need not be run.
"""

from __future__ import annotations

import ast
from typing import Final

from .tree import declared_global, names_bound_anywhere

CALLS: Final = frozenset("board outcome place tell sound win lose str int float bool abs round min max len".split())
"""Functions whose results depend on what they are given and on what the player sees, and whose effects are counted."""
_ALLOWED: Final = (
    ast.Global, ast.Expr, ast.If, ast.Pass, ast.Return, ast.Assign, ast.AugAssign, ast.Constant, ast.Name, ast.Compare,
    ast.BoolOp, ast.UnaryOp, ast.BinOp, ast.IfExp, ast.JoinedStr, ast.FormattedValue, ast.Call, ast.Tuple, ast.keyword,
    ast.expr_context, ast.operator, ast.boolop, ast.unaryop, ast.cmpop,
)  # fmt: skip


def steady(tree: ast.Module, own: frozenset[str], name: str) -> tuple[str, ...] | None:
    """The names that a function of a script reads, those of what it calls among them; nothing where it is not steady.

    `own` are the functions that are defined once, and whose names mean nothing else.
    """
    defined = {node.name: node for node in tree.body if isinstance(node, ast.FunctionDef) and node.name in own}
    calls = CALLS - names_bound_anywhere(tree)
    reads: set[str] = set()
    waiting, seen = [name], {name}
    while waiting:
        function = defined.get(waiting.pop())
        if function is None:
            return None
        found = _reads(function)
        if found is None:
            return None
        names, called = found
        if called & own - seen:
            waiting += sorted(called & own - seen)
            seen |= called & own
        if called - own - calls:
            return None
        reads |= names | called & own
    return tuple(sorted(reads))


def _reads(function: ast.FunctionDef) -> tuple[set[str], set[str]] | None:
    """The names that a function reads and the functions that it calls; nothing where it does anything else."""
    given = function.args
    if given.defaults or given.kw_defaults or given.vararg or given.kwarg:
        return None
    loaded: set[str] = set()
    stored: set[str] = set()
    called: set[str] = set()
    waiting: list[ast.AST] = list(function.body)
    while waiting:
        node = waiting.pop()
        if not isinstance(node, _ALLOWED):
            return None
        if isinstance(node, ast.Call):
            if not isinstance(node.func, ast.Name):
                return None
            called.add(node.func.id)
            waiting += [*node.args, *node.keywords]
            continue
        if isinstance(node, ast.Name):
            (loaded if isinstance(node.ctx, ast.Load) else stored).add(node.id)
        waiting += ast.iter_child_nodes(node)
    outside = declared_global(function)
    local = (stored | {each.arg for each in given.args}) - outside
    if local & called:
        return None
    return (loaded | stored & outside) - local, called
