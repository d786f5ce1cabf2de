"""`expect`: Python expressions over the observed state, read once and safely.

An expectation is parsed, checked against a small allow-list and compiled; what it needs is a list
of observables, so that a trial samples just that. A value that makes no sense (unset, a text
compared with a number, a division by zero) is a reason, not a crash.
"""

from __future__ import annotations

import ast
import difflib
from collections.abc import Callable, Collection
from dataclasses import dataclass
from typing import Any, Final, Literal, cast, get_args

from ..trial import CLOCK, OUTCOME, PLACE, Observable, ObservableKind, variable
from ..words import HobError, Outcome, Unset
from .names import ExpectationError, Surroundings, read_event

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
OBSERVING: Final = (
    "board",
    "count",
    "gone",
    "offers",
    "told",
    "said",
    "sounded",
    "sent",
    "asked",
    "times",
    "was",
    "first",
)
"""Functions that ask what is so, or what happened so far."""
QUOTING: Final = ("board", "offers", "sounded", "sent", "asked")
"""Those that take a text in quotes."""
_ALLOWED: Final = (
    ast.Expression, ast.BoolOp, ast.And, ast.Or, ast.UnaryOp, ast.Not, ast.USub, ast.UAdd, ast.Compare, ast.Eq,
    ast.NotEq, ast.Lt, ast.LtE, ast.Gt, ast.GtE, ast.In, ast.NotIn, ast.BinOp, ast.Add, ast.Sub, ast.Mult, ast.Div,
    ast.FloorDiv, ast.Mod, ast.Constant, ast.Name, ast.Load, ast.Attribute, ast.Call, ast.List, ast.Tuple,
)  # fmt: skip
PROPERTIES: Final = frozenset(
    ["x", "y", "facing", "look", "visible", "opacity", "size", "speed", "vx", "vy", "name", "kind", "removed"]
)


class _MeetsError(HobError):
    """A value that an expectation cannot use."""


When = Literal["now", "was", "first"]
"""When a value is asked for: now, just before, or at the beginning before anything was arranged."""


@dataclass(frozen=True, eq=False)
class Expectation:
    """A readable expectation: its text, what it asks for, and how to evaluate it."""

    text: str
    asks: tuple[tuple[Observable, When], ...]
    _evaluate: Callable[..., Any]

    @property
    def needs(self) -> tuple[Observable, ...]:
        """What must be sampled for it."""
        return tuple(dict.fromkeys(what for what, _ in self.asks))

    def holds(self, values: Collection[Any]) -> tuple[bool, str | None]:
        """Whether it is true for values given in the order of `asks`, or the reason why it cannot be."""
        wrapped = [_wrap(what, value) for (what, _), value in zip(self.asks, values, strict=True)]
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

    def parts(self, values: Collection[Any]) -> tuple[tuple[str, Any], ...]:
        """The values by the words of the expectation: `score`, `was(score)`."""
        return tuple(
            (str(what) if when == "now" else f"{when}({what})", value)
            for (what, when), value in zip(self.asks, values, strict=True)
        )


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
        [], [ast.arg(f"o{number}") for number, _ in enumerate(reader.asks)], None, [], [], None, []
    )
    function = ast.fix_missing_locations(ast.Expression(ast.Lambda(parameters, tree.body)))
    evaluate = eval(compile(function, "<expect>", "eval"), {"__builtins__": FUNCTIONS})
    return Expectation(text.strip(), tuple(reader.asks), evaluate)


def read_observable(text: str, names: Surroundings) -> Observable:
    """Reads one thing to look at, such as `score`, `hob.x` or `outcome`. Raises `ExpectationError`."""
    found = read_expectation(text, names)
    if len(found.asks) != 1 or text.strip() != str(found.asks[0][0]):
        raise ExpectationError("is not one thing to look at, such as `score`, `hob.x` or `outcome`")
    return found.asks[0][0]


LAST_LINE: Final = "told"
"""The name by which the last line that was told is predicted."""
_PREDICTED: Final = frozenset(("variable", "property", "count", "fact", "board", "place", "outcome"))


def read_predicted(text: str, names: Surroundings) -> Observable | None:
    """Reads what is to be predicted: a value, `outcome`, `hob.look`; nothing for `told`, the last line that was told.

    Raises `ExpectationError`.
    """
    if text.strip() == LAST_LINE:
        return None
    found = read_observable(text, names)
    if found.what not in _PREDICTED:
        raise ExpectationError("is not one thing to predict, such as `score`, `outcome`, `hob.look` or `told`")
    return found


