"""The builtins of the language, guarded where one call could do endless work."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, Final

from ..words import GameError
from .guards import WIDEST, Guards
from .limits import Halt
from .texts import str_of
from .vocabulary import EXCEPTIONS

DIRECT: Final = frozenset(
    "abs all any bool enumerate float isinstance len max min range reversed round sorted sum type zip".split()
)
"""Builtins whose call by name needs no further guard; the others are types, which `Guards.call` makes."""

BUILTINS: Final = DIRECT | {"dict", "int", "list", "set", "str", "tuple", "input", "print"} | EXCEPTIONS
"""All names of the language that are Python's own."""

CAUGHT: Final = (
    ValueError,
    TypeError,
    ZeroDivisionError,
    IndexError,
    KeyError,
    NameError,
    AttributeError,
    Exception,
    GameError,
)


def builtins_of(guards: Guards) -> dict[str, Any]:
    """The builtins of one trial, and the exceptions that can be raised and caught."""
    items, stream, fit, thin = guards.items, guards.stream, guards.fit, guards.thin

    def guarded_sum(values: Iterable[Any], /, start: Any = 0) -> Any:
        if isinstance(start, str):
            raise TypeError("sum() can't sum strings [use ''.join(seq) instead]")
        total = start
        for value in stream(values):
            total = guards.add(total, value)
        return total

    def guarded_max(*values: Any, **named: Any) -> Any:
        return max(*([stream(thin(values[0]))] if len(values) == 1 else values), **named)

    def guarded_min(*values: Any, **named: Any) -> Any:
        return min(*([stream(thin(values[0]))] if len(values) == 1 else values), **named)

    def guarded_round(number: Any, ndigits: Any = None) -> Any:
        if isinstance(ndigits, int) and abs(ndigits) > WIDEST:
            raise Halt("number", f"`round` takes at most {WIDEST} digits.")
        return round(number, ndigits)

    def guarded_any(values: Iterable[Any], /) -> bool:
        return any(stream(values))

    def guarded_all(values: Iterable[Any], /) -> bool:
        return all(stream(values))

    def guarded_sorted(values: Iterable[Any], /, **named: Any) -> list[Any]:
        return sorted(thin(items(values)), **named)

    def guarded_enumerate(*values: Any, **named: Any) -> Iterator[Any]:
        return enumerate(*(guards.walk(values[0]), *values[1:]) if values else (), **named)

    def guarded_zip(*values: Any, **named: Any) -> Iterator[Any]:
        return zip(*(guards.walk(each) for each in values), **named)  # noqa: B905 - strict is the script's to say

    def type_of(*values: Any) -> type:
        if len(values) != 1:
            raise TypeError("type() takes 1 or 3 arguments")
        return type(values[0])

    def make_int(*values: Any, **named: Any) -> int:
        return int(fit(int(*values, **named)))

    def make_str(*values: Any) -> str:
        return str(fit(str_of(values[0], guards.limits.text) if len(values) == 1 else str(*values)))

    guards.callable_types.update(
        {
            int: make_int,
            float: float,
            bool: bool,
            str: make_str,
            list: lambda *values: items(*values) if len(values) == 1 else list(*values),
            tuple: lambda *values: thin(tuple(items(*values))) if len(values) == 1 else tuple(*values),
            set: lambda *values: {guards.key(each) for each in items(*values)} if len(values) == 1 else set(*values),
            dict: lambda *values, **named: fit(dict(*values, **named)),
            range: range,
            reversed: reversed,
        }
    )
    for function in (guarded_sum, guarded_max, guarded_min, guarded_round, guarded_any, guarded_all, guarded_sorted):
        function.__name__ = function.__qualname__ = function.__name__.removeprefix("guarded_")
    return {
        "abs": abs,
        "all": guarded_all,
        "any": guarded_any,
        "bool": bool,
        "dict": dict,
        "enumerate": guarded_enumerate,
        "float": float,
        "int": int,
        "isinstance": isinstance,
        "len": len,
        "list": list,
        "max": guarded_max,
        "min": guarded_min,
        "range": range,
        "reversed": reversed,
        "round": guarded_round,
        "set": set,
        "sorted": guarded_sorted,
        "str": str,
        "sum": guarded_sum,
        "tuple": tuple,
        "type": type_of,
        "zip": guarded_zip,
        **{kind.__name__: kind for kind in CAUGHT},
    }
