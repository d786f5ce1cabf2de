"""Script → Woven: probes and budgets are woven into a copy of the tree, which is then compiled.

The woven code calls a few hidden names, all beginning with two underscores, which no script can
write. The trial gives them their values; the protocol is:

    __n[k] += 1                     a line with counter k began          (recording body only)
    __b[0] -= 1; if __b[0] < 0: __over(line)     a loop pass or a call; ends the trial when spent
    __tick(line)                    the same inside an expression; true
    __except(line)                  the body of an `except` begins
    __enter(line) / __leave()       a call of a function that calls others begins, ends
    __set(line, name, value)        a global has a new value             (recording body only)
    __loc(line, scope, name, value) a local has one                      (recording body only)
    __kept(line, scope, name, v)    the same for `:=`; gives v on        (recording body only)
    __again(line, scope, name, v)   a collection may have changed        (recording body only)
    __put(line, attr, value, obj)   stores an attribute
    __get(obj, attr)                reads one
    __v(test, part, value)          a part of a test was evaluated       (recording body only)
    __t(test, answer)               a test was answered                  (recording body only)
    __long(more)                    a pass of many operations
    __call(f, …)                    calls what cannot be known before
    __walk(values) __within(values) what a `for` goes through, what an `in` looks into
    __module(name, part)            an import
    __fit(v) __thin(v) __key(v) __items(v) __show(v, …)    size, depth, keys and the text of values
    __place(k) __hold(o, k, v)      `o[k]` read with a key that may be a tuple; `o[k] = v`
    __slice(a, b, c)                a part of a list that is changed in place
    __add __sub __mul __mod __pow __shl __and __or __xor    operators that can grow a value; __iadd, … in place
    __r[0]                          whether this frame still records

Each script is woven twice: `recording` for the full trace, `counting` for verdicts only. Loops in
the recording body hold both bodies and choose by `__r[0]` at each pass, so that a heavy loop costs
little once its frame has enough records.
"""

from __future__ import annotations

import ast
from collections.abc import Callable, Sequence
from typing import Final

from ..script.tree import declared, declared_global
from .changes import changed_places
from .expressions import GROWING, ExpressionWeaver, Scope, at, call, is_number, name
from .tree import children, walk

OF_A_PASS: Final = 10
"""Operations that a pass of a loop may do for what it costs; each further one counts as work, and no limit knows it."""
OPERATIONS: Final = (ast.BinOp, ast.AugAssign, ast.Compare, ast.Call, ast.Subscript, ast.Attribute)


