"""Which words of the language a script uses: what a sheet for it must explain."""

from __future__ import annotations

import ast

from .tree import names_bound_anywhere, walk

SIGNS = {
    ast.If: "if", ast.Match: "match", ast.While: "while", ast.For: "for", ast.FunctionDef: "def", ast.Lambda: "lambda",
    ast.Try: "try", ast.Import: "import", ast.ImportFrom: "import", ast.Assign: "=", ast.AugAssign: "+=",
    ast.Compare: "==", ast.JoinedStr: "f", ast.BoolOp: "and", ast.Return: "return", ast.Global: "global",
}  # fmt: skip
"""The words by which the parts of Python stand on the sheet."""


def words_used(text: str) -> tuple[str, ...]:
    """The names of the game, the attributes and the parts of Python that a script uses; none where it is not Python."""
    try:
        tree = ast.parse(text)
    except (SyntaxError, ValueError, MemoryError, RecursionError):
        return ()
    own = names_bound_anywhere(tree)
    found: set[str] = set()
    for node in walk(tree):
        if isinstance(node, ast.Name) and node.id not in own:
            found.add(node.id)
        elif isinstance(node, ast.Attribute):
            found.add(node.attr)
        elif type(node) in SIGNS:
            found.add(SIGNS[type(node)])
    return tuple(sorted(found))
