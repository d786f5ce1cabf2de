"""`wrong-variable`: another variable, piece or label is meant, as in a copied block with the old name left in.

Recognised by putting the other one in its place: it mends.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import replace
from typing import Final

from ...script.tree import (
    Span,
    apply,
    bound_names,
    column,
    indent,
    is_handler,
    own_locals,
    replace_node,
    rewrite,
    spans,
    to_global,
    unparse,
    walk,
)
from ..finding import Edit, Line
from ..near import near
from ..stopping import stopped_at
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-variable"
AXES: Final = {"x": "y", "y": "x", "vx": "vy", "vy": "vx"}


def edits(subject: Subject) -> Iterator[Edit]:
    """All of them, but those that would have one name twice among the parts of a test or list."""
    for edit in _all(subject):
        text = apply(subject.script.text, edit.spans)
        line = text.split("\n")[edit.line - 1 + text.count("\n") - subject.script.text.count("\n")]
        if not _twice(line, str(edit.facts["right"])):
            yield edit


def _twice(line: str, name: str) -> bool:
    """Whether a name stands twice in a row of `and`, `or` or commas."""
    parts = [part.strip(" ()[]:") for part in re.split(r"\band\b|\bor\b|\bif\b|,|=(?!=)", line)]
    return name.isidentifier() and parts.count(name) > 1 and bool(re.search(r"\band\b|\bor\b|\[", line))


def _all(subject: Subject) -> Iterator[Edit]:
    """Each name in functions (in straight scripts anywhere), alone and in its whole function; labels; x and y."""
    tree, script = subject.script.tree, subject.script
    plain = [name for name in subject.variables if "." not in name]
    themselves = {
        (id(node.value), target.id)
        for node in walk(tree)
        if isinstance(node, ast.Assign)
        for target in node.targets
        if isinstance(target, ast.Name)
    }
    """What is stored in a name: the name itself in its place would store nothing."""
    stops = stopped_at(subject)
    told = {id(inner) for node in walk(tree) if _shown(node) for inner in walk(node)}
    for function in [*subject.functions, None] if script.straight else subject.functions:
        scope: ast.AST = function or tree
        here = plain if function is None else list(dict.fromkeys([*plain, *sorted(own_locals(function))]))
        unset = _unset(subject, function)
        names = [node for node in walk(scope) if isinstance(node, ast.Name) and (node.id in here or node.id in unset)]
        for node in names:
            for right in here:
                fits = id(node) in told or node.lineno in stops or _alike(subject, node.id, right)
                if isinstance(node.ctx, ast.Store) and node.id in plain and right not in plain:
                    continue  # nobody would see what is stored there
                if right != node.id and (id(node), right) not in themselves and fits:
                    yield _edit(subject, function, [node], right)
        yield from _in_one_line(subject, function, names, here)
        for met in dict.fromkeys(node.id for node in names):
            several = [node for node in names if node.id == met]
            for right in here if function is not None and len(several) > 1 else ():
                lost = met in plain and right not in plain and any(isinstance(n.ctx, ast.Store) for n in several)
                if right != met and not lost and _alike(subject, met, right):
                    yield _edit(subject, function, several, right)
    yield from _shown_at_the_top(subject, plain)
    for function in subject.functions:
        yield from _pieces(subject, function)
        yield from _parameters(subject, function)
        yield from _without_parameter(subject, function)
        yield from _all_of_a_kind(subject, function)
    yield from _given_pieces(subject)
    yield from _functions_read(subject)
    yield from _labels(subject)
    for each in walk(tree):
        if isinstance(each, ast.Attribute) and each.attr in AXES and each.end_col_offset is not None:
            end = column(script, each.end_lineno or each.lineno, each.end_col_offset)
            span = Span(each.end_lineno or each.lineno, end - len(each.attr), end, AXES[each.attr])
            text = unparse(each)
            other = text.removesuffix(each.attr) + AXES[each.attr]
            yield Edit(ID, (span,), text, {"met": text, "right": other, "line": Line(each.lineno)})


def _unset(subject: Subject, function: ast.FunctionDef | None) -> set[str]:
    """Names that a function reads and that nothing gives a value there: those of another function, and words."""
    if function is None:
        return set()
    read = {node.id for node in walk(function) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load)}
    bound = (
        own_locals(function)
        | bound_names(function)
        | {each.arg for each in walk(function) if isinstance(each, ast.arg)}
    )
    known = subject.script.globals | subject.given | subject.function_names | set(subject.facts)
    return read - bound - known


def _shown_at_the_top(subject: Subject, plain: list[str]) -> Iterator[Edit]:
    """What a line of no function shows when the game begins: each other variable."""
    for stmt in subject.statements if not subject.script.straight else ():
        if stmt.function is None and isinstance(stmt.node, ast.Expr) and _shown(stmt.node.value):
            for node in walk(stmt.node):
                if isinstance(node, ast.Name) and node.id not in subject.given:
                    yield from (_edit(subject, None, [node], right) for right in plain if right != node.id)


def _shown(node: ast.AST) -> bool:
    """Whether what is inside is only shown: then a value of any kind may stand there."""
    return isinstance(node, ast.FormattedValue) or (
        isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("board", "tell", "print")
    )


def _in_one_line(
    subject: Subject, function: ast.FunctionDef | None, names: list[ast.Name], here: list[str]
) -> Iterator[Edit]:
    """A name that stands twice in one line, both times."""
    lines: dict[tuple[int, str], list[ast.Name]] = {}
    for node in names:
        lines.setdefault((node.lineno, node.id), []).append(node)
    for (_, met), nodes in lines.items():
        for right in here if len(nodes) > 1 else ():
            if right != met and _alike(subject, met, right) and (right in subject.script.globals or met not in here):
                yield _edit(subject, function, nodes, right)


def _alike(subject: Subject, met: str, right: str) -> bool:
    """Whether two variables hold values of one kind, as far as the runs tell: yes or no is no number."""
    mine, other = subject.kinds.get(met, set()), subject.kinds.get(right, set())
    return not mine or not other or bool(mine & other)


def _edit(subject: Subject, function: ast.FunctionDef | None, nodes: list[ast.Name], right: str) -> Edit:
    met = nodes[0].id
    stored = any(isinstance(node.ctx, ast.Store) for node in nodes)
    outside = function is not None and right not in own_locals(function)
    declared = to_global(subject.script, function, right) if function is not None and stored and outside else None
    changed = [replace_node(subject.script, node, right) for node in nodes]
    return Edit(ID, spans(declared, *changed), right, {"met": met, "right": right, "line": Line(nodes[0].lineno)})


def _pieces(subject: Subject, function: ast.FunctionDef) -> Iterator[Edit]:
    """Pieces and parameters whose methods are called or whose properties are set."""
    parameters = [argument.arg for argument in function.args.args]
    owners = [*parameters, *subject.pieces]
    for node in walk(function):
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id in owners:
            for right in owners:
                if right != node.value.id:
                    span = replace_node(subject.script, node.value, right)
                    facts = {"met": node.value.id, "right": right, "line": Line(node.lineno)}
                    yield Edit(ID, spans(span), right, facts)


def _parameters(subject: Subject, function: ast.FunctionDef) -> Iterator[Edit]:
    """A parameter that is changed: the game's own variable in its place, as the parameter is gone afterwards."""
    for argument in function.args.args:
        nodes = [node for node in walk(function) if isinstance(node, ast.Name) and node.id == argument.arg]
        if any(isinstance(node.ctx, ast.Store) for node in nodes):
            for right in [name for name in subject.variables if "." not in name and name != argument.arg]:
                stored = [node for node in nodes if isinstance(node.ctx, ast.Store)]
                edit = _edit(subject, function, nodes, right)
                yield replace(edit, facts={**edit.facts, "line": Line(stored[0].lineno)})


