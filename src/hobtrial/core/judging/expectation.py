"""`expect` and `arrange`: Python expressions over the observed state, read once and safely.

An expectation is parsed, checked against a small allow-list and compiled; what it needs is a list
of observables, so that a trial samples just that. A value that makes no sense (unset, a text
compared with a number, a division by zero) is a reason, not a crash.
"""

from __future__ import annotations

import ast
from collections.abc import Callable, Collection
from dataclasses import dataclass
from typing import Any, Final, cast

from ..events import PAIR_EVENTS, PIECE_EVENTS, PLAIN_EVENTS, Event, EventKind
from ..trial import CLOCK, EVENT_NAMES, OUTCOME, PLACE, Arrangement, Observable, ObservableKind, variable
from ..words import GameError, HobError, Unset

LONGEST: Final = 500
"""Characters of an expectation."""
FUNCTIONS: Final[dict[str, Callable[..., Any]]] = {
    "abs": abs,
    "len": len,
    "max": max,
    "min": min,
    "round": round,
    "near": lambda a, b, tolerance: abs(a - b) <= tolerance,
}
OBSERVING: Final = ("board", "count", "offers", "told", "sounded", "sent", "asked", "times")
"""Functions that ask what is so, or what happened so far."""
_ALLOWED: Final = (
    ast.Expression, ast.BoolOp, ast.And, ast.Or, ast.UnaryOp, ast.Not, ast.USub, ast.UAdd, ast.Compare, ast.Eq,
    ast.NotEq, ast.Lt, ast.LtE, ast.Gt, ast.GtE, ast.In, ast.NotIn, ast.BinOp, ast.Add, ast.Sub, ast.Mult, ast.Div,
    ast.FloorDiv, ast.Mod, ast.Constant, ast.Name, ast.Load, ast.Attribute, ast.Call, ast.List, ast.Tuple,
)  # fmt: skip
PROPERTIES: Final = frozenset(
    ["x", "y", "facing", "look", "visible", "opacity", "size", "speed", "vx", "vy", "name", "kind", "removed"]
)


class ExpectationError(HobError):
    """An expression that cannot be read, in words for the teacher; `where` is the key that it stands under."""

    def __init__(self, message: str, *where: str | int) -> None:
        super().__init__(message)
        self.where = where


class _MeetsError(HobError):
    """A value that an expectation cannot use."""


@dataclass(frozen=True, slots=True)
class Surroundings:
    """The names that a check of an exercise may use."""

    variables: frozenset[str]
    pieces: frozenset[str]
    kinds: frozenset[str]
    facts: frozenset[str] = frozenset()


@dataclass(frozen=True, eq=False)
class Expectation:
    """A readable expectation: its text, what it needs, and how to evaluate it."""

    text: str
    needs: tuple[Observable, ...]
    _evaluate: Callable[..., Any]

    def holds(self, values: Collection[Any]) -> tuple[bool, str | None]:
        """Whether it is true for values given in the order of `needs`, or the reason why it cannot be."""
        wrapped = [_wrap(what, value) for what, value in zip(self.needs, values, strict=True)]
        try:
            return bool(self._evaluate(*wrapped)), None
        except _MeetsError as met:
            return False, str(met)
        except ZeroDivisionError:
            return False, "it divides by zero"
        except TypeError:
            kinds = sorted({_kind(value) for value in values})
            return False, f"it compares {' with '.join(kinds)}" if len(kinds) > 1 else "its values do not fit together"
        except (ArithmeticError, ValueError) as error:
            return False, str(error)


def read_expectation(text: str, names: Surroundings) -> Expectation:
    """Reads an expression. Raises `ExpectationError` saying what was met and what would be right."""
    if len(text) > LONGEST:
        raise ExpectationError(f"is longer than {LONGEST} characters")
    try:
        tree = ast.parse(text.strip(), mode="eval")
    except (SyntaxError, ValueError, MemoryError, RecursionError) as error:
        words = getattr(error, "msg", "it is not Python")
        raise ExpectationError(f"cannot be read: {words}; write it as in `score == 3`") from None
    reader = _Reader(names)
    tree = ast.fix_missing_locations(reader.visit(tree))
    parameters = ast.arguments(
        [], [ast.arg(f"o{number}") for number, _ in enumerate(reader.needs)], None, [], [], None, []
    )
    function = ast.fix_missing_locations(ast.Expression(ast.Lambda(parameters, tree.body)))
    evaluate = eval(compile(function, "<expect>", "eval"), {"__builtins__": FUNCTIONS})
    return Expectation(text.strip(), tuple(reader.needs), evaluate)


