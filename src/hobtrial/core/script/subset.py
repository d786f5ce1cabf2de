"""The allow-list: which nodes of Python's tree, and which of their fields, a script may use.

Deny by default. `FIELDS` says for each accepted node the fields that were decided about; a node
that is not in it, or a filled field that is not named there, is turned down. Nodes with a rule of
their own have a `visit_…` method, called before their children are looked at.
"""

from __future__ import annotations

import ast
from typing import Final

from ..words import Problem

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
        ast.arguments: "args defaults kwonlyargs kw_defaults",
        ast.arg: "arg annotation",
        ast.Return: "value",
        ast.Global: "names",
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
        ast.JoinedStr: "values",
        ast.FormattedValue: "value conversion format_spec",
    }.items()
}

MARKS: Final = (ast.boolop, ast.operator, ast.unaryop, ast.cmpop, ast.expr_context)
"""Nodes without fields that only name an operator or a context."""

REFUSED_OPERATORS: Final = (ast.MatMult,)

TYPE_NAMES: Final = frozenset({"int", "float", "str", "bool", "list", "dict", "set", "tuple", "None"})

WHY_NOT: Final[dict[type[ast.AST], tuple[str, str, str]]] = {
    ast.Import: ("`import`", "a game here has its names ready made", "Remove the line."),
    ast.ImportFrom: ("`import`", "a game here has its names ready made", "Remove the line."),
    ast.ClassDef: (
        "`class`",
        "pieces of the scene take its place",
        "Keep what belongs together in variables of a piece: `hob.lives = 3`.",
    ),
    ast.With: ("`with`", "there are no files here", "Remove it."),
    ast.Try: ("`try`", "an error here is shown with its line", "Ask first with `if`."),
    ast.Raise: ("`raise`", "an error here is shown with its line", "Use `tell` or `lose`."),
    ast.Assert: ("`assert`", "a check is the teacher's", "Ask with `if`."),
    ast.Delete: ("`del`", "a piece is taken away by `remove()`", "Write `which.remove()`."),
    ast.AsyncFunctionDef: ("`async`", "handlers take turns by themselves", "Write `def`."),
    ast.Await: ("`await`", "handlers take turns by themselves", "Remove it."),
    ast.Yield: ("`yield`", "a handler runs to its end", "Use `return`."),
    ast.YieldFrom: ("`yield`", "a handler runs to its end", "Use `return`."),
    ast.Lambda: ("`lambda`", "a function is easier to follow by its name", "Write a `def`."),
    ast.Nonlocal: ("`nonlocal`", "functions stand side by side here", "Use `global`."),
    ast.ListComp: ("a list written as a loop", "a loop shows its steps", "Write a `for` loop."),
    ast.SetComp: ("a set written as a loop", "a loop shows its steps", "Write a `for` loop."),
    ast.DictComp: ("a dict written as a loop", "a loop shows its steps", "Write a `for` loop."),
    ast.GeneratorExp: ("a loop inside an expression", "a loop shows its steps", "Write a `for` loop."),
    ast.Match: ("`match`", "branches are written with `if` here", "Write `if` and `elif`."),
    ast.Starred: ("`*` before a name", "every value is given by itself", "Write the values one by one."),
}

DEEPEST: Final = 200
"""Levels of the tree: deeper ones would exhaust Python's own stack while they are looked at."""


def check(tree: ast.Module, taken: frozenset[str]) -> list[Problem]:
    """All places of a script that cannot be accepted, in order of lines.

    `taken` are the names of the scene that a script may not bind at its top level.
    """
    if _depth(tree) > DEEPEST:
        return [
            Problem(
                1, 1, "too-deep", f"This script is nested more than {DEEPEST} levels deep.", "Split it into functions."
            )
        ]
    looker = _Looker(taken)
    looker.look(tree, in_function=False)
    return sorted(set(looker.problems))


def _depth(tree: ast.AST) -> int:
    deepest, level = 0, [tree]
    while level:
        deepest += 1
        level = [child for node in level for child in ast.iter_child_nodes(node)]
        if deepest > DEEPEST:
            break
    return deepest


