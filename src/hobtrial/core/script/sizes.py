"""How large the values of a script are: what fits, what a look at all of it costs, and going through it.

Work that one statement does inside Python spends budget by the size of what it goes through.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from enum import Enum, EnumType
from itertools import islice
from types import FunctionType, GeneratorType
from typing import Any, Final

from .limits import Halt, Limits
from .texts import DEEPEST, PLAIN, VIEWS, sorted_set, str_of, text_of

Function = Callable[..., Any]

LARGEST_KEY: Final = 2**61 - 1
"""Whole numbers from here on share their hash with smaller ones, and could crowd one place of a dict."""
MACHINE_BITS: Final = 62
"""Bits of whole numbers that Python works with quickly; larger ones cost more, and by their length."""
MOST_PARTS: Final = 100_000
"""Parts of a value, all levels together, that one comparison goes through."""
MOST_CROWDED: Final = 100
"""Tuples that share the hash of another one; by chance it never happens."""
_COLLECTIONS: Final = frozenset({list, tuple, dict, set})


class _Inside:
    """What an `in` looks into, where how much work that is depends on what is looked for."""

    __slots__ = ("_sizes", "_values")

    def __init__(self, sizes: Sizes, values: Any) -> None:
        self._sizes = sizes
        self._values = values

    def __contains__(self, wanted: Any) -> bool:
        return self._sizes.look(wanted, self._values)


def work_of_search(text: str, part: str) -> int:
    """Passes that looking for a part of a text is worth."""
    return (len(text) >> 6) + (len(text) * len(part) >> 10)


class Sizes:
    """What the values of one trial may be, by its limits; `handles` are the types of pieces and the like.

    `budget` holds the loop passes and calls that are left; the woven code counts it down.
    """

    def __init__(self, limits: Limits, handles: tuple[type, ...]) -> None:
        self.limits = limits
        self.handles = handles
        self.budget = [limits.passes_a_handler]
        self.charged = 0
        """What of the budget was spent on work inside Python, and not on passes and calls."""
        self._by_hash: dict[int, list[Any]] = {}
        """For each hash of a tuple that was a key: the first such tuple, and how often another one came."""

    def charge(self, passes: int) -> None:
        """Spends budget for work inside Python; the next probe ends the trial when it is spent."""
        self.budget[0] -= passes
        self.charged += passes

    def fit(self, value: Any) -> Any:
        """The value, where it is not larger than the limits allow."""
        kind = type(value)
        if kind is int:
            bits = value.bit_length()
            if bits > self.limits.bits:
                raise Halt("number", f"A whole number grew beyond {self.limits.bits:,} bits.")
            if bits > MACHINE_BITS:
                self.charge(2 + (bits >> 10))
        elif kind is str:
            if len(value) > self.limits.text:
                raise Halt("text", f"A text grew beyond {self.limits.text:,} characters.")
            self.charge(len(value) >> 10)
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
        parts = looks = 0
        stack: list[tuple[Any, int]] = [(value, 1)]
        try:
            while stack:
                held, depth = stack.pop()
                parts += len(held)
                looks += 1
                if depth > DEEPEST:
                    raise Halt("depth", f"A value is nested more than {DEEPEST} deep.")
                if parts > MOST_PARTS:
                    raise Halt("collection", f"A value has more than {MOST_PARTS:,} parts in all.")
                for part in held.values() if type(held) is dict else held:
                    if type(part) in _COLLECTIONS:
                        stack.append((part, depth + 1))
        finally:
            self.charge((parts >> 4) + (looks >> 1))

    def key(self, value: Any) -> Any:
        """A key of a dict or a member of a set: what would crowd it, or has no order of its own, is turned down."""
        kind = type(value)
        if kind is int:
            if not -LARGEST_KEY < value < LARGEST_KEY:
                raise Halt("number", "A whole number this large cannot be a key.")
        elif kind is tuple:
            self._weigh(value)
            self._crowd(value)
        elif kind is FunctionType:
            raise Halt("refused", "A function cannot be a key, or a member of a set.")
        return value

    def _crowd(self, value: tuple[Any, ...]) -> None:
        """Turns down tuples that share a hash with many others: a dict of them looks through all of them each time."""
        try:
            first = self._by_hash.setdefault(hash(value), [value, 0])
        except TypeError:  # Python says so itself
            return
        if first[0] != value:
            first[1] += 1
            if first[1] > MOST_CROWDED:
                raise Halt("collection", "Too many tuples that Python cannot tell apart quickly are keys.")

    def place(self, value: Any) -> Any:
        """What stands between the brackets of `d[k]`, when it is read: hashing a tuple goes through all of it."""
        if type(value) is tuple:
            self._weigh(value)
        return value

    def hold(self, holder: Any, place: Any, value: Any) -> None:
        """`holder[place] = value`: a dict does not grow beyond the limits, nor holds what is nested too deep."""
        if type(holder) is dict:
            self.thin(value)
            if len(holder) >= self.limits.items and place not in holder:
                raise Halt("collection", f"A collection grew beyond {self.limits.items:,} entries.")
        holder[place] = value

    def with_key(self, named: dict[str, Any]) -> dict[str, Any]:
        """Named arguments in which `key` is called as a script may call it, and gives what can be compared."""
        key = named.get("key")
        if key is None:
            return named
        return {**named, "key": lambda value: self.thin(self.call(key, value))}

    def call(self, function: Any, /, *arguments: Any, **named: Any) -> Any:
        """Calls what a script may call; what that is, `Guards` says."""
        raise NotImplementedError

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
        if kind in (dict, set, range, str):
            return _Inside(self, values)
        if kind in _COLLECTIONS:
            return self.thin(values)
        if kind in VIEWS:
            return self._counted(iter(values))
        return self._counted(values) if hasattr(values, "__next__") else values

    def look(self, wanted: Any, values: Any) -> bool:
        """`wanted in values`, for what would go through much without a pass of a loop."""
        if type(wanted) is tuple:
            self._weigh(wanted)
        if type(values) is str and type(wanted) is str:
            self.charge(work_of_search(values, wanted))
        elif type(values) is range and type(wanted) is not int:
            self.charge(len(self._whole(values)) >> 4)
        return wanted in values

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
        if kind is int and value.bit_length() > 64:
            self.charge(value.bit_length() >> 6)
        if conversion == -1:
            return value if kind in PLAIN or spec or isinstance(value, Enum) else str_of(value, self.limits.text)
        if conversion == 115:
            return str_of(value, self.limits.text)
        text = text_of(value, self.limits.text)
        return ascii(value) if conversion == 97 and kind in PLAIN else text
