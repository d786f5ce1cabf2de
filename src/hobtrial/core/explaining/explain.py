"""Verdicts → Findings: what went wrong, in which line, and why, as far as the evidence goes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from ..events import PAIR_EVENTS
from ..judging import HELD, Played, Prepared, failed_checks, first_parting, play_all, reference_of
from ..script import Script, Unreadable, mend
from ..script.tree import apply, changed_lines, changes_of, origins
from ..trial import Observable, Trace
from .catalogue import QUESTIONS, SUMMARIES, fill, moment, sentence
from .finding import CheckRef, Confidence, Edit, Finding, Fix, Line
from .one_change import Budget, Tried, agrees, search
from .recognition import Seen
from .slips.order import narrower, recognise
from .slips.slip import Facts
from .subject import Subject
from .why import Cause, why

MOST_ROUNDS: Final = 6
"""Mistakes explained one on top of the other in one script."""


@dataclass(frozen=True, slots=True)
class Explanation:
    """The findings of one script, those that explain most marks first."""

    findings: tuple[Finding, ...]
    cut_short: bool = False


def explain_unreadable(prepared: Prepared, reading: Unreadable) -> Explanation:
    """The one finding of a text that is not a script, with the line that makes it one, if that was found."""
    first = reading.problems[0]
    facts = {
        "kind": first.kind,
        "line": Line(first.line),
        "message": first.message,
        "instead": first.instead,
        "problems": len(reading.problems),
    }
    fix = _readable_line(prepared, reading)
    lines = tuple(dict.fromkeys(problem.line for problem in reading.problems))
    return Explanation((Finding("unreadable", "shown", lines, first.kind, (), prepared.out_of, facts, fix),))


def _readable_line(prepared: Prepared, reading: Unreadable) -> Fix | None:
    """The advice of every problem put in place of its line, where that makes a script of the text."""
    after = reading.text
    for problem in reading.problems:
        changed = mend(after, problem)
        if changed is None:
            return None
        after = changed
    mended = prepared.read(after)
    if not isinstance(mended, Script):
        return None
    held = [
        verdict
        for run in play_all(prepared, prepared.weave(mended))
        for verdict in run.verdicts
        if verdict.verdict == HELD
    ]
    return Fix(changed_lines(reading.text, after), len(held), 0)


def explain(prepared: Prepared, script: Script, played: list[Played]) -> Explanation:
    """Explains every check that does not hold, one mistake on top of the other.

    `played` are all scenarios for verdicts only; those with a check that does not hold are played
    again with the whole trace.
    """
    budget = Budget()
    chain = _follow(prepared, script, played, budget, steps=True)
    if not _stands(prepared, chain):
        chain = _follow(prepared, script, played, budget, steps=False)
    findings: list[Finding] = []
    for index, link in enumerate(chain.links):
        confidence: Confidence = "likely" if link.rivals else "shown"
        for tried in (link.best, *link.rivals):
            fix = _fix(prepared, script, played, link, tried, first=index == 0)
            findings.append(_finding(prepared, tried, confidence, fix, link.lines))
    findings.extend(_unsettled(prepared, chain))
    ordered = sorted(findings, key=lambda finding: -finding.marks_lost)
    return Explanation(tuple(ordered), budget.spent)


@dataclass(frozen=True, eq=False)
class _Link:
    """One mistake that was found: the script it was found in, and the edits that mend it."""

    base: Script
    lines: tuple[int, ...]
    """For each line of it the line that it comes from in the script as handed in."""
    best: Tried
    rivals: tuple[Tried, ...]


@dataclass(frozen=True, eq=False)
class _Chain:
    """Mistakes found one on top of the other, and the script with all of them mended."""

    links: tuple[_Link, ...]
    script: Script
    lines: tuple[int, ...]
    played: list[Played]


def _follow(prepared: Prepared, script: Script, played: list[Played], budget: Budget, *, steps: bool) -> _Chain:
    """Mends one mistake after the other; with `steps`, also such as do not agree yet."""
    links: list[_Link] = []
    base, now = script, played
    lines = tuple(range(1, len(script.lines) + 1))
    while len(links) < MOST_ROUNDS and any(run.broken for run in now):
        subject = subject_of(prepared, base, now)
        found = [tried for tried in search(prepared, subject, now, budget) if steps or tried.firm]
        if not found:
            break
        links.append(_Link(base, lines, found[0], tuple(_rivals(found))))
        lines = origins(lines, base.text, found[0].edit.spans)
        reading = prepared.read(found[0].text)
        assert isinstance(reading, Script)
        base, now = reading, list(found[0].played)
    return _Chain(tuple(links), base, lines, now)


def subject_of(prepared: Prepared, script: Script, played: Iterable[Played]) -> Subject:
    """A script with the full traces of its broken scenarios."""
    broken = [run for run in played if run.broken and not _loops(run)]
    traces = _traces(prepared, script, broken)
    theirs = {run.number: reference_of(prepared, run) for run in broken}
    about = {run.number: _about(prepared, run) for run in broken}
    parts: dict[int, int] = {}
    for run in broken:
        found = first_parting(about[run.number] & set(run.trace.samples), run.trace, theirs[run.number])
        stop = run.trace.stopped
        parts[run.number] = (
            found.frame if found is not None else stop.frame if stop is not None else run.trace.last_frame
        )
    whole = frozenset().union(*about.values())
    return Subject(prepared, script, traces, theirs, parts, whole, _probes(prepared, script, broken, traces, theirs))


def _probes(
    prepared: Prepared, script: Script, broken: list[Played], traces: dict[int, Trace], theirs: dict[int, Trace]
) -> frozenset[int]:
    """For each cause of a broken check the shortest scenario that shows it: what mends none of them is dropped."""
    causes: dict[tuple[Any, ...], int] = {}
    for run in sorted(broken, key=lambda run: (run.trials * run.trace.planned, run.number)):
        for index, verdict in enumerate(run.verdicts):
            if verdict.verdict != HELD:
                needs = prepared.scenarios[run.number].checks[index].about
                cause = why(verdict, needs, script, traces[run.number], theirs[run.number])
                causes.setdefault(cause.key, run.number)
    return frozenset(causes.values())


def _loops(run: Played) -> bool:
    """Whether a loop went round until its limit: that is the mistake, and its trials are costly."""
    return run.trace.stopped is not None and run.trace.stopped.kind == "loop"


def _about(prepared: Prepared, run: Played) -> frozenset[Observable]:
    """What the checks of a scenario that do not hold are about."""
    return frozenset(
        what
        for index, verdict in enumerate(run.verdicts)
        if verdict.verdict != HELD
        for what in prepared.scenarios[run.number].checks[index].about
    )


def _stands(prepared: Prepared, chain: _Chain) -> bool:
    """Whether every step of a chain came to agree with the reference in the end."""
    return all(link.best.firm or agrees(prepared, link.best.about, chain.played) for link in chain.links)


def _fix(prepared: Prepared, script: Script, played: list[Played], link: _Link, tried: Tried, *, first: bool) -> Fix:
    """The edit as a fix: what it does alone where it does something alone, else on top of those before it."""
    changes = changes_of(link.base.text, tried.edit.spans, link.lines)
    given = tried.edit.shows_reference
    together = Fix(changes, len(tried.mends), len(tried.breaks), on_top=not first, shows_reference=given)
    if first or len(script.lines) != len(link.base.lines):
        return together
    if any(script.lines[span.line - 1] != link.base.lines[span.line - 1] for span in tried.edit.spans):
        return together
    reading = prepared.read(apply(script.text, tried.edit.spans))
    if not isinstance(reading, Script):
        return together
    alone = play_all(prepared, prepared.weave(reading))
    before, after = failed_checks(played), failed_checks(alone)
    if not before - after:
        return together
    return Fix(changes, len(before - after), len(after - before), on_top=False, shows_reference=given)


def _traces(prepared: Prepared, script: Script, played: Iterable[Played]) -> dict[int, Trace]:
    woven = prepared.weave(script)
    return {
        run.number: prepared.play(woven, prepared.scenarios[run.number], run.trial, record=True)
        for run in played
        if run.broken
    }


def _rivals(shown: list[Tried]) -> list[Tried]:
    """Edits of other slips that mend the same checks as the best; the narrower slip stands alone."""
    best = shown[0]
    rivals: dict[str, Tried] = {}
    for tried in shown[1:]:
        edit = tried.edit
        if edit.slip != best.edit.slip and tried.firm and tried.mends == best.mends and not narrower(best.edit, edit):
            rivals.setdefault(edit.slip, tried)
    return list(rivals.values())


def _finding(prepared: Prepared, tried: Tried, confidence: Confidence, fix: Fix, origin: tuple[int, ...]) -> Finding:
    edit = tried.edit
    facts = _as_handed_in({"line": Line(edit.line), **edit.facts, **tried.facts}, origin)
    lines = _lines(edit, facts, origin)
    return Finding(
        slip=edit.slip,
        confidence=confidence,
        lines=lines,
        about=str(tried.facts.get("variable", edit.about)),
        checks=tuple(sorted(tried.mends)),
        marks_lost=_marks(prepared, tried.mends),
        facts=facts,
        fix=fix,
        scenario=tried.scenario,
        frame=tried.facts.get("frame"),
    )


def _lines(edit: Edit, facts: dict[str, Any], origin: tuple[int, ...]) -> tuple[int, ...]:
    """The lines that a finding is about: those that an edit replaces, else the one that it names."""
    replaced = tuple(dict.fromkeys(origin[span.line - 1] for span in edit.spans if span.end > span.start))
    named = facts.get("at_line") or facts.get("line", 0)
    if replaced:
        return replaced
    return (named,) if named else tuple(dict.fromkeys(origin[span.line - 1] for span in edit.spans))


def _marks(prepared: Prepared, refs: Iterable[CheckRef]) -> float:
    return sum(prepared.scenarios[number].checks[index].spec.marks for number, index in refs)


def _as_handed_in(facts: dict[str, Any], origin: tuple[int, ...]) -> dict[str, Any]:
    """Facts of an edited script with the lines of the script as handed in."""
    return {
        key: Line(origin[value - 1]) if isinstance(value, Line) and 0 < value <= len(origin) else value
        for key, value in facts.items()
    }


def _unsettled(prepared: Prepared, chain: _Chain) -> list[Finding]:
    """What no edit explains: what happened, grouped by cause."""
    script, played = chain.script, chain.played
    traces = _traces(prepared, script, played)
    causes: dict[tuple[Any, ...], list[tuple[Cause, CheckRef]]] = {}
    settled: dict[tuple[Any, ...], tuple[str, Facts]] = {}
    for run in played:
        for index, verdict in enumerate(run.verdicts):
            if verdict.verdict != HELD:
                needs = prepared.scenarios[run.number].checks[index].about
                own = traces[run.number]
                theirs = reference_of(prepared, run)
                cause = why(verdict, needs, script, own, theirs)
                slip = recognise(Seen(prepared, script, cause, needs, own, theirs))
                key = cause.key if slip is None else (slip[0], slip[1].get("line") or cause.lines)
                causes.setdefault(key, []).append((cause, (run.number, index)))
                if slip is not None:
                    settled.setdefault(key, slip)
    _follow_up(causes, settled)
    return [
        _recognised(prepared, entries, chain.lines, *settled[key])
        if key in settled
        else _open_finding(prepared, entries, chain.lines)
        for key, entries in causes.items()
    ]


Causes = dict[tuple[Any, ...], list[tuple[Cause, CheckRef]]]


def _follow_up(causes: Causes, settled: dict[tuple[Any, ...], tuple[str, Facts]]) -> None:
    """Puts what happened later in a scenario, or at the same moment, to the one mistake that is settled there."""
    for key in [key for key in causes if key not in settled]:
        kept = []
        for cause, ref in causes[key]:
            roots = [
                root
                for root in settled
                if any(
                    number == ref[0]
                    and first.frame is not None
                    and cause.frame is not None
                    and first.frame <= cause.frame
                    for first, (number, _) in causes[root]
                )
            ]
            if len(roots) == 1:
                causes[roots[0]].append((cause, ref))
            else:
                kept.append((cause, ref))
        if kept:
            causes[key] = kept
        else:
            del causes[key]


def _recognised(
    prepared: Prepared,
    entries: list[tuple[Cause, CheckRef]],
    origin: tuple[int, ...],
    slip: str,
    facts: dict[str, Any],
) -> Finding:
    """A finding that the traces settle without any change that mends."""
    cause, (scenario, _) = entries[0]
    refs = tuple(ref for _, ref in entries)
    given = _as_handed_in({"line": Line(cause.lines[0] if cause.lines else 0), **cause.facts, **facts}, origin)
    line = given.get("line", 0)
    lines = (line,) if line else tuple(origin[each - 1] for each in cause.lines)
    given["event"] = given.get("event") or cause.what
    return Finding(
        slip, "likely", lines, cause.what, refs, _marks(prepared, refs), given, scenario=scenario, frame=cause.frame
    )


def _open_finding(prepared: Prepared, entries: list[tuple[Cause, CheckRef]], origin: tuple[int, ...]) -> Finding:
    cause, (scenario, _) = entries[0]
    refs = tuple(ref for _, ref in entries)
    facts = _as_handed_in({"name": cause.what, "what": cause.what, "own": None, **cause.facts}, origin)
    happened = sentence(cause.kind, facts)
    summary = fill(SUMMARIES[cause.kind], {"kind": "", "event": "", **facts})
    of_pieces = cause.event is not None and cause.event.kind in PAIR_EVENTS
    asking = "event-not-caused" if cause.kind == "event-missing" and not of_pieces else cause.kind
    question = fill(QUESTIONS[asking], {**facts, "moment": moment(cause.frame)})
    quiet = fill(QUESTIONS[asking], {**facts, "moment": "in a scenario that you cannot see"})
    endless = cause.kind == "stopped" and cause.facts.get("kind") == "loop"
    return Finding(
        slip="endless-loop" if endless else "unsettled",
        confidence="shown" if endless else "open",
        lines=tuple(origin[line - 1] for line in cause.lines),
        about=cause.what,
        checks=refs,
        marks_lost=_marks(prepared, refs),
        facts={
            **facts,
            "cause": cause.kind,
            "happened": happened,
            "summary": summary,
            "question": question,
            "quiet_question": quiet,
        },
        scenario=scenario,
        frame=cause.frame,
    )