class Weaver(ExpressionWeaver):
    """Builds a new tree, statement by statement."""

    def __init__(self, own: frozenset[str], direct: frozenset[str], *, record: bool, text: str = "") -> None:
        super().__init__(direct, record=record, text=text)
        self.own = own
        self.counters: list[int] = []
        self._temporary = 0

    def module(self, statements: Sequence[ast.stmt]) -> ast.Module:
        """What some statements of the top level become."""
        woven = ast.Module(body=self.body(statements), type_ignores=[])
        _locate(woven, 1, 0, 1, 0)
        return woven

    def _do_global(self, node: ast.Global) -> list[ast.stmt]:
        """`global n` → `pass`: it is declared at the head of its function, which is where it counts from."""
        return [at(ast.Pass(), node)]

    def _do_nonlocal(self, node: ast.Nonlocal) -> list[ast.stmt]:
        """`nonlocal n` → `pass`, like `global`."""
        return [at(ast.Pass(), node)]

    # ---- bodies and counters

    def body(self, statements: Sequence[ast.stmt]) -> list[ast.stmt]:
        """What the statements of a body become."""
        woven: list[ast.stmt] = []
        for number, statement in enumerate(statements):
            if self.record and not (number == 0 and _is_docstring(statement)):
                woven.append(self._count(statement))
            woven.extend(self._statement(statement))
            if self.record:
                woven.extend(self._mutations(statement))
        return woven

    def _count(self, statement: ast.stmt) -> ast.stmt:
        self.counters.append(statement.lineno)
        target = ast.Subscript(name("__n"), ast.Constant(len(self.counters) - 1), ast.Store())
        return at(ast.AugAssign(target, ast.Add(), ast.Constant(1)), statement)

    def _statement(self, node: ast.stmt) -> list[ast.stmt]:
        method: Callable[[ast.stmt], list[ast.stmt]] | None = getattr(self, f"_do_{type(node).__name__.lower()}", None)
        return [node] if method is None else method(node)

    def _do_expr(self, node: ast.Expr) -> list[ast.stmt]:
        return [at(ast.Expr(self.value(node.value)), node)]

    def _do_return(self, node: ast.Return) -> list[ast.stmt]:
        return [at(ast.Return(self.value(node.value) if node.value else None), node)]

    def _do_if(self, node: ast.If) -> list[ast.stmt]:
        return [at(ast.If(self.test(node.test, "if"), self.body(node.body), self.body(node.orelse)), node)]

    # ---- assignments

    def _do_assign(self, node: ast.Assign) -> list[ast.stmt]:
        """`a = b = v` → the same, then a record for each name; attributes go through `__put`."""
        value = self._assigned(node)
        if all(isinstance(target, ast.Name) for target in node.targets):
            return [at(ast.Assign(node.targets, value), node), *self._records(node, node.targets)]
        kept = self._fresh(1)[0]
        woven: list[ast.stmt] = [at(ast.Assign([name(kept, ast.Store())], value), node)]
        for target in node.targets:
            woven.extend(self._store(target, name(kept), node))
        return woven

    def _assigned(self, node: ast.Assign) -> ast.expr:
        """The value; a tuple that is unpacked at once never is a value of its own."""
        unpacked = any(isinstance(target, (ast.Tuple, ast.List)) for target in node.targets)
        if isinstance(node.value, ast.Tuple) and unpacked and len(node.targets) == 1:
            return at(ast.Tuple(self.values(node.value.elts), ast.Load()), node.value)
        return self.value(node.value)

    def _do_annassign(self, node: ast.AnnAssign) -> list[ast.stmt]:
        if node.value is None:
            return [at(ast.AnnAssign(node.target, ast.Constant(None), None, node.simple), node)]
        return self._do_assign(at(ast.Assign([node.target], node.value), node))

    def _fresh(self, count: int) -> list[str]:
        """Hidden names that are used nowhere else."""
        first = self._temporary
        self._temporary += count
        return [f"__a{first + number}" for number in range(count)]

    def _store(self, target: ast.expr, value: ast.expr, node: ast.stmt) -> list[ast.stmt]:
        match target:
            case ast.Name():
                return [at(ast.Assign([target], value), node), *self._records(node, [target])]
            case ast.Attribute():
                line, attr = ast.Constant(node.lineno), ast.Constant(target.attr)
                return [at(ast.Expr(call("__put", line, attr, value, self.value(target.value))), node)]
            case ast.Subscript():
                if isinstance(target.slice, ast.Slice):
                    return self._store_slice(target, target.slice, value, node)
                index = call("__key", self.value(target.slice))
                return [at(ast.Expr(call("__hold", self.value(target.value), index, value)), node)]
            case ast.Tuple() | ast.List():
                names = self._fresh(len(target.elts))
                stores: list[ast.expr] = [name(each, ast.Store()) for each in names]
                woven: list[ast.stmt] = [at(ast.Assign([ast.Tuple(stores, ast.Store())], value), node)]
                for each, element in zip(names, target.elts, strict=True):
                    woven.extend(self._store(element, name(each), node))
                return woven
            case _:
                raise TypeError(f"no rule for a target of type {type(target).__name__}")

    def _store_slice(self, target: ast.Subscript, part: ast.Slice, value: ast.expr, node: ast.stmt) -> list[ast.stmt]:
        """`xs[a:b] = v` → what is put in has a bearable length, and so has the list afterwards."""
        kept = self._fresh(1)[0]
        place = ast.Subscript(name(kept), self.value(part), ast.Store())
        return [
            at(ast.Assign([name(kept, ast.Store())], self.value(target.value)), node),
            at(ast.Assign([place], call("__items", value)), node),
            at(ast.Expr(call("__fit", name(kept))), node),
        ]

    def _do_augassign(self, node: ast.AugAssign) -> list[ast.stmt]:
        """`x += v` → `x = __iadd(x, v)` where it can grow; a place is read, changed and stored in steps."""
        target = node.target
        if isinstance(target, ast.Name):
            return [self._in_place(node, target.id), *self._records(node, [target])]
        woven: list[ast.stmt] = [at(ast.Assign([name("__o", ast.Store())], self.value(target.value)), node)]
        part = isinstance(target, ast.Subscript) and isinstance(target.slice, ast.Slice)
        if isinstance(target, ast.Attribute):
            read: ast.expr = call("__get", name("__o"), ast.Constant(target.attr))
            put = call("__put", ast.Constant(node.lineno), ast.Constant(target.attr), name("__x"), name("__o"))
            store: ast.stmt = ast.Expr(put)
        else:
            if isinstance(target.slice, ast.Slice):
                index = self._slice(target.slice)
            else:
                index = call("__key", self.value(target.slice))
            woven.append(at(ast.Assign([name("__i", ast.Store())], index), node))
            read = call("__fit", ast.Subscript(name("__o"), name("__i"), ast.Load()))
            store = ast.Expr(call("__hold", name("__o"), name("__i"), name("__x")))
        woven.append(at(ast.Assign([name("__x", ast.Store())], read), node))
        grown = [at(ast.Expr(call("__fit", name("__o"))), node)] if part else []
        return [*woven, self._in_place(node, "__x"), at(store, node), *grown]

    def _slice(self, part: ast.Slice) -> ast.expr:
        ends = [self.value(end) if end else ast.Constant(None) for end in (part.lower, part.upper, part.step)]
        return call("__slice", *ends)

    def _in_place(self, node: ast.AugAssign, target: str) -> ast.stmt:
        guard = GROWING.get(type(node.op))
        value = self.value(node.value)
        if guard is None or (isinstance(node.op, (ast.Add, ast.Sub)) and is_number(node.value)):
            return at(ast.AugAssign(name(target, ast.Store()), node.op, value), node)
        changed = call(guard.replace("__", "__i"), name(target), value)
        return at(ast.Assign([name(target, ast.Store())], changed), node)

    def _do_import(self, node: ast.Import) -> list[ast.stmt]:
        return [self._imported(node, alias.asname or alias.name, alias.name, None) for alias in node.names]

    def _do_importfrom(self, node: ast.ImportFrom) -> list[ast.stmt]:
        module = node.module or ""
        return [self._imported(node, alias.asname or alias.name, module, alias.name) for alias in node.names]

    @staticmethod
    def _imported(node: ast.stmt, target: str, module: str, part: str | None) -> ast.stmt:
        found = call("__module", ast.Constant(module), ast.Constant(part))
        return at(ast.Assign([name(target, ast.Store())], found), node)

    # ---- records

    def _records(self, node: ast.stmt, targets: Sequence[ast.expr]) -> list[ast.stmt]:
        if not self.record:
            return []
        return [self._recorded(node, target.id) for target in targets if isinstance(target, ast.Name)]

    def _recorded(self, node: ast.stmt, variable: str) -> ast.stmt:
        line, text, value = ast.Constant(node.lineno), ast.Constant(variable), name(variable)
        owner = self.owner(variable)
        if owner is not None:
            return at(ast.Expr(call("__loc", line, ast.Constant(owner), text, value)), node)
        return at(ast.Expr(call("__set", line, text, value)), node)

    def _mutations(self, node: ast.stmt) -> list[ast.stmt]:
        """A record for each variable whose collection a simple statement may have changed."""
        return [self._mutated(node, place) for place in changed_places(node)]

    def _mutated(self, node: ast.stmt, root: str) -> ast.stmt:
        """The record, where the place can still be read: `ready and xs.append(1)` may never have looked at `xs`."""
        owner, _, attribute = root.partition(".")
        value: ast.expr = call("__get", name(owner), ast.Constant(attribute)) if attribute else name(owner)
        scope = None if attribute else self.owner(root)
        record = ast.Expr(call("__again", ast.Constant(node.lineno), ast.Constant(scope), ast.Constant(root), value))
        unread = ast.ExceptHandler(name("Exception"), None, [ast.Pass()])
        return at(ast.Try([record], [unread], [], []), node)

    # ---- loops

    def _passes(self, node: ast.While | ast.For, prologue: Callable[[], list[ast.stmt]]) -> list[ast.stmt]:
        """A loop's body: budget, then the recording or the counting body."""
        woven = self._budget(node)
        if not self.record:
            return [*woven, *prologue(), *self.body(node.body)]
        recording = [self._count(node), *prologue(), *self.body(node.body)]
        self.record = False
        counting = [*prologue(), *self.body(node.body)]
        self.record = True
        switch = ast.Subscript(name("__r"), ast.Constant(0), ast.Load())
        return [*woven, at(ast.If(switch, recording, counting), node)]

    def _do_while(self, node: ast.While) -> list[ast.stmt]:
        test = self.test(node.test, "while")
        return [at(ast.While(test, self._passes(node, list), self.body(node.orelse)), node)]

    def _do_for(self, node: ast.For) -> list[ast.stmt]:
        """`for t in xs` → the same; a target that is not a plain name is stored at each pass."""
        names = [each for each in walk(node.target) if isinstance(each, ast.Name)]
        plain = all(isinstance(part, (ast.Name, ast.Tuple, ast.expr_context)) for part in walk(node.target))
        source = call("__walk", self.value(node.iter))
        if plain:
            passes = self._passes(node, lambda: self._records(node, names))
            return [at(ast.For(node.target, source, passes, self.body(node.orelse)), node)]
        kept = self._fresh(1)[0]
        passes = self._passes(node, lambda: self._store(node.target, name(kept), node))
        return [at(ast.For(name(kept, ast.Store()), source, passes, self.body(node.orelse)), node)]

    def _budget(self, node: ast.stmt) -> list[ast.stmt]:
        left = ast.Subscript(name("__b"), ast.Constant(0), ast.Store())
        spent = ast.Compare(ast.Subscript(name("__b"), ast.Constant(0), ast.Load()), [ast.Lt()], [ast.Constant(0)])
        woven: list[ast.stmt] = [
            at(ast.AugAssign(left, ast.Sub(), ast.Constant(1)), node),
            at(ast.If(spent, [ast.Expr(call("__over", ast.Constant(node.lineno)))], []), node),
        ]
        more = _operations(node) - OF_A_PASS
        return [*woven, at(ast.Expr(call("__long", ast.Constant(more))), node)] if more > 0 else woven

    # ---- match, try, functions

    def _do_match(self, node: ast.Match) -> list[ast.stmt]:
        cases = []
        for case in node.cases:
            captured = case.pattern.name if isinstance(case.pattern, ast.MatchAs) else None
            records = [self._recorded(node, captured)] if captured and self.record else []
            guard = self.test(case.guard, "if") if case.guard else None
            cases.append(ast.match_case(case.pattern, guard, [*records, *self.body(case.body)]))
        return [at(ast.Match(call("__thin", self.value(node.subject)), cases), node)]

    def _do_try(self, node: ast.Try) -> list[ast.stmt]:
        handlers = []
        for handler in node.handlers:
            begin = at(ast.Expr(call("__except", ast.Constant(handler.lineno))), handler)
            handlers.append(
                at(ast.ExceptHandler(handler.type, handler.name, [begin, *self.body(handler.body)]), handler)
            )
        return [at(ast.Try(self.body(node.body), handlers, self.body(node.orelse), []), node)]

    def _do_raise(self, node: ast.Raise) -> list[ast.stmt]:
        if isinstance(node.exc, ast.Call):
            raised = at(ast.Call(node.exc.func, self.values(node.exc.args), []), node.exc)
            return [at(ast.Raise(raised, None), node)]
        return [node]

    def _do_assert(self, node: ast.Assert) -> list[ast.stmt]:
        return [at(ast.Assert(self.test(node.test, "assert"), self.value(node.msg) if node.msg else None), node)]

    def _do_functiondef(self, node: ast.FunctionDef) -> list[ast.stmt]:
        """`def f(…): body` → the same with budget, depth and records of its parameters."""
        arguments = self.arguments(node.args)
        decorators = self.values(node.decorator_list)
        self.scopes.append(Scope.of(node))
        body: list[ast.stmt] = self._budget(node)
        if self.record:
            body += [self._recorded(node, each.arg) for each in (*node.args.args, *node.args.kwonlyargs)]
        inner = self.body(node.body)
        if self._calls_others(node):
            enter = at(ast.Expr(call("__enter", ast.Constant(node.lineno))), node)
            leave = at(ast.Expr(call("__leave")), node)
            body += [enter, at(ast.Try(inner, [], [], [leave]), node)]
        else:
            body += inner
        self.scopes.pop()
        body = [*_declarations(node), *body]
        return [at(ast.FunctionDef(node.name, arguments, body, decorators, node.returns, None), node)]

    def _calls_others(self, node: ast.FunctionDef) -> bool:
        calls = [each for each in walk(node) if isinstance(each, ast.Call)]
        return any(not (isinstance(each.func, ast.Name) and each.func.id in self.direct - self.own) for each in calls)


