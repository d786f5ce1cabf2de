"""Script → Report: the whole pipeline for one script, in two steps.

`mark` plays and judges; `explained` adds why marks were lost. The second has a budget of its own: where
it ends early the marks stand. The command line, the server and the worker processes all come here, so that
a mark is made in one place.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from ..explaining import (
    Finding,
    advice_on,
    capital,
    explain,
    explain_unreadable,
    sentences,
    value_text,
    what_happened,
)
from ..judging import (
    CraftVerdict,
    Played,
    Prepared,
    Verdict,
    by_concept,
    by_task,
    judge_craft,
    not_looked_at,
    play_all,
    read_predicted,
    shortest_break,
    tidy,
    total,
)
from ..script import Reading, Script, Unreadable, Woven
from ..trial import Trace
from ..words import as_json_value, frame_of
from .report import (
    AdviceReport,
    CheckReport,
    CraftReport,
    Fault,
    FindingReport,
    FixReport,
    PartMarks,
    Predictable,
    ProblemReport,
    Report,
    ScenarioReport,
    Shortest,
    StopReport,
)


@dataclass(frozen=True, eq=False)
class Marked:
    """A script that was played and judged: its report without explanations, and what it was made from."""

    prepared: Prepared
    reading: Reading
    woven: Woven | None
    """Nothing for a text that cannot be read."""
    played: tuple[Played, ...]
    report: Report


def report(prepared: Prepared, name: str, source: str | bytes) -> Report:
    """Marks one script and explains it. `name` is how the report calls it."""
    return explained(mark(prepared, name, source))


def mark(
    prepared: Prepared, name: str, source: str | bytes, ended: Callable[[ScenarioReport], None] | None = None
) -> Marked:
    """Marks one script. `ended` hears of each scenario as it ends."""
    reading = prepared.read(source)
    if isinstance(reading, Unreadable):
        problems = tuple(ProblemReport(**problem.as_json()) for problem in reading.problems)
        craft = [not_looked_at(rule) for rule in prepared.craft]
        made = _marks(prepared, name, (), craft)
        return Marked(prepared, reading, None, (), replace(made, status="unreadable", problems=problems))
    woven = prepared.weave(reading)
    played = tuple(play_all(prepared, woven, lambda run: ended(_scenario(prepared, run)) if ended else None))
    craft = judge_craft(prepared.craft, reading, prepared.alias)
    made = _marks(prepared, name, played, craft)
    advice = tuple(AdviceReport(each.kind, each.lines, each.text) for each in advice_on(prepared, reading))
    return Marked(prepared, reading, woven, played, replace(made, advice=advice))


def explained(marked: Marked) -> Report:
    """The report of a marked script with its findings."""
    prepared, reading, played = marked.prepared, marked.reading, list(marked.played)
    if isinstance(reading, Script):
        explanation = explain(prepared, reading, played)
    else:
        explanation = explain_unreadable(prepared, reading)
    built = craft_findings(marked.report.craft) if isinstance(reading, Script) else []
    made = replace(
        marked.report,
        findings=tuple(_finding(prepared, each, played, reading.text) for each in (*explanation.findings, *built)),
        cut_short=explanation.cut_short,
    )
    return made if marked.woven is None else _with_shortest(prepared, marked.woven, played, made)


def craft_findings(craft: Iterable[CraftReport]) -> list[Finding]:
    """A finding for each line about craft that lost marks: they are lost for a reason like any others."""
    return [
        Finding(
            slip="craft",
            confidence="shown",
            lines=(),
            about=line.expect,
            checks=(),
            marks_lost=line.out_of - line.marks,
            facts={
                "asked": line.expect,
                "reason": capital(line.reason or "it is not so"),
                "because": line.because,
            },
        )
        for line in craft
        if line.marks < line.out_of
    ]


def unmarked(name: str, out_of: float, fault: Fault) -> Report:
    """The report of a script that could not be marked, through no fault of its own."""
    return Report(script=name, status="unmarked", marks=None, out_of=tidy(out_of), fault=fault)


def _marks(prepared: Prepared, name: str, played: tuple[Played, ...], craft: list[CraftVerdict]) -> Report:
    verdicts = [verdict for run in played for verdict in run.verdicts]
    return Report(
        script=name,
        status="stopped" if any(run.trace.stopped for run in played) else "marked",
        marks=tidy(total([*verdicts, *craft])),
        out_of=tidy(prepared.out_of),
        by_concept={key: PartMarks(**part) for key, part in by_concept([*verdicts, *craft]).items()},
        by_task={key: PartMarks(**part) for key, part in by_task(prepared, played, craft).items()},
        craft=tuple(_craft(verdict) for verdict in craft),
        scenarios=tuple(_scenario(prepared, run) for run in played),
    )


def _craft(verdict: CraftVerdict) -> CraftReport:
    return CraftReport(
        verdict.expect,
        verdict.verdict,
        tidy(verdict.marks),
        tidy(verdict.out_of),
        verdict.reason,
        verdict.concept,
        verdict.because,
        verdict.task,
    )


def _scenario(prepared: Prepared, run: Played) -> ScenarioReport:
    trace = run.trace
    return ScenarioReport(
        name=run.name,
        outcome=trace.outcome,
        final={name: as_json_value(value) for name, value in trace.final.items()},
        stopped=StopReport(**trace.stopped.as_json()) if trace.stopped else None,
        frames=trace.last_frame + 1,
        trials=run.trials,
        checks=tuple(_check(verdict) for verdict in run.verdicts),
        trial=run.trial if run.trials > 1 else None,
        predict=_predictable(prepared, run.number, trace),
    )


def _check(verdict: Verdict) -> CheckReport:
    return CheckReport(
        expect=verdict.expect,
        kind=verdict.kind,
        verdict=verdict.verdict,
        marks=tidy(verdict.marks),
        out_of=tidy(verdict.out_of),
        frame=verdict.frame,
        values={name: as_json_value(value) for name, value in verdict.values},
        reason=verdict.reason,
        concept=verdict.concept,
        because=verdict.because,
        span=verdict.span,
        trial=verdict.trial,
    )


def _predictable(prepared: Prepared, number: int, trace: Trace) -> Predictable | None:
    """What the names to be predicted were in this run, in the frame that was asked for."""
    wanted = prepared.scenarios[number].spec.predict
    if wanted is None:
        return None
    frame = min(frame_of(wanted.at), max(trace.last_frame, 0))
    values: dict[str, str] = {}
    for name in wanted.names:
        what = read_predicted(name, prepared.names)
        if what is None:
            told = [line.text for line in trace.story if line.frame <= frame]
            values[name] = told[-1] if told else ""
        elif trace.samples[what].values:
            value = trace.samples[what].at(frame)
            values[name] = str(value) if what.what == "outcome" else value_text(value)
    return Predictable(frame_of(wanted.at), values, wanted.marks)


def _finding(prepared: Prepared, finding: Finding, played: list[Played], text: str) -> FindingReport:
    """A finding with its sentences, and the first of the lines that it is about."""
    words = sentences(finding)
    lines = text.split("\n")
    about = next((line for line in finding.lines if 1 <= line <= len(lines)), None)
    numbers = dict.fromkeys(number for number, _ in finding.checks)
    fix = finding.fix
    return FindingReport(
        slip=finding.slip,
        title=words.title,
        for_class=words.for_class,
        confidence=finding.confidence,
        about=finding.about,
        lines=finding.lines,
        scenarios=tuple(prepared.scenarios[number].spec.name for number in numbers),
        checks=finding.checks,
        marks_lost=tidy(finding.marks_lost),
        scenario=finding.scenario,
        frame=finding.frame,
        happened=tuple(what_happened(prepared, finding, played)),
        nudge=words.nudge,
        quiet=words.quiet,
        pointer=words.pointer,
        fix=None if fix is None else FixReport(
            fix.changes[0].line, fix.changes[0].before, fix.changes[0].after,
            fix.mends, fix.breaks, fix.on_top, fix.shows_reference,
            fix.changes,
        ),
        note=words.note,
        excerpt=lines[about - 1].strip() if about is not None else "",
    )  # fmt: skip


def _with_shortest(prepared: Prepared, woven: Woven, played: list[Played], made: Report) -> Report:
    """Beside a check that a wild run breaks, the shortest inputs that still do."""
    for run in played:
        for index, evidence in shortest_break(prepared, woven, run).items():
            found = Shortest(**evidence)
            scenario = made.scenarios[run.number]
            checks = [
                replace(check, shortest=found) if number == index else check
                for number, check in enumerate(scenario.checks)
            ]
            scenarios = [
                replace(each, checks=tuple(checks)) if number == run.number else each
                for number, each in enumerate(made.scenarios)
            ]
            findings = [
                replace(each, happened=(*each.happened[:2], f"{capital(found.words)}."))
                if each.scenario == run.number and (run.number, index) in each.checks
                else each
                for each in made.findings
            ]
            made = replace(made, scenarios=tuple(scenarios), findings=tuple(findings))
    return made
