"""What an author should know of an exercise that can be played: nothing of it is wrong, and all of it is odd."""

from __future__ import annotations

import ast
import difflib
from collections.abc import Iterator
from typing import Final

from ..exercise import LOOKS
from ..judging import Played, Prepared
from ..script.tree import walk
from ..trial.observe import same_words
from ..words import KEYS, frame_of
from .places import Notice, Place

NEAR: Final = 0.7
"""How alike two texts are that are perhaps meant to be the same."""
SHOWN: Final = frozenset(("told", "said", "board", "offers", "sounded", "sent", "asked"))
"""Functions of an expectation that are about a text of the script."""


def notices_of(prepared: Prepared, played: list[Played]) -> Iterator[Notice]:
    """Everything that is odd about an exercise, in the order of its file."""
    yield from _variables(prepared, played)
    yield from _pictures(prepared)
    for number, scenario in enumerate(prepared.scenarios):
        if not scenario.checks:
            text = "Nothing is marked here: this scenario has no check."
            yield Notice(text, Place(table="scenario", index=number))
        yield from _texts(prepared, number)
        yield from _inputs(prepared, number)


def _variables(prepared: Prepared, played: list[Played]) -> Iterator[Notice]:
    for index, each in enumerate(prepared.exercise.settings.variable):
        if "." not in each.name and played and not any(run.trace.bound.get(each.name) for run in played):
            yield Notice(
                f"`{each.name}` is listed, and the reference has no variable of that name.",
                Place(table="variable", index=index),
            )


def _pictures(prepared: Prepared) -> Iterator[Notice]:
    own = set(prepared.exercise.looks)
    for index, piece in enumerate(prepared.exercise.settings.scene.piece):
        unknown = [look for look in piece.all_looks if look not in LOOKS and look not in own]
        if unknown and not piece.zone:
            near = difflib.get_close_matches(unknown[0], [*LOOKS, *own], 1, NEAR)
            more = f" Did you mean `{near[0]}`?" if near else ""
            yield Notice(
                f"There is no picture `{unknown[0]}`, so `{piece.name}` is drawn as a box with its name.{more}",
                Place(table="piece", index=index),
            )


def _texts(prepared: Prepared, number: int) -> Iterator[Notice]:
    """Texts that are nearly ones of the reference."""
    written = texts_of(prepared)
    spec = prepared.scenarios[number].spec
    rows = [("check", index, check.expect or "") for index, check in enumerate(spec.check)]
    rows += [("case", index, case.expect) for index, case in enumerate(spec.cases or ())]
    for table, index, expect in rows:
        place = Place(table=table, index=index, scenario=number)
        try:
            tree = ast.parse(expect.strip(), mode="eval")
        except SyntaxError:
            continue
        for node in ast.walk(tree):
            match node:
                case ast.Call(func=ast.Name(id=name), args=[ast.Constant(value=str(text)), *_]) if name in SHOWN:
                    near = difflib.get_close_matches(text, written, 1, NEAR)
                    if near and not any(same_words(text) in same_words(each) for each in written):
                        yield Notice(f'Nothing in the reference says "{text}"; it says "{near[0]}".', place)


def texts_of(prepared: Prepared) -> set[str]:
    """The texts that the reference has as a whole; parts of f-strings are none."""
    nodes = list(walk(prepared.reference.script.tree))
    parts = {id(part) for node in nodes if isinstance(node, ast.JoinedStr) for part in node.values}
    return {
        node.value
        for node in nodes
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in parts
    }


def _inputs(prepared: Prepared, number: int) -> Iterator[Notice]:
    """Inputs that nothing of the reference waits for, and that steer nothing."""
    scenario = prepared.scenarios[number]
    heard = _heard(prepared)
    last = max((plan.last_frame for plan in scenario.plans), default=0)
    for index, given in enumerate(scenario.spec.input):
        place = Place(table="input", index=index, scenario=number)
        key = given.press or given.hold
        if key is not None and key not in heard:
            yield Notice(f"Nothing waits for the key `{key}`, and it steers no piece.", place)
        elif isinstance(given.at, (int, float)) and frame_of(given.at) > last:
            yield Notice(f"This comes at {given.at:g} s, after the end of the scenario.", place)


def _heard(prepared: Prepared) -> set[str]:
    """The keys that the reference waits for or asks about, and those that steer a piece."""
    found = {key for piece in prepared.scene.piece if piece.motion.steered for key in piece.motion.steered.keys}
    for node in walk(prepared.reference.script.tree):
        match node:
            case ast.Call(func=ast.Name(id="pressed" | "held" | "released"), args=[ast.Constant(value=str(key))]):
                found.add(key)
            case ast.Call(func=ast.Name(id="pressed" | "held" | "released")):
                return set(KEYS)  # which one is worked out when it runs
    return found
