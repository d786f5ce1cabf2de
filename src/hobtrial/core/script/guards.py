"""What a woven script may do to values: operators that can grow, methods, calls.

Every guard sits on the value and on what is called, not on the place of the call. A guard's
refusal is a `Halt`, which nothing in a script can catch.
"""

from __future__ import annotations

import operator
import re
from enum import Enum, EnumType
from types import BuiltinMethodType, FunctionType, MethodType
from typing import Any, Final

from .limits import Halt, Limits
from .methods import METHOD_GUARDS
from .sizes import Function, Sizes
from .stand_in import StandIn
from .texts import PLAIN, VIEWS
from .vocabulary import METHODS

WIDEST: Final = 200
"""Characters of a width or a number of digits in `%`, `round` and paddings of numbers."""
LARGEST_SHIFT: Final = 64
_SETS: Final = VIEWS | {set, frozenset}
_FUNCTION_TYPES: Final = frozenset({FunctionType, BuiltinMethodType, MethodType})
"""Functions that a script can hold: its own, listed builtins, and methods, which only come from `read`."""


class Guards(Sizes):
    """The guards of one trial: what the hidden names of the woven code stand for."""

    def __init__(self, limits: Limits, handles: tuple[type, ...]) -> None:
        super().__init__(limits, handles)
        self.calls = 0
        """Calls that went through here, and many operations in one pass: work that no pass of a loop counts."""
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
            "__sub": self.subtract,
            "__isub": self.subtract_in_place,
            "__and": self.both,
            "__iand": self.both_in_place,
            "__or": self.either,
            "__ior": self.either_in_place,
            "__xor": self.one,
            "__ixor": self.one_in_place,
            "__get": self.read,
            "__call": self.call,
            "__walk": self.walk,
            "__within": self.within,
            "__fit": self.fit,
            "__thin": self.thin,
            "__key": self.key,
            "__place": self.place,
            "__hold": self.hold,
            "__show": self.show,
            "__items": self.put_in,
            "__slice": slice,
        }

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

    def subtract(self, a: Any, b: Any) -> Any:
        """`a - b`; what a set or a view is less, has a bearable length."""
        kind = type(a)
        if kind is float:
            return a - b
        return self.fit(a - b) if kind is int else self._of_sets(operator.sub, a, b)

    def subtract_in_place(self, a: Any, b: Any) -> Any:
        """`a -= b`: a set keeps its identity."""
        return self.subtract(a, b) if type(a) in (int, float) else self._of_sets(operator.isub, a, b)

    def both(self, a: Any, b: Any) -> Any:
        """`a & b`"""
        return self._of_sets(operator.and_, a, b)

    def both_in_place(self, a: Any, b: Any) -> Any:
        """`a &= b`"""
        return self._of_sets(operator.iand, a, b)

    def either(self, a: Any, b: Any) -> Any:
        """`a | b`"""
        return self._of_sets(operator.or_, a, b)

    def either_in_place(self, a: Any, b: Any) -> Any:
        """`a |= b`"""
        return self._of_sets(operator.ior, a, b)

    def one(self, a: Any, b: Any) -> Any:
        """`a ^ b`"""
        return self._of_sets(operator.xor, a, b)

    def one_in_place(self, a: Any, b: Any) -> Any:
        """`a ^= b`"""
        return self._of_sets(operator.ixor, a, b)

    def _of_sets(self, operate: Function, a: Any, b: Any) -> Any:
        """An operator of sets: a view of a dict takes whatever can be gone through, however long."""
        if type(a) in VIEWS and type(b) not in _SETS:
            b = self.items(b) if hasattr(b, "__iter__") else b
        elif type(b) in VIEWS and type(a) not in _SETS:
            a = self.items(a) if hasattr(a, "__iter__") else a
        for each in (a, b):
            if type(each) in _SETS:
                self.charge(len(each) >> 4)
        return self.fit(operate(a, b))

    # ---- attributes and calls

    def read(self, value: Any, name: str) -> Any:
        """`value.name`, by the type of the value."""
        if isinstance(value, self.handles) or type(value) is StandIn:
            return getattr(value, name)
        if name in METHODS.get(type(value), ()):
            method = getattr(value, name)
            guard = METHOD_GUARDS.get((type(value), name))
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
        self.calls += 1
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
