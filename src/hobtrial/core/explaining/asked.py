"""What an exercise asks for in so many words: texts and numbers of its checks, inputs, brief and reference."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from difflib import SequenceMatcher
from typing import Any, Final, Literal

from ..judging import Prepared
from ..script import Script
from ..script.tree import walk
from .near import near

Use = Literal["label", "told", "sound", "message", "key", "choice", "typed", "place", "look", "word"]
"""What a text in quotes is there for."""
CALLED: Final[dict[str, Use]] = {
    "board": "label", "tell": "told", "print": "told", "win": "told", "lose": "told", "question": "told",
    "sound": "sound", "send": "message", "heard": "message", "pressed": "key", "held": "key", "released": "key",
    "is_down": "key", "offer": "choice", "withdraw": "choice", "picked": "choice", "typed": "typed",
    "enter": "place", "entered": "place", "input": "told",
}  # fmt: skip
INPUTS: Final[dict[str, Use]] = {"press": "key", "hold": "key", "pick": "choice", "type": "typed", "answer": "word"}
OBSERVED: Final[dict[str, Use]] = {
    "told": "told", "said": "told", "sounded": "sound", "sent": "message", "offers": "choice",
    "board": "label", "asked": "told",
}  # fmt: skip
LONG: Final = 8
"""Letters from which on two texts are compared as a whole."""
LONGEST: Final = 400
"""Letters: longer texts are not held against each other, which takes the square of their length."""
ALIKE: Final = 0.85
"""Part of the letters that two long texts have in common if they are nearly the same."""


def uses(tree: ast.AST) -> Iterator[tuple[ast.expr, str, Use]]:
    """Each text in quotes with what it is there for; of an f-string each of its texts, with the node of the whole."""
    known: dict[int, Use] = {}
    for node in walk(tree):
        match node:
            case ast.Call(func=ast.Name(id=name) | ast.Attribute(attr=name), args=args) if name in CALLED:
                whole = CALLED[name] not in ("label",)
                for argument in args if whole else args[:1]:
                    known |= {id(each): CALLED[name] for each in _texts_in(argument)}
            case ast.Assign(targets=[ast.Attribute(attr="look")], value=value):
                known |= {id(each): "look" for each in _texts_in(value)}
            case ast.Compare(left=ast.Call(func=ast.Name(id="place")), comparators=comparators):
                known |= {id(each): "place" for each in comparators}
    joined = {id(part): node for node in walk(tree) if isinstance(node, ast.JoinedStr) for part in node.values}
    for node in walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and node.value.strip():
            yield joined.get(id(node), node), node.value, known.get(id(node), "word")


def _texts_in(node: ast.expr) -> Iterator[ast.expr]:
    """The texts that a value is made of: itself, both sides of a sum, both ends of a choice, parts of an f-string."""
    match node:
        case ast.BinOp(left=left, right=right):
            yield from _texts_in(left)
            yield from _texts_in(right)
        case ast.IfExp(body=body, orelse=orelse):
            yield from _texts_in(body)
            yield from _texts_in(orelse)
        case ast.JoinedStr(values=values):
            yield from values
        case ast.Constant():
            yield node


def texts_asked(prepared: Prepared) -> dict[Use, list[str]]:
    """For each use the texts that checks, inputs, scene and reference have for it."""
    found: dict[Use, list[str]] = {}

    def add(use: Use, text: str) -> None:
        known = found.setdefault(use, [])
        if text.strip() and text not in known:
            known.append(text)

    for scenario in prepared.scenarios:
        for what in scenario.observe:
            if what.what in OBSERVED:
                add(OBSERVED[what.what], what.name)
        for plan in scenario.plans:
            for each in plan.inputs:
                if each.kind in INPUTS and each.what:
                    add(INPUTS[each.kind], each.what)
                if isinstance(each.value, str):
                    add("word", each.value)
            for _, answer in plan.answers:
                add("word", answer)
    for node, text, use in uses(prepared.reference.script.tree):
        add(use, text if isinstance(node, ast.JoinedStr) else text.strip() or text)
        if use == "told":
            add(use, text)
    for listed in prepared.exercise.settings.variable:
        add("label", listed.label or "")
    for piece in prepared.scene.piece:
        add("word", piece.kind)
        add("word", piece.name)
        for look in piece.all_looks:
            add("look", look)
            add("word", look)
    for kind in sorted(prepared.scene.kinds):
        add("word", kind)
    for fact in prepared.scene.fact:
        for choice in fact.choices or ():
            add("word", str(choice))
    for outcome in ("playing", "won", "lost"):
        add("word", outcome)
    return found


def numbers_asked(prepared: Prepared) -> frozenset[Any]:
    """The numbers that the brief, the checks and the reference speak of."""
    found: set[Any] = {
        node.value
        for node in walk(prepared.reference.script.tree)
        if isinstance(node, ast.Constant) and type(node.value) in (int, float)
    }
    in_brief = re.findall(r"\d+(?:\.\d+)?", prepared.exercise.brief)
    found |= {float(text) if "." in text else int(text) for text in in_brief}
    for scenario in prepared.scenarios:
        for check in scenario.checks:
            if check.expectation is not None:
                found |= {int(text) for text in re.findall(r"\b\d+\b", check.expectation.text)}
    return frozenset(found)


def nearly(a: str, b: str) -> bool:
    """Whether two different texts are nearly the same: capitals, spaces, signs, or a few letters."""
    if a == b:
        return False
    left, right = _letters(a), _letters(b)
    if left == right:
        return bool(left)
    if re.sub(r"\d+", "#", left) == re.sub(r"\d+", "#", right):
        return False
    if min(len(left), len(right)) >= LONG:
        if max(len(left), len(right)) > LONGEST:
            return False
        return near(left, right) or SequenceMatcher(None, left, right, autojunk=False).ratio() >= ALIKE
    return near(left, right) or (min(len(left), len(right)) >= 3 and (left + "s" == right or right + "s" == left))


def _letters(text: str) -> str:
    return "".join(letter for letter in text.casefold() if letter.isalnum())


def own_texts(script: Script) -> dict[Use, list[str]]:
    """For each use the texts that a script has for it."""
    found: dict[Use, list[str]] = {}
    for _, text, use in uses(script.tree):
        known = found.setdefault(use, [])
        if text not in known:
            known.append(text)
    return found
