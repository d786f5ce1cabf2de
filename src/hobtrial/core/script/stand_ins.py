"""What `import random`, `math`, `time` and `enum` give to a script: the listed parts, made safe.

Made again for each trial; `random` draws from the trial's own stream.
"""

from __future__ import annotations

import enum
import math
import random
import time
from collections.abc import Callable
from typing import Any, Final

from .guards import Guards
from .limits import Halt
from .luck import forced
from .stand_in import StandIn
from .vocabulary import MODULES

MOST_FACTORIAL: Final = 450
"""Its factorial has 3,300 bits."""


def stand_ins(
    guards: Guards, seed: int, wait: Callable[..., Any], luck: str | tuple[Any, ...] | None = None
) -> dict[str, StandIn]:
    """The modules of one trial.

    `seed` begins its random stream, which `luck` takes the place of; `wait` is what `time.sleep` does.
    """
    chance = _random(guards, random.Random(f"script {seed}")) if luck is None else forced(guards, luck)
    return {
        "random": StandIn(random, chance),
        "math": StandIn(math, _math(guards)),
        "time": StandIn(time, {"sleep": wait}),
        "enum": StandIn(enum, {"Enum": enum.Enum, "IntEnum": enum.IntEnum, "auto": enum.auto}),
    }


def _random(guards: Guards, stream: random.Random) -> dict[str, Any]:
    def shuffle(values: list[Any]) -> None:
        guards.charge(len(values) >> 2)
        stream.shuffle(values)

    def sample(population: Any, k: int) -> list[Any]:
        if isinstance(k, int) and k > guards.limits.items:
            raise Halt("collection", f"A sample has at most {guards.limits.items:,} entries.")
        guards.charge(len(population) >> 4 if hasattr(population, "__len__") and type(population) is not range else 0)
        return stream.sample(population, k)

    def choice(values: Any) -> Any:
        return stream.choice(values)

    own: dict[str, Any] = {"shuffle": shuffle, "sample": sample, "choice": choice}
    return {name: own.get(name, getattr(stream, name)) for name in MODULES["random"]}


def _math(guards: Guards) -> dict[str, Any]:
    def factorial(n: int) -> int:
        if isinstance(n, int) and n > MOST_FACTORIAL:
            raise Halt("number", f"`factorial` takes at most {MOST_FACTORIAL}.")
        return math.factorial(n)

    def comb(n: int, k: int) -> int:
        _small(guards, n, k)
        return int(guards.fit(math.comb(n, k)))

    def perm(n: int, k: int | None = None) -> int:
        _small(guards, n, n if k is None else k)
        return int(guards.fit(math.perm(n, k)))

    def prod(values: Any, *, start: Any = 1) -> Any:
        total = start
        for value in guards.items(values):
            total = guards.multiply(total, value)
        return total

    def lcm(*values: int) -> int:
        guards.charge(sum(value.bit_length() >> 6 for value in values if isinstance(value, int)))
        return int(guards.fit(math.lcm(*values)))

    def gcd(*values: int) -> int:
        guards.charge(sum(value.bit_length() >> 6 for value in values if isinstance(value, int)))
        return math.gcd(*values)

    own = {"gcd": gcd, "factorial": factorial, "comb": comb, "perm": perm, "prod": prod, "lcm": lcm}
    return {name: own.get(name, getattr(math, name)) for name in MODULES["math"]}


def _small(guards: Guards, n: Any, k: Any) -> None:
    """Turns down numbers of choices whose result would have too many bits."""
    if isinstance(n, int) and isinstance(k, int) and k > 0 and n.bit_length() * min(k, abs(n)) > 4 * guards.limits.bits:
        raise Halt("number", f"The result would have more than {guards.limits.bits:,} bits.")
