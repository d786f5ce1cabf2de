"""Script → Woven: probes and budgets are woven into a copy of the tree, which is then compiled.

The woven code calls a few hidden names, all beginning with two underscores, which no script can
write. `trial/runtime.py` gives them their values; the protocol between the two files is:

    __n[k] += 1                     a line with counter k began          (recording body only)
    __b[0] -= 1; if __b[0] < 0: __over(line)     a loop pass or a call; ends the trial when spent
    __enter(line) / __leave()       a call of a function that calls others begins, ends
    __set(line, name, value)        a global has a new value             (recording body only)
    __loc(line, scope, name, value) a local has one                      (recording body only)
    __put(line, attr, value, obj)   stores an attribute
    __get(obj, attr)                reads one
    __v(test, part, value)          a part of a test was evaluated       (recording body only)
    __t(test, answer)               a test was answered                  (recording body only)
    __call(f, …)                    calls what cannot be known before
    __walk(values)                  what a `for` or an `in` goes through
    __add __mul __mod __pow __shl   operators whose result can grow; __iadd, … in place
    __r[0]                          whether this frame still records

Each script is woven twice: `recording` for the full trace, `counting` for verdicts only. Loops in
the recording body hold both bodies and choose by `__r[0]` at each pass, so that a heavy loop costs
little once its frame has enough records.
"""

from __future__ import annotations

import ast
import warnings
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from types import CodeType
from typing import Any, Final, TypeVar

from .read import Script, bound_names, declared_global, functions

SCRIPT_FILE: Final = "<script>"

Node = TypeVar("Node", bound=ast.AST)

GROWING: Final[dict[type[ast.operator], str]] = {
    ast.Add: "__add",
    ast.Mult: "__mul",
    ast.Mod: "__mod",
    ast.Pow: "__pow",
    ast.LShift: "__shl",
}
"""Operators that can make a value much larger than its parts. Subtraction and division cannot."""


@dataclass(frozen=True)
class Test:
    """One test of a script: an `if`, `elif`, `while` or conditional expression."""

    line: int
    text: str
    parts: tuple[str, ...]
    kind: str


@dataclass(frozen=True, eq=False)
class Woven:
    """A script ready to run: two compiled bodies and what their counters stand for."""

    script: Script
    recording: CodeType
    counting: CodeType
    lines: tuple[int, ...]
    """Line of each counter of the recording body."""
    tests: tuple[Test, ...]


def weave(script: Script, known: frozenset[str]) -> Woven:
    """Weaves a script. `known` are the names of functions that the game gives to it."""
    weaver = _Weaver(script, known, record=True)
    recording = weaver.module()
    counting = _Weaver(script, known, record=False).module()
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return _compiled(script, weaver, recording, counting)


def _compiled(script: Script, weaver: _Weaver, recording: ast.Module, counting: ast.Module) -> Woven:
    return Woven(
        script,
        compile(recording, SCRIPT_FILE, "exec", dont_inherit=True),
        compile(counting, SCRIPT_FILE, "exec", dont_inherit=True),
        tuple(weaver.counters),
        tuple(weaver.tests),
    )


