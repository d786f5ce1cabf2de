"""Verdicts → Findings: what went wrong, in which line, and why, as far as the evidence goes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from ..events import PAIR_EVENTS
from ..judging import HELD, Played, Prepared, failed_checks, play_all, reference_of
from ..script import Script, Unreadable, mend
from ..trial import Trace
from .catalogue import NARROWER, QUESTIONS, SUMMARIES, fill, moment, sentence
from .edits import apply, changed_lines
from .finding import CheckRef, Confidence, Finding, Fix
from .one_change import Budget, Tried, agrees, search
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
        "line": first.line,
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
    for place, link in enumerate(chain.links):
        confidence: Confidence = "likely" if link.rivals else "shown"
        for tried in (link.best, *link.rivals):
            fix = _fix(prepared, script, played, link.base, tried, first=place == 0)
            findings.append(_finding(prepared, tried, confidence, fix))
    findings.extend(_unsettled(prepared, chain.script, chain.played))
    ordered = sorted(findings, key=lambda finding: (-finding.marks_lost, finding.lines or (10**6,)))
    return Explanation(tuple(ordered), budget.spent)


@dataclass(frozen=True, eq=False)
class _Link:
    """One mistake that was found: the script it was found in, and the edits that mend it."""

    base: Script
    best: Tried
    rivals: tuple[Tried, ...]


@dataclass(frozen=True, eq=False)
class _Chain:
    """Mistakes found one on top of the other, and the script with all of them mended."""

    links: tuple[_Link, ...]
    script: Script
    played: list[Played]


def _follow(prepared: Prepared, script: Script, played: list[Played], budget: Budget, *, steps: bool) -> _Chain:
    """Mends one mistake after the other; with `steps`, also such as do not agree yet."""
    links: list[_Link] = []
    base, now = script, played
    while len(links) < MOST_ROUNDS and any(run.broken for run in now):
        found = [
            tried for tried in search(prepared, base, now, _traces(prepared, base, now), budget) if steps or tried.firm
        ]
        if not found:
            break
        links.append(_Link(base, found[0], tuple(_rivals(found))))
        reading = prepared.read(found[0].text)
        assert isinstance(reading, Script)
        base, now = reading, list(found[0].played)
    return _Chain(tuple(links), base, now)


def _stands(prepared: Prepared, chain: _Chain) -> bool:
    """Whether every step of a chain came to agree with the reference in the end."""
    return all(link.best.firm or agrees(prepared, link.best.about, chain.played) for link in chain.links)


def _fix(prepared: Prepared, script: Script, played: list[Played], base: Script, tried: Tried, *, first: bool) -> Fix:
    """The edit as a fix: what it does alone where it does something alone, else on top of those before it."""
    changes = changed_lines(base.text, tried.text)
    together = Fix(changes, len(tried.mends), len(tried.breaks), on_top=not first)
    if first or any(script.lines[change.line - 1].strip() != change.before for change in changes):
        return together
    reading = prepared.read(apply(script.text, tried.edit))
    if not isinstance(reading, Script):
        return together
    alone = play_all(prepared, prepared.weave(reading))
    before, after = failed_checks(played), failed_checks(alone)
    return Fix(changes, len(before - after), len(after - before), on_top=False) if before - after else together


def _traces(prepared: Prepared, script: Script, played: Iterable[Played]) -> dict[int, Trace]:
    woven = prepared.weave(script)
    return {
        run.number: prepared.play(woven, prepared.courses[run.number], run.trial, record=True)
        for run in played
        if run.broken
    }


def _rivals(shown: list[Tried]) -> list[Tried]:
    """Edits of other slips that mend the same checks as the best; the narrower slip stands alone."""
    best = shown[0]
    rivals: dict[str, Tried] = {}
    for tried in shown[1:]:
        slip = tried.edit.slip
        if (
            slip != best.edit.slip
            and tried.firm
            and tried.mends == best.mends
            and (best.edit.slip, slip) not in NARROWER
        ):
            rivals.setdefault(slip, tried)
    return list(rivals.values())


def _finding(prepared: Prepared, tried: Tried, confidence: Confidence, fix: Fix) -> Finding:
    edit = tried.edit
    facts = {"line": edit.line, **edit.facts, **tried.facts}
    lines = tuple(dict.fromkeys(span.line for span in edit.spans))
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


def _marks(prepared: Prepared, refs: Iterable[CheckRef]) -> float:
    return sum(prepared.courses[number].checks[place].check.marks for number, place in refs)


def _unsettled(prepared: Prepared, script: Script, played: list[Played]) -> list[Finding]:
    """What no edit explains: what happened, grouped by cause."""
    traces = _traces(prepared, script, played)
    causes: dict[tuple[Any, ...], list[tuple[Cause, CheckRef]]] = {}
    for run in played:
        for place, verdict in enumerate(run.verdicts):
            if verdict.verdict != HELD:
                needs = prepared.courses[run.number].checks[place].about
                cause = why(
                    verdict,
                    needs,
                    script,
                    traces[run.number],
                    reference_of(prepared, run),
                )
                causes.setdefault(cause.key, []).append((cause, (run.number, place)))
    return [_open_finding(prepared, entries) for entries in causes.values()]


def _open_finding(prepared: Prepared, entries: list[tuple[Cause, CheckRef]]) -> Finding:
    cause, (scenario, _) = entries[0]
    refs = tuple(ref for _, ref in entries)
    facts: dict[str, Any] = {"name": cause.what, "what": cause.what, "own": None, **cause.facts}
    happened = sentence(cause.kind, facts)
    summary = fill(SUMMARIES[cause.kind], {"kind": "", "event": "", **facts})
    of_pieces = cause.facts.get("event", "").startswith(PAIR_EVENTS)
    asking = "event-not-caused" if cause.kind == "event-missing" and not of_pieces else cause.kind
    question = fill(QUESTIONS[asking], {**facts, "moment": moment(cause.frame)})
    endless = cause.kind == "stopped" and cause.facts.get("kind") == "loop"
    return Finding(
        slip="endless-loop" if endless else "unsettled",
        confidence="shown" if endless else "open",
        lines=cause.lines,
        about=cause.what,
        checks=refs,
        marks_lost=_marks(prepared, refs),
        facts={**facts, "cause": cause.kind, "happened": happened, "summary": summary, "question": question},
        scenario=scenario,
        frame=cause.frame,
    )