class _Looker:
    def __init__(self, taken: frozenset[str]) -> None:
        self.problems: list[Problem] = []
        self.taken = taken

    def refuse(self, node: ast.AST, message: str, instead: str = "") -> None:
        line = getattr(node, "lineno", 1)
        column = getattr(node, "col_offset", 0) + 1
        self.problems.append(Problem(line, column, "refused", message, instead))

    def look(self, node: ast.AST, *, in_function: bool) -> None:
        if isinstance(node, MARKS):
            if isinstance(node, REFUSED_OPERATORS):
                self.refuse(node, "`@` between values is not part of this language.")
            return
        fields = FIELDS.get(type(node))
        if fields is None:
            what, why, instead = WHY_NOT.get(
                type(node), (f"`{type(node).__name__.lower()}`", "it is not needed for a small game", "")
            )
            self.refuse(node, f"{what[0].upper() + what[1:]} is not part of this language: {why}.", instead)
            return
        for field in node._fields:
            if field not in fields and getattr(node, field, None):
                self.refuse(node, self._odd_field(node, field))
        visit = getattr(self, f"visit_{type(node).__name__}", None)
        if visit is not None:
            visit(node, in_function)
        inside = in_function or isinstance(node, ast.FunctionDef)
        for child in ast.iter_child_nodes(node):
            self.look(child, in_function=inside)

    @staticmethod
    def _odd_field(node: ast.AST, field: str) -> str:
        words = {
            "vararg": "A parameter with `*` is not part of this language.",
            "kwarg": "A parameter with `**` is not part of this language.",
            "posonlyargs": "A `/` among the parameters is not part of this language.",
            "type_comment": "A type comment is not part of this language.",
        }
        return words.get(field, f"`{field}` of this `{type(node).__name__}` is not part of this language.")

    def _bind(self, node: ast.AST, name: str, *, in_function: bool) -> None:
        self._spell(node, name)
        if name == "on":
            self.refuse(
                node,
                "`on` is what handlers are written with, so nothing else can have that name.",
                "Choose another name.",
            )
        elif name in self.taken and not in_function:
            self.refuse(
                node,
                f"`{name}` stands in the scene, so the script cannot give that name to something else.",
                "Choose another name.",
            )

    def _spell(self, node: ast.AST, name: str) -> None:
        if name.startswith("_") and name != "_":
            self.refuse(
                node,
                f"`{name}` begins with `_`. Such names are Python's own here.",
                f"Write `{name.strip('_') or 'name'}`.",
            )

    def visit_Name(self, node: ast.Name, in_function: bool) -> None:
        if isinstance(node.ctx, ast.Store):
            self._bind(node, node.id, in_function=in_function)
        else:
            self._spell(node, node.id)

    def visit_Attribute(self, node: ast.Attribute, in_function: bool) -> None:
        self._spell(node, node.attr)

    def visit_arg(self, node: ast.arg, in_function: bool) -> None:
        self._bind(node, node.arg, in_function=True)
        self._annotation(node.annotation)

    def visit_keyword(self, node: ast.keyword, in_function: bool) -> None:
        if node.arg is None:
            self.refuse(node.value, "`**` in a call is not part of this language.", "Write the values one by one.")
        else:
            self._spell(node.value, node.arg)

    def visit_Global(self, node: ast.Global, in_function: bool) -> None:
        for name in node.names:
            self._bind(node, name, in_function=False)

    def visit_AnnAssign(self, node: ast.AnnAssign, in_function: bool) -> None:
        self._annotation(node.annotation)

    def _annotation(self, node: ast.expr | None) -> None:
        if node is None:
            return
        name = (
            node.id
            if isinstance(node, ast.Name)
            else "None"
            if isinstance(node, ast.Constant) and node.value is None
            else ""
        )
        if name not in TYPE_NAMES:
            self.refuse(
                node, "A type beside a name can only be a built-in one here.", "Write `int`, `float`, `str` or `bool`."
            )

    def visit_FunctionDef(self, node: ast.FunctionDef, in_function: bool) -> None:
        self._bind(node, node.name, in_function=in_function)
        self._annotation(node.returns)
        if in_function:
            self.refuse(node, "A function inside a function is not part of this language.", "Move it to the left edge.")
        for decorator in node.decorator_list:
            is_on = (
                isinstance(decorator, ast.Call) and isinstance(decorator.func, ast.Name) and decorator.func.id == "on"
            )
            if not is_on:
                self.refuse(
                    decorator,
                    "Only `@on(...)` can stand above a function.",
                    "Write `@on(meets(hob, bun))`, with the event it waits for.",
                )

    def visit_Compare(self, node: ast.Compare, in_function: bool) -> None:
        for op, right in zip(node.ops, node.comparators, strict=True):
            fixed = isinstance(right, ast.Constant) and (right.value is None or isinstance(right.value, bool))
            if isinstance(op, (ast.Is, ast.IsNot)) and not fixed:
                sign = "==" if isinstance(op, ast.Is) else "!="
                self.refuse(right, "`is` only goes with None, True and False.", f"Compare with `{sign}`.")

    def visit_Constant(self, node: ast.Constant, in_function: bool) -> None:
        if not isinstance(node.value, (bool, int, float, str)) and node.value is not None:
            self.refuse(
                node, "A value of this kind is not part of this language.", "Use numbers, texts, True, False and None."
            )

    def visit_Dict(self, node: ast.Dict, in_function: bool) -> None:
        if any(key is None for key in node.keys):
            self.refuse(node, "`**` in a dict is not part of this language.")

    def visit_FormattedValue(self, node: ast.FormattedValue, in_function: bool) -> None:
        spec = node.format_spec
        if spec is None:
            return
        if not isinstance(spec, ast.JoinedStr) or not all(isinstance(part, ast.Constant) for part in spec.values):
            self.refuse(node, "How a value is shown in a text must be written out.", "Write `{price:.2f}`.")
            return
        text = "".join(str(part.value) for part in spec.values if isinstance(part, ast.Constant))
        if any(int(number) > 200 for number in _numbers(text)):
            self.refuse(node, "A width in a text is at most 200.", "Write `{price:.2f}`.")


def _numbers(text: str) -> list[str]:
    return "".join(sign if sign.isdigit() else " " for sign in text).split()
