"""What the student's own run shows of an edit's line: the evidence that a finding rests on."""

from __future__ import annotations

from typing import Any

from ..trial import Trace
from .finding import Edit


def seen(edit: Edit, trace: Trace, parting: int) -> dict[str, Any] | None:
    """The facts of the edit's line near the parting of the runs; nothing where the line never ran.

    They are `frame`, and where the trace has them `times`, `old`, `new` and `event` of a change,
    `asked`, `values` and `answer` of a test.
    """
    lines = [edit.facts.get("line", edit.line), *(span.line for span in edit.spans)]
    for line in dict.fromkeys(lines):
        facts = _of_line(line, trace, parting)
        if facts is not None:
            return facts
    if trace.stopped is not None and trace.stopped.line in lines:
        return {"frame": trace.stopped.frame}
    return {"frame": parting} if edit.everywhere or _below(lines, trace) else None


def _of_line(line: int, trace: Trace, parting: int) -> dict[str, Any] | None:
    if line not in trace.lines:
        return None
    runs = trace.lines[line]
    facts: dict[str, Any] = {"frame": _nearest([first for first, _, _ in runs], parting)}
    facts["times"] = sum(count for _, _, count in runs)
    changes = [change for change in trace.changes if change.line == line]
    if changes:
        frame = _nearest([change.frame for change in changes], parting)
        change = next(each for each in changes if each.frame == frame)
        facts |= {"frame": frame, "old": change.old, "new": change.new, "changed": change.name}
        if change.cause >= 0:
            facts["set_off"] = str(trace.events[change.cause].event)
    tests = [test for test in trace.tests if test.line == line]
    if tests:
        frame = _nearest([test.frame for test in tests], parting)
        test = next(each for each in tests if each.frame == frame)
        facts |= {"frame": frame, "asked": test.text, "answer": "yes" if test.answer else "no"}
        if test.parts:
            facts["values"] = test.parts
    return facts


def _nearest(frames: list[int], parting: int) -> int:
    """The last of some frames that is not after the parting, else the first."""
    earlier = [frame for frame in frames if frame <= parting]
    return earlier[-1] if earlier else frames[0]


def _below(lines: list[int], trace: Trace) -> bool:
    """Whether a line just below ran: the heads of handlers and branches leave no record of their own."""
    return any(line + more in trace.lines for line in lines for more in (1, 2))
