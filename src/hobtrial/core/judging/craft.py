"""Craft: what must be so in a script's text. Looks at the tree, never at the run.

It sees through parentheses, the order of a comparison, `not`, the symmetry of pairs, helper functions and
constants; comments and text are no code. A name means the script's global, or what `game` holds.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from ..events import PAIR_EVENTS, Event
from ..exercise import Craft
from ..script import Script
from ..script.tree import (
    constants,
    functions,
    goes_on_with_elif,
    is_handler,
    own_locals,
    stored,
    walk,
    with_locals,
)
from .names import ExpectationError, Surroundings, read_event, read_event_text

Alias = Mapping[str, tuple[str, ...]]
"""For each variable check for the other names that it may have."""
Held = tuple[bool, str | None]
"""Whether it is so, and what was met where it is not."""

FORMS: Final = (
    "handles EVENT, assigns NAME, changes NAME, tests NAME, compares NAME with OP, uses if / elif / else / and / or / "
    "not / match / a function / an Enum / a loop (or several of them: uses elif or match), has a local, "
    "no repeated block, at most N handlers for EVENT, no number N"
)
FEWEST_REPEATED: Final = 3
"""Statements in a row that stand twice and count as a repeated block: two are often alike by chance."""
_MIRRORED: Final = {ast.Lt: ">", ast.Gt: "<", ast.LtE: ">=", ast.GtE: "<=", ast.Eq: "==", ast.NotEq: "!="}
_WRITTEN: Final = {ast.Lt: "<", ast.Gt: ">", ast.LtE: "<=", ast.GtE: ">=", ast.Eq: "==", ast.NotEq: "!="}
_NEXT_TO: Final = {">": ">=", "<": "<="}
_NEGATED: Final = {"<": ">=", ">": "<=", "<=": ">", ">=": "<", "==": "!=", "!=": "=="}


@dataclass(frozen=True, eq=False)
class CraftRule:
    """A craft line made ready."""

    line: Craft
    _look: Callable[[_Reader], Held]
    _names: Surroundings

    def holds(self, script: Script, alias: Alias) -> Held:
        """Whether a script is so, and what was met where it is not."""
        return self._look(_Reader(script, alias, self._names))


def read_craft(line: Craft, names: Surroundings) -> CraftRule:
    """Reads a craft line. Raises `ExpectationError` saying what would be right."""
    text = " ".join(line.expect.split())
    for pattern, make in _FORMS:
        found = re.fullmatch(pattern, text)
        if found is not None:
            return CraftRule(line, make(found, names), names)
    raise ExpectationError(f"is not a form of craft; write one of: {FORMS}")


class _Reader:
    """One script with the questions that craft asks of it."""

    def __init__(self, script: Script, alias: Alias, names: Surroundings) -> None:
        self.script = script
        self._alias = alias
        self._names = names
        self._constants = constants(script.tree)
        self.nodes = list(with_locals(script.tree, frozenset()))

    def is_name(self, node: ast.AST, local: frozenset[str], name: str) -> bool:
        """Whether a node is this variable: the global, `game.name`, or `hob.lives` where that is check for."""
        match node:
            case ast.Attribute(value=ast.Name(id=owner), attr=attr):
                return f"{owner}.{attr}" == name or (owner == "game" and attr in self._all(name))
            case ast.Name(id=written):
                return written in self._all(name) and written not in local
        return False

    def mentions(self, node: ast.AST, local: frozenset[str], name: str) -> bool:
        """Whether the variable stands anywhere in a node."""
        return any(self.is_name(inner, local, name) for inner in walk(node))

    def _all(self, name: str) -> tuple[str, ...]:
        return (name, *self._alias.get(name, ()))

    def events(self, function: ast.FunctionDef) -> set[Event]:
        """The events that a handler waits for, pairs in one order."""
        found: set[Event] = set()
        for decorator in function.decorator_list:
            for argument in decorator.args if isinstance(decorator, ast.Call) else ():
                written = self._constants.get(argument.id, argument) if isinstance(argument, ast.Name) else argument
                try:
                    found.add(_one_order(read_event(written, self._names)))
                except ExpectationError:
                    continue
        return found

    def handlers(self, event: Event) -> list[ast.FunctionDef]:
        """The handlers of an event."""
        wanted = _one_order(event)
        return [each for each in functions(self.script.tree) if is_handler(each) and wanted in self.events(each)]

    def stores(self, name: str) -> Iterator[tuple[ast.stmt | ast.expr, frozenset[str]]]:
        """The places that give a variable a value, as statements where they are."""
        for node, local in self.nodes:
            match node:
                case ast.Assign(targets=targets) if any(
                    self.is_name(inner, local, name) for target in targets for inner in stored(target)
                ):
                    yield node, local
                case ast.AugAssign(target=target) | ast.AnnAssign(target=target) | ast.NamedExpr(target=target) if (
                    self.is_name(target, local, name)
                ):
                    yield node, local
                case ast.For(target=target) if any(self.is_name(inner, local, name) for inner in stored(target)):
                    yield node, local

    def compared(self, name: str) -> set[str]:
        """The operators with which a variable is compared, it on the left; under `not` the opposite ones."""
        found: set[str] = set()
        for node, local in self.nodes:
            if not isinstance(node, ast.Compare):
                continue
            turned = self._negated(node)
            sides = [node.left, *node.comparators]
            for left, op, right in zip(sides, node.ops, sides[1:], strict=False):
                for side, words in ((left, _WRITTEN), (right, _MIRRORED)):
                    if type(op) in words and self.mentions(side, local, name):
                        written = words[type(op)]
                        sign = _NEGATED[written] if turned else written
                        other = right if side is left else left
                        found.add(sign)
                        if sign in _NEXT_TO and type(getattr(other, "value", None)) is int:
                            found.add(_NEXT_TO[sign])  # `heat > 199` is `heat >= 200` for whole numbers
        return found

    def _negated(self, compare: ast.Compare) -> bool:
        nots = [node for node, _ in self.nodes if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not)]
        return sum(any(inner is compare for inner in walk(each.operand)) for each in nots) % 2 == 1

    def tested(self, name: str) -> bool:
        """Whether a variable stands in a test or a boolean result, or in a function that a test calls."""
        helpers = {each.name: each for each in functions(self.script.tree)}
        for node, local in self.nodes:
            if isinstance(node, (ast.Compare, ast.BoolOp)) or (
                isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not)
            ):
                if self.mentions(node, local, name):
                    return True
                continue
            subject = node.subject if isinstance(node, ast.Match) else getattr(node, "test", None)
            if subject is None:
                continue
            if self.mentions(subject, local, name):
                return True
            called = [
                helpers[inner.func.id]
                for inner in walk(subject)
                if isinstance(inner, ast.Call) and isinstance(inner.func, ast.Name) and inner.func.id in helpers
            ]
            if any(self.mentions(each, own_locals(each), name) for each in called):
                return True
        return False


# ---- the forms


def _handles(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    event = read_event_text(found[1], "expect", names)
    return lambda reader: (bool(reader.handlers(event)), f"no handler waits for {event}")


def _assigns(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    name = found[1]
    return lambda reader: (any(True for _ in reader.stores(name)), f"nothing assigns `{name}`")


def _changes(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    name = found[1]

    def look(reader: _Reader) -> Held:
        for node, local in reader.stores(name):
            if isinstance(node, ast.AugAssign):
                return True, None
            value = getattr(node, "value", None)
            if value is not None and reader.mentions(value, local, name):
                return True, None
        return False, f"nothing changes `{name}` from what it was"

    return look


def _tests(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    name = found[1]
    return lambda reader: (reader.tested(name), f"nothing tests `{name}`")


def _compares(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    name, op = found[1], found[2]

    def look(reader: _Reader) -> Held:
        met = sorted(reader.compared(name))
        others = f"; it is compared with {', '.join(f'`{each}`' for each in met)}" if met else ""
        return op in met, f"`{name}` is not compared with `{op}`{others}"

    return look


def _uses(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    asked = re.split(r" or (?=\w)", found[1].lower()) if found[1] != "or" else ["or"]
    looks = {each: _looks(each) for each in asked}

    def look(reader: _Reader) -> Held:
        if any(one(reader) for one in looks.values()):
            return True, None
        missing = " nor ".join(each if " " in each else f"`{each}`" for each in asked)
        article = "a " if len(asked) == 1 and " " not in asked[0] else ""
        return False, f"there is neither {missing}" if len(asked) > 1 else f"there is no {missing}" if article else (
            f"there is not {missing}"
        )

    return look


def _looks(what: str) -> Callable[[_Reader], bool]:
    """Whether a construct is used."""
    look: Callable[[_Reader], bool] = {
        "if": lambda reader: _any(reader, ast.If),
        "elif": lambda reader: any(goes_on_with_elif(node) for node, _ in reader.nodes),
        "else": lambda reader: any(
            isinstance(node, ast.If) and bool(node.orelse) and not goes_on_with_elif(node) for node, _ in reader.nodes
        ),
        "and": lambda reader: _any(reader, ast.And),
        "or": lambda reader: _any(reader, ast.Or),
        "not": lambda reader: _any(reader, ast.Not),
        "match": lambda reader: _any(reader, ast.Match),
        "a function": lambda reader: any(not is_handler(each) for each in functions(reader.script.tree)),
        "an enum": lambda reader: _any(reader, ast.ClassDef),
        "a loop": lambda reader: _any(reader, ast.For, ast.While),
    }[what]
    return look


def _has_a_local(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    def look(reader: _Reader) -> Held:
        return (
            any(own_locals(each) - _parameters(each) for each in functions(reader.script.tree)),
            "no function has a variable of its own",
        )

    return look


def _parameters(function: ast.FunctionDef) -> frozenset[str]:
    return frozenset(each.arg for each in (*function.args.posonlyargs, *function.args.args, *function.args.kwonlyargs))


def _no_repeated_block(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    def look(reader: _Reader) -> Held:
        seen: dict[str, int] = {}
        for node, _ in reader.nodes:
            for field in ("body", "orelse"):
                block = getattr(node, field, None)
                if not isinstance(block, list):
                    continue
                for first in range(len(block) - FEWEST_REPEATED + 1):
                    part = block[first : first + FEWEST_REPEATED]
                    if any(isinstance(each, ast.Global | ast.FunctionDef | ast.ClassDef) for each in part):
                        continue
                    text = "\n".join(ast.unparse(each) for each in part)
                    line = part[0].lineno
                    if text in seen and line >= seen[text] + FEWEST_REPEATED:
                        return False, f"the lines from {seen[text]} on stand again from line {line} on"
                    seen.setdefault(text, line)
        return True, None

    return look


def _at_most(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    most, event = int(found[1]), read_event_text(found[2], "expect", names)

    def look(reader: _Reader) -> Held:
        number = len(reader.handlers(event))
        return number <= most, f"{number} handlers wait for {event}"

    return look


def _no_number(found: re.Match[str], names: Surroundings) -> Callable[[_Reader], Held]:
    number = float(found[1])

    def look(reader: _Reader) -> Held:
        named = {
            id(node.value)
            for node, _ in reader.nodes
            if isinstance(node, ast.Assign | ast.AnnAssign) and _names_it(node)
        }
        for node, _ in reader.nodes:
            written = _number(node)
            if written is not None and written == number and id(node) not in named:
                return False, f"{found[1]} is written out in line {getattr(node, 'lineno', 0)}"
        return True, None

    return look


_CONSTRUCT = r"(?:if|elif|else|and|or|not|match|a function|an [Ee]num|a loop)"
_NAME = r"([A-Za-z]\w*(?:\.[A-Za-z]\w*)?)"
_FORMS: Final[tuple[tuple[str, Callable[[re.Match[str], Surroundings], Callable[[_Reader], Held]]], ...]] = (
    (r"handles (.+)", _handles),
    (rf"assigns {_NAME}", _assigns),
    (rf"changes {_NAME}", _changes),
    (rf"tests {_NAME}", _tests),
    (rf"compares {_NAME} with (<=|>=|==|!=|<|>)", _compares),
    (rf"uses ({_CONSTRUCT}(?: or {_CONSTRUCT})*)", _uses),
    (r"has a local", _has_a_local),
    (r"no repeated block", _no_repeated_block),
    (r"at most (\d{1,4}) handlers? for (.+)", _at_most),
    (r"no number (-?\d{1,9}(?:\.\d{1,9})?)", _no_number),
)


def _one_order(event: Event) -> Event:
    return Event(event.kind, tuple(sorted(map(str, event.about)))) if event.kind in PAIR_EVENTS else event


def _any(reader: _Reader, *kinds: type[ast.AST]) -> bool:
    return any(isinstance(node, kinds) for node, _ in reader.nodes)


def _names_it(node: ast.Assign | ast.AnnAssign) -> bool:
    targets: list[Any] = node.targets if isinstance(node, ast.Assign) else [node.target]
    return len(targets) == 1 and isinstance(targets[0], ast.Name)


def _number(node: ast.AST) -> float | None:
    match node:
        case ast.UnaryOp(op=ast.USub(), operand=ast.Constant(value=bool())):
            return None
        case ast.UnaryOp(op=ast.USub(), operand=ast.Constant(value=int() | float() as value)):
            return float(-value)
        case ast.Constant(value=bool()):
            return None
        case ast.Constant(value=int() | float() as value):
            return float(value)
    return None
