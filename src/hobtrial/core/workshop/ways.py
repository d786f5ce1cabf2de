"""A scenario → another one that plays it in many ways: round a boundary, in every order, with whatever is played.

What each of them checks is read off the reference's own runs, so it holds for the reference.
"""

from __future__ import annotations

import ast
import itertools
from collections.abc import Callable, Iterator
from typing import Any, Final, Literal

from ..exercise import Input, Scenario
from ..judging import Prepared, doings_of
from ..judging.prepare import draws
from ..script.tree import constants, walk
from ..trial import OUTCOME, Trace, variable
from ..words import UsageError

Way = Literal["boundary", "orders", "wild"]
MOST_IN_EVERY_ORDER: Final = 4
"""Doings whose every order is tried: 24 orders."""
WILD_RUNS: Final = 20
APART: Final = 0.3
"""Seconds between one doing and the next."""
ENDS: Final = {"playing": "the game goes on", "won": "the game is won", "lost": "the game is lost"}


def in_many_ways(prepared: Prepared, number: int, way: Way) -> dict[str, Any]:
    """The keys of a new scenario, made from one that there is. Raises `UsageError` with why where it makes no sense."""
    if number >= len(prepared.scenarios):
        raise UsageError("There is no such scenario in this draft any more.")
    makers: dict[Way, Callable[[Prepared, int], dict[str, Any]]] = {
        "boundary": _boundary,
        "orders": _orders,
        "wild": _wild,
    }
    return makers[way](prepared, number)


# ---- one below, at it, one above


def _boundary(prepared: Prepared, number: int) -> dict[str, Any]:
    scenario = prepared.scenarios[number]
    _no_straight(prepared, "A straight script runs from its first line on, so nothing can be put in place before it.")
    limits = list(dict.fromkeys(_limits(prepared)))
    if not limits:
        raise UsageError(
            "The reference compares no listed variable with a number, so there is no boundary to go to from here."
        )
    told_apart = [made for limit in limits if (made := _rows(prepared, number, *limit)) is not None]
    if not told_apart:
        name, limit = limits[0]
        raise UsageError(
            f"In this scenario nothing becomes of it whether `{name}` is just below {limit} or above. "
            "Choose one in which it is decided."
        )
    name, limit, rows = told_apart[0]
    return {**_like(scenario.spec, f"One below, at it, one above: {name} {limit}"), "cases": rows}


def _limits(prepared: Prepared) -> Iterator[tuple[str, int]]:
    """Listed variables with the numbers that the reference compares them with."""
    tree = prepared.reference.script.tree
    named = constants(tree)
    listed = {each.name for each in prepared.exercise.settings.variable}
    for node in walk(tree):
        if not isinstance(node, ast.Compare):
            continue
        for sides in itertools.pairwise([node.left, *node.comparators]):
            for one, other in (sides, sides[::-1]):
                name = _written(one)
                value = named.get(other.id, other) if isinstance(other, ast.Name) else other
                if name in listed and isinstance(value, ast.Constant) and type(value.value) is int:
                    yield name, value.value


def _written(node: ast.expr) -> str:
    """A variable as an exercise lists it: `score`, `game.score` too, `hob.lives`."""
    return ast.unparse(node).removeprefix("game.") if isinstance(node, ast.Name | ast.Attribute) else ""


def _rows(prepared: Prepared, number: int, name: str, limit: int) -> tuple[str, int, list[dict[str, Any]]] | None:
    """A row each for one below, at it and one above at the end, if it ends differently in them."""
    base = prepared.scenarios[number]
    trace = prepared.reference_trace(base)
    before, after = trace.first.get(variable(name)), trace.value(variable(name), trace.last_frame)
    if type(before) is not int or type(after) is not int:
        return None
    kept = [line for line in base.spec.arrange if line.partition("=")[0].strip() != name]
    rows: list[dict[str, Any]] = []
    outcomes: set[Any] = set()
    for value in (limit - 1, limit, limit + 1):
        arranged = [*kept, f"{name} = {value - (after - before)}"]
        run = _played(prepared, base.spec, arranged)
        outcome = run.value(OUTCOME, run.last_frame)
        ends = run.value(variable(name), run.last_frame)
        if run.stopped is not None or type(ends) is not int:
            return None
        outcomes.add(outcome)
        because = f"Begun with {arranged[-1]}, {ENDS[outcome]}."
        rows.append({"arrange": arranged, "expect": f"outcome == '{outcome}' and {name} == {ends}", "because": because})
    return (name, limit, rows) if len(outcomes) > 1 else None


