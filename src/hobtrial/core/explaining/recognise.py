"""A slip for what no single change mends, where the two traces settle it nevertheless.

A cause of the why-chain says what happened. Where it can come from one kind of mistake only, that
one is named, as *likely*; everything else stays open.
"""

from __future__ import annotations

import ast
import re
from typing import Any

from ..judging import Prepared
from ..script import Script, functions, is_handler
from ..trial import Observable, Trace
from .near import near
from .source import unparse
from .subject import Place, calls, guards_of, places, targets
from .why import Cause

Recognised = tuple[str, dict[str, Any]]
"""Id of the slip, and the facts that its texts need beside those of the cause."""


def recognise(
    prepared: Prepared, script: Script, cause: Cause, needs: tuple[Observable, ...], own: Trace, theirs: Trace
) -> Recognised | None:
    """The slip that a cause can only come from; nothing where that is not settled."""
    reference = prepared.reference.script
    match cause.kind:
        case "stopped":
            return _stopped(prepared, script, cause, own)
        case "never-set":
            return _never_set(prepared, script, cause)
        case "not-shown":
            label = str(cause.facts["label"])
            return ("no-feedback", {"wanted": f'board("{label}", …)'}) if not _has_text(script, label) else None
        case "no-handler":
            return _no_handler(script, cause)
    told = [what for what in needs if what.what in ("told", "sounded", "sent")]
    for what in told:
        written = _written_out(script, cause, own, theirs) if what.what == "told" else None
        if written is not None:
            return written
        missing = str(what) == cause.what and cause.facts.get("own") in (0, None) and not _has_text(script, what.name)
        if missing and _has_text(reference, what.name):
            call = {"told": "tell", "sounded": "sound", "sent": "send"}[what.what]
            return "no-feedback", {"wanted": f'{call}("{what.name}")'}
    if cause.what == "outcome" and cause.facts.get("own") == "playing":
        end = {"won": "win", "lost": "lose"}.get(str(cause.facts.get("reference")), "")
        if end and not calls(script.tree, end) and calls(reference.tree, end):
            return "no-end", {"end": end, "test": _test_before(reference, end)}
    if cause.kind == "event-missing" and str(cause.facts.get("event", "")).startswith("heard("):
        return _unheard(script, str(cause.facts["event"]))
    if cause.kind in ("other-value", "extra-change", "no-change"):
        return _other_value(prepared, script, cause, own)
    return None


def _stopped(prepared: Prepared, script: Script, cause: Cause, own: Trace) -> Recognised | None:
    kind, message = str(cause.facts["kind"]), str(cause.facts["message"])
    named = re.search(r"'(\w+)'", message)
    if kind == "GameError" and "remove" in message:
        piece = re.search(r"`(\w+)`", message)
        words = f"Line {cause.facts['line']}: {message}"
        return "gone-piece", {"piece": piece[1] if piece else "a piece", "message": words}
    if kind == "UnboundLocalError" and named and named[1] in script.globals:
        return "missing-global", {"name": named[1], "function": cause.facts.get("handler") or "a function"}
    if kind == "NameError" and named:
        known = [*(each.name for each in prepared.exercise.settings.variable), *sorted(script.globals)]
        alike = [name for name in known if near(named[1], name)]
        if alike:
            return "misspelt-name", {"odd": named[1], "right": alike[0]}
        if named[1] in script.globals or named[1] in known:
            return "never-set", {"name": named[1], "value": ""}
    return None


def _never_set(prepared: Prepared, script: Script, cause: Cause) -> Recognised | None:
    name = cause.what
    named = [node for node in functions(script.tree) if node.name == name]
    if named:
        return "name-twice", {"name": name, "line": named[0].lineno}
    if name in {node.id for node in ast.walk(script.tree) if isinstance(node, ast.Name)}:
        first = min(node.lineno for node in ast.walk(script.tree) if isinstance(node, ast.Name) and node.id == name)
        return "never-set", {"name": name, "value": "", "line": first}
    return None


def _no_handler(script: Script, cause: Cause) -> Recognised | None:
    used = {node.id for node in ast.walk(script.tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)}
    idle = [
        node
        for node in script.tree.body
        if isinstance(node, ast.FunctionDef) and node.name not in used and not is_handler(node)
    ]
    if len(idle) == 1:
        return "not-registered", {"function": idle[0].name, "event": cause.facts["event"], "line": idle[0].lineno}
    return "no-handler", {}


def _unheard(script: Script, event: str) -> Recognised | None:
    text = event[len("heard(") + 1 : -2]
    sent = [node.args[0] for node in calls(script.tree, "send") if node.args]
    texts = [node.value for node in sent if isinstance(node, ast.Constant) and isinstance(node.value, str)]
    close = [other for other in texts if near(other, text)]
    if close:
        node = next(each for each in sent if isinstance(each, ast.Constant) and each.value == close[0])
        return "unheard-message", {"met": close[0], "right": text, "line": node.lineno}
    return None


