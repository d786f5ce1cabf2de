"""Drawn runs: random inputs and beginnings, in which a script may part from the reference.

Hypothesis draws, derandomized and without a database, so that a proof comes out the same each time.
What the player can do is read off the exercise: its keys, pieces, choices, words, facts and answers.
The runs by which an edit is cross-examined do each deed more often than the scenarios do, so that a limit
that nobody tested is met too.
"""

from __future__ import annotations

import ast
import contextlib
from collections.abc import Iterator
from dataclasses import replace
from typing import Any, Final

from hypothesis import HealthCheck, Phase, find, settings
from hypothesis import strategies as st
from hypothesis.errors import NoSuchExample

from ..script.tree import functions, handlers, walk
from ..trial import OUTCOME, Arrangement, Plan, PlayerInput, click, done, held_key, pressed_key, variable
from ..words import frame_of
from .prepare import Prepared

RUNS: Final = 500
"""Runs in which a variant must act like the reference to count as perhaps no mistake."""
LONGEST: Final = 10.0
"""Seconds of a drawn run at most."""
MOST_INPUTS: Final = 10
EXAMINED: Final = 30
"""Runs by which an edit is cross-examined."""
UNEXPECTED: Final = "plum"
"""An answer that no branch of a script waits for."""
MOST_OF_ONE: Final = 14
"""How often such a run does one deed at most."""


def drawn_plans(prepared: Prepared) -> list[Plan]:
    """The plans of all drawn runs of a proof, the same ones each time."""
    return _drawn(_plans(prepared, *_base(prepared)), RUNS)


def examining_plans(prepared: Prepared) -> list[Plan]:
    """The plans of the runs by which an edit is cross-examined, the same ones each time."""
    plans = _drawn(_plans(prepared, *_base(prepared), often=True), EXAMINED * 5)
    return list(dict.fromkeys(plans))[:EXAMINED]


def _base(prepared: Prepared) -> tuple[Plan, float]:
    settings_ = prepared.exercise.settings
    seconds = min(max(settings_.length(each) for each in settings_.scenario), LONGEST)
    plan = replace(prepared.scenarios[0].plan, last_frame=frame_of(seconds), inputs=(), answers=(), arrange=())
    return plan, seconds


