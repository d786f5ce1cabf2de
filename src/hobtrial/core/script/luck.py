"""Luck: what `random` gives where a scenario forces it.

"lowest" gives the lower end of what is possible, "highest" the upper; a list gives its values in order and
begins again at its end. A value that is not possible where it is asked for ends the trial and says so.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Sequence
from typing import Any, Final

from .guards import Guards
from .limits import Halt

ALMOST_ONE: Final = math.nextafter(1, 0)
"""The largest number that `random()` can give."""


def forced(guards: Guards, luck: str | tuple[Any, ...]) -> dict[str, Callable[..., Any]]:
    """The functions of `random` with forced luck."""
    if isinstance(luck, str):
        return _ends(guards, highest=luck == "highest")
    return _listed(guards, luck)


def _ends(guards: Guards, *, highest: bool) -> dict[str, Callable[..., Any]]:
    def choice(values: Sequence[Any]) -> Any:
        if not len(values):
            raise IndexError("Cannot choose from an empty sequence")
        return values[-1 if highest else 0]

    def randrange(*bounds: int) -> int:
        values = range(*bounds)
        if not values:
            raise ValueError("empty range for randrange()")
        return max(values[0], values[-1]) if highest else min(values[0], values[-1])

    def randint(a: int, b: int) -> int:
        if b < a:
            raise ValueError(f"empty range for randrange() ({a}, {b + 1}, {b + 1 - a})")
        return b if highest else a

    def shuffle(values: list[Any]) -> None:
        guards.charge(len(values) >> 2)
        if highest:
            values.reverse()

    def sample(population: Any, k: int) -> list[Any]:
        values = guards.items(population)
        if not 0 <= k <= len(values):
            raise ValueError("Sample larger than population or is negative")
        return values[len(values) - k :] if highest else values[:k]

    return {
        "random": lambda: ALMOST_ONE if highest else 0.0,
        "randint": randint,
        "choice": choice,
        "uniform": lambda a, b: max(a, b) if highest else min(a, b),
        "randrange": randrange,
        "shuffle": shuffle,
        "sample": sample,
    }


def _listed(guards: Guards, values: tuple[Any, ...]) -> dict[str, Callable[..., Any]]:
    coming = itertools.cycle(values)

    def take(call: str, possible: Callable[[Any], bool]) -> Any:
        value = next(coming)
        if not possible(value):
            raise Halt("luck", f"The scenario's luck is {value!r}, and {call} cannot give that.")
        return value

    def number(value: Any) -> bool:
        return isinstance(value, (int, float)) and not isinstance(value, bool)

    def whole(value: Any) -> bool:
        return isinstance(value, int) and not isinstance(value, bool)

    def shuffle(values: list[Any]) -> None:
        left = list(values)
        drawn = [take("`shuffle`", lambda value: value in left) for _ in values]
        values[:] = drawn

    def sample(population: Any, k: int) -> list[Any]:
        left = guards.items(population)
        drawn: list[Any] = []
        for _ in range(min(k, len(left))):
            value = take("`sample`", lambda value: value in left)
            left.remove(value)
            drawn.append(value)
        return drawn

    return {
        "random": lambda: take("`random()`", lambda value: number(value) and 0 <= value < 1),
        "randint": lambda a, b: take(f"`randint({a}, {b})`", lambda value: whole(value) and a <= value <= b),
        "choice": lambda values: take("`choice`", lambda value: value in values),
        "uniform": lambda a, b: take(
            f"`uniform({a}, {b})`", lambda value: number(value) and min(a, b) <= value <= max(a, b)
        ),
        "randrange": lambda *bounds: take(
            f"`randrange({', '.join(map(str, bounds))})`", lambda value: whole(value) and value in range(*bounds)
        ),
        "shuffle": shuffle,
        "sample": sample,
    }