def _played(prepared: Prepared, spec: Scenario, arranged: list[str]) -> Trace:
    """The reference's run of a scenario with other things in place."""
    row = spec.model_copy(update={"arrange": tuple(arranged), "check": (), "cases": None, "wild": None, "steps": None,
                                  "orders": None, "predict": None})  # fmt: skip
    made = prepared.scenario_of(row)
    return prepared.play(prepared.reference, made)


# ---- in every order, and whatever is played


def _orders(prepared: Prepared, number: int) -> dict[str, Any]:
    spec = prepared.scenarios[number].spec
    if not 2 <= len(spec.input) <= MOST_IN_EVERY_ORDER:
        raise UsageError(
            f"Every order can be tried of two to {MOST_IN_EVERY_ORDER} doings. In this scenario the player does "
            f"{len(spec.input) or 'nothing'}{' of them' if len(spec.input) > MOST_IN_EVERY_ORDER else ''}."
        )
    if any(each.hold is not None and each.for_ is None for each in spec.input):
        raise UsageError("A key is held here until something comes, so nobody can tell when the next doing begins.")
    steps: dict[str, list[dict[str, Any]]] = {}
    length = 0.0
    for each in spec.input:
        steps[_free(steps, _named(each))] = [
            {**each.model_dump(by_alias=True, exclude_none=True, mode="json"), "at": APART}
        ]
        length += APART + (each.for_ or 0)
    made = _like(spec, f"In every order: {spec.name}")
    seconds = max(prepared.exercise.settings.length(spec), round(length + 1, 1))
    return {
        **_without(made, "input"),
        "seconds": seconds,
        "steps": steps,
        "orders": "all",
        "check": [_same(prepared, number)],
    }


def _named(given: Input) -> str:
    what = getattr(given, given.deed)
    return f"{given.deed} {what}" if isinstance(what, str) else given.deed


def _free(steps: dict[str, Any], name: str) -> str:
    names = (name if turn == 1 else f"{name} {turn}" for turn in itertools.count(1))
    return next(each for each in names if each not in steps)


def _wild(prepared: Prepared, number: int) -> dict[str, Any]:
    _no_straight(prepared, "A straight script only asks, so there is nothing to be played at any time.")
    spec = prepared.scenarios[number].spec
    can = doings_of(prepared)
    if not (can.keys or can.clicks or can.picks):
        raise UsageError("The player can do nothing in this game: no key, no click and no choice does anything.")
    wild: dict[str, Any] = {"runs": WILD_RUNS, "seconds": prepared.exercise.settings.length(spec)}
    wild |= {
        key: sorted(some) for key, some in (("keys", can.keys), ("clicks", can.clicks), ("picks", can.picks)) if some
    }
    made = _without(_like(spec, f"Whatever is played: {spec.name}"), "input", "seconds")
    return {**made, "wild": wild, "check": [_same(prepared, number)]}


def _same(prepared: Prepared, number: int) -> dict[str, Any]:
    """A check that listed variables and the outcome go as the reference's do."""
    spec = prepared.scenarios[number].spec
    if spec.luck is None and draws(prepared.reference.script):
        raise UsageError(
            "The reference draws random numbers, so no other script has the same ones. Give this scenario a `luck`."
        )
    names = [each.name for each in prepared.exercise.settings.variable]
    return {"same": [*names, "outcome"], "marks": 1, "because": "The rules hold however it is played."}


# ---- what all have


def _like(spec: Scenario, name: str) -> dict[str, Any]:
    """The keys of a scenario that another one like it begins with."""
    keys = spec.model_dump(by_alias=True, exclude_none=True, exclude_defaults=True, mode="json")
    kept: dict[str, Any] = {
        str(key): keys[key] for key in ("seed", "luck", "seconds", "arrange", "task", "input") if key in keys
    }
    return {"name": name[:80], **kept}


def _without(keys: dict[str, Any], *names: str) -> dict[str, Any]:
    return {key: value for key, value in keys.items() if key not in names}


def _no_straight(prepared: Prepared, why: str) -> None:
    if prepared.exercise.settings.style == "straight":
        raise UsageError(why)
