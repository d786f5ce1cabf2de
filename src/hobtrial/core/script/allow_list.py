"""The tables of the allow-list: which nodes of Python's tree, and which of their fields, a script may use.

`FIELDS` says for each accepted node the fields that were decided about; what is not in it is turned down by
`subset.py`, with the words that stand here.
"""

from __future__ import annotations

import ast
from typing import Final

FIELDS: Final[dict[type[ast.AST], frozenset[str]]] = {
    node: frozenset(fields.split())
    for node, fields in {
        ast.Module: "body",
        ast.Expr: "value",
        ast.Assign: "targets value",
        ast.AugAssign: "target op value",
        ast.AnnAssign: "target annotation value simple",
        ast.If: "test body orelse",
        ast.While: "test body orelse",
        ast.For: "target iter body orelse",
        ast.Break: "",
        ast.Continue: "",
        ast.Pass: "",
        ast.FunctionDef: "name args body decorator_list returns",
        ast.Lambda: "args body",
        ast.arguments: "args defaults kwonlyargs kw_defaults",
        ast.arg: "arg annotation",
        ast.Return: "value",
        ast.Global: "names",
        ast.Nonlocal: "names",
        ast.Match: "subject cases",
        ast.match_case: "pattern guard body",
        ast.MatchValue: "value",
        ast.MatchSingleton: "value",
        ast.MatchOr: "patterns",
        ast.MatchAs: "name",
        ast.Try: "body handlers orelse",
        ast.ExceptHandler: "type name body",
        ast.Raise: "exc",
        ast.Assert: "test msg",
        ast.ClassDef: "name bases body",
        ast.Import: "names",
        ast.ImportFrom: "module names",
        ast.alias: "name asname",
        ast.BoolOp: "op values",
        ast.BinOp: "left op right",
        ast.UnaryOp: "op operand",
        ast.Compare: "left ops comparators",
        ast.IfExp: "test body orelse",
        ast.NamedExpr: "target value",
        ast.Call: "func args keywords",
        ast.keyword: "arg value",
        ast.Constant: "value",
        ast.Name: "id ctx",
        ast.Attribute: "value attr ctx",
        ast.Subscript: "value slice ctx",
        ast.Slice: "lower upper step",
        ast.List: "elts ctx",
        ast.Tuple: "elts ctx",
        ast.Dict: "keys values",
        ast.Set: "elts",
        ast.ListComp: "elt generators",
        ast.SetComp: "elt generators",
        ast.DictComp: "key value generators",
        ast.GeneratorExp: "elt generators",
        ast.comprehension: "target iter ifs",
        ast.JoinedStr: "values",
        ast.FormattedValue: "value conversion format_spec",
    }.items()
}

MARKS: Final = (ast.boolop, ast.operator, ast.unaryop, ast.cmpop, ast.expr_context)
"""Nodes without fields that only name an operator or a context."""

TYPE_NAMES: Final = frozenset({"int", "float", "str", "bool", "list", "dict", "set", "tuple", "None"})

WHY_NOT: Final[dict[type[ast.AST], tuple[str, str, str]]] = {
    ast.With: ("`with`", "there are no files here", "Remove it."),
    ast.Delete: ("`del`", "a piece is taken away by `remove()`", "Write `which.remove()`."),
    ast.AsyncFunctionDef: ("`async`", "handlers take turns by themselves", "Write `def`."),
    ast.Await: ("`await`", "handlers take turns by themselves", "Write `wait(1)` to wait a second."),
    ast.Yield: ("`yield`", "a handler runs to its end", "Use `return`, or `wait(1)` to wait a second."),
    ast.YieldFrom: ("`yield`", "a handler runs to its end", "Use `return`."),
    ast.Starred: ("`*` before a value", "every value is given by itself", "Write the values one by one."),
    ast.MatchSequence: ("a list as a pattern", "a `case` compares with one value", "Compare with `if`."),
    ast.MatchMapping: ("a dict as a pattern", "a `case` compares with one value", "Compare with `if`."),
    ast.MatchClass: ("a class as a pattern", "a `case` compares with one value", "Compare with `if`."),
    ast.MatchStar: ("`*` in a pattern", "a `case` compares with one value", "Compare with `if`."),
}

ODD_FIELDS: Final = {
    "vararg": ("A parameter with `*` is not part of this language.", "Name each parameter."),
    "kwarg": ("A parameter with `**` is not part of this language.", "Name each parameter."),
    "posonlyargs": ("A `/` among the parameters is not part of this language.", "Remove the `/`."),
    "type_comment": ("A type comment is not part of this language.", "Remove it."),
    "finalbody": ("`finally` is not part of this language.", "Write what comes last after the `try`."),
    "cause": ("`from` after `raise` is not part of this language.", "Write `raise` with one exception."),
    "level": ("There are no files beside this one to import from.", "Remove the line."),
    "pattern": ("`as` in a pattern is not part of this language.", "Use the name that is matched."),
    "keywords": ("Only `class Name(Enum)` is part of this language.", "Remove what stands beside `Enum`."),
    "is_async": ("`async` is not part of this language.", "Write a plain `for`."),
}

DEEPEST: Final = 200
"""Levels of the tree: deeper ones would exhaust Python's own stack while they are looked at."""


MOST_BLOCKS: Final = 15
"""Loops and `try`s inside one another: Python itself takes 20, of which the weaving needs some."""
