"""`gone-piece`: used after it was removed.

Recognised by the stop that names it; moving the line, or leaving it out, mends.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import blank
from ...trial import Trace
from ..finding import Edit, Line
from ..recognition import Seen
from ..subject import Subject
from .slip import Group, Slip
from .update_order import moves

ID: Final = "gone-piece"


def edits(subject: Subject) -> Iterator[Edit]:
    """Lines moved past the one that stops; and that one left out."""
    stops = {trace.stopped.line for trace in subject.traces.values() if trace.stopped is not None and _gone(trace)}
    if not stops:
        return
    for stmt, other, spans in moves(subject):
        if stmt.node.lineno in stops or other.lineno in stops:
            yield Edit(ID, spans, "remove", {"line": Line(min(stops))})
    for stmt in subject.statements:
        if stmt.node.lineno in stops:
            yield Edit(
                ID,
                blank(subject.script, stmt.node, stmt.block),
                "remove",
                {"line": Line(stmt.node.lineno)},
            )


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """The stop, with the piece and the line that removed it."""
    if trace.stopped is None or not _gone(trace):
        return None
    named = re.search(r"`(\w+)`", trace.stopped.message)
    piece = named[1] if named else "a piece"
    return {"frame": trace.stopped.frame, "piece": piece, "message": _sentence(trace)}


def _gone(trace: Trace) -> bool:
    return trace.stopped is not None and trace.stopped.kind == "GameError" and "remove" in trace.stopped.message


def _sentence(trace: Trace) -> str:
    assert trace.stopped is not None
    return f"Line {trace.stopped.line}: {trace.stopped.message}"


def recognise(seen: Seen) -> dict[str, Any] | None:
    """The script stopped at a piece that it had removed: the language's own message says so."""
    message = str(seen.cause.facts.get("message", ""))
    if seen.exception != "GameError" or "remove" not in message:
        return None
    piece = re.search(r"`(\w+)`", message)
    words = f"Line {seen.cause.facts['line']}: {message}"
    return {"piece": piece[1] if piece else "a piece", "message": words}


SLIP: Final = Slip(ID, Group.WIRING, edits, witness=witness, recognise=recognise)
