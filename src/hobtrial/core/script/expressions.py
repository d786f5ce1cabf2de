"""Weaves expressions: guards where a value can grow, records where a test is answered.

The protocol of the hidden names stands at the top of `weave.py`.
"""

from __future__ import annotations

import ast
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Final, TypeVar

from ..script.tree import bound_names, declared, declared_global

Node = TypeVar("Node", bound=ast.AST)

GROWING: Final[dict[type[ast.operator], str]] = {
    ast.Add: "__add",
    ast.Mult: "__mul",
    ast.Mod: "__mod",
    ast.Pow: "__pow",
    ast.LShift: "__shl",
    ast.Sub: "__sub",
    ast.BitAnd: "__and",
    ast.BitOr: "__or",
    ast.BitXor: "__xor",
}
"""Operators that can make a value larger than its parts, or go through one without an end. Division does neither."""


PLACE: Final = ("lineno", "col_offset", "end_lineno", "end_col_offset")
"""What says of a node where it stands."""


@dataclass(frozen=True)
class Test:
    """One test of a script: an `if`, `elif`, `while`, `assert` or conditional expression."""

    line: int
    text: str
    parts: tuple[str, ...]
    kind: str


@dataclass(frozen=True)
class Scope:
    """A function that is being woven: its name, and whose its names are."""

    name: str
    locals: frozenset[str]
    globals: frozenset[str]

    @classmethod
    def of(cls, function: ast.FunctionDef | ast.Lambda) -> Scope:
        """The scope of a function or lambda."""
        outside = declared_global(function)
        others = declared(function, ast.Nonlocal)
        name = function.name if isinstance(function, ast.FunctionDef) else "lambda"
        return cls(name, frozenset(bound_names(function) - outside - others), frozenset(outside))


