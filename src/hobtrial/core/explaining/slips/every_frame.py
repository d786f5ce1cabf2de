"""`every-frame`: acts on each frame where once is meant.

Recognised by waiting for the beginning instead: `overlaps` → `meets`, `held` → `pressed`, and
`frame` with a question inside → the event of that question. It mends, and in the student's own run
the handler ran in many frames on end.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import after, before, code_of, replace_node, spans, unparse, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..saying import times
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "every-frame"
ONCE: Final = {"overlaps": "meets", "held": "pressed"}
ON_END: Final = 2
"""Frames on end in which a handler must have run to be seen acting on each."""


def edits(subject: Subject) -> Iterator[Edit]:
    """For each event that comes on every frame: one that comes once."""
    for function, event in subject.handlers():
        waited = {unparse(each) for other, each in subject.handlers() if other is function}
        for edit in _of_event(subject, function, event):
            if edit.facts["once"] not in waited:  # that one is answered twice, which is another slip
                yield edit


def _of_event(subject: Subject, function: ast.FunctionDef, event: ast.expr) -> Iterator[Edit]:
    script = subject.script
    lines = range(function.lineno, (function.end_lineno or function.lineno) + 1)
    kind = event.func if isinstance(event, ast.Call) else event
    facts: dict[str, Any] = {
        "event": code_of(script, event),
        "kind": kind.id if isinstance(kind, ast.Name) else "",
        "function": function.name,
        "lines": lines,
    }
    if isinstance(event, ast.Call) and isinstance(event.func, ast.Name) and event.func.id in ONCE:
        span = replace_node(script, event.func, ONCE[event.func.id])
        once = facts["event"].replace(event.func.id, ONCE[event.func.id], 1)
        if span is not None:
            yield Edit(ID, spans(span), facts["event"], {**facts, "once": once})
    elif isinstance(event, ast.Name) and event.id == "frame":
        for once in dict.fromkeys([*_questions(function), *_of_reference(subject)]):
            span = replace_node(script, event, once)
            if span is not None:
                yield Edit(ID, spans(span), "frame", {**facts, "once": once})
        yield from _first_frame(subject, function, facts)


def _first_frame(subject: Subject, function: ast.FunctionDef, facts: dict[str, Any]) -> Iterator[Edit]:
    """`if is_down("space"):` → only in the first frame in which it is down, as `pressed("space")` would be."""
    script = subject.script
    for node in walk(function):
        match node:
            case ast.If(test=ast.Call(func=ast.Name(id="is_down"), args=[ast.Constant(value=str(key))]) as test):
                asked = code_of(script, test)
                once = f'pressed("{key}")'
                head = replace_node(script, test, f"{asked} and not game.held_before")
                top = before(script, script.tree.body[0], "game.held_before = False")
                noted = after(script, node, f"game.held_before = {asked}")
                given = {**facts, "once": once, "line": Line(node.lineno), "asks": asked}
                yield Edit(ID, spans(top, head, noted), "frame", given)


def _of_reference(subject: Subject) -> list[str]:
    """The reference's events that come once."""
    return [event for event in subject.reference_events if event.startswith(("meets", "pressed", "clicked", "parts"))]


def _questions(function: ast.FunctionDef) -> list[str]:
    """The events behind the questions that a handler of every frame asks."""
    kinds = {
        loop.target.id: loop.iter.id
        for loop in walk(function)
        if isinstance(loop, ast.For) and isinstance(loop.target, ast.Name) and isinstance(loop.iter, ast.Name)
    }
    found: list[str] = []
    for node in walk(function):
        match node:
            case ast.Call(func=ast.Attribute(value=ast.Name(id=first), attr="overlaps"), args=[ast.Name(id=second)]):
                found.append(f"meets({kinds.get(first, first)}, {kinds.get(second, second)})")
            case ast.Call(func=ast.Name(id="is_down"), args=[ast.Constant(value=str(key))]):
                found.append(f'pressed("{key}")')
    return list(dict.fromkeys(found))


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """How often the handler changed something in frames on end, from the script as handed in."""
    name = edit.facts["function"]
    kind = edit.facts["kind"]
    frames: list[int] = []
    changed: dict[str, list[int]] = {}
    for change in trace.changes:
        if change.handler != name or change.scope != "script" or not change.differs or change.cause < 0:
            continue
        if trace.events[change.cause].event.kind != kind:
            continue
        frames = changed.setdefault(change.name, [])
        if not frames or frames[-1] != change.frame:
            frames.append(change.frame)
    for variable, frames in sorted(changed.items(), key=lambda item: -len(item[1])):
        run = _longest_run(frames)
        if run[1] >= ON_END:
            acted = {"acted": f"changed `{variable}`", "often": times(run[1])}
            return {"frame": run[0], "variable": variable, **acted}
    return _told(edit, trace, name)


def _told(edit: Edit, trace: Trace, name: str) -> dict[str, Any] | None:
    """How often a handler that stores nothing told, showed or sounded something in frames on end."""
    ran = sorted({came.frame for came in trace.events if name in came.handlers})
    run = _longest_run(ran)
    lines = edit.facts["lines"]
    told = next((line.text for line in trace.story if line.line in lines), None)
    heard = next((sound.name for sound in trace.sounds if sound.line in lines), None)
    if run[1] < ON_END or (told is None and heard is None):
        return None
    acted = f'told "{told}"' if told is not None else f'played "{heard}"'
    return {"frame": run[0], "variable": told or heard, "acted": acted, "often": times(run[1])}


def _longest_run(frames: list[int]) -> tuple[int, int]:
    """First frame and length of the longest stretch of frames on end."""
    best = (0, 0)
    start = 0
    for index, frame in enumerate(frames):
        if index and frame != frames[index - 1] + 1:
            start = index
        if index - start + 1 > best[1]:
            best = (frames[start], index - start + 1)
    return best


SLIP: Final = Slip(ID, Group.WIRING, edits, witness=witness)
