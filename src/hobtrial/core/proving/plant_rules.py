"""Planted slips with events, conditions, display, end and restart."""

from __future__ import annotations

import ast
from collections.abc import Callable, Iterator
from typing import Final

from ..explaining import Edit
from ..script import Script
from ..script.tree import (
    Span,
    blank,
    calls,
    functions,
    handlers,
    negated,
    replace_between,
    replace_node,
    rewrite,
    spans,
    statements,
    unparse,
    walk,
)

Planter = Callable[[Script], Iterator[Edit]]
OTHER: Final[dict[type[ast.cmpop], tuple[str, str]]] = {
    ast.Gt: (">", ">="),
    ast.GtE: (">=", ">"),
    ast.Lt: ("<", "<="),
    ast.LtE: ("<=", "<"),
}


def compared(slip: str, signs: dict[type[ast.cmpop], tuple[str, str]]) -> Planter:
    """Comparisons with another sign."""

    def plant(script: Script) -> Iterator[Edit]:
        for node in walk(script.tree):
            if isinstance(node, ast.Compare) and type(node.ops[0]) in signs:
                old, new = signs[type(node.ops[0])]
                span = replace_between(script, node.left, node.comparators[0], old, new)
                if span is not None:
                    yield Edit(slip, (span,), "")

    return plant


def flipped(script: Script) -> Iterator[Edit]:
    """A test that asks for the opposite."""
    for node in walk(script.tree):
        if isinstance(node, (ast.If, ast.While, ast.IfExp)):
            yield Edit("flipped", spans(replace_node(script, node.test, negated(node.test))), "")


def and_or(script: Script) -> Iterator[Edit]:
    """`and` ↔ `or`, and each part left out."""
    for node in walk(script.tree):
        if isinstance(node, ast.BoolOp):
            parts = [unparse(each) for each in node.values]
            word = " or " if isinstance(node.op, ast.And) else " and "
            own = " and " if word == " or " else " or "
            yield Edit("and-or", spans(replace_node(script, node, f"({word.join(parts)})")), "")
            for part in parts:
                rest = own.join(each for each in parts if each != part)
                yield Edit("and-or", spans(replace_node(script, node, f"({rest})")), "")


def missing_condition(script: Script) -> Iterator[Edit]:
    """A test that lets everything pass; those of the outcome are `acts-after-end` and `restarts-mid-game`."""
    for stmt in statements(script.tree):
        node = stmt.node
        if isinstance(node, ast.If) and "outcome" not in unparse(node.test):
            passes = "False" if isinstance(node.body[-1], ast.Return) else "True"
            yield Edit("missing-condition", spans(replace_node(script, node.test, passes)), "")


def unguarded(slip: str, *, restarting: bool) -> Planter:
    """Functions without their test of the outcome."""

    def plant(script: Script) -> Iterator[Edit]:
        for stmt in statements(script.tree):
            node = stmt.node
            if not isinstance(node, ast.If) or "outcome()" not in unparse(node.test) or stmt.function is None:
                continue
            if bool(calls(stmt.function, "again")) is restarting:
                passes = "False" if isinstance(node.body[-1], ast.Return) else "True"
                yield Edit(slip, spans(replace_node(script, node.test, passes)), "")

    return plant


def words(slip: str, old: str, new: str) -> Planter:
    """The first word of a line exchanged: `elif` → `if`."""

    def plant(script: Script) -> Iterator[Edit]:
        for number, line in enumerate(script.lines, 1):
            text = line.lstrip()
            if text.startswith(old):
                start = len(line) - len(text)
                end = len(line) if new == "else:" else start + len(old)
                yield Edit(slip, (Span(number, start, end, new),), "")

    return plant


def left_out(
    slip: str, wanted: Callable[[ast.stmt], bool], *, restart: bool | None = None, top: bool = True
) -> Planter:
    """Lines left out, one at a time; only in the restart, or not there, where that is said."""

    def plant(script: Script) -> Iterator[Edit]:
        for stmt in statements(script.tree):
            inside = stmt.function is not None and bool(calls(stmt.function, "again"))
            if (restart is not None and inside is not restart) or (not top and stmt.function is None):
                continue
            if wanted(stmt.node):
                yield Edit(slip, blank(script, stmt.node, stmt.block), "")

    return plant


def _calls(*names: str) -> Callable[[ast.stmt], bool]:
    def wanted(node: ast.stmt) -> bool:
        match node:
            case ast.Expr(value=ast.Call(func=ast.Name(id=name) | ast.Attribute(attr=name))):
                return name in names
        return False

    return wanted


