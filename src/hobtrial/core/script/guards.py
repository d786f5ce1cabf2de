"""What a woven script may do to values: operators that can grow, methods, calls.

Every guard sits on the value and on what is called, not on the place of the call. A guard's
refusal is a `Halt`, which nothing in a script can catch. Work that one statement does inside Python
spends budget by the size of what it goes through.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator
from enum import Enum, EnumType
from itertools import islice
from types import BuiltinMethodType, FunctionType, GeneratorType, MethodType
from typing import Any, Final

from .limits import Halt, Limits
from .stand_in import StandIn
from .texts import DEEPEST, PLAIN, sorted_set, str_of, text_of
from .vocabulary import METHODS

Function = Callable[..., Any]

WIDEST: Final = 200
"""Characters of a width or a number of digits in `%`, `round` and paddings of numbers."""
LARGEST_SHIFT: Final = 64
LARGEST_KEY: Final = 2**61 - 1
"""Whole numbers from here on share their hash with smaller ones, and could crowd one place of a dict."""
MOST_PARTS: Final = 100_000
"""Parts of a value, all levels together, that one comparison goes through."""
_COLLECTIONS: Final = frozenset({list, tuple, dict, set})


class Guards:
    """The guards of one trial, with its limits; `handles` are the types of pieces and the like.

    `budget` holds the loop passes and calls that are left; the woven code counts it down.
    """

    def __init__(self, limits: Limits, handles: tuple[type, ...]) -> None:
        self.limits = limits
        self.handles = handles
        self.budget = [limits.passes_a_handler]
        self.callable_types: dict[type, Function] = {}
        """The types that a script may call, with what that does."""

    def hidden(self) -> dict[str, Function]:
        """The hidden names of the woven code that guard values."""
        return {
            "__add": self.add,
            "__iadd": self.add_in_place,
            "__mul": self.multiply,
            "__imul": self.multiply_in_place,
            "__mod": self.modulo,
            "__imod": self.modulo_in_place,
            "__pow": self.power,
            "__ipow": self.power_in_place,
            "__shl": self.shift,
            "__ishl": self.shift_in_place,
            "__get": self.read,
            "__call": self.call,
            "__walk": self.walk,
            "__within": self.within,
            "__fit": self.fit,
            "__thin": self.thin,
            "__key": self.key,
            "__show": self.show,
            "__items": self.put_in,
            "__slice": slice,
        }

    # ---- sizes

    def charge(self, passes: int) -> None:
        """Spends budget for work inside Python; the next probe ends the trial when it is spent."""
        self.budget[0] -= passes

    def fit(self, value: Any) -> Any:
        """The value, where it is not larger than the limits allow."""
        kind = type(value)
        if kind is int:
            if value.bit_length() > self.limits.bits:
                raise Halt("number", f"A whole number grew beyond {self.limits.bits:,} bits.")
        elif kind is str:
            if len(value) > self.limits.text:
                raise Halt("text", f"A text grew beyond {self.limits.text:,} characters.")
        elif kind in _COLLECTIONS:
            self.charge(len(value) >> 6)
            if len(value) > self.limits.items:
                raise Halt("collection", f"A collection grew beyond {self.limits.items:,} entries.")
        return value

    def thin(self, value: Any) -> Any:
        """The value, where it is not nested too deep nor too large in all to be compared or hashed."""
        if type(value) in _COLLECTIONS:
            self._weigh(value)
        return value

    def _weigh(self, value: Any) -> None:
        parts = 0
        stack: list[tuple[Any, int]] = [(value, 1)]
        while stack:
            held, depth = stack.pop()
            parts += len(held)
            if depth > DEEPEST:
                raise Halt("depth", f"A value is nested more than {DEEPEST} deep.")
            if parts > MOST_PARTS:
                raise Halt("collection", f"A value has more than {MOST_PARTS:,} parts in all.")
            for part in held.values() if type(held) is dict else held:
                if type(part) in _COLLECTIONS:
                    stack.append((part, depth + 1))
        self.charge(parts >> 5)

    def key(self, value: Any) -> Any:
        """A key of a dict or a member of a set: a huge whole number is turned down."""
        if type(value) is int and not -LARGEST_KEY < value < LARGEST_KEY:
            raise Halt("number", "A whole number this large cannot be a key.")
        return value

    def items(self, values: Iterable[Any]) -> list[Any]:
        """All items of something that can be walked, at most as many as a collection may have."""
        items = list(islice(iter(self._whole(values)), self.limits.items + 1))
        self.fit(items)
        return items

    def put_in(self, values: Any) -> Any:
        """What a part of a list is replaced by."""
        return self.items(values) if hasattr(values, "__iter__") else values

    def stream(self, values: Iterable[Any]) -> Iterable[Any]:
        """What `sum` and the like go through: a loop of the script spends its own budget."""
        if type(values) is GeneratorType:
            return values
        if type(values) in (list, tuple, set, dict, str, range):
            walked = self._whole(values)
            self.charge(len(walked) >> 6)
            return walked  # type: ignore[no-any-return]
        return self.items(values)

    def walk(self, values: Any) -> Any:
        """What a loop goes through: a set in its stable order, a range of bearable length."""
        return self._unchanged(values) if type(values) is set else self._whole(values)

    def _whole(self, values: Any) -> Any:
        """The same for what goes through it at once, before anything can change it."""
        kind = type(values)
        if kind is range and len(values) > self.limits.passes_a_handler:
            raise Halt("range", f"A range has more than {self.limits.passes_a_handler:,} numbers.")
        if kind is set:
            self.charge(len(values) >> 3)
            return sorted_set(values)
        if isinstance(values, type):
            if not isinstance(values, EnumType):
                raise Halt("refused", "A class cannot be gone through in this language.")
            self.charge(len(values))
        return values

    def _unchanged(self, values: set[Any]) -> Iterator[Any]:
        """The members of a set for a loop; one that changes it meanwhile is told so, as Python does."""
        size = len(values)
        for value in self._whole(values):
            if len(values) != size:
                break
            yield value
        if len(values) != size:
            raise RuntimeError("Set changed size during iteration")

    def within(self, values: Any) -> Any:
        """What `in` looks into; what can only be gone through once is gone through as far as `in` looks."""
        kind = type(values)
        if kind in _COLLECTIONS:
            return self.thin(values)
        if kind is range:
            return self._whole(values)
        return self._counted(values) if hasattr(values, "__next__") else values

    def _counted(self, values: Iterator[Any]) -> Iterator[Any]:
        """Values one by one, at most as many as a collection may have."""
        for number, value in enumerate(values, 1):
            if number > self.limits.items:
                raise Halt("collection", f"A collection grew beyond {self.limits.items:,} entries.")
            if not number & 63:
                self.charge(1)
            yield self.thin(value)

    def show(self, value: Any, conversion: int, spec: bool) -> Any:
        """A value on its way into an f-string: what Python would not write the same everywhere is made text."""
        kind = type(value)
        if conversion == -1:
            return value if kind in PLAIN or spec or isinstance(value, Enum) else str_of(value, self.limits.text)
        if conversion == 115:
            return str_of(value, self.limits.text)
        text = text_of(value, self.limits.text)
        return ascii(value) if conversion == 97 and kind in PLAIN else text

    # ---- operators

    def add(self, a: Any, b: Any) -> Any:
        """`a + b`"""
        result = a + b
        return result if type(result) is float else self.fit(result)

    def add_in_place(self, a: Any, b: Any) -> Any:
        """`a += b`: a list keeps its identity."""
        if type(a) is list and type(b) is not list:
            b = self.items(b)
        a += b
        return a if type(a) is float else self.fit(a)

    def multiply(self, a: Any, b: Any) -> Any:
        """`a * b`: the length of a repeated text or list is known before it is made."""
        self._check_product(a, b)
        return self.fit(a * b)

    def multiply_in_place(self, a: Any, b: Any) -> Any:
        """`a *= b`: a list keeps its identity."""
        self._check_product(a, b)
        a *= b
        return self.fit(a)

    def _check_product(self, a: Any, b: Any) -> None:
        for parts, times in ((a, b), (b, a)):
            if isinstance(parts, (str, list, tuple)) and isinstance(times, int):
                text = isinstance(parts, str)
                most = self.limits.text if text else self.limits.items
                if len(parts) * times > most:
                    raise Halt("text" if text else "collection", f"A product would have more than {most:,} parts.")

    def modulo(self, a: Any, b: Any) -> Any:
        """`a % b`: on text, widths are at most `WIDEST` and are written out."""
        self._check_format(a, b)
        return self.fit(a % b)

    def modulo_in_place(self, a: Any, b: Any) -> Any:
        """`a %= b`."""
        self._check_format(a, b)
        a %= b
        return self.fit(a)

    def _check_format(self, a: Any, b: Any) -> None:
        if isinstance(a, str):
            values = b if type(b) is tuple else b.values() if type(b) is dict else (b,)
            if any(type(value) not in PLAIN and not isinstance(value, Enum) for value in values):
                raise Halt("refused", "`%` on text takes plain values; write an f-string.")
            widths = re.findall(r"\d+", a)
            if re.search(r"%[^%a-zA-Z]*\*", a) or any(int(width[:9]) > WIDEST for width in widths):
                raise Halt("text", f"A width in a text is at most {WIDEST}.")

    def power(self, a: Any, b: Any) -> Any:
        """`a ** b`: the size of a whole result is known before it is computed."""
        self._check_power(a, b)
        return self.fit(a**b)

    def power_in_place(self, a: Any, b: Any) -> Any:
        """`a **= b`."""
        self._check_power(a, b)
        a **= b
        return self.fit(a)

    def _check_power(self, a: Any, b: Any) -> None:
        if (
            isinstance(a, int)
            and isinstance(b, int)
            and b > 0
            and abs(a) > 1
            and a.bit_length() * b > 2 * self.limits.bits
        ):
            raise Halt("number", f"A power would have more than {self.limits.bits:,} bits.")

    def shift(self, a: Any, b: Any) -> Any:
        """`a << b`, at most by 64."""
        self._check_shift(b)
        return self.fit(a << b)

    def shift_in_place(self, a: Any, b: Any) -> Any:
        """`a <<= b`."""
        self._check_shift(b)
        a <<= b
        return self.fit(a)

    def _check_shift(self, b: Any) -> None:
        if isinstance(b, int) and b > LARGEST_SHIFT:
            raise Halt("number", f"A number is shifted by at most {LARGEST_SHIFT}.")

    # ---- attributes and calls

    def read(self, value: Any, name: str) -> Any:
        """`value.name`, by the type of the value."""
        if isinstance(value, self.handles) or type(value) is StandIn:
            return getattr(value, name)
        if name in METHODS.get(type(value), ()):
            method = getattr(value, name)
            guard = _METHOD_GUARDS.get((type(value), name))
            return method if guard is None else guard(self, value, method)
        if isinstance(value, Enum) and name in ("name", "value"):
            return getattr(value, name)
        if isinstance(value, EnumType) and name in value.__members__:
            return value.__members__[name]
        if hasattr(value, name):
            raise Halt("refused", f"`.{name}` of {_article(type(value).__name__)} is not part of this language.")
        return getattr(value, name)

    def call(self, function: Any, /, *arguments: Any, **named: Any) -> Any:
        """Calls a listed builtin, a listed method or a function of the script; nothing else."""
        if isinstance(function, type):
            constructor = self.callable_types.get(function)
            if constructor is not None:
                return constructor(*arguments, **named)
            if isinstance(function, EnumType) and function.__members__:
                return self._member(function, *arguments, **named)
        elif type(function) in _FUNCTION_TYPES:
            return function(*arguments, **named)
        if callable(function):
            raise Halt("refused", f"`{getattr(function, '__name__', 'this')}` cannot be called here.")
        return function(*arguments, **named)

    def _member(self, kind: EnumType, /, *arguments: Any, **named: Any) -> Any:
        """`Colour(2)`: the member with a value. The other form of the call would make a class."""
        if len(arguments) > 1 or set(named) - {"value"}:
            raise Halt("refused", f"`{kind.__name__}` is called with one value, that of a member.")
        return kind(*map(self.thin, arguments), **{key: self.thin(value) for key, value in named.items()})


def _article(word: str) -> str:
    return f"an {word}" if word[0] in "aeiouAEIOU" else f"a {word}"


_FUNCTION_TYPES: Final = frozenset({FunctionType, BuiltinMethodType, MethodType})
"""Functions that a script can hold: its own, listed builtins, and methods, which only come from `read`."""

MethodGuard = Callable[[Guards, Any, Function], Function]


def _grows(guards: Guards, value: Any, method: Function) -> Function:
    def grow(*arguments: Any, **named: Any) -> Any:
        if len(value) >= guards.limits.items:
            raise Halt("collection", f"A collection grew beyond {guards.limits.items:,} entries.")
        return method(*arguments, **named)

    return grow


def _keeps(guards: Guards, value: Any, method: Function) -> Function:
    grow = _grows(guards, value, method)

    def keep(*arguments: Any, **named: Any) -> Any:
        return grow(*(guards.key(argument) for argument in arguments), **named)

    return keep


def _compares(guards: Guards, value: Any, method: Function) -> Function:
    guards.thin(value)
    return method


def _pops_first(guards: Guards, value: set[Any], method: Function) -> Function:
    def pop(*arguments: Any, **named: Any) -> Any:
        if not value or arguments or named:
            return method(*arguments, **named)
        first = guards.items(value)[0]
        value.remove(first)
        return first

    return pop


def _takes_many(guards: Guards, value: Any, method: Function) -> Function:
    def take(*arguments: Any, **named: Any) -> Any:
        given = [
            argument if isinstance(argument, dict) else [guards.key(each) for each in guards.items(argument)]
            for argument in arguments
        ]
        result = method(*given, **named)
        guards.fit(value)
        return guards.fit(result)

    return take


def _pads(guards: Guards, value: Any, method: Function) -> Function:
    def pad(*arguments: Any, **named: Any) -> Any:
        if arguments and isinstance(arguments[0], int) and arguments[0] > guards.limits.text:
            raise Halt("text", f"A text has at most {guards.limits.text:,} characters.")
        return method(*arguments, **named)

    return pad


def _replaces(guards: Guards, value: str, method: Function) -> Function:
    def replace(*arguments: Any, **named: Any) -> Any:
        match arguments:
            case (str(old), str(new), *_):
                longest = len(value) + (value.count(old) if old else len(value) + 1) * len(new)
                if longest > guards.limits.text * 2:
                    raise Halt("text", f"A text has at most {guards.limits.text:,} characters.")
        return guards.fit(method(*arguments, **named))

    return replace


def _joins(guards: Guards, value: str, method: Function) -> Function:
    def join(*arguments: Any, **named: Any) -> Any:
        if len(arguments) != 1 or named or not hasattr(arguments[0], "__iter__"):
            return method(*arguments, **named)  # Python's own complaint
        parts = guards.items(arguments[0])
        if sum(len(part) for part in parts if isinstance(part, str)) + len(value) * len(parts) > guards.limits.text * 2:
            raise Halt("text", f"A text has at most {guards.limits.text:,} characters.")
        return guards.fit(method(parts))

    return join


_METHOD_GUARDS: Final[dict[tuple[type, str], MethodGuard]] = {
    (str, "join"): _joins,
    (str, "replace"): _replaces,
    **{(str, name): _pads for name in ("zfill", "center", "ljust", "rjust")},
    (list, "append"): _grows,
    (list, "insert"): _grows,
    (list, "extend"): _takes_many,
    (list, "index"): _compares,
    (list, "count"): _compares,
    (list, "remove"): _compares,
    (list, "sort"): _compares,
    (tuple, "index"): _compares,
    (tuple, "count"): _compares,
    (dict, "setdefault"): _keeps,
    (dict, "update"): _takes_many,
    (set, "add"): _keeps,
    (set, "pop"): _pops_first,
    (set, "union"): _takes_many,
    (set, "intersection"): _takes_many,
    (set, "difference"): _takes_many,
}
