"""`acts-after-end`: the script goes on counting after the game has ended.

Recognised by doing nothing once the outcome is there: it mends.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from typing import Any, Final

from ...script.tree import before, body_start, handlers, spans, unparse
from ...trial import OUTCOME, Trace
from ..finding import Edit, Line
from ..subject import Subject
from .slip import Group, Slip

ID: Final = "acts-after-end"
GUARD: Final = 'if outcome() != "playing":\n    return'


def edits(subject: Subject) -> Iterator[Edit]:
    """For each function, and for all handlers together: it ends at once where the game has ended."""
    script = subject.script
    restarting = set(map(id, subject.restarts))
    found = [function for function in subject.functions if id(function) not in restarting]
    put = {id(function): before(script, body_start(function), GUARD) for function in found}
    waiting = list(dict.fromkeys(function for function, _ in handlers(found) if not _of_the_end(function)))
    for function in found:
        yield Edit(ID, (put[id(function)],), function.name, {"function": function.name, "line": Line(function.lineno)})
    late = [each for each in waiting if _acts_late(subject, each)]
    for several in [late, waiting] if len(late) < len(waiting) else [waiting]:
        if len(several) < 2:
            continue
        yield Edit(
            ID,
            spans(*(put[id(each)] for each in several)),
            "outcome",
            {"function": several[0].name, "line": Line(several[0].lineno)},
        )


def _acts_late(subject: Subject, function: ast.FunctionDef) -> bool:
    """Whether a function changed something after the end in any of the runs."""
    lines = range(function.lineno, (function.end_lineno or function.lineno) + 1)
    return any(
        change.line in lines and change.frame > ended
        for trace in subject.traces.values()
        if (ended := _ended(trace)) is not None
        for change in trace.changes
    )


def witness(edit: Edit, trace: Trace) -> dict[str, Any] | None:
    """A change that one of the functions made after the end."""
    ended = _ended(trace)
    lines = {span.line for span in edit.spans}
    for change in trace.changes:
        late = ended is not None and change.frame > ended
        if late and change.scope == "script" and change.differs and any(line <= change.line for line in lines):
            return {
                "frame": change.frame,
                "name": change.name,
                "old": change.old,
                "new": change.new,
                "at_line": Line(change.line),
            }
    if ended is None and trace.outcome == "playing":
        return None
    return {"frame": ended or 0}


def _ended(trace: Trace) -> int | None:
    """The frame in which the game ended, or in which it was ended once more."""
    timeline = trace.samples.get(OUTCOME)
    ended = None
    if timeline is not None:
        ended = next((frame for frame, value in timeline.changes() if value != "playing"), None)
    return ended if ended is not None else next((each.frame for each in trace.missed), None)


def _of_the_end(function: ast.FunctionDef) -> bool:
    return any("finished" in unparse(each) for each in function.decorator_list)


SLIP: Final = Slip(ID, Group.PARTS, edits, witness=witness)
