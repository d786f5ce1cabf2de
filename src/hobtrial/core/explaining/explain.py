"""Verdicts → Findings: what went wrong, in which line, and why, as far as the evidence goes."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

from ..judging import HELD, Examination, Played, Prepared, failed_checks, parting, play_all, reference_of
from ..script import Script, Unreadable, mend
from ..script.tree import Span, apply, changed_lines, changes_of, first_line, functions, last_line
from ..trial import Observable
from .catalogue import moment_in
from .chain import Chain, Link, about_broken, chain_of, marks_of
from .finding import CheckRef, Confidence, Edit, Finding, Fix, Line, as_handed_in
from .subject import Subject
from .tried import Budget, Tried
from .trying import witnessed
from .unsettled import unsettled


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
    if not any(run.broken for run in played):
        return Explanation(())
    budget = Budget(Examination(prepared, prepared.weave(script)))
    chain = chain_of(prepared, script, played, budget)
    findings: list[Finding] = []
    for index, link in enumerate(chain.links):
        refs, part = _checks(chain, index)
        if findings and not _handed_in(script, link):  # it mends what the change before it wrote
            last = findings[-1]
            whole = tuple(sorted({*last.checks, *refs}))
            findings[-1] = replace(last, checks=whole, marks_lost=last.marks_lost + marks_of(prepared, refs))
            continue
        if not refs:
            continue  # it led nowhere
        part *= 1 + len(link.rivals)
        for tried in (link.best, *link.rivals):
            fix = _fix(prepared, script, played, link, tried, first=index == 0)
            found = _finding(prepared, chain, link, tried, fix, first=index == 0)
            if _comes_later(prepared, chain, link):
                found = replace(found, confidence="likely")
            findings.append(replace(found, checks=refs, marks_lost=marks_of(prepared, refs) / part))
    findings.extend(unsettled(prepared, played, chain))
    ordered = sorted(findings, key=lambda finding: -finding.marks_lost)
    return Explanation(tuple(ordered), budget.spent)


def _comes_later(prepared: Prepared, chain: Chain, link: Link) -> bool:
    """Whether something that nothing mends went wrong before each thing that a change mends: it may follow from it."""
    mended: dict[int, set[Observable]] = {}
    for number, index in link.best.mends:
        mended.setdefault(number, set()).update(prepared.scenarios[number].checks[index].about)
    return bool(mended) and all(
        _first_parting(prepared, chain.played[number], about_broken(prepared, chain.played[number]))
        < _first_parting(prepared, chain.first[number], about)
        for number, about in mended.items()
    )


def _first_parting(prepared: Prepared, run: Played, about: Iterable[Observable]) -> float:
    """The frame in which a run parts from the reference's on something, or none."""
    theirs = reference_of(prepared, run)
    found = [parting(what, run.trace, theirs) for what in about if what in run.trace.samples]
    return min((each.frame for each in found if each is not None), default=math.inf)


def _handed_in(script: Script, link: Link) -> bool:
    """Whether the functions that an edit changes stand in the script as it was handed in."""
    own = {each.name for each in functions(script.tree)}
    changed = {span.line for span in link.best.edit.spans}
    return not any(
        each.name not in own and any(first_line(each) <= line <= last_line(each) for line in changed)
        for each in functions(link.base.tree)
    )


def _checks(chain: Chain, index: int) -> tuple[tuple[CheckRef, ...], int]:
    """The checks that a mistake broke, and among how many mistakes they are shared: a step mends with the next ones."""
    first = index
    while first > 0 and not chain.links[first - 1].best.mends:
        first -= 1
    last = index
    while last < len(chain.links) - 1 and not chain.links[last].best.mends:
        last += 1
    return tuple(sorted(chain.links[last].best.mends)), last - first + 1


def _fix(prepared: Prepared, script: Script, played: list[Played], link: Link, tried: Tried, *, first: bool) -> Fix:
    """The edit as a fix: what it does alone where it does something alone, else on top of those before it."""
    changes = changes_of(link.base.text, tried.edit.spans, link.lines)
    given = tried.edit.shows_reference
    together = Fix(changes, len(tried.mends), 0, on_top=not first, shows_reference=given)
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


def _finding(prepared: Prepared, chain: Chain, link: Link, tried: Tried, fix: Fix, *, first: bool) -> Finding:
    """A finding, with evidence from runs of the script as it was handed in only."""
    edit = tried.edit
    seen, scenario = tried.facts, tried.scenario
    if not first:
        seen, scenario = _seen_there(chain.handed_in, link, tried)
    if seen.get("frame") is not None:
        seen = {**seen, "when": moment_in(prepared, scenario, chain.first[scenario].trial, seen["frame"])}
    facts = {**as_handed_in({"line": Line(edit.line), **edit.facts}, link.lines), **_told(seen, link, first=first)}
    confidence: Confidence = "shown" if link.shown else "likely"
    return Finding(
        slip=edit.slip,
        confidence=confidence,
        lines=_lines(edit, facts, link.lines),
        about=str(seen.get("variable", edit.about)),
        checks=(),
        marks_lost=0,
        facts=facts,
        fix=fix,
        scenario=scenario,
        frame=seen.get("frame"),
    )


def _told(seen: dict[str, Any], link: Link, *, first: bool) -> dict[str, Any]:
    """What the runs show, with lines of the script as handed in."""
    return as_handed_in(seen, link.lines) if first else seen


def _seen_there(handed_in: Subject, link: Link, tried: Tried) -> tuple[dict[str, Any], int]:
    """What the script's own runs show of a mistake that was found with others mended: perhaps nothing at all."""
    edit = tried.edit
    there = {span.line: link.lines[span.line - 1] for span in edit.spans}
    same = all(link.base.lines[line - 1] == handed_in.script.lines[origin - 1] for line, origin in there.items())
    if same:
        spans = tuple(Span(there[span.line], span.start, span.end, span.text) for span in edit.spans)
        moved = replace(edit, spans=spans, facts=as_handed_in(edit.facts, link.lines))
        numbers = {number for number, _ in tried.mends} & set(handed_in.traces)
        found = witnessed(moved, numbers, handed_in)
        if found is not None:
            return found
    return {}, tried.scenario


def _lines(edit: Edit, facts: dict[str, Any], origin: tuple[int, ...]) -> tuple[int, ...]:
    """The lines that a finding is about: those that an edit replaces, else the one that it names."""
    if "about_lines" in edit.facts:
        return tuple(dict.fromkeys(origin[line - 1] for line in edit.facts["about_lines"]))
    replaced = tuple(dict.fromkeys(origin[span.line - 1] for span in edit.spans if span.end > span.start))
    named = facts.get("at_line") or facts.get("line", 0)
    if replaced:
        return (*replaced, facts["made_by"]) if "made_by" in facts else replaced
    return (named,) if named else tuple(dict.fromkeys(origin[span.line - 1] for span in edit.spans))
