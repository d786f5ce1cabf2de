"""The why-chain of a broken check: from its value back to the line that made it so.

Every cause is read off the two full traces, the script's and the reference's. Where they do not
tell, the cause says only what happened.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any, Literal

from ..events import TIME_EVENTS, Event
from ..judging import CLOSE, NOT_REACHED, Parting, Verdict, parting
from ..script import Script
from ..script.tree import calls, functions, walk
from ..trial import OUTCOME, Answered, Change, Observable, Trace, same_words
from ..words import UNSET
from .finding import Line

COUNTS = ("told", "said", "sounded", "sent", "asked", "times")
"""What is observed as a number of times: 0 until it happens."""
POLLED = ("frame", "held")
"""Events in which a script can look at everything by itself."""

CauseKind = Literal[
    "stopped",
    "never-set",
    "event-missing",
    "no-handler",
    "turned-away",
    "no-change",
    "other-value",
    "extra-change",
    "not-shown",
    "only-seen",
    "not-reached",
    "hidden",
]


@dataclass(frozen=True, slots=True)
class Cause:
    """Why a check does not hold, as far as the traces tell. `facts` fill a sentence of the catalogue."""

    kind: CauseKind
    what: str
    lines: tuple[int, ...] = ()
    frame: int | None = None
    facts: dict[str, Any] = field(default_factory=dict, hash=False)
    event: Event | None = None
    """What should have set it off, or did."""
    thing: Observable | None = None
    """What it is about; nothing where the script was stopped."""

    @property
    def key(self) -> tuple[Any, ...]:
        """Causes with the same key are one finding."""
        if self.kind == "stopped":
            return ("stopped", self.lines, self.facts.get("kind"))
        if self.kind == "event-missing" and "piece" in self.facts:
            return (self.kind, self.facts["piece"], self.facts["gone_line"])
        if self.kind in ("event-missing", "no-handler", "no-change", "turned-away"):
            return (self.kind, self.lines, _family(self.event))
        return (self.kind, self.what, self.lines)


def why(verdict: Verdict, needs: Iterable[Observable], script: Script, own: Trace, reference: Trace) -> Cause:
    """The cause of a check that is broken or was not reached."""
    if own.stopped is not None and (verdict.verdict == NOT_REACHED or own.stopped.frame < 0):
        return stopped(own)
    needs = list(needs)
    if verdict.verdict == NOT_REACHED:
        missing = [name for name in own.unarranged if any(str(what) == name for what in needs)]
        if missing:
            about = next(what for what in needs if str(what) == missing[0])
            return Cause("never-set", missing[0], facts={"reason": verdict.reason}, thing=about)
    for what in needs:
        if own.samples[what].values and all(value is UNSET for value in own.samples[what].values):
            return _never(what)
    partings = [found for found in (parting(what, own, reference) for what in needs) if found is not None]
    settled = verdict.frame if verdict.frame is not None else own.last_frame
    before = [found for found in partings if found.frame <= settled]
    if not before:
        if own.stopped is not None:
            return stopped(own)
        what = needs[0] if needs else OUTCOME
        if verdict.verdict == NOT_REACHED:
            return Cause("not-reached", str(what), facts={"reason": verdict.reason}, thing=what)
        return Cause(
            "only-seen",
            str(what),
            frame=settled,
            facts={"own": own.value(what, settled), "at": settled},
            thing=what,
        )
    return _of_parting(min(before, key=lambda found: found.frame), script, own, reference)


def stopped(own: Trace) -> Cause:
    """The script was stopped: by an exception that nobody caught, or by a limit."""
    stop = own.stopped
    assert stop is not None
    facts = {
        "kind": stop.kind,
        "message": stop.message,
        "line": Line(stop.line),
        "handler": stop.handler,
        "limit": stop.limit,
    }
    return Cause(
        "stopped", stop.kind, (stop.line,) if stop.line else (), max(stop.frame, 0), {**facts, "at": stop.frame}
    )


def _never(what: Observable) -> Cause:
    if what.what == "board":
        return Cause("not-shown", str(what), facts={"label": what.name}, thing=what)
    return Cause("never-set", str(what), facts={"name": str(what)}, thing=what)


def _of_parting(found: Parting, script: Script, own: Trace, reference: Trace) -> Cause:
    """What the script did, or did not do, where the two runs part."""
    what = found.what
    facts: dict[str, Any] = {"name": str(what), "own": found.own, "reference": found.reference, "at": found.frame}
    own_changed = found.own_changed and not (what.what in COUNTS and found.own == 0)  # nothing has happened yet
    mine = _last_store(what, own, found.frame) if own_changed else None
    if own_changed and mine is not None:
        by = _event(own, mine.cause)
        facts |= {"old": mine.old, "event": "" if by is None else str(by), "line": Line(mine.line)}
        kind: CauseKind = "other-value" if found.reference_changed else "extra-change"
        return Cause(kind, str(what), (mine.line,), found.frame, facts, by, what)
    if own_changed:
        return Cause("only-seen", str(what), (), found.frame, facts, thing=what)
    theirs = _last_store(what, reference, found.frame)
    if theirs is None:
        return Cause("only-seen", str(what), (), found.frame, facts, thing=what)
    event = _event(reference, theirs.cause)
    facts["event"] = "" if event is None else str(event)
    polled = any(came.handlers and came.event.kind in POLLED for came in own.events)
    polled = polled or (event is not None and event.kind in TIME_EVENTS and bool(calls(script.tree, "wait")))
    if event is None or event.kind in (*POLLED, "start"):
        return Cause("no-change", str(what), (), found.frame, facts, event, what)  # a script may do without this event
    came = [
        number
        for number, each in enumerate(own.events)
        if each.event == event and abs(each.frame - theirs.frame) <= CLOSE
    ]
    if not came and event.kind in TIME_EVENTS:  # they come by themselves: where none is noted, no handler waits
        return Cause("no-change" if polled else "no-handler", str(what), (), found.frame, facts, event, what)
    if not came:
        gone = _gone(own, event, found.frame)
        lines = (gone["gone_line"],) if gone else ()
        return Cause("event-missing", str(what), lines, found.frame, {**facts, **gone}, event, what)
    handlers = [(own.events[number].handlers, own.events[number].lines, number) for number in came]
    if not any(names for names, _, _ in handlers):
        # a script that looks at every frame, or enters the place itself, needs no handler for it
        kind = "no-change" if polled or event.kind == "entered" else "no-handler"
        return Cause(kind, str(what), (), found.frame, facts, event, what)
    names, began, number = next(entry for entry in handlers if entry[0])
    facts |= {"handler": names[-1], "line": Line(began[-1])}
    test = _turned_away(script, what, own, number)
    if test is not None:
        facts |= {"line": Line(test.line), "test": test.text, "answer": test.answer, "values": dict(test.parts)}
        facts |= _since(own, test)
        lines = (test.line, *((facts["since_line"],) if "since_line" in facts else ()))
        return Cause("turned-away", str(what), lines, found.frame, facts, event, what)
    return Cause("no-change", str(what), (began[-1],), found.frame, facts, event, what)


def _since(own: Trace, test: Answered) -> dict[str, Any]:
    """Where a test asks for a variable that is yes or no: the line that made it so, and when."""
    for text, value in test.parts:
        stores = [change for change in own.changes if change.name.split(".")[-1] == text.split(".")[-1]]
        earlier = [change for change in stores if 0 <= change.frame <= test.frame and change.differs]
        if isinstance(value, bool) and earlier and earlier[-1].new is value:
            return {"since_name": text, "since_line": Line(earlier[-1].line), "since_at": earlier[-1].frame}
    return {}


def _family(event: Event | None) -> tuple[str, ...]:
    """An event without the numbers of its pieces: `meets(hob, bun_2)` and `…bun_3` are of one family."""
    return () if event is None else (event.kind, *(re.sub(r"_?\d+", "", str(each)) for each in event.about))


def _gone(own: Trace, event: Event, frame: int) -> dict[str, Any]:
    """The piece of an event that the script had removed before, since when and by which line."""
    for name in map(str, event.about):
        history = own.pieces.get(name, {}).get("removed", [])
        line = own.removals.get(name)
        for at, removed in history:
            if removed and at <= frame and line:
                return {"piece": name, "gone_at": at, "gone_line": Line(line)}
    return {}


def _last_store(what: Observable, trace: Trace, frame: int) -> Change | None:
    """The last store of a thing at or shortly before a frame, as a change."""
    if what.what == "board":
        shown = [each for each in trace.board if each.label == what.name and each.frame <= frame]
        if not shown:
            return None
        last = shown[-1]
        old = shown[-2].value if len(shown) > 1 else UNSET
        return Change(
            last.frame, last.line, None, "script", str(what), old, last.value, _cause_at(trace, last.frame, last.line)
        )
    if what.what in ("told", "said"):
        words = same_words(what.name)
        told = [line for line in trace.story if line.frame <= frame and words in same_words(line.text)]
        if not told:
            return None
        line = told[-1]
        return Change(
            line.frame, line.line, None, "script", str(what), None, line.text, _cause_at(trace, line.frame, line.line)
        )
    name = (
        "outcome"
        if what.what == "outcome"
        else trace.bound.get(what.name, "")
        if what.what == "variable"
        else str(what)
    )
    stores = [
        change for change in trace.changes if change.scope == "script" and change.name == name and change.frame <= frame
    ]
    return stores[-1] if stores else None


def _cause_at(trace: Trace, frame: int, line: int) -> int:
    """The event in whose handler a line ran in a frame."""
    best = -1
    for number, came in enumerate(trace.events):
        if came.frame == frame and came.handlers and any(start <= line for start in came.lines):
            best = number
    return best


def _event(trace: Trace, cause: int) -> Event | None:
    return trace.events[cause].event if cause >= 0 else None


def _turned_away(script: Script, what: Observable, own: Trace, number: int) -> Answered | None:
    """The last test of a handler's run that answered no and whose branch would have made the change."""
    refused = [test for test in own.tests if test.cause == number and not test.answer]
    leading = [test for test in reversed(refused) if guards(script, test.line, what, own)]
    return max(leading, key=_how_far, default=None)


