"""A trial written back as an ordinary scenario: a case, an order, a wild run, or a game by hand."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ..trial import Plan, PlayerInput
from ..words import seconds_of
from .scenarios import PreparedScenario


def written_back(scenario: PreparedScenario, trial: int) -> dict[str, Any]:
    """The scenario that plays a trial of a scenario again, with the checks that are about it."""
    plan, label = scenario.plans[trial], scenario.labels[trial]
    name = f"{scenario.spec.name}: {label}" if label else scenario.spec.name
    checks = [
        each.spec.model_dump(by_alias=True, exclude_none=True, exclude_defaults=True, mode="json")
        for each in scenario.checks
        if each.trial in (None, trial)
    ]
    return {
        "name": name[:80],
        "seed": plan.seed,
        "luck": list(plan.luck) if isinstance(plan.luck, tuple) else plan.luck,
        "seconds": time(plan.last_frame),
        "arrange": [line.text for line in plan.arrange],
        "input": [*_answers(plan), *inputs_back(plan.inputs, plan.last_frame)],
        "check": checks,
    }


def inputs_back(inputs: Iterable[PlayerInput], last: int) -> list[dict[str, Any]]:
    """Inputs as tables of an exercise; a key that is still down at the end is held up to it."""
    tables: list[dict[str, Any]] = []
    for given in inputs:
        at = time(given.frame)
        match given.kind:
            case "hold":
                held = max(min(given.up, last + 1) - given.frame, 1)
                until = {"until": str(given.until)} if given.until is not None else {}
                tables.append({"at": at, "hold": given.what, "for": time(held), **until})
            case "click":
                tables.append({"at": at, "click": given.what or list(given.value)})
            case "set":
                tables.append({"at": at, "set": {given.what: given.value}})
            case kind:
                tables.append({"at": at, kind: given.what})
    return tables


def _answers(plan: Plan) -> list[dict[str, Any]]:
    return [{"at": time(frame), "answer": text} for frame, text in plan.answers]


def time(frame: int) -> float:
    """A frame in seconds, as it is written into a file."""
    return round(seconds_of(frame), 6)
