"""`text-and-number`: glued or compared across types; `"2"` for `2`; a name in quotes, or a text without.

Recognised by taking the quotes off, putting them on, or by `int(…)` and `str(…)`: it mends.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import code_of, replace_node, spans, unparse, walk
from ...trial import Trace
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "text-and-number"
WORDS: Final = ("True", "False", "None")


def edits(subject: Subject) -> Iterator[Edit]:
    """For each text that is a number or a name, each name that nothing has, each value that is glued or compared."""
    script = subject.script
    names = set(subject.variables) | set(subject.facts) | {
        name for function in subject.functions for name in _locals(function)
    }  # fmt: skip
    inside = {id(part) for node in walk(script.tree) if isinstance(node, ast.JoinedStr) for part in node.values}
    joined = {id(part): node for node in walk(script.tree) if isinstance(node, ast.JoinedStr) for part in node.values}
    yield from _all_quoted(subject)
    bound = script.globals | subject.given | set(subject.facts) | {
        name for function in subject.functions for name in _locals(function)
    }  # fmt: skip
    skipped = {id(inner) for _, event in subject.handlers() for inner in walk(event)}
    wrapped: list[ast.expr] = []
    for node in walk(script.tree):
        if id(node) in skipped:
            continue
        match node:
            case ast.Constant(value=str(text)) if id(node) in inside:
                yield from _braces_in(subject, joined[id(node)], text, names)
            case ast.Constant(value=str(text)) if _is_number(text) or text in names or text in WORDS:
                yield _edit(subject, node, text)
            case ast.Constant(value=str(text)):
                yield from _forgotten_braces(subject, node, text, names)
            case ast.Name(id=name, ctx=ast.Load()) if name not in bound:
                yield _edit(subject, node, f'"{name}"')
            case ast.BinOp(left=left, op=ast.Add(), right=right):
                wrapped += [each for each in (left, right) if not isinstance(each, ast.Constant)]
                for each in (left, right):
                    if isinstance(each, ast.Constant) and isinstance(each.value, (int, float)):
                        yield _edit(subject, each, f'"{each.value}"')
            case ast.BinOp(left=left, right=right):
                wrapped += [each for each in (left, right) if not isinstance(each, ast.Constant)]
            case ast.Compare(left=left, comparators=[right]):
                wrapped += [each for each in (left, right) if not isinstance(each, ast.Constant)]
                for each in (left, right):
                    if isinstance(each, ast.Constant) and isinstance(each.value, (int, float)):
                        yield _edit(subject, each, f'"{each.value}"')
            case ast.AugAssign(value=value) if not isinstance(value, ast.Constant):
                wrapped.append(value)
            case ast.Call(func=ast.Name(id="input")):
                wrapped.append(node)
    for each in dict.fromkeys(wrapped):
        source = unparse(each)
        match each:
            case ast.Call(func=ast.Name(id="str" | "int" | "float"), args=[inner]):
                yield _edit(subject, each, unparse(inner))
        for kind in ("int", "str", "float"):
            yield _edit(subject, each, f"{kind}({source})", kind)


def _all_quoted(subject: Subject) -> Iterator[Edit]:
    """Every number in quotes without them, where there are several."""
    found = [
        node for node in walk(subject.script.tree) if isinstance(node, ast.Constant)
        and isinstance(node.value, str) and (_is_number(node.value) or node.value in WORDS)
    ]  # fmt: skip
    if len(found) > 1:
        first = found[0]
        changed = [replace_node(subject.script, node, str(node.value)) for node in found]
        text = str(first.value)
        facts = {"met": f'"{text}"', "right": text, "line": Line(first.lineno), "kind": ""}
        yield Edit(ID, spans(*changed), str(first.value), facts)


def _forgotten_braces(subject: Subject, node: ast.Constant, text: str, names: set[str]) -> Iterator[Edit]:
    """`"{name}"` without `f`, and a text that has the name of a variable among its words."""
    code = code_of(subject.script, node)
    if not code.startswith(('"', "'")):
        return
    held = re.findall(r"\{([A-Za-z_]\w*)[^{}]*\}", text)
    if held and set(held) <= names:
        yield _edit(subject, node, f"f{code}")
    words = [word for word in dict.fromkeys(re.findall(r"\b[A-Za-z_]\w*\b", text)) if word in names]
    if words and " " in text and not held:
        for some in dict.fromkeys([tuple(words), *((word,) for word in words)]):
            braced = code
            for word in some:
                braced = _last_braced(braced, word)
            yield _edit(subject, node, f"f{braced}")


def _braces_in(subject: Subject, node: ast.JoinedStr, text: str, names: set[str]) -> Iterator[Edit]:
    """A name among the words of an f-string: in braces."""
    code = code_of(subject.script, node)
    for word in dict.fromkeys(re.findall(r"\b[A-Za-z_]\w*\b", text)):
        if word in names and code.startswith("f") and " " in text:
            yield _edit(subject, node, _last_braced(code, word))


def _last_braced(code: str, word: str) -> str:
    """The code of a text with the last of a word in braces: "my age is age" means the second one."""
    found = list(re.finditer(rf"\b{re.escape(word)}\b", code))
    return code[: found[-1].start()] + "{" + word + "}" + code[found[-1].end() :]


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """That a text and a number met: a `TypeError`, a test of both, or a text that is a number."""
    kind = edit.facts.get("kind", "")
    if not kind or (trace.stopped is not None and trace.stopped.kind in ("TypeError", "ValueError")):
        return {}
    for test in trace.tests:
        types = {isinstance(value, str) for _, value in test.parts}
        if test.line == edit.line and len(types) > 1:
            return {}
    if kind != "str" and any(isinstance(each.new, str) and _is_number(each.new) for each in trace.changes):
        return {}
    return None


def _locals(function: ast.FunctionDef) -> set[str]:
    return {argument.arg for argument in function.args.args} | {
        node.id for node in walk(function) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)
    }


def _edit(subject: Subject, node: ast.expr, right: str, kind: str = "") -> Edit:
    facts: dict[str, Any] = {
        "met": code_of(subject.script, node),
        "right": right,
        "line": Line(node.lineno),
        "kind": kind,
    }
    return Edit(ID, spans(replace_node(subject.script, node, right)), facts["met"], facts)


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


SLIP: Final = Slip(ID, Group.WIRING, edits, witness=witness)
