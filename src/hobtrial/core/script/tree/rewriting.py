"""Rewrites a text by spans, and makes the spans for whole statements.

A span never takes a line away: a line may become empty, or several, so that each line of the
rewritten text comes from one line of the text before it.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from .nodes import walk
from .spans import Span, column, first_line, last_line

if TYPE_CHECKING:
    from ..read import Script


@dataclass(frozen=True, slots=True)
class ChangedLine:
    """A line before and after an edit."""

    line: int
    before: str
    after: str

    def as_json(self) -> dict[str, Any]:
        """The line as the report shows it."""
        return {"line": self.line, "before": self.before, "after": self.after}


def apply(text: str, spans: Iterable[Span]) -> str:
    """The text with spans replaced."""
    return "\n".join(_cells(text, spans))


def origins(before: Sequence[int], text: str, spans: Iterable[Span]) -> tuple[int, ...]:
    """For each line of the rewritten text the line that it comes from; `before` says so of `text`."""
    cells = _cells(text, spans)
    return tuple(before[index] for index, cell in enumerate(cells) for _ in cell.split("\n"))


def changes_of(text: str, spans: Iterable[Span], numbers: Sequence[int]) -> tuple[ChangedLine, ...]:
    """The lines that spans change, without the indentation that they share. `numbers` as in `origins`."""
    found = []
    for index, (old, new) in enumerate(zip(text.split("\n"), _cells(text, spans), strict=True)):
        if old != new:
            shared = 0 if not old.strip() or not new.strip() else min(_indent(old), _indent(new))
            found.append(ChangedLine(numbers[index], old[shared:].rstrip(), new[shared:].rstrip()))
    return tuple(found)


def changed_lines(before: str, after: str) -> tuple[ChangedLine, ...]:
    """The lines in which two texts of equally many lines differ."""
    pairs = zip(before.split("\n"), after.split("\n"), strict=True)
    return tuple(
        ChangedLine(number, old.strip(), new.strip()) for number, (old, new) in enumerate(pairs, 1) if old != new
    )


def with_changes(text: str, changes: Iterable[ChangedLine]) -> str | None:
    """A text with the changed lines of a fix in place of its own; nothing where a line is another one by now."""
    lines = text.split("\n")
    for change in changes:
        if not 1 <= change.line <= len(lines):
            return None
        line = lines[change.line - 1]
        if change.before not in line or (not change.before and line.strip()):
            return None
        lead = line[: line.index(change.before)] if change.before else ""
        rest = line[len(lead) + len(change.before) :]
        lines[change.line - 1] = lead + change.after + rest
    return "\n".join(lines)


def _cells(text: str, spans: Iterable[Span]) -> list[str]:
    """Each line of a text as spans leave it; one that became several holds line breaks."""
    cells = text.split("\n")
    for span in sorted(spans, key=lambda span: (span.line, span.start, span.end), reverse=True):
        line = cells[span.line - 1]
        cells[span.line - 1] = line[: span.start] + span.text + line[span.end :]
    return cells


def _indent(line: str) -> int:
    return len(line) - len(line.lstrip())


def indent(script: Script, node: ast.stmt) -> str:
    """The white space before a statement."""
    line = script.lines[first_line(node) - 1]
    return line[: _indent(line)]


def block_lines(script: Script, node: ast.stmt) -> list[str]:
    """The lines of a statement, as they stand."""
    return script.lines[first_line(node) - 1 : last_line(node)]


def before(script: Script, node: ast.stmt, text: str) -> Span:
    """Further lines before a statement, indented as it is. `text` has no indentation of its own."""
    lead = indent(script, node)
    return Span(first_line(node), 0, 0, "".join(f"{lead}{line}\n" for line in text.split("\n")))


def after(script: Script, node: ast.stmt, text: str) -> Span:
    """Further lines after a statement, indented as it is."""
    lead, end = indent(script, node), len(script.lines[last_line(node) - 1])
    return Span(last_line(node), end, end, "".join(f"\n{lead}{line}" for line in text.split("\n")))


def blank(script: Script, node: ast.stmt, block: Sequence[ast.stmt]) -> tuple[Span, ...]:
    """A statement taken away; `pass` where its block would be empty."""
    rest = "" if len(block) > 1 else f"{indent(script, node)}pass"
    return rewrite(script, node, rest)


def rewrite(script: Script, node: ast.stmt, text: str) -> tuple[Span, ...]:
    """The lines of a statement replaced by others, which bring their own indentation."""
    lines = range(first_line(node), last_line(node) + 1)
    return tuple(
        Span(line, 0, len(script.lines[line - 1]), text if line == lines[0] else "")
        for line in lines
        if line == lines[0] or script.lines[line - 1]
    )


def shifted(lines: Iterable[str], old: str, new: str) -> str:
    """Lines with one indentation replaced by another at their beginning."""
    return "\n".join(new + line.removeprefix(old) if line.strip() else "" for line in lines)


def wrapped(script: Script, nodes: Sequence[ast.stmt], head: str) -> tuple[Span, ...]:
    """Statements on end, put under a further head such as `if lives > 0:`."""
    lead = indent(script, nodes[0])
    found: list[Span] = [Span(first_line(nodes[0]), 0, 0, f"{lead}{head}\n")]
    for line in range(first_line(nodes[0]), last_line(nodes[-1]) + 1):
        if script.lines[line - 1].strip():
            found.append(Span(line, 0, 0, "    "))
    first = found.pop(1)
    found[0] = Span(first.line, 0, 0, f"{lead}{head}\n    ")
    return tuple(found)


def to_global(script: Script, function: ast.FunctionDef, *names: str) -> Span | None:
    """The span that declares names `global` in a function; nothing where they all are already."""
    declared = [node for node in walk(function) if isinstance(node, ast.Global)]
    known = {name for node in declared for name in node.names}
    wanted = [name for name in names if name not in known]
    if not wanted:
        return None
    if declared:
        line = declared[0].lineno
        end = column(script, line, declared[0].end_col_offset or 0)
        return Span(line, end, end, "".join(f", {name}" for name in wanted))
    return before(script, body_start(function), f"global {', '.join(wanted)}")


def body_start(function: ast.FunctionDef) -> ast.stmt:
    """The first statement of a function after its docstring."""
    match function.body:
        case [ast.Expr(value=ast.Constant(value=str())), following, *_]:
            return following
    return function.body[0]


def renamed(text: str, names: dict[str, str]) -> str:
    """A piece of script with whole names replaced."""
    return re.sub(r"(?<![\w.])[A-Za-z_]\w*", lambda met: names.get(met[0], met[0]), text)


def source_of(script: Script, node: ast.stmt) -> str:
    """The lines of a statement without their own indentation."""
    return shifted(block_lines(script, node), indent(script, node), "")