def _drawn(strategy: st.SearchStrategy[Plan], most: int) -> list[Plan]:
    plans: list[Plan] = []

    def note(plan: Plan) -> bool:
        plans.append(plan)
        return False

    wanted = settings(
        max_examples=most,
        derandomize=True,
        database=None,
        deadline=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    with contextlib.suppress(NoSuchExample):
        find(strategy, note, settings=wanted)
    return plans[:most]


def _plans(prepared: Prepared, base: Plan, seconds: float, *, often: bool = False) -> st.SearchStrategy[Plan]:
    if prepared.exercise.settings.style == "straight":
        return _answered(prepared, base, in_order=often)
    times = st.integers(0, max(int(seconds * 10) - 1, 0)).map(lambda tenth: tenth / 10)
    deeds = list(_deeds(prepared, times, (UNEXPECTED,) if often else ()))
    inputs: st.SearchStrategy[list[PlayerInput]] = st.just([])
    if deeds and often:
        mixed = st.lists(st.one_of(deeds), min_size=3, max_size=MOST_OF_ONE)
        several = st.builds(_again, st.one_of(deeds), st.integers(3, MOST_OF_ONE), st.just(seconds))
        inputs = st.one_of(mixed, several, _varied(prepared, deeds, base.last_frame))
    elif deeds:
        inputs = st.lists(st.one_of(deeds), max_size=MOST_INPUTS)
    begins: st.SearchStrategy[list[Arrangement]] = st.just([])
    if arranged := _beginnings(prepared):
        begins = begun = st.lists(st.sampled_from(arranged), max_size=2)
        if often:  # a script that keeps count in variables of its own is not met by what is arranged
            begins = st.tuples(st.integers(0, 4), begun).map(lambda pair: pair[1] if pair[0] == 4 else [])
    return st.builds(
        lambda doings, arrange, seed: replace(
            base,
            inputs=tuple(sorted(doings, key=lambda each: each.frame)),
            arrange=tuple(arrange),
            seed=seed,
        ),
        inputs, begins, st.integers(1, 99),
    )  # fmt: skip


def _varied(
    prepared: Prepared, deeds: list[st.SearchStrategy[PlayerInput]], last: int
) -> st.SearchStrategy[list[PlayerInput]]:
    """What a scenario's player does, with up to three deeds more and perhaps one less: so games end too."""
    known = [
        [each for each in plan.inputs if each.frame <= last]
        for scenario in prepared.scenarios
        for plan in scenario.plans
    ]
    known = [each for each in known if each] or [[]]
    return st.builds(
        lambda given, more, left_out: [each for index, each in enumerate(given) if index != left_out] + more,
        st.sampled_from(known), st.lists(st.one_of(deeds), max_size=3), st.integers(0, 6),
    )  # fmt: skip


def _again(deed: PlayerInput, often: int, seconds: float) -> list[PlayerInput]:
    """One deed several times, from the beginning of the run to its end."""
    step = frame_of(seconds) // (often + 1)
    held = deed.up - deed.frame
    return [replace(deed, frame=step * turn, up=step * turn + held) for turn in range(1, often + 1)]


def _answered(prepared: Prepared, base: Plan, *, in_order: bool) -> st.SearchStrategy[Plan]:
    """Runs of a straight script; `in_order` gives each question an answer that fits it."""
    if in_order:
        each = [st.sampled_from(sorted(texts)) for texts in _answers_to_each(prepared)]
        given: st.SearchStrategy[Any] = st.tuples(*each)
    else:
        texts = sorted(_answers(prepared))
        given = st.lists(st.sampled_from(texts), max_size=6) if texts else st.just([])
    return given.map(lambda answers: replace(base, answers=tuple((0, text) for text in answers)))


def _answers_to_each(prepared: Prepared) -> list[set[str]]:
    """For each question in turn what the scenarios answer, and where that is a number those near it."""
    found: list[set[str]] = []
    for plan in (plan for scenario in prepared.scenarios for plan in scenario.plans):
        for index, (_, text) in enumerate(plan.answers):
            if index == len(found):
                found.append(set())
            found[index].add(text)
            if text.isdigit():
                found[index] |= {str(max(0, int(text) + more)) for more in (-1, 1, 2)}
    return [texts if any(map(str.isdigit, texts)) else texts | {UNEXPECTED} for texts in found]


def _deeds(
    prepared: Prepared, times: st.SearchStrategy[float], more: tuple[str, ...] = ()
) -> Iterator[st.SearchStrategy[PlayerInput]]:
    """What the player can do: read off the scenarios' inputs, the reference's events and the steered pieces.

    `more` are further answers, where any are given.
    """
    keys: set[str] = set()
    clicks: set[str] = set()
    picks: set[str] = set()
    typed: set[str] = set()
    answers: set[str] = set()
    facts: dict[str, set[Any]] = {}
    for plan in (plan for scenario in prepared.scenarios for plan in scenario.plans):
        for each in plan.inputs:
            known = {"press": keys, "hold": keys, "pick": picks, "type": typed, "answer": answers, "click": clicks}
            if each.kind in known and each.what:
                known[each.kind].add(each.what)
            if each.kind == "set":
                facts.setdefault(each.what, set()).add(each.value)
    for _, event in handlers(functions(prepared.reference.script.tree)):
        match event:
            case ast.Call(func=ast.Name(id="pressed" | "held" | "released"), args=[ast.Constant(value=str(key))]):
                keys.add(key)
            case ast.Call(func=ast.Name(id="clicked"), args=[ast.Name(id=piece)]):
                clicks.add(piece)
    for spec in prepared.scene.piece:
        if spec.motion.steered is not None:
            keys |= set(spec.motion.steered.keys[:2])
    for fact in prepared.scene.fact:
        facts.setdefault(fact.name, set()).update(fact.range or fact.choices or ())
    answers |= set(more) if answers else set()
    clicks &= {piece.name for piece in prepared.scene.piece}
    if keys:
        chosen = st.sampled_from(sorted(keys))
        yield st.builds(held_key, chosen, times, st.integers(1, 25).map(lambda tenth: tenth / 10))
        yield st.builds(pressed_key, chosen, times)
    if clicks:
        yield st.builds(click, times, st.sampled_from(sorted(clicks)))
    for kind, texts in (("pick", picks), ("type", typed), ("answer", answers)):
        if texts:
            yield st.builds(done, st.just(kind), times, st.sampled_from(sorted(texts)))
    for name, values in facts.items():
        chosen_value = st.sampled_from(sorted(values, key=repr))
        yield st.builds(done, st.just("set"), times, st.just(name), chosen_value)


def _beginnings(prepared: Prepared) -> list[Arrangement]:
    """Lines of `arrange`: those of the scenarios, and each listed number just below, at and above a tested number."""
    found = {line.text: line for scenario in prepared.scenarios for plan in scenario.plans for line in plan.arrange}
    seen = _seen(prepared)
    numbers = {
        node.value
        for test in walk(prepared.reference.script.tree)
        if isinstance(test, ast.Compare)
        for node in walk(test)
        if isinstance(node, ast.Constant) and type(node.value) is int
    }
    for name in sorted(seen):
        for number in sorted({value + more for value in numbers for more in (-2, -1, 0, 1)} & seen[name]):
            text = f"{name} = {number}"
            found.setdefault(text, Arrangement(text, None, name, number))
    for piece in prepared.scene.piece:
        for other in prepared.scene.piece if piece.motion.steered is not None else ():
            if other is not piece:
                text = f"{piece.name}.x = {other.at[0]:g}"
                found.setdefault(text, Arrangement(text, piece.name, "x", other.at[0]))
    return list(found.values())


def _seen(prepared: Prepared) -> dict[str, set[int]]:
    """For each listed whole number the values that it had while the reference's games were played."""
    found: dict[str, set[int]] = {}
    names = [each.name for each in prepared.exercise.settings.variable if type(each.start) is int]
    for scenario in prepared.scenarios:
        trace = prepared.reference_trace(scenario)
        outcome = trace.samples.get(OUTCOME)
        for name in names:
            for frame, value in trace.samples[variable(name)].changes():
                playing = outcome is None or outcome.at(frame) == "playing"
                if playing and type(value) is int:
                    found.setdefault(name, set()).add(value)
    return {
        name: set(range(min(values), max(values) + 1)) if max(values) - min(values) < 100 else values
        for name, values in found.items()
    }


def _answers(prepared: Prepared) -> set[str]:
    """Texts to answer with: those of the scenarios, and numbers near the ones that the reference tests."""
    given = {text for scenario in prepared.scenarios for plan in scenario.plans for _, text in plan.answers}
    numbers = {
        node.value
        for node in walk(prepared.reference.script.tree)
        if isinstance(node, ast.Constant) and type(node.value) is int
    }
    return given | {str(number + more) for number in numbers for more in (-1, 0, 1)}