class _Reader(ast.NodeTransformer):
    """Replaces what is observed by parameters; refuses everything that is not listed."""

    def __init__(self, names: Surroundings) -> None:
        self.names = names
        self.asks: list[tuple[Observable, When]] = []
        self._when: When = "now"

    def visit(self, node: ast.AST) -> Any:
        if not isinstance(node, _ALLOWED):
            raise ExpectationError(f"uses `{type(node).__name__.lower()}`, which a check cannot")
        return super().visit(node)

    def _need(self, what: Observable) -> ast.expr:
        ask = (what, self._when)
        if ask not in self.asks:
            self.asks.append(ask)
        return ast.Name(f"o{self.asks.index(ask)}", ast.Load())

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
        raise ExpectationError(f"uses `{node.id}`, which is not a variable of this exercise or its reference")

    def visit_Attribute(self, node: ast.Attribute) -> ast.expr:
        if not isinstance(node.value, ast.Name) or node.value.id not in self.names.pieces:
            raise ExpectationError(f"asks for `.{node.attr}` of something that is not a piece")
        if node.attr.startswith("_"):
            raise ExpectationError(f"`{node.attr}` is not a property of a piece")
        return self._need(Observable("property", node.value.id, node.attr))

    def visit_Constant(self, node: ast.Constant) -> ast.expr:
        if not isinstance(node.value, (bool, int, float, str)) and node.value is not None:
            raise ExpectationError("uses a value that is not a number, text, True, False or None")
        return node

    def visit_BinOp(self, node: ast.BinOp) -> Any:
        texts = [
            side for side in (node.left, node.right) if isinstance(side, ast.Constant) and isinstance(side.value, str)
        ]
        if texts and not isinstance(node.op, ast.Add):
            raise ExpectationError("calculates with a text")
        return self.generic_visit(node)

    def visit_Call(self, node: ast.Call) -> ast.expr:
        if not isinstance(node.func, ast.Name):
            raise ExpectationError("calls something that a check cannot")
        name = node.func.id
        if name in ("told", "said"):
            return ast.Compare(self._need(self._told(node)), [ast.Gt()], [ast.Constant(0)])
        if node.keywords:
            raise ExpectationError(f"gives `{name}` something with a name, which only `told` takes: `exact=True`")
        match name, node.args:
            case (("was" | "first"), [inner]):
                if self._when != "now":
                    raise ExpectationError(f"has `{name}` inside `{self._when}`; one of them is enough")
                self._when = cast(When, name)
                read = self.visit(inner)
                self._when = "now"
                return cast(ast.expr, read)
            case "count", [ast.Name(id=kind)]:
                if kind not in self.names.kinds:
                    raise ExpectationError(f"counts `{kind}`, which is not a kind of the scene")
                return self._need(Observable("count", kind))
            case "gone", [ast.Name(id=piece)]:
                if piece not in self.names.pieces:
                    raise ExpectationError(f"asks whether `{piece}` is gone, which is not a piece of the scene")
                return self._need(Observable("property", piece, "removed"))
            case ("board" | "offers", [ast.Constant(value=str(label))]):
                return self._need(Observable(cast(ObservableKind, name), label))
            case ("sounded" | "sent" | "asked", [ast.Constant(value=str(label))]):
                often = self._need(Observable(cast(ObservableKind, name), label))
                return ast.Compare(often, [ast.Gt()], [ast.Constant(0)])
            case "times", [ast.Call(func=ast.Name(id="told" | "said")) as call]:
                return self._need(self._told(call))
            case "times", [
                ast.Call(
                    func=ast.Name(id=("sounded" | "sent" | "asked") as what),
                    args=[ast.Constant(value=str(label))],
                )
            ]:
                return self._need(Observable(cast(ObservableKind, what), label))
            case "times", [event]:
                return self._need(Observable("times", event=read_event(event, self.names)))
        if name in QUOTING and any(isinstance(each, ast.Name) for each in node.args):
            raise ExpectationError(f'has `{ast.unparse(node)}` without quotes; write {name}("{_bare(node.args[0])}")')
        if name not in FUNCTIONS:
            known = ", ".join(sorted([*FUNCTIONS, *OBSERVING]))
            raise ExpectationError(f"calls `{name}` in a way that a check cannot; known are {known}")
        return ast.Call(node.func, [self.visit(argument) for argument in node.args], [])

    def _told(self, node: ast.Call) -> Observable:
        """`told("text")`, `told("text", exact=True)` or `said(hob, "text")`."""
        name = cast(ast.Name, node.func).id
        exact = [each for each in node.keywords if each.arg == "exact"]
        if name == "said":
            match node.args, node.keywords:
                case [ast.Name(id=who), ast.Constant(value=str(text))], []:
                    if who not in self.names.pieces | self.names.kinds:
                        raise ExpectationError(f"asks what `{who}` said, which is not a piece of the scene")
                    return Observable("said", text, who)
            raise ExpectationError(
                'asks who said what in a way that cannot be read; write it as in `said(hob, "Done")`'
            )
        match node.args:
            case [ast.Constant(value=str(text))] if len(exact) == len(node.keywords) <= 1:
                return Observable("told", text, "exact" if exact and self._true(exact[0].value) else "")
        raise ExpectationError('asks what was told in a way that cannot be read; write it as in `told("Done")`, or '
                               '`told("Done", exact=True)` for a whole line')  # fmt: skip

    def _true(self, node: ast.expr) -> bool:
        match node:
            case ast.Constant(value=bool(answer)):
                return answer
            case ast.Name(id=("true" | "false") as word):
                return word == "true"
        raise ExpectationError("has `exact` with something else than True or False")

    def visit_Compare(self, node: ast.Compare) -> Any:
        sides = [node.left, *node.comparators]
        if any(isinstance(side, ast.Name) and side.id == "outcome" for side in sides):
            for each in (inner for side in sides for inner in ast.walk(side)):
                if isinstance(each, ast.Constant) and each.value not in get_args(Outcome):
                    near = difflib.get_close_matches(str(each.value), get_args(Outcome), 1)
                    hint = f"perhaps {near[0]!r} is meant" if near else "it can be 'playing', 'won' or 'lost'"
                    raise ExpectationError(f"compares `outcome` with {each.value!r}, which it never is; {hint}")
        return self.generic_visit(node)


def _bare(node: ast.expr) -> str:
    return node.id if isinstance(node, ast.Name) else ast.unparse(node)


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
