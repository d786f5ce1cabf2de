"""`update-order`: used or saved before it was changed, or after it was cleared.

Recognised by moving one line past its neighbours: it mends.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import (
    Span,
    Statement,
    after,
    before,
    blank,
    calls,
    code_of,
    negated,
    replace_node,
    shifted,
    source_of,
    spans,
    targets,
    unparse,
    walk,
)
from ..finding import Edit, Line
from ..stopping import stopped_unset
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "update-order"
FARTHEST: Final = 4
"""Lines that one is moved past."""
SHOWS: Final = ("board", "tell", "print")


def edits(subject: Subject) -> Iterator[Edit]:
    """For each line of a function or straight script: past one, two or more of its neighbours; for each test that a
    change decides about: on its other side; pauses; what stands after the end of a function.
    """
    yield from _decided_too_late(subject)
    yield from _other_branch(subject)
    yield from _pauses(subject)
    yield from _never_reached(subject)
    yield from _exchanged(subject)
    unset = stopped_unset(subject)  # then it is not an old value that is shown
    for stmt, other, moved in moves(subject):
        if unset or not shows_only(subject, stmt, other):
            later = other.lineno > stmt.node.lineno
            facts: dict[str, Any] = {
                "moved": Line(stmt.node.lineno),
                "past": Line(other.lineno),
                "line": Line(stmt.node.lineno),
                "now": "before" if later else "after",
                "side": "after" if later else "before",
            }
            yield Edit(ID, moved, _about(stmt), facts)


def moves(subject: Subject) -> Iterator[tuple[Statement, ast.stmt, tuple[Span, ...]]]:
    """Each line moved past some neighbours of its block that have to do with it."""
    script = subject.script
    own = {id(stmt.node) for stmt in subject.statements}
    for stmt in subject.statements:
        if stmt.function is None and not script.straight:
            continue
        if isinstance(stmt.node, (ast.Global, ast.FunctionDef, ast.Return, ast.Import, ast.ImportFrom)):
            continue
        if _is_elif(subject, stmt.node):
            continue
        names = _names(subject, stmt.node)
        for index in range(max(0, stmt.index - FARTHEST), min(len(stmt.block), stmt.index + FARTHEST + 1)):
            other = stmt.block[index]
            if index == stmt.index or id(other) not in own or isinstance(other, (ast.Global, ast.Return)):
                continue
            if index == stmt.index - 1 and not isinstance(other, ast.If):
                continue  # the same as the neighbour moved down
            if not names & _names(subject, other) and not (_waits(stmt.node) or _waits(other)):
                continue
            text = source_of(script, stmt.node)
            put = after(script, other, text) if index > stmt.index else before(script, other, text)
            yield stmt, other, tuple(sorted((put, *blank(script, stmt.node, stmt.block))))


def shows_only(subject: Subject, stmt: Statement, other: ast.stmt) -> bool:
    """Whether a move only concerns a display: what is moved shows something, or all that it is moved past."""
    index = stmt.block.index(other)
    low, high = sorted((stmt.index, index))
    crossed = [node for node in stmt.block[low : high + 1] if node is not stmt.node]
    return displays(subject, stmt.node) or all(displays(subject, node) for node in crossed)


def displays(subject: Subject, node: ast.stmt) -> bool:
    """Whether a line only shows something, by itself or by a function of the script that does nothing else."""
    match node:
        case ast.Expr(value=ast.Call(func=ast.Name(id=name))):
            bodies = [function.body for function in subject.functions if function.name == name]
            return name in SHOWS or (bool(bodies) and all(displays(subject, each) for body in bodies for each in body))
        case ast.Expr(value=ast.Constant()):
            return True
    return False


def _decided_too_late(subject: Subject) -> Iterator[Edit]:
    """`coins -= cost` / `if coins < 0:` → asked with what would be left, and taken only in the other branch."""
    script = subject.script
    for stmt in subject.statements:
        following = stmt.block[stmt.index + 1] if stmt.index + 1 < len(stmt.block) else None
        change = changed_value(stmt.node)
        if change is None or not isinstance(following, ast.If):
            continue
        name, value = change
        test, branches = code_of(script, following.test), [following.body, following.orelse]
        if not re.search(rf"(?<![\w.]){re.escape(name)}\b", test):
            continue
        asked = re.sub(rf"(?<![\w.]){re.escape(name)}\b", value, test)
        for branch in branches:
            if branch and not (branch is following.orelse and _is_elif(subject, branch[0])):
                text = source_of(script, stmt.node)
                spans_ = [*blank(script, stmt.node, stmt.block), before(script, branch[0], text)]
                span = replace_node(script, following.test, asked)
                if span is not None:
                    facts: dict[str, Any] = {"line": Line(stmt.node.lineno), "past": Line(following.lineno)}
                    facts |= {"now": "before", "side": "after"}
                    yield Edit(ID, tuple(sorted([*spans_, span])), name, facts)


def changed_value(node: ast.stmt) -> tuple[str, str] | None:
    """The variable that a line changes, and what it is then, as text."""
    signs = {ast.Add: "+", ast.Sub: "-", ast.Mult: "*"}
    match node:
        case ast.AugAssign(target=ast.Name(id=name), op=op, value=value) if type(op) in signs:
            other = unparse(value)
            return name, f"{name} {signs[type(op)]} {f'({other})' if isinstance(value, ast.BinOp) else other}"
        case ast.Assign(targets=[ast.Name(id=name)], value=ast.BinOp(left=ast.Name(id=left)) as value) if left == name:
            return name, unparse(value)
    return None


def _other_branch(subject: Subject) -> Iterator[Edit]:
    """A change in one branch of a test that should come before it: `if lives == 0: … else: lives -= 1`."""
    script = subject.script
    for stmt in subject.statements:
        match stmt.node:
            case ast.If(test=test, body=body, orelse=[last]) if not isinstance(last, ast.If):
                name = (targets(last) or [""])[0]
                if not re.search(rf"\b{re.escape(name)}\b", unparse(test)) or not name:
                    continue
                line = last.lineno - 1
                head = next((n for n in range(line, body[-1].lineno, -1) if _is_else(script.lines[n - 1])), None)
                if head is None:
                    continue
                gone = [Span(n, 0, len(script.lines[n - 1]), "") for n in range(head, (last.end_lineno or 0) + 1)]
                facts: dict[str, Any] = {"past": Line(last.lineno), "line": Line(stmt.node.lineno)}
                facts |= {"now": "before", "side": "after", "about_lines": (stmt.node.lineno, last.lineno)}
                text = source_of(script, last)
                guarded = f"if {negated(test)}:\n" + shifted(text.split("\n"), "", "    ")
                for lines in (text, guarded):
                    put = before(script, stmt.node, lines)
                    yield Edit(ID, tuple(sorted([put, *gone])), name, facts)


def _is_else(line: str) -> bool:
    return line.strip().startswith("else")


def _waits(node: ast.stmt) -> bool:
    return bool(calls(node, "wait")) and isinstance(node, ast.Expr)


def _pauses(subject: Subject) -> Iterator[Edit]:
    """A pause that nobody asked for, left out."""
    for stmt in subject.statements:
        if _waits(stmt.node) and stmt.index + 1 < len(stmt.block):
            later = stmt.block[stmt.index + 1]
            facts: dict[str, Any] = {
                "pause": unparse(stmt.node),
                "past": Line(later.lineno),
                "line": Line(stmt.node.lineno),
            }
            yield Edit(ID, blank(subject.script, stmt.node, stmt.block), "wait", facts)


def _never_reached(subject: Subject) -> Iterator[Edit]:
    """A `return` above other lines of its block: below them."""
    script = subject.script
    for stmt in subject.statements:
        if isinstance(stmt.node, (ast.Return, ast.Break, ast.Continue)) and stmt.index + 1 < len(stmt.block):
            later = stmt.block[stmt.index + 1]
            put = after(script, stmt.block[-1], source_of(script, stmt.node))
            spans_ = tuple(sorted((put, *blank(script, stmt.node, stmt.block))))
            facts = {"unreached": Line(later.lineno), "past": Line(later.lineno), "line": Line(stmt.node.lineno)}
            yield Edit(ID, spans_, unparse(stmt.node), facts)


def _exchanged(subject: Subject) -> Iterator[Edit]:
    """`last, score = 0, score` → `last, score = score, 0`."""
    for stmt in subject.statements:
        match stmt.node:
            case ast.Assign(targets=[ast.Tuple()], value=ast.Tuple(elts=[first, second]) as value):
                right = f"{unparse(second)}, {unparse(first)}"
                facts = {"line": Line(stmt.node.lineno), "past": Line(stmt.node.lineno), "exchanged": right}
                facts["met"] = unparse(stmt.node)
                yield Edit(ID, spans(replace_node(subject.script, value, right)), unparse(first), facts)


def _is_elif(subject: Subject, node: ast.stmt) -> bool:
    return isinstance(node, ast.If) and subject.script.lines[node.lineno - 1].lstrip().startswith("elif")


def _names(subject: Subject, node: ast.AST) -> set[str]:
    """Variables and pieces that a statement has to do with, also through the functions that it calls."""
    found: set[str] = set()
    waiting: list[ast.AST] = [node]
    seen: set[str] = set()
    while waiting:
        for each in walk(waiting.pop()):
            if not isinstance(each, ast.Name):
                continue
            found.add("outcome" if each.id in ("win", "lose", "again") else each.id)
            if each.id in subject.function_names and each.id not in seen:
                seen.add(each.id)
                waiting += [function for function in subject.functions if function.name == each.id]
    return found - {"board", "tell", "print"}


def _about(stmt: Statement) -> str:
    return unparse(stmt.node).split("\n")[0]


SLIP: Final = Slip(ID, Group.PARTS, edits)
