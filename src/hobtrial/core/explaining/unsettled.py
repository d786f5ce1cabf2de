"""What no change explains: what happened, grouped by cause, from the runs of the script as it was handed in."""

from __future__ import annotations

from typing import Any, Final

from ..events import PAIR_EVENTS
from ..judging import HELD, Played, Prepared, reference_of
from ..script import Script
from ..trial import Trace
from .catalogue import QUESTIONS, SUMMARIES, fill, moment_in, sentence
from .chain import Chain, marks_of, traces_of
from .finding import CheckRef, Finding, Line
from .recognition import Seen
from .saying import capital, happened, thing
from .slips.order import recognise
from .slips.slip import Facts
from .why import Cause, why

Causes = dict[tuple[Any, ...], list[tuple[Cause, CheckRef]]]
Settled = dict[tuple[Any, ...], tuple[str, Facts]]
FOLLOWS: Final = ("event-missing", "only-seen", "not-reached", "no-change", "turned-away", "not-shown", "never-set")
"""What did not happen: later in a scenario it follows from what went wrong there first."""


def unsettled(prepared: Prepared, played: list[Played], chain: Chain) -> list[Finding]:
    """What no edit explains: what happened, grouped by cause. `played` is the script as it was handed in."""
    script = chain.handed_in.script
    left = [run.number for run in chain.played if run.broken]
    missing = [run for run in played if run.number in left and run.number not in chain.handed_in.traces]
    traces = {**chain.handed_in.traces, **traces_of(prepared, script, missing)}
    mended = {ref for link in chain.links for ref in link.best.mends}
    explained = {_cause(prepared, played, script, traces, ref)[0].key for ref in mended if ref[0] in traces}
    causes: Causes = {}
    settled: Settled = {}
    for run in chain.played:
        for index, verdict in enumerate(run.verdicts):
            if verdict.verdict == HELD:
                continue
            ref = (run.number, index)
            cause, seen = _cause(prepared, played, script, traces, ref)
            if chain.links and cause.key in explained:
                about = Cause("hidden", cause.what, frame=None, facts={"expect": verdict.expect}, thing=cause.thing)
                causes.setdefault(about.key, []).append((about, ref))
                continue
            slip = recognise(seen)
            key = cause.key if slip is None else (slip[0], slip[1].get("line") or cause.lines)
            causes.setdefault(key, []).append((cause, ref))
            if slip is not None:
                settled.setdefault(key, slip)
    _follow_up(causes, settled)
    _to_the_first(causes, settled)
    return [
        _recognised(prepared, entries, *settled[key]) if key in settled else _open_finding(prepared, played, entries)
        for key, entries in causes.items()
    ]


def _cause(
    prepared: Prepared, played: list[Played], script: Script, traces: dict[int, Trace], ref: CheckRef
) -> tuple[Cause, Seen]:
    """The cause of a check that does not hold, in the runs of the script as it was handed in."""
    number, index = ref
    run = played[number]
    needs = prepared.scenarios[number].checks[index].about
    own, theirs = traces[number], reference_of(prepared, run)
    cause = why(run.verdicts[index], needs, script, own, theirs)
    return cause, Seen(prepared, script, cause, needs, own, theirs)


def _follow_up(causes: Causes, settled: Settled) -> None:
    """Puts what happened later in a scenario, or at the same moment, to the one mistake that is settled there."""
    for key in [key for key in causes if key not in settled]:
        kept = []
        for cause, ref in causes[key]:
            roots = [root for root in settled if _comes_after(cause, ref, causes[root])]
            if len(roots) == 1:
                causes[roots[0]].append((cause, ref))
            else:
                kept.append((cause, ref))
        if kept:
            causes[key] = kept
        else:
            del causes[key]


def _to_the_first(causes: Causes, settled: Settled) -> None:
    """Puts what did not happen in a scenario to what went wrong there first: a stuck game sticks once."""
    for key in [key for key in causes if key not in settled]:
        kept = []
        for cause, ref in causes[key]:
            earlier = [
                (first.frame, root)
                for root, entries in causes.items()
                if root != key
                for first, (number, _) in entries
                if number == ref[0] and first.frame is not None and cause.frame is not None
                and first.frame < cause.frame
            ]  # fmt: skip
            if earlier and cause.kind in FOLLOWS:
                causes[min(earlier, key=lambda each: each[0])[1]].append((cause, ref))
            else:
                kept.append((cause, ref))
        if kept:
            causes[key] = kept
        else:
            del causes[key]


def _comes_after(cause: Cause, ref: CheckRef, root: list[tuple[Cause, CheckRef]]) -> bool:
    return any(
        number == ref[0] and first.frame is not None and cause.frame is not None and first.frame <= cause.frame
        for first, (number, _) in root
    )


def _recognised(prepared: Prepared, entries: list[tuple[Cause, CheckRef]], slip: str, facts: dict[str, Any]) -> Finding:
    """A finding that the traces settle without any change that mends."""
    cause, (scenario, _) = entries[0]
    refs = tuple(ref for _, ref in entries)
    given = {"line": Line(cause.lines[0] if cause.lines else 0), **cause.facts, **facts}
    line = given.get("line", 0)
    lines = (line,) if line else cause.lines
    given["event"] = given.get("event") or cause.what
    return Finding(
        slip, "likely", lines, cause.what, refs, marks_of(prepared, refs), given, scenario=scenario, frame=cause.frame
    )


def _open_finding(prepared: Prepared, played: list[Played], entries: list[tuple[Cause, CheckRef]]) -> Finding:
    cause, (scenario, _) = entries[0]
    refs = tuple(ref for _, ref in entries)
    facts: dict[str, Any] = {"what": cause.what, **cause.facts}
    when = moment_in(prepared, scenario, played[scenario].trial, cause.frame)
    words = {
        "thing": thing(cause.thing) if cause.thing is not None else cause.what,
        "came": happened(cause.event) if cause.event is not None else "",
        "event": "" if cause.event is None else str(cause.event),
    }
    of_pieces = cause.event is not None and cause.event.kind in PAIR_EVENTS
    asking = "event-not-caused" if cause.kind == "event-missing" and not of_pieces else cause.kind
    quiet = "in a scenario that you cannot see"
    endless = cause.kind == "stopped" and cause.facts.get("kind") == "loop"
    return Finding(
        slip="endless-loop" if endless else "unsettled",
        confidence="shown" if endless else "open",
        lines=cause.lines,
        about=cause.what,
        checks=refs,
        marks_lost=marks_of(prepared, refs),
        facts={
            **facts,
            "cause": cause.kind,
            "happened": sentence(cause, when),
            "summary": capital(fill(SUMMARIES[cause.kind], words)),
            "question": fill(QUESTIONS[asking], {**words, "moment": when}),
            "quiet_question": fill(QUESTIONS[asking], {**words, "moment": quiet}),
        },
        scenario=scenario,
        frame=cause.frame,
    )
