"""What an exercise asks of its reference that the reference cannot have: told when it is loaded, with the nearest one.

A listed variable that nothing of the reference makes, and a choice to be picked that it never offers.
"""

from __future__ import annotations

import ast
import difflib
from collections.abc import Iterable, Iterator

from ..exercise import SETTINGS, Fault, Input, Lines, Scenario, Settings
from ..script import Script
from ..script.tree import walk


def not_in_reference(settings: Settings, script: Script, own: frozenset[str], lines: Lines) -> Iterator[Fault]:
    """What is asked of the reference and not in it. `own` are the names that it gives a value."""
    held = {node.attr for node in walk(script.tree) if isinstance(node, ast.Attribute)}
    for index, each in enumerate(settings.variable):
        owner, dot, attribute = each.name.partition(".")
        known: Iterable[str] = own
        if dot:
            known = held | set(next(piece.vars for piece in settings.scene.piece if piece.name == owner))
        asked = attribute if dot else owner
        if asked not in known and own.isdisjoint(each.also):
            near = _near(asked, known)
            hint = (
                f"; did you mean `{f'{owner}.{near}' if dot else near}`?" if near else "; set it there, or take it out."
            )
            text = f"`{each.name}` is listed, and the reference has no variable of that name{hint}"
            yield Fault(SETTINGS, lines.of(("variable", index, "name")), text)
    offered = _offered(script)
    if offered is None:
        return
    for number, scenario in enumerate(settings.scenario):
        for path, label in _picked(scenario):
            if label not in offered:
                near = _near(label, offered)
                hint = f'; did you mean "{near}"?' if near else "."
                text = f'`pick` is "{label}", which the reference never offers{hint}'
                yield Fault(SETTINGS, lines.of(("scenario", number, *path)), text)


def _near(text: str, known: Iterable[str]) -> str:
    return next(iter(difflib.get_close_matches(text, sorted(known), 1)), "")


def _offered(script: Script) -> set[str] | None:
    """The choices that a script offers; nothing where one is worked out when it runs."""
    found: set[str] = set()
    for node in walk(script.tree):
        match node:
            case ast.Call(func=ast.Name(id="offer"), args=[ast.Constant(value=str(label))]):
                found.add(label)
            case ast.Call(func=ast.Name(id="offer")):
                return None
            case ast.Name(id="offer", ctx=ast.Load()) if not _is_called(script, node):
                return None
    return found


def _is_called(script: Script, name: ast.Name) -> bool:
    return any(isinstance(node, ast.Call) and node.func is name for node in walk(script.tree))


def _picked(scenario: Scenario) -> Iterator[tuple[tuple[str | int, ...], str]]:
    """The choices that a scenario picks, each with its path in the file."""
    for index, given in enumerate(scenario.input):
        yield from _of(given, ("input", index, "pick"))
    for name, step in (scenario.steps or {}).items():
        for index, given in enumerate(step):
            yield from _of(given, ("steps", name, index, "pick"))
    for index, row in enumerate(scenario.cases or ()):
        for number, given in enumerate(row.inputs):
            yield from _of(given, ("cases", index, "inputs", number, "pick"))
    for label in scenario.wild.picks if scenario.wild is not None else ():
        yield ("wild", "picks"), label


def _of(given: Input, path: tuple[str | int, ...]) -> Iterator[tuple[tuple[str | int, ...], str]]:
    if given.pick is not None:
        yield path, given.pick
