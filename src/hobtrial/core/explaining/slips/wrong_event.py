"""`wrong-event`: another key, pair or moment than the one asked for.

Recognised by an event of the reference in its place: it mends.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from ...script.tree import code_of, replace_node, spans, unparse
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "wrong-event"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each event of the script: each of the reference's, first those that nothing waits for yet."""
    waited = [unparse(event) for _, event in subject.handlers()]
    events = sorted(subject.reference_events, key=lambda event: event in waited)
    for function, event in subject.handlers():
        met = unparse(event)
        for right in events:
            if right != met and not _same_pair(met, right):
                facts = {
                    "met": code_of(subject.script, event),
                    "event": met,
                    "right": right,
                    "function": function.name,
                    "line": Line(event.lineno),
                }
                span = replace_node(subject.script, event, right)
                yield Edit(ID, spans(span), right, facts, everywhere=True)


def _same_pair(a: str, b: str) -> bool:
    """Whether two events are the same pair in another order."""
    return sorted(a.replace("(", " ").replace(")", "").replace(",", "").split()) == sorted(
        b.replace("(", " ").replace(")", "").replace(",", "").split()
    )


SLIP: Final = Slip(ID, Group.PARTS, edits)