def _how_far(test: Answered) -> int:
    """How many parts of a test were said yes to: in a row of branches the one that nearly ran is the one to look at."""
    return sum(bool(value) for _, value in test.parts)


def guards(script: Script, line: int, what: Observable, own: Trace) -> bool:
    """Whether the branch under the tests of a line leads to a store of a thing, directly or by a function."""
    branches = [node for node in walk(script.tree) if isinstance(node, (ast.If, ast.While)) and node.lineno == line]
    return any(_stores(script, statement, what, own, frozenset()) for node in branches for statement in node.body)


def _stores(script: Script, node: ast.AST, what: Observable, own: Trace, seen: frozenset[str]) -> bool:
    wanted = own.bound.get(what.name, what.name) if what.what == "variable" else str(what)
    calls = {
        "outcome": {"win", "lose"},
        "board": {"board"},
        "told": {"tell", "print", "win", "lose"},
        "said": {"tell"},
    }.get(what.what, set())
    for inner in walk(node):
        match inner:
            case ast.Name(id=name, ctx=ast.Store()) if name == wanted:
                return True
            case ast.Attribute(value=ast.Name(id=owner), attr=attr, ctx=ast.Store()) if f"{owner}.{attr}" == wanted:
                return True
            case ast.Call(func=ast.Name(id=name)) if name in calls:
                return True
            case ast.Call(func=ast.Name(id=name)) if name not in seen:
                bodies = [each for each in functions(script.tree) if each.name == name]
                if any(_stores(script, each, what, own, seen | {name}) for each in bodies):
                    return True
    return False