class ExpressionWeaver:
    """Builds new expressions; the script's own nodes are copied, never changed."""

    def __init__(self, direct: frozenset[str], *, record: bool, text: str = "") -> None:
        """`text` is the source of the nodes, for a body that records."""
        self.lines = text.split("\n")
        self.record = record
        self.direct = direct
        self.tests: list[Test] = []
        self.scopes: list[Scope] = []

    def owner(self, name: str) -> str | None:
        """The function that a name is a local of; nothing for a global."""
        for scope in reversed(self.scopes):
            if name in scope.globals:
                return None
            if name in scope.locals:
                return scope.name
        return None

    def value(self, node: ast.expr) -> ast.expr:
        """An expression that means the same, with its probes."""
        method = getattr(self, f"_{type(node).__name__.lower()}", None)
        if method is not None:
            woven: ast.expr = method(node)
            return at(woven, node)
        return self._children(node)

    def values(self, nodes: Sequence[ast.expr]) -> list[ast.expr]:
        """Several expressions."""
        return [self.value(node) for node in nodes]

    def _constant(self, node: ast.Constant) -> ast.expr:
        return node

    def _name(self, node: ast.Name) -> ast.expr:
        return node

    def _binop(self, node: ast.BinOp) -> ast.expr:
        number = is_number(node.left) or is_number(node.right)
        return self.operate(node.op, self.value(node.left), self.value(node.right), number=number)

    @staticmethod
    def operate(op: ast.operator, left: ast.expr, right: ast.expr, *, number: bool) -> ast.expr:
        """`left op right`, guarded where it can grow; adding a written-out number cannot."""
        guard = GROWING.get(type(op))
        if guard is None or (isinstance(op, (ast.Add, ast.Sub)) and number):
            return ast.BinOp(left, op, right)
        return call(guard, left, right)

    def _attribute(self, node: ast.Attribute) -> ast.expr:
        return call("__get", self.value(node.value), ast.Constant(node.attr))

    def _ifexp(self, node: ast.IfExp) -> ast.expr:
        return ast.IfExp(self.test(node.test, "if-else"), self.value(node.body), self.value(node.orelse))

    def _call(self, node: ast.Call) -> ast.expr:
        arguments = self.values(node.args)
        keywords = [ast.keyword(keyword.arg, self.value(keyword.value)) for keyword in node.keywords]
        if isinstance(node.func, ast.Name) and node.func.id in self.direct:
            return ast.Call(node.func, arguments, keywords)
        return ast.Call(name("__call"), [self.value(node.func), *arguments], keywords)

    def _namedexpr(self, node: ast.NamedExpr) -> ast.expr:
        value = self.value(node.value)
        if self.record:
            owner = ast.Constant(self.owner(node.target.id))
            value = call("__kept", ast.Constant(node.lineno), owner, ast.Constant(node.target.id), value)
        return ast.NamedExpr(node.target, value)

    def _lambda(self, node: ast.Lambda) -> ast.expr:
        """`lambda a: x` → `lambda a: x if __tick(line) else None`."""
        arguments = self.arguments(node.args)
        self.scopes.append(Scope.of(node))
        body = ast.IfExp(self._tick(node), self.value(node.body), ast.Constant(None))
        self.scopes.pop()
        return ast.Lambda(arguments, body)

    def arguments(self, node: ast.arguments) -> ast.arguments:
        """Parameters with their defaults woven; those belong to the scope outside."""
        return ast.arguments(
            posonlyargs=[],
            args=node.args,
            vararg=None,
            kwonlyargs=node.kwonlyargs,
            kw_defaults=[self.value(value) if value else None for value in node.kw_defaults],
            kwarg=None,
            defaults=self.values(node.defaults),
        )

    @staticmethod
    def _tick(node: ast.expr) -> ast.expr:
        return call("__tick", ast.Constant(node.lineno))

    def _comprehension(self, node: ast.expr, generators: list[ast.comprehension], fields: dict[str, Any]) -> ast.expr:
        """Each pass of each loop spends budget; the whole must fit the limits."""
        loops = [
            ast.comprehension(
                target=loop.target,
                iter=call("__walk", self.value(loop.iter)),
                ifs=[self._tick(node), *self.values(loop.ifs)],
                is_async=0,
            )
            for loop in generators
        ]
        return type(node)(**fields, generators=loops)  # type: ignore[call-arg]

    def _listcomp(self, node: ast.ListComp) -> ast.expr:
        return call("__fit", self._comprehension(node, node.generators, {"elt": self.value(node.elt)}))

    def _setcomp(self, node: ast.SetComp) -> ast.expr:
        element = call("__key", self.value(node.elt))
        return call("__fit", self._comprehension(node, node.generators, {"elt": element}))

    def _dictcomp(self, node: ast.DictComp) -> ast.expr:
        fields = {"key": call("__key", self.value(node.key)), "value": call("__thin", self.value(node.value))}
        return call("__fit", self._comprehension(node, node.generators, fields))

    def _generatorexp(self, node: ast.GeneratorExp) -> ast.expr:
        return self._comprehension(node, node.generators, {"elt": self.value(node.elt)})

    def _tuple(self, node: ast.Tuple) -> ast.expr:
        made = ast.Tuple(self.values(node.elts), node.ctx)
        return call("__thin", made) if any(not isinstance(each, ast.Constant) for each in node.elts) else made

    def _set(self, node: ast.Set) -> ast.expr:
        return ast.Set([self._key(each) for each in node.elts])

    def _dict(self, node: ast.Dict) -> ast.expr:
        values: list[ast.expr] = [
            each if isinstance(each, ast.Constant) else call("__thin", self.value(each)) for each in node.values
        ]
        return ast.Dict([self._key(key) if key else None for key in node.keys], values)

    def _key(self, node: ast.expr) -> ast.expr:
        small = isinstance(node, ast.Constant) and not isinstance(node.value, (int, float))
        return node if small else call("__key", self.value(node))

    def _subscript(self, node: ast.Subscript) -> ast.expr:
        if isinstance(node.slice, ast.Slice):
            return call("__fit", at(ast.Subscript(self.value(node.value), self.value(node.slice), node.ctx), node))
        place = node.slice if _is_place(node.slice) else call("__place", self.value(node.slice))
        return ast.Subscript(self.value(node.value), place, node.ctx)

    def _joinedstr(self, node: ast.JoinedStr) -> ast.expr:
        return call("__fit", ast.JoinedStr(self.values(node.values)))

    def _formattedvalue(self, node: ast.FormattedValue) -> ast.expr:
        """`{x!r:>8}` → the same of `__show(x, …)`, which knows pieces, sets and functions."""
        spec = node.format_spec
        shown = call("__show", self.value(node.value), ast.Constant(node.conversion), ast.Constant(spec is not None))
        return ast.FormattedValue(shown, -1, spec)

    def _compare(self, node: ast.Compare) -> ast.expr:
        return self._compared(node, self.value)

    @staticmethod
    def _compared(node: ast.Compare, weave_part: Callable[[ast.expr], ast.expr]) -> ast.expr:
        """A comparison; where both sides may be collections, their size is looked at first."""
        sides = [node.left, *node.comparators]
        scalar = [isinstance(side, ast.Constant) or is_number(side) for side in sides]
        woven = [weave_part(side) for side in sides]
        for index, op in enumerate(node.ops):
            if isinstance(op, (ast.In, ast.NotIn)):
                woven[index + 1] = call("__within", woven[index + 1])
            elif not scalar[index] and not scalar[index + 1] and not isinstance(op, (ast.Is, ast.IsNot)):
                woven[index + 1] = call("__thin", woven[index + 1])
        return ast.Compare(woven[0], node.ops, woven[1:])

    def _children(self, node: ast.expr) -> ast.expr:
        """A copy of a node whose meaning needs no probe, with its parts woven."""
        fields: dict[str, Any] = {}
        for field, value in ast.iter_fields(node):
            if isinstance(value, ast.expr):
                fields[field] = self.value(value)
            elif isinstance(value, list) and value and isinstance(value[0], ast.expr):
                fields[field] = self.values(value)
            else:
                fields[field] = value
        return at(type(node)(**fields), node)

    # ---- tests

    def test(self, node: ast.expr, kind: str) -> ast.expr:
        """A test → `__t(k, test with its parts in __v)`; `and`, `or`, `not` keep their order."""
        if not self.record:
            return self.value(node)
        number = len(self.tests)
        self.tests.append(Test(node.lineno, self.text(node), (), kind))
        parts: list[str] = []
        woven = self._parts(node, number, parts)
        self.tests[number] = Test(node.lineno, self.text(node), tuple(parts), kind)
        return at(call("__t", ast.Constant(number), woven), node)

    def _parts(self, node: ast.expr, test: int, parts: list[str]) -> ast.expr:
        match node:
            case ast.BoolOp():
                return at(ast.BoolOp(node.op, [self._parts(value, test, parts) for value in node.values]), node)
            case ast.UnaryOp(op=ast.Not()):
                return at(ast.UnaryOp(node.op, self._parts(node.operand, test, parts)), node)
            case ast.Compare():
                return at(self._compared(node, lambda value: self._part(value, test, parts)), node)
            case _:
                return self._part(node, test, parts)

    def _part(self, node: ast.expr, test: int, parts: list[str]) -> ast.expr:
        if isinstance(node, ast.Constant) or is_number(node):
            return node
        parts.append(self.text(node))
        return at(call("__v", ast.Constant(test), ast.Constant(len(parts) - 1), self.value(node)), node)

    def text(self, node: ast.expr) -> str:
        """The node's own source; columns are bytes of UTF-8."""
        assert node.end_lineno is not None
        if node.lineno == node.end_lineno:
            return self.lines[node.lineno - 1].encode()[node.col_offset : node.end_col_offset].decode()
        first = self.lines[node.lineno - 1].encode()[node.col_offset :].decode()
        last = self.lines[node.end_lineno - 1].encode()[: node.end_col_offset].decode()
        middle = self.lines[node.lineno : node.end_lineno - 1]
        return " ".join(part.strip() for part in (first, *middle, last))


def _is_place(node: ast.expr) -> bool:
    """Whether what stands between brackets is written out, so that it is no tuple."""
    return isinstance(node, ast.Constant) or is_number(node)


def is_number(node: ast.expr) -> bool:
    """Whether a node is a written-out number, with or without a sign."""
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, (ast.USub, ast.UAdd)):
        node = node.operand
    return isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool)


def name(text: str, context: ast.expr_context | None = None) -> ast.Name:
    """A name that is read, or in another context."""
    return ast.Name(text, context or ast.Load())


def call(function: str, *arguments: ast.expr) -> ast.Call:
    """A call of a hidden name."""
    return ast.Call(name(function), list(arguments), [])


def at(node: Node, index: ast.AST) -> Node:
    """A node at the place of another."""
    given, known = index.__dict__, node.__dict__
    for each in PLACE:
        if each in given:
            known[each] = given[each]
    return node
