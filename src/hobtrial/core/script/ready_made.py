"""The builtins of the language, guarded where one call could do endless work."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, Final

from ..words import GameError
from .guards import WIDEST, Guards
from .limits import Halt
from .texts import str_of
from .vocabulary import EXCEPTIONS

WORK_OF_TUPLES: Final = 24
"""Passes that sixteen tuples are worth which Python makes one by one."""

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


class _Thinned(Iterator[Any]):
    """What Python makes tuples of one by one, each looked at: a tuple in a tuple in a tuple has no end."""

    def __init__(self, values: Iterator[Any], guards: Guards) -> None:
        self._values = values
        self._guards = guards
        self._number = 0

    def __next__(self) -> Any:
        value = next(self._values)
        self._number += 1
        if not self._number & 15:
            self._guards.charge(WORK_OF_TUPLES)
        return self._guards.thin(value)

    def __repr__(self) -> str:
        return f"<{type(self).__name__} object>"


_Zip: Final = type("zip", (_Thinned,), {})
_Enumerate: Final = type("enumerate", (_Thinned,), {})


def builtins_of(guards: Guards) -> dict[str, Any]:
    """The builtins of one trial, and the exceptions that can be raised and caught."""
    items, stream, fit, thin = guards.items, guards.stream, guards.fit, guards.thin

    def guarded_sum(values: Iterable[Any], /, start: Any = 0) -> Any:
        if isinstance(start, str):
            raise TypeError("sum() can't sum strings [use ''.join(seq) instead]")
        total = start
        for number, value in enumerate(stream(values), 1):
            total = guards.add(total, value)
            if not number & 7:
                guards.charge(1)
        return total

    def guarded_max(*values: Any, **named: Any) -> Any:
        return max(*compared(values), **guards.with_key(named))

    def guarded_min(*values: Any, **named: Any) -> Any:
        return min(*compared(values), **guards.with_key(named))

    def compared(values: tuple[Any, ...]) -> Iterable[Any]:
        if len(values) != 1:
            return map(thin, values)
        whole = stream(thin(values[0]))
        return [whole if type(whole) in (list, tuple, str, range) else map(thin, whole)]

    def guarded_round(number: Any, ndigits: Any = None) -> Any:
        if isinstance(ndigits, int) and abs(ndigits) > WIDEST:
            raise Halt("number", f"`round` takes at most {WIDEST} digits.")
        return round(number, ndigits)

    def guarded_any(values: Iterable[Any], /) -> bool:
        return any(stream(values))

    def guarded_all(values: Iterable[Any], /) -> bool:
        return all(stream(values))

    def guarded_sorted(values: Iterable[Any], /, **named: Any) -> list[Any]:
        whole = thin(items(values))
        guards.charge(len(whole) >> 4)
        return sorted(whole, **guards.with_key(named))

    def guarded_enumerate(*values: Any, **named: Any) -> Iterator[Any]:
        given = (guards.walk(values[0]), *values[1:]) if values else ()
        made: Iterator[Any] = _Enumerate(enumerate(*given, **named), guards)
        return made

    def guarded_zip(*values: Any, **named: Any) -> Iterator[Any]:
        pairs = zip(*(guards.walk(each) for each in values), **named)  # noqa: B905 - strict is the script's to say
        made: Iterator[Any] = _Zip(pairs, guards)
        return made

    def guarded_isinstance(*values: Any) -> bool:
        return isinstance(*map(thin, values))

    def type_of(*values: Any) -> type:
        if len(values) != 1:
            raise TypeError("type() takes 1 or 3 arguments")
        return type(values[0])

    def make_int(*values: Any, **named: Any) -> int:
        if values and type(values[0]) is str:
            guards.charge(len(values[0]) >> 4)
        return int(fit(int(*values, **named)))

    def make_str(*values: Any) -> str:
        if values and type(values[0]) is int:
            guards.charge(values[0].bit_length() >> 6)
        return str(fit(str_of(values[0], guards.limits.text) if len(values) == 1 else str(*values)))

    def pairs_of(values: Any) -> Any:
        return values if type(values) is dict else [thin(pair) for pair in each_at_a_price(items(values))]

    def each_at_a_price(values: Any) -> Any:
        if hasattr(values, "__len__"):
            guards.charge(len(values) << 1)
        return values

    guards.callable_types.update(
        {
            int: make_int,
            float: float,
            bool: bool,
            str: make_str,
            list: lambda *values: items(*values) if len(values) == 1 else list(*values),
            tuple: lambda *values: thin(tuple(items(*values))) if len(values) == 1 else tuple(*values),
            set: lambda *values: (
                {guards.key(each) for each in each_at_a_price(items(*values))} if len(values) == 1 else set(*values)
            ),
            dict: lambda *values, **named: fit(thin(dict(*map(pairs_of, values), **named))),
            range: range,
            reversed: reversed,
        }
    )
    for function in (
        guarded_sum,
        guarded_max,
        guarded_min,
        guarded_round,
        guarded_any,
        guarded_all,
        guarded_sorted,
        guarded_isinstance,
    ):
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
        "isinstance": guarded_isinstance,
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
