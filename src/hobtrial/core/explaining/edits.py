"""Applies edits to a text, and finds where in a text a node stands."""

from __future__ import annotations

import ast
from collections.abc import Iterable

from ..script import Script
from .finding import ChangedLine, Edit, Span


def apply(text: str, edit: Edit) -> str:
    """The text with the spans of an edit replaced. Line numbers stay what they are."""
    lines = text.split("\n")
    for span in sorted(edit.spans, reverse=True):
        line = lines[span.line - 1]
        lines[span.line - 1] = line[: span.start] + span.text + line[span.end :]
    return "\n".join(lines)


def changed_lines(before: str, after: str) -> tuple[ChangedLine, ...]:
    """The lines in which two texts of equally many lines differ."""
    pairs = zip(before.split("\n"), after.split("\n"), strict=True)
    return tuple(
        ChangedLine(number, old.strip(), new.strip()) for number, (old, new) in enumerate(pairs, 1) if old != new
    )


def column(script: Script, line: int, offset: int) -> int:
    """The character column of a byte offset of Python's tree."""
    return len(script.lines[line - 1].encode()[:offset].decode(errors="ignore"))


def replace_node(script: Script, node: ast.expr, text: str) -> Span | None:
    """The span that replaces a node; nothing where it goes over several lines."""
    if node.end_lineno != node.lineno or node.end_col_offset is None:
        return None
    return Span(
        node.lineno,
        column(script, node.lineno, node.col_offset),
        column(script, node.lineno, node.end_col_offset),
        text,
    )


def replace_between(script: Script, left: ast.expr, right: ast.expr, old: str, new: str) -> Span | None:
    """The span that replaces a sign between two nodes of one line."""
    if left.end_lineno != right.lineno or left.end_col_offset is None:
        return None
    start = column(script, right.lineno, left.end_col_offset)
    end = column(script, right.lineno, right.col_offset)
    place = script.lines[right.lineno - 1].find(old, start, end)
    return None if place < 0 else Span(right.lineno, place, place + len(old), new)


def text_of(script: Script, node: ast.expr) -> str:
    """The source of a node of one line, else its first line."""
    line = script.lines[node.lineno - 1]
    start = column(script, node.lineno, node.col_offset)
    if node.end_lineno == node.lineno and node.end_col_offset is not None:
        return line[start : column(script, node.lineno, node.end_col_offset)]
    return line[start:].strip()


def spans(*candidates: Span | None) -> tuple[Span, ...]:
    """The spans that there are, in order."""
    return tuple(sorted(span for span in candidates if span is not None))


def enclosing_function(script: Script, line: int) -> ast.FunctionDef | None:
    """The function that a line stands in."""
    for node in script.tree.body:
        if isinstance(node, ast.FunctionDef) and node.lineno <= line <= (node.end_lineno or node.lineno):
            return node
    return None


def names_in(nodes: Iterable[ast.AST]) -> list[str]:
    """The variables that expressions speak of, in order, each once: `score`, `game.score`, `hob.lives`."""
    found: list[str] = []
    for node in nodes:
        for inner in ast.walk(node):
            if isinstance(inner, ast.Attribute) and isinstance(inner.value, ast.Name):
                found.append(f"{inner.value.id}.{inner.attr}")
            elif isinstance(inner, ast.Name):
                found.append(inner.id)
    owners = {name.split(".")[0] for name in found if "." in name}
    return [name for name in dict.fromkeys(found) if name not in owners]
