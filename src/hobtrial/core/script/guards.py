"""What a woven script may do to values: operators that can grow, methods, builtins.

Every guard sits on the value and on what is called, not on the place of the call. A guard's
refusal is a `Halt`, which nothing in a script can catch.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from itertools import islice
from types import BuiltinMethodType, FunctionType, MethodType
from typing import Any, Final

from .limits import Halt, Limits

Function = Callable[..., Any]

WIDEST: Final = 200
"""Characters of a width or a number of digits in `%`, `round` and paddings of numbers."""

LARGEST_SHIFT: Final = 64

METHODS: Final[dict[type, frozenset[str]]] = {
    kind: frozenset(names.split())
    for kind, names in {
        str: "upper lower title capitalize strip lstrip rstrip startswith endswith replace split join count find "
        "index isdigit isalpha isupper islower zfill center ljust rjust",
        list: "append insert extend remove pop index count sort reverse copy clear",
        dict: "get keys values items pop update setdefault copy clear",
        set: "add remove discard union intersection difference pop copy clear",
        tuple: "index count",
    }.items()
}


DIRECT: Final = frozenset(
    [
        "abs",
        "all",
        "any",
        "bool",
        "enumerate",
        "float",
        "int",
        "isinstance",
        "len",
        "max",
        "min",
        "range",
        "reversed",
        "round",
        "sorted",
        "sum",
        "type",
        "zip",
    ]
)
"""Builtins whose call by name needs no further guard."""


class Guards:
    """The guards of one trial, with its limits; `handles` are the types of pieces and the like."""

    def __init__(self, limits: Limits, handles: tuple[type, ...]) -> None:
        self.limits = limits
        self.handles = handles
        self._constructors: dict[type, Function] = {}
        self.builtins: dict[str, Any] = self._builtins()
        self._callable = frozenset(self.builtins.values())

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
        }

    # ---- sizes

    def fit(self, value: Any) -> Any:
        """The value, where it is not larger than the limits allow."""
        kind = type(value)
        if kind is int:
            if value.bit_length() > self.limits.bits:
                raise Halt("number", f"A whole number grew beyond {self.limits.bits:,} bits.")
        elif kind is str:
            if len(value) > self.limits.text:
                raise Halt("text", f"A text grew beyond {self.limits.text:,} characters.")
        elif kind in (list, tuple, dict, set) and len(value) > self.limits.items:
            raise Halt("collection", f"A collection grew beyond {self.limits.items:,} entries.")
        return value

    def items(self, values: Iterable[Any]) -> list[Any]:
        """All items of something that can be walked, at most as many as a collection may have."""
        items = list(islice(iter(values), self.limits.items + 1))
        self.fit(items)
        return items

    def walk(self, values: Any) -> Any:
        """What a loop or an `in` goes through: a long range is turned down."""
        if type(values) is range and len(values) > self.limits.passes_a_handler:
            raise Halt("range", f"A range has more than {self.limits.passes_a_handler:,} numbers.")
        return values

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
        self._check_format(a)
        return self.fit(a % b)

    def modulo_in_place(self, a: Any, b: Any) -> Any:
        """`a %= b`."""
        self._check_format(a)
        a %= b
        return self.fit(a)

    def _check_format(self, a: Any) -> None:
        if isinstance(a, str):
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
        if isinstance(value, self.handles):
            return getattr(value, name)
        if name in METHODS.get(type(value), ()):
            method = getattr(value, name)
            guard = _METHOD_GUARDS.get((type(value), name))
            return method if guard is None else guard(self, value, method)
        if hasattr(value, name):
            raise Halt("refused", f"`.{name}` of a {type(value).__name__} is not part of this language.")
        return getattr(value, name)

    def call(self, function: Any, /, *arguments: Any, **named: Any) -> Any:
        """Calls a listed builtin, a listed method or a function of the script; nothing else."""
        if isinstance(function, type):
            constructor = self._constructors.get(function, function if function in self._callable else None)
            if constructor is not None:
                return constructor(*arguments, **named)
        elif type(function) is FunctionType or type(function) in _METHOD_TYPES:
            return function(*arguments, **named)
        if callable(function):
            raise Halt("refused", f"`{getattr(function, '__name__', 'this')}` cannot be called here.")
        return function(*arguments, **named)

    # ---- builtins

    def _builtins(self) -> dict[str, Any]:
        items, fit = self.items, self.fit

        def guarded_sum(values: Iterable[Any], start: Any = 0) -> Any:
            if isinstance(start, str):
                raise TypeError("sum() can't sum strings [use ''.join(seq) instead]")
            total = start
            for value in items(values):
                total = self.add(total, value)
            return total

        def guarded_max(*values: Any, **named: Any) -> Any:
            return max(*([items(values[0])] if len(values) == 1 else values), **named)

        def guarded_min(*values: Any, **named: Any) -> Any:
            return min(*([items(values[0])] if len(values) == 1 else values), **named)

        def guarded_round(value: Any, digits: Any = None) -> Any:
            if isinstance(digits, int) and abs(digits) > WIDEST:
                raise Halt("number", f"`round` takes at most {WIDEST} digits.")
            return round(value, digits)

        def guarded_any(values: Iterable[Any]) -> bool:
            return any(items(values))

        def guarded_all(values: Iterable[Any]) -> bool:
            return all(items(values))

        def guarded_sorted(values: Iterable[Any], **named: Any) -> list[Any]:
            return sorted(items(values), **named)

        def type_of(value: Any) -> type:
            return type(value)

        self._constructors = {
            str: lambda *values: fit(str(*values)),
            list: lambda *values: items(*values) if values else [],
            tuple: lambda *values: tuple(items(*values)) if values else (),
            set: lambda *values: set(items(*values)) if values else set(),
            dict: lambda *values, **named: fit(dict(*values, **named)),
        }
        return {
            "abs": abs,
            "all": guarded_all,
            "any": guarded_any,
            "bool": bool,
            "enumerate": enumerate,
            "float": float,
            "int": int,
            "dict": dict,
            "isinstance": isinstance,
            "len": len,
            "list": list,
            "max": guarded_max,
            "min": guarded_min,
            "range": range,
            "reversed": reversed,
            "round": guarded_round,
            "sorted": guarded_sorted,
            "set": set,
            "str": str,
            "sum": guarded_sum,
            "tuple": tuple,
            "type": type_of,
            "zip": zip,
        }


_METHOD_TYPES: Final = (BuiltinMethodType, MethodType)
"""Types of bound methods: a script only gets them from `read`, which lists them, or as builtins."""

MethodGuard = Callable[[Guards, Any, Function], Function]


def _grows(guards: Guards, value: Any, method: Function) -> Function:
    def grow(*arguments: Any) -> Any:
        if len(value) >= guards.limits.items:
            raise Halt("collection", f"A collection grew beyond {guards.limits.items:,} entries.")
        return method(*arguments)

    return grow


def _takes_many(guards: Guards, value: Any, method: Function) -> Function:
    def take(*arguments: Any) -> Any:
        result = method(
            *[guards.items(argument) if not isinstance(argument, dict) else argument for argument in arguments]
        )
        guards.fit(value)
        return guards.fit(result)

    return take


def _pads(guards: Guards, value: Any, method: Function) -> Function:
    def pad(width: Any, *fill: Any) -> Any:
        if isinstance(width, int) and width > guards.limits.text:
            raise Halt("text", f"A text has at most {guards.limits.text:,} characters.")
        return method(width, *fill)

    return pad


def _replaces(guards: Guards, value: str, method: Function) -> Function:
    def replace(old: Any, new: Any, *count: Any) -> Any:
        if isinstance(old, str) and isinstance(new, str):
            longest = len(value) + (value.count(old) if old else len(value) + 1) * len(new)
            if longest > guards.limits.text * 2:
                raise Halt("text", f"A text has at most {guards.limits.text:,} characters.")
        return guards.fit(method(old, new, *count))

    return replace


def _joins(guards: Guards, value: str, method: Function) -> Function:
    def join(values: Any) -> Any:
        parts = guards.items(values)
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
    (dict, "setdefault"): _grows,
    (dict, "update"): _takes_many,
    (set, "add"): _grows,
    (set, "union"): _takes_many,
    (set, "intersection"): _takes_many,
    (set, "difference"): _takes_many,
}