class _Reader(ast.NodeTransformer):
    """Replaces what is observed by parameters; refuses everything that is not listed."""

    def __init__(self, names: Surroundings) -> None:
        self.names = names
        self.needs: list[Observable] = []

    def visit(self, node: ast.AST) -> Any:
        if not isinstance(node, _ALLOWED):
            raise ExpectationError(f"uses `{type(node).__name__.lower()}`, which a check cannot")
        return super().visit(node)

    def _need(self, what: Observable) -> ast.expr:
        if what not in self.needs:
            self.needs.append(what)
        return ast.Name(f"o{self.needs.index(what)}", ast.Load())

    def visit_Name(self, node: ast.Name) -> ast.expr:
        if node.id == "outcome":
            return self._need(OUTCOME)
        if node.id == "clock":
            return self._need(CLOCK)
        if node.id == "place":
            return self._need(PLACE)
        if node.id in self.names.facts:
            return self._need(Observable("fact", node.id))
        if node.id in self.names.variables:
            return self._need(variable(node.id))
        if node.id in self.names.pieces | self.names.kinds:
            raise ExpectationError(
                f"uses `{node.id}` by itself; ask for something of it, such as `{node.id}.x` or `count({node.id})`"
            )
        raise ExpectationError(f"uses `{node.id}`, which is no variable of this exercise or its reference")

    def visit_Attribute(self, node: ast.Attribute) -> ast.expr:
        if not isinstance(node.value, ast.Name) or node.value.id not in self.names.pieces:
            raise ExpectationError(f"asks for `.{node.attr}` of something that is no piece")
        if node.attr.startswith("_"):
            raise ExpectationError(f"`{node.attr}` is no property of a piece")
        return self._need(Observable("property", node.value.id, node.attr))

    def visit_Constant(self, node: ast.Constant) -> ast.expr:
        if not isinstance(node.value, (bool, int, float, str)) and node.value is not None:
            raise ExpectationError("uses a value that is no number, text, True, False or None")
        return node

    def visit_BinOp(self, node: ast.BinOp) -> Any:
        texts = [
            side for side in (node.left, node.right) if isinstance(side, ast.Constant) and isinstance(side.value, str)
        ]
        if texts and not isinstance(node.op, ast.Add):
            raise ExpectationError("calculates with a text")
        return self.generic_visit(node)

    def visit_Call(self, node: ast.Call) -> ast.expr:
        if not isinstance(node.func, ast.Name) or node.keywords:
            raise ExpectationError("calls something that a check cannot")
        name = node.func.id
        match name, node.args:
            case "count", [ast.Name(id=kind)]:
                if kind not in self.names.kinds:
                    raise ExpectationError(f"counts `{kind}`, which is no kind of the scene")
                return self._need(Observable("count", kind))
            case ("board" | "offers", [ast.Constant(value=str(label))]):
                return self._need(Observable(cast(ObservableKind, name), label))
            case ("told" | "sounded" | "sent" | "asked", [ast.Constant(value=str(label))]):
                often = self._need(Observable(cast(ObservableKind, name), label))
                return ast.Compare(often, [ast.Gt()], [ast.Constant(0)])
            case "times", [
                ast.Call(
                    func=ast.Name(id=("told" | "sounded" | "sent" | "asked") as what),
                    args=[ast.Constant(value=str(label))],
                )
            ]:
                return self._need(Observable(cast(ObservableKind, what), label))
            case "times", [event]:
                return self._need(Observable("times", event=read_event(event, self.names)))
        if name not in FUNCTIONS:
            known = ", ".join(sorted([*FUNCTIONS, *OBSERVING]))
            raise ExpectationError(f"calls `{name}` in a way that a check cannot; known are {known}")
        return ast.Call(node.func, [self.visit(argument) for argument in node.args], [])


def read_event(node: ast.expr, names: Surroundings) -> Event:
    """An event written in a check, an input or a craft line. Raises `ExpectationError`."""
    match node:
        case ast.Name(id=kind) if kind in PLAIN_EVENTS:
            return EVENT_NAMES[kind]  # type: ignore[no-any-return]
        case ast.Call(func=ast.Name(id=kind), args=arguments, keywords=[]) if kind in EVENT_NAMES:
            if kind in PAIR_EVENTS or kind in PIECE_EVENTS:
                return _event_about_pieces(kind, arguments, names)
            if kind not in PLAIN_EVENTS:
                try:
                    return EVENT_NAMES[kind](*(ast.literal_eval(each) for each in arguments))  # type: ignore[no-any-return]
                except (GameError, TypeError, ValueError) as error:
                    words = str(error) if isinstance(error, GameError) else f"`{kind}` takes one value"
                    raise ExpectationError(f"has an event that cannot be: {words.rstrip('.')}") from None
    known = ", ".join(sorted(EVENT_NAMES))
    raise ExpectationError(f"has an event that cannot be read; known are {known}")