def _operations(node: ast.stmt) -> int:
    """Operations of one pass of a loop or one call of a function, without those of loops and functions inside."""
    waiting: list[ast.AST] = list(node.body) if isinstance(node, (ast.For, ast.While, ast.FunctionDef)) else []
    found = 0
    while waiting:
        each = waiting.pop()
        if isinstance(each, (ast.For, ast.While, ast.FunctionDef, ast.Lambda)):
            continue
        found += isinstance(each, OPERATIONS)
        waiting += children(each)
    return found


def _locate(node: ast.AST, line: int, column: int, end_line: int, end_column: int) -> None:
    """Gives places to the nodes that have none, those of the nodes around them, like `ast.fix_missing_locations`."""
    if "lineno" in node._attributes:
        known = node.__dict__
        line = known.setdefault("lineno", line)
        column = known.setdefault("col_offset", column)
        end_line = known.setdefault("end_lineno", end_line)
        end_column = known.setdefault("end_col_offset", end_column)
    for child in children(node):
        if child._fields or child._attributes:  # else a sign or a context, which has no place
            _locate(child, line, column, end_line, end_column)


def _declarations(function: ast.FunctionDef) -> list[ast.stmt]:
    """What a function declares `global` and `nonlocal`, wherever in it, for its head.

    A recorded loop holds its body twice, and Python turns down a declaration after a use of the name.
    """
    found: list[ast.stmt] = []
    if names := declared_global(function):
        found.append(at(ast.Global(sorted(names)), function.body[0]))
    if names := declared(function, ast.Nonlocal):
        found.append(at(ast.Nonlocal(sorted(names)), function.body[0]))
    return found


def _is_docstring(node: ast.stmt) -> bool:
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant) and isinstance(node.value.value, str)