def _without_parameter(subject: Subject, function: ast.FunctionDef) -> Iterator[Edit]:
    """`hob.remove()` in a handler without a parameter: the other piece, which has to be taken first."""
    script = subject.script
    place = script.lines[function.lineno - 1].find("()", function.col_offset)
    if function.args.args or place < 0 or not is_handler(function):
        return
    told = Span(function.lineno, place + 1, place + 1, "which")
    for node in walk(function):
        match node:
            case ast.Call(func=ast.Attribute(value=ast.Name(id=name) as owner)) if name in subject.pieces:
                span = replace_node(script, owner, "which")
                facts = {"met": name, "right": "which", "line": Line(node.lineno)}
                yield Edit(ID, spans(told, span), name, facts)


def _all_of_a_kind(subject: Subject, function: ast.FunctionDef) -> Iterator[Edit]:
    """`for s in soot: s.remove()` in a handler of one of them: that one alone."""
    script = subject.script
    parameters = [argument.arg for argument in function.args.args]
    for node in walk(function):
        match node:
            case ast.For(target=ast.Name(id=each), iter=ast.Name(id=kind), body=body) if kind in subject.given:
                own = parameters[-1] if parameters else "which"
                place = script.lines[function.lineno - 1].find("()", function.col_offset)
                told = None if parameters else Span(function.lineno, place + 1, place + 1, own)
                if not parameters and place < 0:
                    continue
                lead = indent(script, node)
                lines = "\n".join(lead + line for stmt in body for line in unparse(stmt).split("\n"))
                text = re.sub(rf"\b{re.escape(each)}\b", own, lines)
                changed = rewrite(script, node, text)
                facts = {"met": kind, "right": own, "line": Line(node.lineno), "every": kind}
                yield Edit(ID, spans(told, *changed), kind, facts)