def _event_about_pieces(kind: str, arguments: list[ast.expr], names: Surroundings) -> Event:
    about = [each.id if isinstance(each, ast.Name) else ast.unparse(each) for each in arguments]
    unknown = [name for name in about if name not in names.pieces | names.kinds]
    if unknown:
        raise ExpectationError(f"waits for `{unknown[0]}`, which is not in the scene")
    wanted = (2,) if kind in PAIR_EVENTS else (0, 1) if kind == "clicked" else (1,)
    if len(about) not in wanted:
        raise ExpectationError(f"has `{kind}` with {len(about)} names; it takes {wanted[-1]}")
    return Event(cast(EventKind, kind), tuple(about))


def read_arrangement(text: str, names: Surroundings) -> Arrangement:
    """Reads `name = literal` or `piece.name = literal`. Raises `ExpectationError`."""
    try:
        statement = ast.parse(text.strip()).body
        value = (
            ast.literal_eval(statement[0].value)
            if len(statement) == 1 and isinstance(statement[0], ast.Assign)
            else None
        )
    except (SyntaxError, ValueError, MemoryError, RecursionError, TypeError):
        raise ExpectationError("cannot be read; write it as in `hob.x = 5` or `lives = 1`") from None
    match statement:
        case [ast.Assign(targets=[ast.Name(id=name)])]:
            if name in names.pieces | names.kinds:
                raise ExpectationError(f"arranges `{name}` itself; arrange something of it, such as `{name}.x = 5`")
            if name not in names.variables | names.facts | {"place"}:
                raise ExpectationError(f"arranges `{name}`, which is no variable of this exercise or its reference")
            return Arrangement(text, None, name, value)
        case [ast.Assign(targets=[ast.Attribute(value=ast.Name(id=owner), attr=name)])]:
            if owner not in names.pieces | names.kinds | {"game"}:
                raise ExpectationError(f"arranges `{owner}`, which is not in the scene")
            if name.startswith("_") or name in ("name", "kind"):
                raise ExpectationError(f"arranges `{name}`, which cannot be set")
            return Arrangement(text, owner, name, value)
    raise ExpectationError("cannot be read; write it as in `hob.x = 5` or `lives = 1`")


class _NotSet:
    """Stands for an unset value: whatever an expectation does with it is the reason it is broken."""

    def __init__(self, what: Observable) -> None:
        self._what = what

    def _refuse(self, *_: Any) -> Any:
        where = "is not on the scoreboard" if self._what.what == "board" else "has no value"
        raise _MeetsError(f"`{self._what}` {where}")

    __eq__ = __ne__ = __lt__ = __le__ = __gt__ = __ge__ = __bool__ = _refuse
    __add__ = __radd__ = __sub__ = __rsub__ = __mul__ = __rmul__ = __truediv__ = __rtruediv__ = _refuse
    __floordiv__ = __rfloordiv__ = __mod__ = __rmod__ = __neg__ = __pos__ = __abs__ = __len__ = __contains__ = _refuse
    __round__ = _refuse
    __hash__ = object.__hash__


class _OnBoard:
    """A value of the scoreboard, which is equal to 3 and to "3"."""

    def __init__(self, value: Any) -> None:
        self._value = value

    def _as(self, other: Any) -> Any:
        if isinstance(other, _OnBoard):
            other = other._value
        if isinstance(other, str):
            return str(self._value).strip()
        if isinstance(self._value, str) and isinstance(other, (int, float)):
            try:
                return float(self._value)
            except ValueError:
                return self._value
        return self._value

    def __eq__(self, other: object) -> bool:
        return bool(self._as(other) == (other._value if isinstance(other, _OnBoard) else other))

    def __lt__(self, other: Any) -> bool:
        return bool(self._as(other) < other)

    def __le__(self, other: Any) -> bool:
        return bool(self._as(other) <= other)

    def __gt__(self, other: Any) -> bool:
        return bool(self._as(other) > other)

    def __ge__(self, other: Any) -> bool:
        return bool(self._as(other) >= other)

    __hash__ = None  # type: ignore[assignment]


def _wrap(what: Observable, value: Any) -> Any:
    if isinstance(value, Unset):
        return _NotSet(what)
    return _OnBoard(value) if what.what == "board" else value


def _kind(value: Any) -> str:
    if isinstance(value, bool):
        return "a truth value"
    if isinstance(value, (int, float)):
        return "a number"
    return {str: "a text", type(None): "None", list: "a list"}.get(type(value), "another value")
