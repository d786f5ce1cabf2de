"""Drawn runs: random inputs and beginnings, in which a script may part from the reference.

They are drawn with a fixed seed, so that a proof comes out the same each time.
What the player can do is read off the exercise: its keys, pieces, choices, words, facts and answers.
The runs by which an edit is cross-examined do each deed more often than the scenarios do, so that a limit
that nobody tested is met too.
"""

from __future__ import annotations

import ast
import functools
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from random import Random
from typing import Any, Final

from ..script.tree import functions, handlers, walk
from ..trial import OUTCOME, Arrangement, InputKind, Plan, PlayerInput, click, done, held_key, pressed_key, variable
from ..words import frame_of
from .prepare import Prepared

Deed = Callable[[Random], PlayerInput]
"""Draws something that the player does, at some time of a run."""

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
SEED: Final = 5
"""Of all draws: the same exercise has the same runs each time."""


def drawn_plans(prepared: Prepared) -> list[Plan]:
    """The plans of all drawn runs of a proof, the same ones each time."""
    return _drawn(prepared, RUNS, often=False)


def examining_plans(prepared: Prepared) -> list[Plan]:
    """The plans of the runs by which an edit is cross-examined, the same ones each time."""
    return list(dict.fromkeys(_drawn(prepared, EXAMINED * 5, often=True)))[:EXAMINED]


def _drawn(prepared: Prepared, runs: int, *, often: bool) -> list[Plan]:
    settings = prepared.exercise.settings
    seconds = min(max(settings.length(each) for each in settings.scenario), LONGEST)
    base = replace(prepared.scenarios[0].plan, last_frame=frame_of(seconds), inputs=(), answers=(), arrange=())
    random = Random(SEED)
    if settings.style == "straight":
        return [replace(base, answers=answers) for answers in _answered(prepared, random, runs, in_order=often)]
    deeds = list(_deeds(prepared, seconds, (UNEXPECTED,) if often else ()))
    known = _known(prepared, base.last_frame)
    # a script that keeps count in variables of its own is not met by what is arranged, or shows it later than another
    arranged = [] if often else _beginnings(prepared)
    plans = []
    for _ in range(runs):
        if not deeds:
            inputs: list[PlayerInput] = []
        elif often:
            inputs = _often(random, deeds, known, seconds)
        else:
            inputs = [random.choice(deeds)(random) for _ in range(random.randint(0, MOST_INPUTS))]
        begins = [random.choice(arranged) for _ in range(random.randint(0, 2))] if arranged else []
        plans.append(
            replace(
                base,
                inputs=_possible(inputs),
                arrange=tuple(begins),
                seed=random.randint(1, 99),
            )
        )
    return plans


def _often(random: Random, deeds: list[Deed], known: list[list[PlayerInput]], seconds: float) -> list[PlayerInput]:
    """Deeds of a run that does more than the scenarios: mixed ones, one several times, or a scenario's and more."""
    way = random.randrange(3)
    if way == 0:
        return [random.choice(deeds)(random) for _ in range(random.randint(3, MOST_OF_ONE))]
    if way == 1:
        return _again(random.choice(deeds)(random), random.randint(3, MOST_OF_ONE), seconds)
    left_out, more = random.randint(0, 6), random.randint(0, 3)  # so games end too
    given = [each for index, each in enumerate(random.choice(known)) if index != left_out]
    return given + [random.choice(deeds)(random) for _ in range(more)]


def _possible(inputs: list[PlayerInput]) -> tuple[PlayerInput, ...]:
    """What one player can do of it, in order of time: no key that is down is pressed, nothing is done twice at once."""
    found: list[PlayerInput] = []
    until: dict[str, int] = {}
    for each in sorted(inputs, key=lambda each: each.frame):
        deed = each.what if each.kind in ("press", "hold") else each.kind
        if each.frame > until.get(deed, -1):
            until[deed] = max(each.up, each.frame)
            found.append(each)
    return tuple(found)


def _known(prepared: Prepared, last: int) -> list[list[PlayerInput]]:
    """What the scenarios' players do, up to a frame."""
    found = [
        [each for each in plan.inputs if each.frame <= last]
        for scenario in prepared.scenarios
        for plan in scenario.plans
    ]
    return [each for each in found if each] or [[]]


def _again(deed: PlayerInput, often: int, seconds: float) -> list[PlayerInput]:
    """One deed several times, from the beginning of the run to its end."""
    step = frame_of(seconds) // (often + 1)
    held = deed.up - deed.frame
    return [replace(deed, frame=step * turn, up=step * turn + held) for turn in range(1, often + 1)]


def _answered(
    prepared: Prepared, random: Random, runs: int, *, in_order: bool
) -> Iterator[tuple[tuple[int, str], ...]]:
    """The answers of runs of a straight script; `in_order` gives each question one that fits it."""
    each = [sorted(texts) for texts in _answers_to_each(prepared)]
    any_of = sorted(_answers(prepared))
    for _ in range(runs):
        if in_order:
            given = [random.choice(texts) for texts in each]
        else:
            given = [random.choice(any_of) for _ in range(random.randint(0, 6))] if any_of else []
        yield tuple((0, text) for text in given)


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


@dataclass(frozen=True)
class Doings:
    """What a player can do in an exercise: its keys, the pieces to click, choices, words, answers, and facts."""

    keys: set[str]
    clicks: set[str]
    picks: set[str]
    typed: set[str]
    answers: set[str]
    facts: dict[str, set[Any]]


def doings_of(prepared: Prepared) -> Doings:
    """Read off the scenarios' inputs, the reference's events and the steered pieces."""
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
    clicks &= {piece.name for piece in prepared.scene.piece}
    return Doings(keys, clicks, picks, typed, answers, facts)


def _deeds(prepared: Prepared, seconds: float, more: tuple[str, ...] = ()) -> Iterator[Deed]:
    """Draws of all that the player can do. `more` are further answers, where any are given."""
    can = doings_of(prepared)
    keys, clicks, picks, typed, facts = can.keys, can.clicks, can.picks, can.typed, can.facts
    answers = can.answers | set(more) if can.answers else can.answers
    latest = max(int(seconds * 10) - 1, 0)

    def time(random: Random) -> float:
        return random.randint(0, latest) / 10

    if keys:
        some = sorted(keys)
        yield lambda random: held_key(random.choice(some), time(random), random.randint(1, 25) / 10)
        yield lambda random: pressed_key(random.choice(some), time(random))
    if clicks:
        pieces = sorted(clicks)
        yield lambda random: click(time(random), random.choice(pieces))
    done_with: dict[InputKind, set[str]] = {"pick": picks, "type": typed, "answer": answers}
    for kind, texts in done_with.items():
        if texts:
            yield functools.partial(_done, kind, time, [(text,) for text in sorted(texts)])
    for name, values in facts.items():
        yield functools.partial(_done, "set", time, [(name, value) for value in sorted(values, key=repr)])


def _done(
    kind: InputKind, time: Callable[[Random], float], choices: list[tuple[Any, ...]], random: Random
) -> PlayerInput:
    """One of several things done, at some time."""
    return done(kind, time(random), *random.choice(choices))


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
