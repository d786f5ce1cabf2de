"""The allow-list: which nodes of Python's tree, and which of their fields, a script may use.

Deny by default. `FIELDS` of `allow_list.py` says for each accepted node the fields that were decided about; a node
that is not in it, or a filled field that is not named there, is turned down. Nodes with a rule of
their own have a `visit_…` method, called before their children are looked at.
"""

from __future__ import annotations

import ast

from ..script.tree import imported_names, names_bound_anywhere, unparse
from ..words import Problem
from .allow_list import DEEPEST, FIELDS, MARKS, MOST_BLOCKS, ODD_FIELDS, TYPE_NAMES, WHY_NOT
from .tree import children, walk
from .unlisted import UNLISTED, instead_of_format
from .vocabulary import CONSTRUCTS, ENUM_BASES, EXCEPTIONS, MODULES, RESERVED, TAKES_GENERATOR

MOST_MEMBERS = 100
"""Members of one enumeration: Python looks through all of them for each."""


def check(
    tree: ast.Module, taken: frozenset[str], narrow: frozenset[str] = frozenset(), *, straight: bool = False
) -> list[Problem]:
    """All places of a script that cannot be accepted, in order of lines.

    `taken` are the names of the scene that a script may not bind at its top level; `narrow` are
    constructs that the exercise leaves out; `straight` is for scripts that run from top to bottom.
    """
    if _depth(tree) > DEEPEST:
        words = f"This script is nested more than {DEEPEST} levels deep."
        return [Problem(1, 1, "too-deep", words, "Split it into functions.")]
    looker = _Looker(tree, taken, narrow, straight=straight)
    looker.look(tree, in_function=False)
    for node in _nested_too_deep(tree):
        words = f"More than {MOST_BLOCKS} loops and `try`s stand inside one another."
        looker.refuse(node, words, "Move the inner ones into a function.")
    return sorted(set(looker.problems))


def _nested_too_deep(tree: ast.AST) -> list[ast.AST]:
    """The outermost blocks that are nested deeper than `MOST_BLOCKS`; a function begins again."""
    found: list[ast.AST] = []
    stack: list[tuple[ast.AST, int]] = [(tree, 0)]
    while stack:
        node, depth = stack.pop()
        if isinstance(node, (ast.FunctionDef, ast.Lambda)):
            depth = 0
        elif isinstance(node, (ast.For, ast.While, ast.Try, ast.ExceptHandler)):
            depth += 1
        if depth > MOST_BLOCKS:
            found.append(node)
            continue
        stack.extend((child, depth) for child in children(node))
    return found


def _depth(tree: ast.AST) -> int:
    deepest, level = 0, [tree]
    while level:
        deepest += 1
        level = [child for node in level for child in children(node)]
        if deepest > DEEPEST:
            break
    return deepest


