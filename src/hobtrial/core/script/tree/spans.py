"""Where a node stands in its text, and the spans that replace a piece of a line.

Columns of spans are characters from 0; those of Python's tree are bytes.
"""

from __future__ import annotations

import ast
from collections.abc import Iterable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from .nodes import walk

if TYPE_CHECKING:
    from ..read import Script


@dataclass(frozen=True, slots=True, order=True)
class Span:
    """A piece of one line that is replaced. Columns are characters from 0."""

    line: int
    start: int
    end: int
    text: str


def column(script: Script, line: int, offset: int) -> int:
    """The character column of a byte offset of Python's tree."""
    return len(script.lines[line - 1].encode()[:offset].decode(errors="ignore"))


def replace_node(script: Script, node: ast.expr, text: str) -> Span | None:
    """The span that replaces a node; nothing where it goes over several lines."""
    if node.end_lineno != node.lineno or node.end_col_offset is None:
        return None
    start = column(script, node.lineno, node.col_offset)
    return Span(node.lineno, start, column(script, node.lineno, node.end_col_offset), text)


def replace_between(script: Script, left: ast.expr, right: ast.expr, old: str, new: str) -> Span | None:
    """The span that replaces a sign between two nodes of one line."""
    if left.end_lineno != right.lineno or left.end_col_offset is None:
        return None
    start = column(script, right.lineno, left.end_col_offset)
    end = column(script, right.lineno, right.col_offset)
    place = script.lines[right.lineno - 1].find(old, start, end)
    return None if place < 0 else Span(right.lineno, place, place + len(old), new)


def code_of(script: Script, node: ast.expr) -> str:
    """The source of a node of one line, else its first line."""
    line = script.lines[node.lineno - 1]
    start = column(script, node.lineno, node.col_offset)
    if node.end_lineno == node.lineno and node.end_col_offset is not None:
        return line[start : column(script, node.lineno, node.end_col_offset)]
    return line[start:].strip()


def spans(*candidates: Span | None) -> tuple[Span, ...]:
    """The spans that there are, in order."""
    return tuple(sorted(span for span in candidates if span is not None))


def first_line(node: ast.stmt) -> int:
    """The line in which a statement begins, with its decorators."""
    decorators: list[ast.expr] = getattr(node, "decorator_list", [])
    return min([node.lineno, *(each.lineno for each in decorators)])


def last_line(node: ast.stmt) -> int:
    """The line in which a statement ends."""
    return node.end_lineno or node.lineno


def alone(script: Script, node: ast.stmt) -> bool:
    """Whether a statement has its lines for itself: no `;`, no block behind a colon."""
    head = script.lines[first_line(node) - 1]
    if head[: len(head) - len(head.lstrip())] != head[: column(script, node.lineno, node.col_offset)] and (
        first_line(node) == node.lineno
    ):
        return False
    tail = script.lines[last_line(node) - 1].encode()[node.end_col_offset or 0 :].decode(errors="ignore")
    return not tail.strip().startswith(";")


def names_in(nodes: Iterable[ast.AST]) -> list[str]:
    """The variables that expressions speak of, in order, each once: `score`, `game.score`, `hob.lives`."""
    found: list[str] = []
    for node in nodes:
        for inner in walk(node):
            if isinstance(inner, ast.Attribute) and isinstance(inner.value, ast.Name):
                found.append(f"{inner.value.id}.{inner.attr}")
            elif isinstance(inner, ast.Name):
                found.append(inner.id)
    owners = {name.split(".")[0] for name in found if "." in name}
    return [name for name in dict.fromkeys(found) if name not in owners]
