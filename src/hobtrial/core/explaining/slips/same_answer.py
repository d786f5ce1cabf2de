"""`always-true`, the broad form: a test with one answer in every run though the reference's had both.

Recognised by a test of the reference in its place: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ..edits import replace_node, spans, text_of
from ..finding import Edit
from ..source import unparse
from ..subject import Subject
from .always_true import witness

SLIP: Final = "always-true"

__all__ = ["SLIP", "edits", "witness"]


def edits(subject: Subject) -> Iterator[Edit]:
    """For each test that never changed its answer: those of the reference."""
    tests = [
        subject.here(unparse(place.node.test))
        for place in subject.reference_places
        if isinstance(place.node, (ast.If, ast.While))
    ]
    wanted = [each for each in dict.fromkeys(tests) if subject.known(each)]
    for place in subject.places:
        node = place.node
        if isinstance(node, (ast.If, ast.While)) and _constant(subject, node):
            for right in wanted:
                met = text_of(subject.script, node.test)
                facts = {"test": met, "right": right, "line": node.lineno}
                yield Edit(
                    SLIP, spans(replace_node(subject.script, node.test, right)), met, facts, shows_reference=True
                )


def _constant(subject: Subject, node: ast.If | ast.While) -> bool:
    answers = {test.answer for trace in subject.traces.values() for test in trace.tests if test.line == node.lineno}
    return len(answers) == 1 and isinstance(node.test, (ast.BoolOp, ast.Constant, ast.Name))