class _Looker:
    def __init__(self, tree: ast.Module, taken: frozenset[str], narrow: frozenset[str], *, straight: bool) -> None:
        self.problems: list[Problem] = []
        self.taken = taken
        self.straight = straight
        self.narrowed = {node: name for name in narrow for node in CONSTRUCTS[name]}
        self.bound = names_bound_anywhere(tree)
        self.enums = {
            name for name, (module, what) in imported_names(tree).items() if module == "enum" and what in ENUM_BASES
        }
        self.enum_modules = {name for name, origin in imported_names(tree).items() if origin == ("enum", "")}
        self.enumerations = {node.name for node in walk(tree) if isinstance(node, ast.ClassDef)}
        self.stored = {
            node.attr for node in walk(tree) if isinstance(node, ast.Attribute) and isinstance(node.ctx, ast.Store)
        }
        """Variables that the script puts on pieces: one may have the name of a method that is not listed."""
        self.excused: set[int] = set()
        """Nodes that stand where their kind may: names after `raise`, loops inside `sum(…)`."""

    def visit_Expr(self, node: ast.Expr, in_function: bool) -> None:
        """A line that is only `on(…)`: the `@` was forgotten."""
        match node.value:
            case ast.Call(func=ast.Name(id="on")) as call if "on" not in self.bound:
                words = "`@` is missing before `on`. Without it this line waits for nothing."
                problem = Problem(node.lineno, node.col_offset + 1, "missing-at", words, f"@{unparse(call)}")
                self.problems.append(problem)

    def refuse(self, node: ast.AST, message: str, instead: str = "") -> None:
        line = getattr(node, "lineno", 1)
        column = getattr(node, "col_offset", 0) + 1
        self.problems.append(Problem(line, column, "refused", message, instead))

    def look(self, node: ast.AST, *, in_function: bool) -> None:
        if type(node) in self.narrowed:
            name = self.narrowed[type(node)]
            self.refuse(node, f"`{name}` is left out of this exercise.", "Solve it with what the brief names.")
        if isinstance(node, MARKS):
            if isinstance(node, ast.MatMult):
                self.refuse(node, "`@` between values is not part of this language.")
            return
        fields = FIELDS.get(type(node))
        if fields is None:
            default = (f"`{type(node).__name__.lower()}`", "it is not needed for a small game", "")
            what, why, instead = WHY_NOT.get(type(node), default)
            self.refuse(node, f"{what[0].upper() + what[1:]} is not part of this language: {why}.", instead)
            return
        for field in node._fields:
            if field not in fields and getattr(node, field, None) and field != "decorator_list":
                words = f"`{field}` of this `{type(node).__name__}` is not part of this language."
                self.refuse(self._placed(node), *ODD_FIELDS.get(field, (words, "")))
        visit = getattr(self, f"visit_{type(node).__name__}", None)
        if visit is not None:
            visit(node, in_function)
        inside = in_function or isinstance(node, (ast.FunctionDef, ast.Lambda))
        for child in children(node):
            self.look(child, in_function=inside)

    @staticmethod
    def _placed(node: ast.AST) -> ast.AST:
        """A node with a place: parameters have none of their own."""
        if isinstance(node, ast.arguments):
            return node.vararg or node.kwarg or next(iter(node.posonlyargs), node)
        return node

    # ---- names

    def _bind(self, node: ast.AST, name: str, *, in_function: bool) -> None:
        self._spell(node, name)
        if name in RESERVED:
            why = "is what handlers are written with" if name == "on" else "is Python's own"
            self.refuse(node, f"`{name}` {why}, so nothing else can have that name.", "Choose another name.")
        elif name in self.taken and not in_function:
            words = f"`{name}` stands in the scene, so the script cannot give that name to something else."
            self.refuse(node, words, "Choose another name.")

    def _spell(self, node: ast.AST, name: str) -> None:
        if name.startswith("_") and name != "_":
            words = f"`{name}` begins with `_`. Such names are Python's own here."
            self.refuse(node, words, f"Write `{name.strip('_') or 'name'}`.")

    def visit_Name(self, node: ast.Name, in_function: bool) -> None:
        if isinstance(node.ctx, ast.Store):
            self._bind(node, node.id, in_function=in_function)
        elif node.id in EXCEPTIONS and id(node) not in self.excused:
            self.refuse(node, f"`{node.id}` only stands after `except` and `raise`.", f"Write `raise {node.id}`.")
        elif node.id != "__name__":
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

    def visit_Nonlocal(self, node: ast.Nonlocal, in_function: bool) -> None:
        for name in node.names:
            self._bind(node, name, in_function=True)

    def visit_AnnAssign(self, node: ast.AnnAssign, in_function: bool) -> None:
        self._annotation(node.annotation)

    def _annotation(self, node: ast.expr | None) -> None:
        if node is None:
            return
        name = "None" if isinstance(node, ast.Constant) and node.value is None else getattr(node, "id", "")
        if name not in TYPE_NAMES:
            words = "A type beside a name can only be a built-in one here."
            self.refuse(node, words, "Write `int`, `float`, `str` or `bool`.")

    # ---- definitions

    def visit_FunctionDef(self, node: ast.FunctionDef, in_function: bool) -> None:
        self._bind(node, node.name, in_function=in_function)
        self._annotation(node.returns)
        for decorator in node.decorator_list:
            on = isinstance(decorator, ast.Call) and isinstance(decorator.func, ast.Name) and decorator.func.id == "on"
            if not on:
                words = "Only `@on(...)` can stand above a function."
                self.refuse(decorator, words, "Write `@on(meets(hob, bun))`, with the event it waits for.")
            elif in_function:
                words = "A handler stands at the left edge, not inside another function."
                self.refuse(decorator, words, "Move it out of the function.")

    def visit_ClassDef(self, node: ast.ClassDef, in_function: bool) -> None:
        self._bind(node, node.name, in_function=in_function)
        enum = len(node.bases) == 1 and self._is_enum(node.bases[0])
        if not enum or node.decorator_list:
            words = "`class` is only part of this language for an enumeration: pieces take the place of other classes."
            self.refuse(
                node, words, "Write `from enum import Enum` and `class Stage(Enum):`, or use variables of a piece."
            )
            return
        if len(node.body) > MOST_MEMBERS:
            self.refuse(node, f"An enumeration has at most {MOST_MEMBERS} members.", "Use numbers or a list.")
        for statement in node.body:
            match statement:
                case ast.Pass() | ast.Expr(value=ast.Constant(value=str())):
                    continue
                case ast.Assign(targets=[ast.Name()], value=value) if self._is_member(value):
                    continue
            self.refuse(
                statement,
                "An enumeration has only members with a constant value.",
                "Write `RED = 1` or `RED = auto()`.",
            )

    def _is_enum(self, base: ast.expr) -> bool:
        if isinstance(base, ast.Attribute):
            return isinstance(base.value, ast.Name) and base.value.id in self.enum_modules and base.attr in ENUM_BASES
        return isinstance(base, ast.Name) and base.id in self.enums

    def _is_member(self, value: ast.expr) -> bool:
        match value:
            case ast.Constant() | ast.UnaryOp(op=ast.USub(), operand=ast.Constant()):
                return True
            case ast.Call(func=ast.Name(id="auto") | ast.Attribute(attr="auto"), args=[], keywords=[]):
                return True
        return False

    def visit_Import(self, node: ast.Import, in_function: bool) -> None:
        for alias in node.names:
            if alias.name not in MODULES:
                self._no_module(node, alias.name)
            self._bind_import(alias, alias.asname or alias.name, in_function=in_function)

    def visit_ImportFrom(self, node: ast.ImportFrom, in_function: bool) -> None:
        module = node.module or ""
        if module not in MODULES:
            if not node.level:
                self._no_module(node, module)
            return
        for alias in node.names:
            if alias.name not in MODULES[module]:
                there = ", ".join(sorted(MODULES[module]))
                self.refuse(
                    alias, f"`{alias.name}` of `{module}` is not part of this language.", f"There are: {there}."
                )
            elif alias.asname is not None or alias.name not in RESERVED:
                self._bind_import(alias, alias.asname or alias.name, in_function=in_function)

    def _bind_import(self, alias: ast.alias, name: str, *, in_function: bool) -> None:
        self._bind(alias, name, in_function=in_function)

    def _no_module(self, node: ast.AST, name: str) -> None:
        words = f"`{name}` cannot be imported here: a game has its names ready made."
        self.refuse(node, words, f"There are only {', '.join(sorted(MODULES))}.")

    # ---- statements

    def visit_Match(self, node: ast.Match, in_function: bool) -> None:
        for index, case in enumerate(node.cases):
            pattern = case.pattern
            if isinstance(pattern, ast.MatchAs) and pattern.name is not None:
                self._bind(pattern, pattern.name, in_function=in_function)
                if index < len(node.cases) - 1 or case.guard is not None:
                    words = f"`case {pattern.name}:` takes everything, so it can only be the last, without `if`."
                    self.refuse(pattern, words, "Compare with a value, or move it to the end.")

    def visit_MatchValue(self, node: ast.MatchValue, in_function: bool) -> None:
        """`case a.b:` reads an attribute before any guard could look at it."""
        if isinstance(node.value, ast.Attribute) and not self._only_one(node.value):
            words = "A `case` compares with a number, a text or a member of an enumeration."
            self.refuse(node, words, "Compare with `if`.")

    def visit_MatchOr(self, node: ast.MatchOr, in_function: bool) -> None:
        for pattern in node.patterns:
            if isinstance(pattern, ast.MatchAs):
                self.refuse(pattern, "A name or `_` after `|` takes everything.", "Compare with values.")

    def visit_ExceptHandler(self, node: ast.ExceptHandler, in_function: bool) -> None:
        if node.name is not None:
            self._bind(node, node.name, in_function=in_function)
        if node.type is None:
            self.refuse(
                node,
                "A bare `except` is not part of this language.",
                "Write `except ValueError:`, with what can go wrong.",
            )
            return
        kinds = node.type.elts if isinstance(node.type, ast.Tuple) else [node.type]
        for kind in kinds:
            self._exception(kind)

    def visit_Raise(self, node: ast.Raise, in_function: bool) -> None:
        match node.exc:
            case None:
                return
            case ast.Call(func=name, args=[] | [_], keywords=[]):
                self._exception(name)
            case other:
                self._exception(other)

    def _exception(self, node: ast.expr) -> None:
        if isinstance(node, ast.Name) and node.id in EXCEPTIONS:
            self.excused.add(id(node))
        else:
            words = "Here stands the name of an exception that this language knows."
            self.refuse(node, words, f"There are: {', '.join(sorted(EXCEPTIONS))}.")

    # ---- expressions

    def visit_Call(self, node: ast.Call, in_function: bool) -> None:
        if isinstance(node.func, ast.Attribute):
            self._method(node, node.func)
        if not isinstance(node.func, ast.Name):
            return
        name = node.func.id
        if name in TAKES_GENERATOR and name not in self.bound:
            self.excused.update(id(argument) for argument in node.args if isinstance(argument, ast.GeneratorExp))
        if self.straight or name in self.bound:
            return
        if name == "input":
            words = "`input` stops everything, and this game goes on by itself."
            self.refuse(node, words, 'Ask with `question("…")` and wait for `@on(replied)`.')
        elif name == "wait" and not in_function:
            self.refuse(
                node,
                "`wait` stands inside a handler; at the left edge the game has not begun.",
                "Move it into a handler.",
            )

    def _method(self, node: ast.Call, method: ast.Attribute) -> None:
        """A method that Python's values have and this language has not."""
        if method.attr in UNLISTED and method.attr not in self.stored:
            words = f"`.{method.attr}` is not part of this language."
            self.refuse(method, words, instead_of_format(node) if method.attr == "format" else UNLISTED[method.attr])

    def visit_GeneratorExp(self, node: ast.GeneratorExp, in_function: bool) -> None:
        if id(node) not in self.excused:
            words = f"A loop inside an expression only stands in {', '.join(sorted(TAKES_GENERATOR))}."
            self.refuse(node, words, "Put `[` and `]` round it.")

    def visit_Compare(self, node: ast.Compare, in_function: bool) -> None:
        left = node.left
        for op, right in zip(node.ops, node.comparators, strict=True):
            if isinstance(op, (ast.Is, ast.IsNot)) and not (self._only_one(left) or self._only_one(right)):
                sign = "==" if isinstance(op, ast.Is) else "!="
                words = "`is` only goes with None, True, False and members of an enumeration."
                self.refuse(right, words, f"Compare with `{sign}`.")
            left = right

    def _only_one(self, node: ast.expr) -> bool:
        """Whether there is only one value like this: None, True, False or a member of an enumeration."""
        match node:
            case ast.Constant(value=None | bool()):
                return True
            case (
                ast.Attribute(value=ast.Name(id=name))
                | ast.Subscript(value=ast.Name(id=name))
                | ast.Call(func=ast.Name(id=name))
            ):
                return name in self.enumerations
        return False

    def visit_Constant(self, node: ast.Constant, in_function: bool) -> None:
        if not isinstance(node.value, (bool, int, float, str)) and node.value is not None:
            words = "A value of this kind is not part of this language."
            self.refuse(node, words, "Use numbers, texts, True, False and None.")

    def visit_Dict(self, node: ast.Dict, in_function: bool) -> None:
        if any(key is None for key in node.keys):
            self.refuse(node, "`**` in a dict is not part of this language.", "Write the entries one by one.")

    def visit_FormattedValue(self, node: ast.FormattedValue, in_function: bool) -> None:
        spec = node.format_spec
        if spec is None:
            return
        if not isinstance(spec, ast.JoinedStr) or not all(isinstance(part, ast.Constant) for part in spec.values):
            self.refuse(node, "How a value is shown in a text must be written out.", "Write `{price:.2f}`.")
            return
        text = "".join(str(part.value) for part in spec.values if isinstance(part, ast.Constant))
        if any(int(number[:9]) > 200 for number in _numbers(text)):
            self.refuse(node, "A width in a text is at most 200.", "Write `{price:.2f}`.")


def _numbers(text: str) -> list[str]:
    return "".join(sign if sign.isdigit() else " " for sign in text).split()
