"""`wrong-event`: another key, pair or moment than the one asked for.

Recognised by an event of the reference in its place: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Final

from ...script.tree import Span, code_of, column, replace_node, spans, unparse
from ..finding import Edit, Line
from ..subject import Subject
from ..texts import other_texts
from .handled_twice import again
from .slip import Group, Slip

ID: Final = "wrong-event"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each event of the script: each of the reference's, first those that nothing waits for yet."""
    waited = [unparse(event) for _, event in subject.handlers()]
    events = sorted(subject.reference_events, key=lambda event: event in waited)
    for function, event in subject.handlers():
        met = unparse(event)
        for right in events:
            if right != met and not _same_pair(met, right) and not (met.startswith("heard(") and "heard(" in right):
                facts = {
                    "met": code_of(subject.script, event),
                    "event": met,
                    "right": right,
                    "function": function.name,
                    "line": Line(event.lineno),
                }
                span = replace_node(subject.script, event, right)
                yield Edit(ID, spans(span), right, facts, everywhere=True)
    yield from _texts(subject)
    yield from _one_too_many(subject)


def _one_too_many(subject: Subject) -> Iterator[Edit]:
    """One of several events of a handler left out, where it is not another word for the same thing."""
    script = subject.script
    for function in subject.functions:
        for decorator in function.decorator_list:
            match decorator:
                case ast.Call(args=[_, _, *_] as events) if decorator.lineno == decorator.end_lineno:
                    pass
                case _:
                    continue
            for event in events:
                if again(event, events):
                    continue
                others = [unparse(each) for each in events if each is not event]
                start = column(script, decorator.lineno, decorator.col_offset)
                end = column(script, decorator.lineno, decorator.end_col_offset or 0)
                span = Span(decorator.lineno, start, end, f"on({', '.join(others)})")
                right = " or ".join(others)
                facts = {
                    "met": unparse(event),
                    "event": unparse(event),
                    "right": right,
                    "function": function.name,
                    "line": Line(decorator.lineno),
                    "too_many": unparse(event),
                }
                yield Edit(ID, (span,), right, facts, everywhere=True)


def _texts(subject: Subject) -> Iterator[Edit]:
    """The key, choice or words that a handler waits for, nearly those that are asked for."""
    lines = {line: function for function, event in subject.handlers() for line in (event.lineno,)}
    for each in other_texts(subject, "key", "choice", "typed", "place"):
        function = lines.get(each.line)
        if function is not None and each.near:
            met, right = f'"{each.met}"', f'"{each.right}"'
            facts = {"met": met, "event": met, "right": right, "function": function.name, "line": Line(each.line)}
            yield Edit(ID, each.spans, right, facts, everywhere=True)


def _same_pair(a: str, b: str) -> bool:
    """Whether two events are the same pair in another order."""
    return sorted(a.replace("(", " ").replace(")", "").replace(",", "").split()) == sorted(
        b.replace("(", " ").replace(")", "").replace(",", "").split()
    )


SLIP: Final = Slip(ID, Group.PARTS, edits)
