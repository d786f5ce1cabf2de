"""`wrong-amount`: changed, compared or moved by another number than the one asked for.

Recognised by the number that the reference has in the same part: it mends.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Callable, Iterator
from typing import Any, Final

from ...script.tree import calls, code_of, replace_node, spans, unparse, walk
from ..finding import Edit, Line
from ..saying import times
from ..subject import PROPERTIES, Subject
from .slip import Group, Slip

ID: Final = "wrong-amount"
Numbered = tuple[str, ast.expr]


def edits(subject: Subject) -> Iterator[Edit]:
    """For each number in a change, a test, a property or a call: those of the reference in the same part."""
    theirs: dict[str, list[str]] = {}
    for key, node in numbers(subject.reference.tree):
        theirs.setdefault(subject.here(key), []).append(unparse(node))
        theirs.setdefault(key.split(" ")[0], []).append(unparse(node))
        if key.startswith("equal"):
            theirs.setdefault(subject.here(key.replace("equal", "test", 1)), []).append(unparse(node))
            theirs.setdefault("test", []).append(unparse(node))
    changes = [text for key, found in theirs.items() if key.startswith("change ") for text in found]
    pauses = [text for event in subject.reference_events for text in re.findall(r"(?:every|after)\(([\d.]+)\)", event)]
    shown = _only_shown(subject)
    yield from _rounds(subject)
    yield from _shifted(subject)
    for key, node in [*numbers(subject.script.tree), *_given(subject)]:
        met = unparse(node)
        wanted = theirs.get(key) or theirs.get(key.split(" ")[0], []) or (changes if key.startswith("given") else [])
        if key.startswith("call"):
            # a number for one thing to do says nothing of another
            wanted = theirs.get(key) or (pauses if key == "call0 wait" else [])
        if key.startswith("equal"):
            asked_of = key.replace("equal", "test", 1)
            wanted = theirs.get(asked_of) or theirs.get("test") or []
        if key.startswith("limit"):
            wanted = [*theirs.get("limit", ()), *theirs.get("test", ()), *theirs.get("become", ())]
        if key.startswith("from"):
            wanted = [*theirs.get(key, ()), *theirs.get("from", ()), *theirs.get("become", ())]
        if key.startswith("part"):
            name = key.split(" ", 1)[1]
            wanted = [*theirs.get(key, ()), *theirs.get(f"change {name}", ()), *theirs.get("part", ()), *changes]
        if key.startswith("become"):
            wanted = [
                text for other, found in theirs.items() if other.startswith(("become", "change")) for text in found
            ]
        for right in dict.fromkeys(wanted):
            if right != met and not (key.startswith("test") and _next_to(met, right)):
                facts: dict[str, Any] = {
                    "met": met,
                    "right": right,
                    "name": key.split(" ", 1)[-1],
                    "text": code_of(subject.script, node),
                    "line": Line(node.lineno),
                }
                asked = key.startswith("become") and met in (theirs.get(key) or ())
                span = replace_node(subject.script, node, right)
                extra = int(asked or (key.startswith("become") and facts["name"] in shown))
                yield Edit(ID, spans(span), facts["name"], facts, extra=extra)


def _only_shown(subject: Subject) -> set[str]:
    """Variables that the exercise does not ask for and that are read to be shown alone: another may be meant there."""
    told = {
        id(node)
        for call in calls(subject.script.tree, "board", "tell", "print")
        for node in walk(call)
        if isinstance(node, ast.Name)
    }
    read = [node for node in walk(subject.script.tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)]
    return {node.id for node in read} - {node.id for node in read if id(node) not in told} - set(subject.asked)


def numbers(tree: ast.AST) -> Iterator[Numbered]:
    """The numbers of a script, each with its part: `change score`, `test score`, `set hob.x`, `call go`."""
    direct: set[int] = set()
    for node in walk(tree):
        match node:
            case ast.AugAssign(target=target, value=value) if _number(value):
                yield f"change {unparse(target)}", value
            case ast.Assign(targets=[ast.Name() | ast.Attribute() as target], value=value) if _number(value) and not (
                isinstance(target, ast.Attribute) and target.attr in PROPERTIES
            ):
                yield f"become {unparse(target)}", value
            case ast.Return(value=ast.expr() as value) if _number(value):
                yield "become ", value
            case ast.Dict(values=values):
                yield from (("become ", value) for value in values if _number(value))
            case ast.Assign(targets=[target], value=ast.BinOp(left=left, right=right)) if _number(right):
                if unparse(left) == unparse(target):
                    direct.add(id(right))
                    yield f"change {unparse(target)}", right
            case ast.BinOp(left=left, right=right) if _number(right) and id(right) not in direct:
                yield f"part {unparse(left)}", right
            case ast.BinOp(left=left, right=right) if _number(left):
                yield f"from {unparse(right)}", left
            case ast.Call(func=ast.Name(id="min" | "max"), args=[_, _] as args):
                yield from (("limit ", each) for each in args if _number(each))
            case ast.Match(subject=subject, cases=cases):
                for case in cases:
                    if isinstance(case.pattern, ast.MatchValue) and _number(case.pattern.value):
                        yield f"equal {unparse(subject)}", case.pattern.value
            case ast.Assign(targets=[ast.Attribute(attr=attr) as target], value=value) if (
                _number(value) and attr in PROPERTIES
            ):
                yield f"set {unparse(target)}", value
            case ast.Compare(left=left, ops=[op], comparators=[right]):
                kind = "equal" if isinstance(op, (ast.Eq, ast.NotEq)) else "test"
                if _number(right):
                    yield f"{kind} {unparse(left)}", right
                elif _number(left):
                    yield f"{kind} {unparse(right)}", left
            case ast.Call(func=ast.Attribute() | ast.Name(id="wait") as func, args=args):
                name = func.attr if isinstance(func, ast.Attribute) else "wait"
                for index, argument in enumerate(args):
                    if _number(argument) and not name.startswith("rand"):
                        yield f"call{index} {name}", argument


def _rounds(subject: Subject) -> Iterator[Edit]:
    """A loop that goes round once too often or too seldom, or as often as no number of the exercise says."""
    for node in walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Name(id="range"), args=args) if args and all(_whole(each) for each in args):
                first = int(unparse(args[0])) if len(args) > 1 else 0
                end = args[1] if len(args) > 1 else args[0]
                often = int(unparse(end)) - first
                asked = sorted((each for each in subject.numbers if type(each) is int and each > 0), key=_from(often))
                for wanted in dict.fromkeys([*asked[:4], often + 1, often - 1]):
                    if wanted != often and wanted > 0:
                        facts: dict[str, Any] = {"met": often, "right": wanted, "name": "a loop", "rounds": True}
                        facts |= {"text": unparse(node), "line": Line(node.lineno)}
                        facts |= {"goes": times(often), "should": times(wanted)}
                        span = replace_node(subject.script, end, str(first + wanted))
                        extra = 0 if wanted in subject.numbers else 1
                        yield Edit(ID, spans(span), "a loop", facts, extra=extra)


def _from(number: int) -> Callable[[int], int]:
    return lambda each: abs(each - number)


def _whole(node: ast.expr) -> bool:
    return _number(node) and unparse(node).lstrip("-").isdigit()


def _shifted(subject: Subject) -> Iterator[Edit]:
    """A row of tests of one variable in which every number is one too high, or one too low."""
    rows: dict[tuple[int, str], list[ast.expr]] = {}
    for stmt in subject.statements:
        match stmt.node:
            case ast.If(test=ast.Compare(left=left, ops=[ast.Eq()], comparators=[right])) if _whole(right):
                where = stmt.function.lineno if stmt.function is not None else 0
                rows.setdefault((where, unparse(left)), []).append(right)
    for (_, name), nodes in rows.items():
        for step in (-1, 1) if len(nodes) > 1 else ():
            changed = [replace_node(subject.script, node, str(int(unparse(node)) + step)) for node in nodes]
            met = int(unparse(nodes[0]))
            facts: dict[str, Any] = {"met": met, "right": met + step, "name": name, "line": Line(nodes[0].lineno)}
            yield Edit(ID, spans(*changed), name, {**facts, "text": name, "row": True})


def _given(subject: Subject) -> Iterator[Numbered]:
    """The numbers that the script gives to functions of its own."""
    for node in walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Name(id=name), args=args) if name in subject.function_names:
                for argument in args:
                    if _number(argument):
                        yield f"given {name}", argument


def _number(node: ast.expr) -> bool:
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        node = node.operand
    return isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool)


def _next_to(met: str, right: str) -> bool:
    """Whether two numbers are one apart: a test with such a number is off at its boundary."""
    return abs(float(met) - float(right)) == 1


SLIP: Final = Slip(ID, Group.OWN, edits)
