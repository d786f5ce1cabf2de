"""Prepared → proof: what catches each planted slip, and a scenario for those that get through."""

from __future__ import annotations

import functools
from collections import Counter
from dataclasses import dataclass, replace
from typing import Any

from ..exercise import scenario_text
from ..judging import (
    BROKEN,
    CLOSE,
    HELD,
    NOT_REACHED,
    RUNS,
    Prepared,
    drawn_plans,
    first_parting,
    inputs_back,
    judge_craft,
    play_scenario,
    same_value,
)
from ..script import Script, Woven
from ..trial import Plan, Trace
from ..words import UNSET, seconds_of
from .fitness import fitness
from .plant import Planted, planted

DrawnRuns = list[tuple[Plan, Trace]]


def proof(prepared: Prepared) -> dict[str, Any]:
    """What is known before any slip is tried, and the list of planted slips."""
    return {**fitness(prepared).as_json(), "planted": [each.as_json() for each in planted_of(prepared)]}


def try_planted(prepared: Prepared, number: int) -> dict[str, Any]:
    """Plays one planted slip: the checks that catch it, else a scenario that would, else that it acts the same."""
    each = planted_of(prepared)[number]
    reading = prepared.read(each.text)
    assert isinstance(reading, Script)
    caught = _caught(prepared, reading)
    if caught:
        return {**each.as_json(), "caught_by": caught, "verdict": "caught"}
    found = _drawn_difference(prepared, reading)
    if found is None:
        return {**each.as_json(), "caught_by": [], "verdict": "same", "runs": RUNS}
    scenario = _scenario(prepared, found)
    return {
        **each.as_json(),
        "caught_by": [],
        "verdict": "through",
        "expect": found.expect,
        "scenario": scenario_text(scenario),
        "row": scenario,
    }


@functools.lru_cache(maxsize=2)
def planted_of(prepared: Prepared) -> list[Planted]:
    """The planted slips of an exercise, worked out once."""
    return planted(prepared)


def _caught(prepared: Prepared, reading: Script) -> list[list[Any]]:
    """Scenario and check of each that breaks; craft lines have the scenario -1."""
    woven = prepared.weave(reading)
    found: list[list[Any]] = []
    for number, _ in enumerate(prepared.scenarios):
        run = play_scenario(prepared, woven, number)
        found += [[number, index] for index, verdict in enumerate(run.verdicts) if verdict.verdict != HELD]
    craft = judge_craft(prepared.craft, reading, prepared.alias)
    found += [[-1, index] for index, verdict in enumerate(craft) if verdict.verdict in (BROKEN, NOT_REACHED)]
    return found


@functools.lru_cache(maxsize=2)
def _runs(prepared: Prepared) -> DrawnRuns:
    """The reference's drawn runs, played once."""
    scenario = prepared.scenarios[0]
    return [(plan, prepared.play_plan(prepared.reference, scenario, plan)) for plan in drawn_plans(prepared)]


@dataclass(frozen=True, slots=True)
class _Difference:
    """Where a run of a variant goes another way: the expectation that the reference meets there, and its frame."""

    plan: Plan
    expect: str
    frame: int


def _drawn_difference(prepared: Prepared, reading: Script) -> _Difference | None:
    """The first drawn run that goes another way, without the inputs that do not matter for it."""
    woven = prepared.weave(reading)
    for plan, theirs in _runs(prepared):
        found = _differs(prepared, woven, plan, theirs)
        if found is not None:
            return _shorter(prepared, woven, found)
    return None


def _differs(prepared: Prepared, woven: Woven, plan: Plan, theirs: Trace | None = None) -> _Difference | None:
    """A listed variable, the outcome, the scoreboard or the story that goes another way than the reference's."""
    scenario = prepared.scenarios[0]
    theirs = theirs or prepared.play_plan(prepared.reference, scenario, plan)
    own = prepared.play_plan(woven, scenario, plan)
    watched = [
        what for what in theirs.samples if theirs.samples[what].values and UNSET not in theirs.samples[what].values
    ]
    parting = first_parting(watched, own, theirs)
    if parting is not None:
        what, last = parting.what, min(theirs.last_frame, own.last_frame)
        for frame in range(parting.frame, min(parting.frame + CLOSE, last) + 1):
            value = theirs.value(what, frame)
            if not same_value(what, own.value(what, frame), value):
                return _Difference(plan, f"{what} == {value!r}", frame)
    if own.outcome != theirs.outcome or own.last_frame != theirs.last_frame:
        return _Difference(plan, f"outcome == {theirs.outcome!r}", theirs.last_frame)
    told, said = Counter(line.text for line in own.story), Counter(line.text for line in theirs.story)
    for text in [*said, *told]:
        if told[text] != said[text] and text:
            return _Difference(plan, f"times(told({text!r})) == {said[text]}", theirs.last_frame)
    return None


def _shorter(prepared: Prepared, woven: Woven, found: _Difference) -> _Difference:
    """The same difference with as few inputs and arranged lines as possible, left out one after the other."""
    for index in reversed(range(len(found.plan.inputs))):
        inputs = found.plan.inputs[:index] + found.plan.inputs[index + 1 :]
        found = _differs(prepared, woven, replace(found.plan, inputs=inputs)) or found
    for index in reversed(range(len(found.plan.arrange))):
        arrange = found.plan.arrange[:index] + found.plan.arrange[index + 1 :]
        found = _differs(prepared, woven, replace(found.plan, arrange=arrange)) or found
    return found


def _scenario(prepared: Prepared, found: _Difference) -> dict[str, Any]:
    """A scenario that catches a slip, ready to be put into the exercise."""
    plan = found.plan
    answers = [{"at": seconds_of(at), "answer": text} for at, text in plan.answers]
    name = _name_of(plan)
    taken = {scenario.spec.name for scenario in prepared.scenarios}
    again = next(number for number in range(1, len(taken) + 2) if _numbered(name, number) not in taken)
    concept = "conditionals" if found.expect.startswith("outcome") else "variables"
    known = prepared.exercise.settings.concepts
    return {
        "name": _numbered(name, again),
        "seed": plan.seed,
        "seconds": round(seconds_of(plan.last_frame), 6),
        "arrange": [line.text for line in plan.arrange],
        "input": [*answers, *inputs_back(plan.inputs, plan.last_frame)],
        "check": [
            {
                "at": round(seconds_of(found.frame), 6),
                "expect": found.expect,
                "marks": 1,
                **({"concept": concept} if concept in known else {}),
                "because": f"So it is at {seconds_of(found.frame):.3g} s when this is played.",
            }
        ],
    }


def _name_of(plan: Plan) -> str:
    """What is played, in a few words: a scenario is named after that."""
    deeds = []
    for kind, words in (("hold", "{} held"), ("press", "{} pressed"), ("click", "{} clicked"), ("pick", "{} picked"),
                        ("type", "{} typed"), ("set", "{} turned")):  # fmt: skip
        for what, times in Counter(each.what for each in plan.inputs if each.kind == kind).items():
            often = "" if times == 1 else " twice" if times == 2 else f" {times} times"
            deeds.append(words.format(what or "the scene") + often)
    deeds += [f'answer "{text}"' for _, text in plan.answers]
    if plan.arrange:
        deeds.append("from " + ", ".join(line.text for line in plan.arrange))
    words = (", ".join(deeds)[:70] or "nothing is done").strip(" ,")
    return words[:1].upper() + words[1:]


def _numbered(name: str, number: int) -> str:
    return name if number == 1 else f"{name}, {number}"
