"""Methods that can grow a value, go through it, or keep what they are given: what each must hold to."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Final

from .limits import Halt
from .sizes import Function, Sizes, work_of_search

MethodGuard = Callable[[Sizes, Any, Function], Function]


def _grows(sizes: Sizes, value: Any, method: Function) -> Function:
    def grow(*arguments: Any, **named: Any) -> Any:
        if len(arguments) > 1:  # what is put in between moves all that comes after it
            sizes.charge(len(value) >> 10)
        if len(value) >= sizes.limits.items:
            raise Halt("collection", f"A collection grew beyond {sizes.limits.items:,} entries.")
        return method(*arguments, **named)

    return grow


def _keeps(sizes: Sizes, value: Any, method: Function) -> Function:
    grow = _grows(sizes, value, method)

    def keep(*arguments: Any, **named: Any) -> Any:
        key, *others = arguments or (None,)
        return grow(sizes.key(key), *map(sizes.thin, others), **named) if arguments else grow(**named)

    return keep


def _finds(sizes: Sizes, value: Any, method: Function) -> Function:
    def find(*arguments: Any, **named: Any) -> Any:
        return method(*map(sizes.place, arguments), **named)

    return find


def _compares(sizes: Sizes, value: Any, method: Function) -> Function:
    def compare(*arguments: Any, **named: Any) -> Any:
        sizes.thin(value)
        return method(*map(sizes.thin, arguments), **named)

    return compare


def _moves(sizes: Sizes, value: list[Any], method: Function) -> Function:
    def move(*arguments: Any, **named: Any) -> Any:
        if arguments != (-1,):
            sizes.charge(len(value) >> 10)
        return method(*arguments, **named)

    return move


def _turns(sizes: Sizes, value: list[Any], method: Function) -> Function:
    def turn(*arguments: Any, **named: Any) -> Any:
        sizes.charge(len(value) >> 5)
        return method(*arguments, **named)

    return turn


def _sorts(sizes: Sizes, value: list[Any], method: Function) -> Function:
    def sort(*arguments: Any, **named: Any) -> Any:
        sizes.thin(value)
        sizes.charge(len(value) >> 4)
        return method(*arguments, **sizes.with_key(named))

    return sort


def _copies(sizes: Sizes, value: Any, method: Function) -> Function:
    def copy(*arguments: Any, **named: Any) -> Any:
        return sizes.fit(method(*arguments, **named))

    return copy


def _reads(sizes: Sizes, value: str, method: Function) -> Function:
    def read(*arguments: Any, **named: Any) -> Any:
        parts = [argument for argument in arguments if type(argument) is str]
        sizes.charge(sum(work_of_search(value, part) for part in parts) if parts else len(value) >> 6)
        return method(*arguments, **named)

    return read


def _pops_first(sizes: Sizes, value: set[Any], method: Function) -> Function:
    def pop(*arguments: Any, **named: Any) -> Any:
        if not value or arguments or named:
            return method(*arguments, **named)
        first = sizes.items(value)[0]
        value.remove(first)
        return first

    return pop


def _takes_many(sizes: Sizes, value: Any, method: Function) -> Function:
    def take(*arguments: Any, **named: Any) -> Any:
        given = [
            argument if isinstance(argument, dict) else [sizes.key(each) for each in sizes.items(argument)]
            for argument in arguments
        ]
        result = method(*given, **named)
        sizes.fit(sizes.thin(value) if type(value) is dict else value)
        return sizes.fit(result)

    return take


def _pads(sizes: Sizes, value: Any, method: Function) -> Function:
    def pad(*arguments: Any, **named: Any) -> Any:
        if arguments and isinstance(arguments[0], int) and arguments[0] > sizes.limits.text:
            raise Halt("text", f"A text has at most {sizes.limits.text:,} characters.")
        return method(*arguments, **named)

    return pad


def _replaces(sizes: Sizes, value: str, method: Function) -> Function:
    def replace(*arguments: Any, **named: Any) -> Any:
        match arguments:
            case (str(old), str(new), *_):
                longest = len(value) + (value.count(old) if old else len(value) + 1) * len(new)
                if longest > sizes.limits.text * 2:
                    raise Halt("text", f"A text has at most {sizes.limits.text:,} characters.")
                sizes.charge((len(value) >> 6) + (value.count(old) >> 4 if old else len(value) >> 4))
        return sizes.fit(method(*arguments, **named))

    return replace


def _joins(sizes: Sizes, value: str, method: Function) -> Function:
    def join(*arguments: Any, **named: Any) -> Any:
        if len(arguments) != 1 or named or not hasattr(arguments[0], "__iter__"):
            return method(*arguments, **named)  # Python's own complaint
        parts = sizes.items(arguments[0])
        sizes.charge(len(parts) >> 3)
        if sum(len(part) for part in parts if isinstance(part, str)) + len(value) * len(parts) > sizes.limits.text * 2:
            raise Halt("text", f"A text has at most {sizes.limits.text:,} characters.")
        return sizes.fit(method(parts))

    return join


_GO_THROUGH: Final = (
    "find index count split startswith endswith upper lower title capitalize strip lstrip rstrip "
    "isdigit isalpha isupper islower"
).split()

METHOD_GUARDS: Final[dict[tuple[type, str], MethodGuard]] = {
    (str, "join"): _joins,
    (str, "replace"): _replaces,
    **{(str, name): _pads for name in ("zfill", "center", "ljust", "rjust")},
    (list, "append"): _grows,
    (list, "insert"): _grows,
    (list, "extend"): _takes_many,
    (list, "index"): _compares,
    (list, "count"): _compares,
    (list, "remove"): _compares,
    (list, "sort"): _sorts,
    (list, "reverse"): _turns,
    (list, "pop"): _moves,
    **{(kind, "copy"): _copies for kind in (list, dict, set)},
    **{(str, name): _reads for name in _GO_THROUGH},
    (tuple, "index"): _compares,
    (tuple, "count"): _compares,
    (dict, "get"): _finds,
    (dict, "pop"): _finds,
    (dict, "setdefault"): _keeps,
    (dict, "update"): _takes_many,
    (set, "add"): _keeps,
    (set, "remove"): _finds,
    (set, "discard"): _finds,
    (set, "pop"): _pops_first,
    (set, "union"): _takes_many,
    (set, "intersection"): _takes_many,
    (set, "difference"): _takes_many,
}
