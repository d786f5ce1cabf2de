"""`unheard-message`: sent and heard by nobody, or waited for and never sent.

Recognised by writing both the same, or by sending it where the reference does: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import after, calls, replace_node, spans
from ..finding import Edit, Line
from ..near import near
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "unheard-message"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each message on one side only: each of the other side, and those of the reference."""
    script = subject.script
    sent, heard = messages(subject.script.tree, "send"), messages(subject.script.tree, "heard")
    theirs = [*(text for text, _ in messages(subject.reference.tree, "send")), *subject.texts.get("message", ())]
    for own, others in ((sent, heard), (heard, sent)):
        there = [text for text, _ in others]
        for met, node in own:
            for right in dict.fromkeys([*there, *theirs]):
                if right != met:
                    facts = {"met": met, "right": right, "line": Line(node.lineno), "sent": own is sent}
                    span = replace_node(script, node, f'"{right}"')
                    yield Edit(ID, spans(span), right, facts, everywhere=own is heard)
    unsent = [text for text, _ in heard if text not in [other for other, _ in sent]]
    for text in dict.fromkeys(unsent):
        for stmt in subject.statements:
            if (
                stmt.function is not None
                and stmt.index == len(stmt.block) - 1
                and not isinstance(stmt.node, ast.Return)
            ):
                facts = {"met": text, "right": text, "line": Line(stmt.node.lineno), "unsent": text}
                yield Edit(ID, (after(script, stmt.node, f'send("{text}")'),), text, facts)


def messages(tree: ast.AST, call: str) -> list[tuple[str, ast.expr]]:
    """The messages that a script sends or waits for, each with the node of its text."""
    return [
        (argument.value, argument)
        for node in calls(tree, call)
        for argument in node.args
        if isinstance(argument, ast.Constant) and isinstance(argument.value, str)
    ]


def recognise(seen: Seen) -> dict[str, Any] | None:
    """A message that the reference hears did not come, and the script sends one that is nearly the same."""
    event = seen.cause.event
    if seen.cause.kind != "event-missing" or event is None or event.kind != "heard":
        return None
    text = str(event.about[0])
    sent = [node.args[0] for node in calls(seen.script.tree, "send") if node.args]
    for node in sent:
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and near(node.value, text):
            return {"met": node.value, "right": text, "line": Line(node.lineno)}
    return None


SLIP: Final = Slip(ID, Group.WIRING, edits, recognise=recognise)
