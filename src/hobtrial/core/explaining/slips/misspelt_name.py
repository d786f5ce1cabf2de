"""`misspelt-name`: a near miss of another name, or of one that the exercise asks for.

Recognised by renaming: it mends, and the odd name is not one that the game or Python knows.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script import Script
from ...script.tree import Span, column, spans, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..near import near
from ..recognition import Seen
from ..subject import Subject
from ..texts import other_texts
from .slip import Group, Slip

ID: Final = "misspelt-name"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each odd name: each near one; for a name that never begins anywhere: each of the game's variables."""
    script = subject.script
    statements = name_places(script)
    own = [name for name in statements if name not in subject.given]
    for odd in own:
        for right in dict.fromkeys([*subject.asked, *own, *sorted(subject.given)]):
            if near(odd, right):
                yield _edit(subject, statements, odd, right)
    for odd in _never_begun(subject, own):
        for right in dict.fromkeys([*subject.asked, *(name for name in subject.variables if "." not in name)]):
            if right != odd and not near(odd, right) and right in statements:
                yield _edit(subject, statements, odd, right)
    yield from _texts(subject)


def _edit(subject: Subject, statements: dict[str, list[Span]], odd: str, right: str) -> Edit:
    facts = {"odd": odd, "right": right, "stored": odd in subject.script.globals}
    return Edit(ID, spans(*renamed_places(statements[odd], right)), right, facts)


def _never_begun(subject: Subject, own: list[str]) -> list[str]:
    """Names that are read or changed and never given a first value: a renaming that was done by half."""
    tree = subject.script.tree
    bound = {
        alias.asname or alias.name
        for node in walk(tree)
        if isinstance(node, (ast.Import, ast.ImportFrom))
        for alias in node.names
    }
    for node in walk(tree):
        match node:
            case ast.Assign(targets=targets, value=value):
                read = {each.id for each in walk(value) if isinstance(each, ast.Name)}
                bound |= {each.id for target in targets for each in walk(target) if isinstance(each, ast.Name)} - read
            case ast.For(target=target) | ast.comprehension(target=target) | ast.NamedExpr(target=target):
                bound |= {each.id for each in walk(target) if isinstance(each, ast.Name)}
            case ast.arg(arg=name) | ast.FunctionDef(name=name) | ast.ClassDef(name=name):
                bound.add(name)
    used = {node.id for node in walk(tree) if isinstance(node, ast.Name)}
    return [name for name in own if name in used and name not in bound]


def name_places(script: Script) -> dict[str, list[Span]]:
    """Where each name stands: variables, parameters, functions, `global` lines, variables of `game`."""
    statements: dict[str, list[Span]] = {}

    def add(name: str, line: int, start: int) -> None:
        statements.setdefault(name, []).append(Span(line, start, start + len(name), name))

    for node in walk(script.tree):
        match node:
            case ast.Name():
                add(node.id, node.lineno, column(script, node.lineno, node.col_offset))
            case ast.arg():
                add(node.arg, node.lineno, column(script, node.lineno, node.col_offset))
            case ast.FunctionDef():
                add(
                    node.name,
                    node.lineno,
                    script.lines[node.lineno - 1].find(node.name, column(script, node.lineno, node.col_offset) + 3),
                )
            case ast.Attribute() if node.end_lineno == node.value.end_lineno and node.end_lineno is not None:
                assert node.end_col_offset is not None
                end = column(script, node.end_lineno, node.end_col_offset)
                add(node.attr, node.end_lineno, end - len(node.attr))
            case ast.Global():
                start = column(script, node.lineno, node.col_offset) + len("global")
                for name in node.names:
                    start = script.lines[node.lineno - 1].find(name, start)
                    add(name, node.lineno, start)
                    start += len(name)
    return statements


def renamed_places(statements: list[Span], right: str) -> list[Span]:
    """The places of a name, with another one in it."""
    return [Span(span.line, span.start, span.end, right) for span in statements]


def _texts(subject: Subject) -> Iterator[Edit]:
    """A text that is a name, wherever it is written the same: a label, a kind, a look, a choice, a word compared."""
    for each in other_texts(subject, "label", "word", "place", "look", "choice"):
        waits = subject.script.lines[each.line - 1].lstrip().startswith("@")
        if each.near and not waits:
            facts = {"odd": f'"{each.met}"', "right": f'"{each.right}"', "stored": True, "line": Line(each.line)}
            yield Edit(ID, each.spans, each.right, facts)


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """That one of the lines ran, or that the trial stopped in it."""
    lines = {span.line for span in edit.spans}
    ran = sorted(line for line in lines if line in trace.lines)
    if trace.stopped is not None and trace.stopped.line in lines:
        return {"frame": trace.stopped.frame, "line": Line(trace.stopped.line)}
    return {"frame": trace.lines[ran[0]][0][0], "line": Line(ran[0])} if ran else None


def recognise(seen: Seen) -> dict[str, Any] | None:
    """The script stopped at a name that is nearly one of its own or one that is asked for."""
    known = [*(each.name for each in seen.prepared.exercise.settings.variable), *sorted(seen.script.globals)]
    unset = seen.exception == "NameError" and seen.named and seen.named not in seen.script.globals
    alike = [name for name in known if unset and near(seen.named, name)]
    return {"odd": seen.named, "right": alike[0]} if alike else None


SLIP: Final = Slip(ID, Group.WIRING, edits, witness=witness, recognise=recognise)