def _other_value(prepared: Prepared, script: Script, cause: Cause, own: Trace) -> Recognised | None:
    """A line that stores another value than the reference: by a fixed number, or as the last choice."""
    line = cause.lines[0] if cause.lines else 0
    reference = prepared.reference.script
    for place in places(script.tree):
        returned = isinstance(place.node, ast.Return) and _ran(own, place.node.lineno, cause.frame)
        if place.node.lineno != line and not returned:
            continue
        fixed = _fixed(place.node)
        counted = _counts(reference, cause.what, prepared)
        if fixed is not None and counted and fixed in _expected(prepared):
            return "fixed-result", {"number": repr(fixed), "reference": cause.facts.get("reference")}
        for parent in place.parents:
            if isinstance(parent, ast.If) and _in_else(parent, place.node):
                asked = {node.value for node in ast.walk(script.tree) if isinstance(node, ast.Constant)}
                missing = _test_of_missing_choice(reference, asked)
                if missing is not None:
                    return "missing-else", {
                        "right": missing,
                        "test": unparse(parent.test),
                        "line": place.node.lineno,
                    }
        if place.node.lineno == line and cause.kind == "extra-change":
            return _unguarded(prepared, cause, place)
    return None


def _ran(own: Trace, line: int, frame: int | None) -> bool:
    return frame is not None and any(first <= frame <= last for first, last, _ in own.lines.get(line, ()))


def _unguarded(prepared: Prepared, cause: Cause, place: Place) -> Recognised | None:
    """A change without any test before it, where the reference has one for each such change."""
    name = cause.what.removeprefix("game.")
    theirs = [
        guards_of(each)
        for each in places(prepared.reference.script.tree)
        if isinstance(each.node, (ast.Assign, ast.AugAssign)) and each.function is not None
        and name in [target.removeprefix("game.") for target in targets(each.node)]
    ]  # fmt: skip
    if guards_of(place) or not theirs or not all(theirs):
        return None
    test = theirs[0][0]
    facts = {"name": cause.what, "new": cause.facts.get("own"), "old": cause.facts.get("old"), "test": test}
    own = re.search(rf"\b{re.escape(name)}\b", test)
    return (
        ("missing-limit", {**facts, "limit": test})
        if own
        else ("missing-condition", {**facts, "what": unparse(place.node)})
    )


def _written_out(script: Script, cause: Cause, own: Trace, theirs: Trace) -> Recognised | None:
    """A number that the story tells, that the reference does not tell, and that a line which ran has written out."""
    told = {word for line in own.story for word in re.findall(r"\d+", line.text)}
    right = {word for line in theirs.story for word in re.findall(r"\d+", line.text)}
    for place in places(script.tree):
        fixed = _fixed(place.node)
        inside = place.function is not None or script.straight
        if inside and fixed not in (None, 0, 1) and str(fixed) in told - right and place.node.lineno in own.lines:
            other = sorted(right - told)
            if other:
                return "fixed-result", {"number": repr(fixed), "reference": int(other[0]), "line": place.node.lineno}
    return None


def _fixed(node: ast.stmt) -> int | float | None:
    match node:
        case ast.Assign(value=ast.Constant(value=value)) | ast.Return(value=ast.Constant(value=value)):
            return value if isinstance(value, (int, float)) and not isinstance(value, bool) else None
        case ast.Expr(value=ast.Call(func=ast.Name(id="board"), args=[_, ast.Constant(value=value), *_])):
            return value if isinstance(value, (int, float)) and not isinstance(value, bool) else None
    return None


def _counts(reference: Script, what: str, prepared: Prepared) -> bool:
    """Whether the reference works out the value, and never sets it to a number but at the beginning."""
    name = what.removeprefix("game.")
    labels = {each.label: each.name for each in prepared.exercise.settings.variable if each.label}
    shown = re.match(r'board\("(.+)"\)', what)
    name = labels.get(shown[1], name) if shown else name
    return any(
        isinstance(node, ast.AugAssign) and unparse(node.target).removeprefix("game.") == name
        for node in ast.walk(reference.tree)
    ) or any(
        isinstance(place.node, ast.Assign)
        and not isinstance(place.node.value, ast.Constant)
        and any(unparse(target).removeprefix("game.") == name for target in place.node.targets)
        for place in places(reference.tree)
    )


def _expected(prepared: Prepared) -> set[Any]:
    """The numbers that the checks expect."""
    return {
        node.value
        for course in prepared.courses
        for asked in course.checks
        for node in ast.walk(ast.parse(asked.check.expect or "None", mode="eval"))
        if isinstance(node, ast.Constant) and isinstance(node.value, (int, float))
    }


def _in_else(parent: ast.If, node: ast.stmt) -> bool:
    return any(node is inner for each in parent.orelse for inner in ast.walk(each)) and not (
        len(parent.orelse) == 1 and isinstance(parent.orelse[0], ast.If)
    )


def _test_of_missing_choice(reference: Script, asked: set[Any]) -> str | None:
    """A test of the reference for a text that the script never asks for."""
    for node in ast.walk(reference.tree):
        match node:
            case ast.Compare(ops=[ast.Eq()], comparators=[ast.Constant(value=str(text))]) if text not in asked:
                return unparse(node)
    return None


def _has_text(script: Script, text: str) -> bool:
    """Whether a text stands in a script, as a part of a longer one too."""
    wanted = " ".join(text.casefold().split())
    return any(
        wanted in " ".join(node.value.casefold().split())
        for node in ast.walk(script.tree)
        if isinstance(node, ast.Constant) and isinstance(node.value, str)
    )


def _test_before(reference: Script, end: str) -> str:
    for node in ast.walk(reference.tree):
        if isinstance(node, ast.If) and any(calls(each, end) for each in node.body):
            return unparse(node.test)
    return end
