"""Where a game by hand begins: a scenario's beginning or a moment of one, with things put in place by hand."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any, Final

from ..script import Script
from ..trial import Arrangement, Observable, Plan
from ..words import READING, UsageError
from .expectation import read_observable
from .names import ExpectationError, Surroundings, read_arrangement
from .prepare import Prepared
from .scenarios import PreparedScenario

MOST_PUT: Final = 20
"""Things put in place by hand at once."""
MOST_SHOWN: Final = 8
"""Things that are put on show besides the listed variables."""

Put = tuple[int, str]
"""A line such as `lives = 1`, and the frame after which it was put in place; -1 for before the first."""


@dataclass(frozen=True, slots=True)
class Start:
    """Where a game by hand begins."""

    seed: int | None = None
    """Nothing for the seed of the scenario or of the game before, else 1."""
    luck: str | tuple[Any, ...] | None = None
    """Nothing for that of the scenario or of the game before."""
    scenario: int | None = None
    """The scenario at whose beginning it begins, or whose inputs lead to `frame`."""
    put: tuple[str, ...] = ()
    frame: int = READING
    """The frame that was played last when the person takes over."""
    again: bool = False
    """Whether the inputs of the game before lead to `frame`, and not those of a scenario."""


def names_for(prepared: Prepared, script: Script | None) -> Surroundings:
    """What can be put in place and on show: what the exercise lists, and what the script has itself."""
    listed = frozenset(each.name for each in prepared.exercise.settings.variable)
    return replace(prepared.names, variables=listed | (script.globals if script is not None else frozenset()))


def read_put(texts: Iterable[str], names: Surroundings) -> list[Arrangement]:
    """Reads lines such as `lives = 1` or `hob.x = 5`. Raises `UsageError` with what is wrong with one."""
    found = []
    for text in list(texts)[:MOST_PUT]:
        try:
            found.append(read_arrangement(text, names))
        except ExpectationError:
            raise UsageError(
                f"`{text}` cannot be put in place. Write one of your variables, or something of a piece, with a value: "
                "`lives = 1` or `hob.x = 5`."
            ) from None
    return found


def read_shown(texts: Iterable[str], names: Surroundings) -> list[Observable]:
    """Reads names such as `speed`, `hob.x` or `count(bun)`, each once. Raises `UsageError`."""
    found: list[Observable] = []
    for text in texts:
        try:
            what = read_observable(text, names)
        except ExpectationError:
            raise UsageError(
                f"`{text}` is not something to show. Write one of your variables, something of a piece or how many "
                "there are: `lives`, `hob.x` or `count(bun)`."
            ) from None
        if what not in found:
            found.append(what)
    if len(found) > MOST_SHOWN:
        raise UsageError(f"At most {MOST_SHOWN} things can be on show besides the listed ones; take one away first.")
    return found


def with_put(plan: Plan, put: Iterable[Put], names: Surroundings) -> Plan:
    """A plan with what was put in place by hand. Raises `UsageError`."""
    lines = [(frame, line) for frame, text in put for line in read_put([text], names)]
    first = tuple(line for frame, line in lines if frame <= READING)
    later = tuple((frame, line) for frame, line in lines if frame > READING)
    return replace(plan, arrange=(*plan.arrange, *first), put=(*plan.put, *later))


def by_hand(
    scenario: PreparedScenario, trial: int, put: Iterable[Put], shown: Iterable[Observable], names: Surroundings
) -> PreparedScenario:
    """A scenario with one trial, as somebody played it by hand, and what is on show. Raises `UsageError`."""
    plan = with_put(scenario.plans[trial], put, names)
    observe = tuple(dict.fromkeys((*scenario.observe, *shown)))
    plans = tuple(plan if number == trial else each for number, each in enumerate(scenario.plans))
    return replace(scenario, plans=plans, observe=observe)