def _puts_back(node: ast.stmt) -> bool:
    return isinstance(node, ast.Assign) or _calls("restore", "board", "show", "again")(node)


def _ends(node: ast.stmt) -> bool:
    return isinstance(node, ast.If) and not node.orelse and bool(calls(node, "win", "lose"))


def no_call(script: Script) -> Iterator[Edit]:
    """A call without its brackets."""
    for stmt in statements(script.tree):
        match stmt.node:
            case ast.Expr(value=ast.Call(func=func, args=args) as call) if not args or unparse(func) in ("win", "lose"):
                yield Edit("no-call", spans(replace_node(script, call, unparse(func))), "")


def win_not_told(script: Script) -> Iterator[Edit]:
    """`win(…)` → `tell(…)`."""
    for node in calls(script.tree, "win", "lose"):
        if node.args:
            yield Edit("win-not-told", spans(replace_node(script, node.func, "tell")), "")


def not_registered(script: Script) -> Iterator[Edit]:
    """A handler without its `@on`."""
    for function in functions(script.tree):
        for decorator in function.decorator_list:
            if decorator.lineno == decorator.end_lineno:
                line = script.lines[decorator.lineno - 1]
                yield Edit("not-registered", (Span(decorator.lineno, 0, len(line), ""),), "")


def no_handler(script: Script) -> Iterator[Edit]:
    """A handler left out altogether."""
    for stmt in statements(script.tree):
        if isinstance(stmt.node, ast.FunctionDef) and stmt.node.decorator_list:
            yield Edit("no-handler", rewrite(script, stmt.node, ""), "")


def every_frame(script: Script) -> Iterator[Edit]:
    """`meets` → `overlaps`, `pressed` → `held`."""
    often = {"meets": "overlaps", "pressed": "held"}
    for _, event in handlers(functions(script.tree)):
        if isinstance(event, ast.Call) and isinstance(event.func, ast.Name) and event.func.id in often:
            yield Edit("every-frame", spans(replace_node(script, event.func, often[event.func.id])), "")


def wrong_event(script: Script) -> Iterator[Edit]:
    """Another key, the end of an overlap, another second."""
    for _, event in handlers(functions(script.tree)):
        match event:
            case ast.Call(
                func=ast.Name(id="pressed" | "held" | "released"), args=[ast.Constant(value=str(key)) as given]
            ):
                yield Edit("wrong-event", spans(replace_node(script, given, '"z"' if key != "z" else '"y"')), "")
            case ast.Call(func=ast.Name(id="meets") as name):
                yield Edit("wrong-event", spans(replace_node(script, name, "parts")), "")
            case ast.Call(
                func=ast.Name(id="every" | "after"), args=[ast.Constant(value=int() | float() as time) as given]
            ):
                yield Edit("wrong-event", spans(replace_node(script, given, repr(time * 2))), "")


def unheard_message(script: Script) -> Iterator[Edit]:
    """A message with another letter where it is sent, and where it is heard."""
    for node in calls(script.tree, "send", "heard"):
        for given in node.args:
            if isinstance(given, ast.Constant) and isinstance(given.value, str):
                yield Edit("unheard-message", spans(replace_node(script, given, f'"{given.value}s"')), "")


RULES: Final[dict[str, Planter]] = {
    "boundary": compared("boundary", OTHER),
    "exact-only": compared("exact-only", {ast.GtE: (">=", "=="), ast.LtE: ("<=", "==")}),
    "flipped": flipped,
    "and-or": and_or,
    "missing-condition": missing_condition,
    "acts-after-end": unguarded("acts-after-end", restarting=False),
    "restarts-mid-game": unguarded("restarts-mid-game", restarting=True),
    "split-chain": words("split-chain", "elif", "if"),
    "missing-else": words("missing-else", "elif", "else:"),
    "not-removed": left_out("not-removed", _calls("remove")),
    "stale-display": left_out("stale-display", _calls("board"), restart=False, top=False),
    "no-feedback": left_out("no-feedback", _calls("tell", "print", "sound", "send")),
    "half-reset": left_out("half-reset", _puts_back, restart=True),
    "no-end": left_out("no-end", _ends),
    "no-call": no_call,
    "win-not-told": win_not_told,
    "not-registered": not_registered,
    "no-handler": no_handler,
    "every-frame": every_frame,
    "wrong-event": wrong_event,
    "unheard-message": unheard_message,
}