def _given_pieces(subject: Subject) -> Iterator[Edit]:
    """A piece that is asked about, or given to a function: each other one that the reference speaks of."""
    theirs = {node.id for node in walk(subject.reference.tree) if isinstance(node, ast.Name)}
    others = [piece for piece in subject.pieces if piece in theirs]
    inside = {id(inner) for _, event in subject.handlers() for inner in walk(event)}
    for node in walk(subject.script.tree):
        if isinstance(node, ast.Call) and id(node) not in inside:
            for argument in node.args:
                if isinstance(argument, ast.Name) and argument.id in subject.pieces:
                    for right in others:
                        if right != argument.id:
                            facts = {"met": argument.id, "right": right, "line": Line(argument.lineno)}
                            yield Edit(ID, spans(replace_node(subject.script, argument, right)), right, facts)


def _functions_read(subject: Subject) -> Iterator[Edit]:
    """The name of a function where a value is asked for: a variable that is nearly called the same."""
    called = {id(node.func) for node in walk(subject.script.tree) if isinstance(node, ast.Call)}
    plain = [name for name in subject.variables if "." not in name]
    for node in walk(subject.script.tree):
        match node:
            case ast.Name(id=name, ctx=ast.Load()) if name in subject.function_names and id(node) not in called:
                for right in sorted(plain, key=lambda other: not near(name, other)):
                    facts = {"met": name, "right": right, "line": Line(node.lineno)}
                    extra = 0 if near(name, right) else 1
                    yield Edit(ID, spans(replace_node(subject.script, node, right)), right, facts, extra=extra)


def _labels(subject: Subject) -> Iterator[Edit]:
    for node in walk(subject.script.tree):
        match node:
            case ast.Call(func=ast.Name(id="board"), args=[ast.Constant(value=str(met)) as label, *_]):
                for right in subject.labels:
                    if right != met and met in subject.labels:
                        facts = {"met": f'"{met}"', "right": f'"{right}"', "line": Line(node.lineno)}
                        yield Edit(ID, spans(replace_node(subject.script, label, f'"{right}"')), right, facts)


SLIP: Final = Slip(ID, Group.VARIABLE, edits)
