"""Texts in quotes that are nearly one that is asked for, or stand where another one is asked for.

The spans here keep the quotes of the script, and go into f-strings too.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from ..script import Script
from ..script.tree import Span, column
from .asked import Use, nearly, uses
from .subject import Subject

MOST_OTHERS: Final = 6
"""Texts that are tried for one that is not nearly any of those asked for."""


@dataclass(frozen=True, slots=True)
class OtherText:
    """A text of the script, wherever it stands for one use, and the text that may be meant."""

    use: Use
    met: str
    right: str
    line: int
    spans: tuple[Span, ...]
    near: bool


def other_texts(subject: Subject, *wanted: Use) -> Iterator[OtherText]:
    """For each text that is not asked for: those that are nearly the same, then those that the script never says."""
    script = subject.script
    places: dict[tuple[Use, str], list[ast.expr]] = {}
    for node, text, use in uses(script.tree):
        places.setdefault((use, text), []).append(node)
    for (use, met), nodes in places.items():
        asked = subject.texts.get(use, [])
        if use not in wanted or met.strip() in asked or met in asked:
            continue
        others = [text for (there, text), _ in places.items() if there == use and text != met] if use == "word" else []
        alike = [right for right in dict.fromkeys([*asked, *others]) if nearly(met, right)]
        missing = [right for right in asked if not any(there == use and right in text for there, text in places)]
        rest = [] if use == "word" else missing[:MOST_OTHERS]
        for right in dict.fromkeys([*alike, *rest]):
            spans = tuple(span for node in nodes if (span := text_span(script, node, met, right)) is not None)
            if spans:
                yield OtherText(use, met, right, nodes[0].lineno, spans, right in alike)
            if len(spans) > 1 and use == "word":
                for span in spans:
                    yield OtherText(use, met, right, span.line, (span,), right in alike)


def text_span(script: Script, node: ast.expr, met: str, right: str) -> Span | None:
    """The span that puts another text in the quotes of one; nothing where it goes over several lines or is escaped."""
    if node.end_lineno != node.lineno or node.end_col_offset is None or '"' in right or "\\" in right or "'" in right:
        return None
    start = column(script, node.lineno, node.col_offset)
    end = column(script, node.lineno, node.end_col_offset)
    there = script.lines[node.lineno - 1].find(met, start, end)
    if there < 0:
        return None
    lead, tail = len(met) - len(met.lstrip()), len(met) - len(met.rstrip())
    text = right if isinstance(node, ast.JoinedStr) else met[:lead] + right.strip() + met[len(met) - tail :]
    return Span(node.lineno, there, there + len(met), text)