class _Weaver:
    """Builds a new tree; the script's own nodes are copied, never changed."""

    def __init__(self, script: Script, known: frozenset[str], *, record: bool) -> None:
        self.script = script
        self.lines = script.text.split("\n")
        self.record = record
        self.counters: list[int] = []
        self.tests: list[Test] = []
        self.globals = script.globals
        defined = [function.name for function in functions(script.tree)]
        bound = [
            name.id for name in ast.walk(script.tree) if isinstance(name, ast.Name) and isinstance(name.ctx, ast.Store)
        ]
        parameters = {arg.arg for arg in ast.walk(script.tree) if isinstance(arg, ast.arg)}
        own = {name for name in defined if defined.count(name) == 1 and name not in bound and name not in parameters}
        free = {name for name in known if name not in defined and name not in bound and name not in parameters}
        self.direct = own | free
        """Names that always mean the same function, so that a call needs no guard."""
        self.own = own
        self._temporary = 0
        self.scope: str | None = None
        self.locals: set[str] = set()

    def module(self) -> ast.Module:
        body = self._body(self.script.tree.body)
        return ast.fix_missing_locations(ast.Module(body=body, type_ignores=[]))

    # ---- statements

    def _body(self, statements: Sequence[ast.stmt]) -> list[ast.stmt]:
        woven: list[ast.stmt] = []
        for number, statement in enumerate(statements):
            if self.record and not (number == 0 and _is_docstring(statement)):
                woven.append(self._count(statement))
            woven.extend(self._statement(statement))
        return woven

    def _count(self, statement: ast.stmt) -> ast.stmt:
        self.counters.append(statement.lineno)
        target = ast.Subscript(_name("__n"), ast.Constant(len(self.counters) - 1), ast.Store())
        return _at(ast.AugAssign(target, ast.Add(), ast.Constant(1)), statement)

    def _statement(self, node: ast.stmt) -> list[ast.stmt]:
        match node:
            case ast.Expr():
                return [_at(ast.Expr(self._value(node.value)), node)]
            case ast.Assign():
                return self._assign(node)
            case ast.AugAssign():
                return self._augment(node)
            case ast.AnnAssign():
                if node.value is None:
                    return [_at(ast.AnnAssign(node.target, node.annotation, None, node.simple), node)]
                return self._assign(_at(ast.Assign([node.target], node.value), node))
            case ast.If():
                test = self._test(node.test, "if")
                return [_at(ast.If(test, self._body(node.body), self._body(node.orelse)), node)]
            case ast.While():
                return self._while(node)
            case ast.For():
                return self._for(node)
            case ast.FunctionDef():
                return self._function(node)
            case ast.Return():
                return [_at(ast.Return(self._value(node.value) if node.value else None), node)]
            case _:
                return [node]

    def _assign(self, node: ast.Assign) -> list[ast.stmt]:
        """`a = b = v` → the same, then a record for each name; attributes go through `__put`."""
        value = self._value(node.value)
        if all(isinstance(target, ast.Name) for target in node.targets):
            assigned: ast.stmt = _at(ast.Assign(node.targets, value), node)
            return [assigned, *self._records(node, node.targets)]
        woven: list[ast.stmt] = [_at(ast.Assign([_name("__a", ast.Store())], value), node)]
        for target in node.targets:
            woven.extend(self._store(target, _name("__a"), node))
        return woven

    def _store(self, target: ast.expr, value: ast.expr, node: ast.stmt) -> list[ast.stmt]:
        match target:
            case ast.Name():
                return [_at(ast.Assign([target], value), node), *self._records(node, [target])]
            case ast.Attribute():
                put = _call(
                    "__put", ast.Constant(node.lineno), ast.Constant(target.attr), value, self._value(target.value)
                )
                return [_at(ast.Expr(put), node)]
            case ast.Subscript():
                plain = ast.Subscript(self._value(target.value), self._value(target.slice), ast.Store())
                return [_at(ast.Assign([plain], value), node)]
            case ast.Tuple() | ast.List():
                first = self._temporary
                self._temporary += len(target.elts)
                names = [_name(f"__a{first + number}", ast.Store()) for number, _ in enumerate(target.elts)]
                woven: list[ast.stmt] = [_at(ast.Assign([ast.Tuple(list(names), ast.Store())], value), node)]
                for name, element in zip(names, target.elts, strict=True):
                    woven.extend(self._store(element, _name(name.id), node))
                return woven
            case _:
                raise TypeError(f"no rule for a target of type {type(target).__name__}")

    def _augment(self, node: ast.AugAssign) -> list[ast.stmt]:
        """`x += v` → `x = __iadd(x, v)` where it can grow; a place is read, changed and stored in steps."""
        target = node.target
        if isinstance(target, ast.Name):
            return [self._in_place(node, target.id), *self._records(node, [target])]
        woven: list[ast.stmt] = [_at(ast.Assign([_name("__o", ast.Store())], self._value(target.value)), node)]
        if isinstance(target, ast.Attribute):
            read: ast.expr = _call("__get", _name("__o"), ast.Constant(target.attr))
            put = _call("__put", ast.Constant(node.lineno), ast.Constant(target.attr), _name("__x"), _name("__o"))
            store: ast.stmt = ast.Expr(put)
        else:
            woven.append(_at(ast.Assign([_name("__i", ast.Store())], self._value(target.slice)), node))
            read = ast.Subscript(_name("__o"), _name("__i"), ast.Load())
            store = ast.Assign([ast.Subscript(_name("__o"), _name("__i"), ast.Store())], _name("__x"))
        woven.append(_at(ast.Assign([_name("__x", ast.Store())], read), node))
        return [*woven, self._in_place(node, "__x"), _at(store, node)]

    def _in_place(self, node: ast.AugAssign, name: str) -> ast.stmt:
        guard = GROWING.get(type(node.op))
        value = self._value(node.value)
        if guard is None or (isinstance(node.op, ast.Add) and _is_number(node.value)):
            return _at(ast.AugAssign(_name(name, ast.Store()), node.op, value), node)
        changed = _call(guard.replace("__", "__i"), _name(name), value)
        return _at(ast.Assign([_name(name, ast.Store())], changed), node)

    def _operate(self, op: ast.operator, left: ast.expr, right: ast.expr, source: ast.expr) -> ast.expr:
        guard = GROWING.get(type(op))
        if guard is None or (isinstance(op, ast.Add) and _is_number(source)):
            return ast.BinOp(left, op, right)
        return _call(guard, left, right)

    def _records(self, node: ast.stmt, targets: Sequence[ast.expr]) -> list[ast.stmt]:
        if not self.record:
            return []
        return [self._recorded(node, target.id) for target in targets if isinstance(target, ast.Name)]

    def _recorded(self, node: ast.stmt, name: str) -> ast.stmt:
        line, text, value = ast.Constant(node.lineno), ast.Constant(name), _name(name)
        if name in self.locals:
            return _at(ast.Expr(_call("__loc", line, ast.Constant(self.scope), text, value)), node)
        return _at(ast.Expr(_call("__set", line, text, value)), node)

    def _passes(self, node: ast.While | ast.For, prologue: Callable[[], list[ast.stmt]]) -> list[ast.stmt]:
        """A loop's body: budget, then the recording or the counting body."""
        woven = self._budget(node)
        if not self.record:
            return [*woven, *prologue(), *self._body(node.body)]
        recording = [self._count(node), *prologue(), *self._body(node.body)]
        self.record = False
        counting = [*prologue(), *self._body(node.body)]
        self.record = True
        switch = ast.Subscript(_name("__r"), ast.Constant(0), ast.Load())
        return [*woven, _at(ast.If(switch, recording, counting), node)]

    def _while(self, node: ast.While) -> list[ast.stmt]:
        test = self._test(node.test, "while")
        return [_at(ast.While(test, self._passes(node, list), self._body(node.orelse)), node)]

    def _for(self, node: ast.For) -> list[ast.stmt]:
        """`for t in xs` → the same; a target that is not a plain name is stored at each pass."""
        names = [name for name in ast.walk(node.target) if isinstance(name, ast.Name)]
        plain = all(isinstance(part, (ast.Name, ast.Tuple, ast.expr_context)) for part in ast.walk(node.target))
        source = _call("__walk", self._value(node.iter))
        if plain:
            passes = self._passes(node, lambda: self._records(node, names))
            return [_at(ast.For(node.target, source, passes, self._body(node.orelse)), node)]
        passes = self._passes(node, lambda: self._store(node.target, _name("__f"), node))
        return [_at(ast.For(_name("__f", ast.Store()), source, passes, self._body(node.orelse)), node)]

    def _budget(self, node: ast.stmt) -> list[ast.stmt]:
        left = ast.Subscript(_name("__b"), ast.Constant(0), ast.Store())
        spent = ast.Compare(ast.Subscript(_name("__b"), ast.Constant(0), ast.Load()), [ast.Lt()], [ast.Constant(0)])
        return [
            _at(ast.AugAssign(left, ast.Sub(), ast.Constant(1)), node),
            _at(ast.If(spent, [ast.Expr(_call("__over", ast.Constant(node.lineno)))], []), node),
        ]

    def _function(self, node: ast.FunctionDef) -> list[ast.stmt]:
        """`def f(…): body` → the same with budget, depth and records of its parameters."""
        outer = self.scope, self.locals
        self.scope, self.locals = node.name, bound_names(node) - declared_global(node)
        parameters = [arg.arg for arg in (*node.args.args, *node.args.kwonlyargs)]
        body: list[ast.stmt] = self._budget(node)
        if self.record:
            body += [self._recorded(node, name) for name in parameters]
        inner = self._body(node.body)
        globals_first = [statement for statement in inner if isinstance(statement, ast.Global)]
        inner = [statement for statement in inner if not isinstance(statement, ast.Global)] or [ast.Pass()]
        if self._calls_others(node):
            enter = _at(ast.Expr(_call("__enter", ast.Constant(node.lineno))), node)
            leave = _at(ast.Expr(_call("__leave")), node)
            body += [enter, _at(ast.Try(inner, [], [], [leave]), node)]
        else:
            body += inner
        self.scope, self.locals = outer
        arguments = ast.arguments(
            posonlyargs=[],
            args=node.args.args,
            vararg=None,
            kwonlyargs=node.args.kwonlyargs,
            kw_defaults=[self._value(value) if value else None for value in node.args.kw_defaults],
            kwarg=None,
            defaults=[self._value(value) for value in node.args.defaults],
        )
        decorators = [self._value(decorator) for decorator in node.decorator_list]
        documented: list[ast.stmt] = [*globals_first, *body]
        function = ast.FunctionDef(node.name, arguments, documented, decorators, node.returns, None)
        return [_at(function, node)]

    def _calls_others(self, node: ast.FunctionDef) -> bool:
        calls = [call for call in ast.walk(node) if isinstance(call, ast.Call)]
        return any(not (isinstance(call.func, ast.Name) and call.func.id in self.direct - self.own) for call in calls)

    # ---- expressions

    def _value(self, node: ast.expr) -> ast.expr:
        match node:
            case ast.Constant() | ast.Name():
                return node
            case ast.BinOp():
                return _at(
                    self._operate(
                        node.op,
                        self._value(node.left),
                        self._value(node.right),
                        node.right if _is_number(node.right) else node.left,
                    ),
                    node,
                )
            case ast.Attribute():
                return _at(_call("__get", self._value(node.value), ast.Constant(node.attr)), node)
            case ast.IfExp():
                return _at(
                    ast.IfExp(self._test(node.test, "if-else"), self._value(node.body), self._value(node.orelse)), node
                )
            case ast.Call():
                return self._call(node)
            case ast.NamedExpr():
                value = self._value(node.value)
                if self.record:
                    keeper = "__kept_loc" if node.target.id in self.locals else "__kept"
                    value = _call(
                        keeper, ast.Constant(node.lineno), ast.Constant(self.scope), ast.Constant(node.target.id), value
                    )
                return _at(ast.NamedExpr(node.target, value), node)
            case ast.Compare():
                return _at(self._compare(node, self._value), node)
            case ast.JoinedStr():
                return _at(ast.JoinedStr([self._value(value) for value in node.values]), node)
            case ast.FormattedValue():
                return _at(ast.FormattedValue(self._value(node.value), node.conversion, node.format_spec), node)
            case _:
                return self._children(node)

    @staticmethod
    def _compare(node: ast.Compare, weave_part: Callable[[ast.expr], ast.expr]) -> ast.expr:
        left = weave_part(node.left)
        right = [
            _call("__walk", weave_part(value)) if isinstance(op, (ast.In, ast.NotIn)) else weave_part(value)
            for op, value in zip(node.ops, node.comparators, strict=True)
        ]
        return ast.Compare(left, node.ops, right)

    def _children(self, node: ast.expr) -> ast.expr:
        """A copy of a node whose meaning needs no probe, with its parts woven."""
        fields: dict[str, Any] = {}
        for field, value in ast.iter_fields(node):
            if isinstance(value, ast.expr):
                fields[field] = self._value(value)
            elif isinstance(value, list) and value and isinstance(value[0], ast.expr):
                fields[field] = [self._value(item) for item in value]
            else:
                fields[field] = value
        return _at(type(node)(**fields), node)

    def _call(self, node: ast.Call) -> ast.expr:
        arguments = [self._value(argument) for argument in node.args]
        keywords = [ast.keyword(keyword.arg, self._value(keyword.value)) for keyword in node.keywords]
        if isinstance(node.func, ast.Name) and node.func.id in self.direct:
            return _at(ast.Call(node.func, arguments, keywords), node)
        return _at(ast.Call(_name("__call"), [self._value(node.func), *arguments], keywords), node)

    def _test(self, node: ast.expr, kind: str) -> ast.expr:
        """A test → `__t(k, test with its parts in __v)`; `and`, `or`, `not` keep their order."""
        if not self.record:
            return self._value(node)
        number = len(self.tests)
        self.tests.append(Test(node.lineno, self._text(node), (), kind))
        parts: list[str] = []
        woven = self._parts(node, number, parts)
        self.tests[number] = Test(node.lineno, self._text(node), tuple(parts), kind)
        return _at(_call("__t", ast.Constant(number), woven), node)

    def _parts(self, node: ast.expr, test: int, parts: list[str]) -> ast.expr:
        match node:
            case ast.BoolOp():
                return _at(ast.BoolOp(node.op, [self._parts(value, test, parts) for value in node.values]), node)
            case ast.UnaryOp(op=ast.Not()):
                return _at(ast.UnaryOp(node.op, self._parts(node.operand, test, parts)), node)
            case ast.Compare():
                return _at(self._compare(node, lambda value: self._part(value, test, parts)), node)
            case _:
                return self._part(node, test, parts)

    def _part(self, node: ast.expr, test: int, parts: list[str]) -> ast.expr:
        if isinstance(node, ast.Constant) or (isinstance(node, ast.UnaryOp) and isinstance(node.operand, ast.Constant)):
            return node
        parts.append(self._text(node))
        return _at(_call("__v", ast.Constant(test), ast.Constant(len(parts) - 1), self._value(node)), node)

    def _text(self, node: ast.expr) -> str:
        """The node's own source; columns are bytes of UTF-8."""
        assert node.end_lineno is not None
        if node.lineno == node.end_lineno:
            return self.lines[node.lineno - 1].encode()[node.col_offset : node.end_col_offset].decode()
        first = self.lines[node.lineno - 1].encode()[node.col_offset :].decode()
        last = self.lines[node.end_lineno - 1].encode()[: node.end_col_offset].decode()
        middle = self.lines[node.lineno : node.end_lineno - 1]
        return " ".join(part.strip() for part in (first, *middle, last))


def _is_number(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool)


def _is_docstring(node: ast.stmt) -> bool:
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant) and isinstance(node.value.value, str)


def _name(name: str, context: ast.expr_context | None = None) -> ast.Name:
    return ast.Name(name, context or ast.Load())


def _call(name: str, *arguments: ast.expr) -> ast.Call:
    return ast.Call(_name(name), list(arguments), [])


def _at(node: Node, place: ast.AST) -> Node:
    return ast.copy_location(node, place)
