"""How large the values of a script are: what fits, what a look at all of it costs, and going through it.

Work that one statement does inside Python spends budget by the size of what it goes through.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from enum import Enum, EnumType
from itertools import islice
from types import GeneratorType
from typing import Any, Final

from .limits import Halt, Limits
from .texts import DEEPEST, PLAIN, sorted_set, str_of, text_of

Function = Callable[..., Any]

LARGEST_KEY: Final = 2**61 - 1
"""Whole numbers from here on share their hash with smaller ones, and could crowd one place of a dict."""
MOST_PARTS: Final = 100_000
"""Parts of a value, all levels together, that one comparison goes through."""
_COLLECTIONS: Final = frozenset({list, tuple, dict, set})


class Sizes:
    """What the values of one trial may be, by its limits; `handles` are the types of pieces and the like.

    `budget` holds the loop passes and calls that are left; the woven code counts it down.
    """

    def __init__(self, limits: Limits, handles: tuple[type, ...]) -> None:
        self.limits = limits
        self.handles = handles
        self.budget = [limits.passes_a_handler]

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
