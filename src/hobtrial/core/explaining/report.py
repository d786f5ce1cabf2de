"""Script → Report: the whole pipeline for one script, as the JSON that everything else shows.

The command line, the server and the worker processes all call `report`, so that a mark is made in
one place.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, Final

from ..judging import (
    HELD,
    CraftVerdict,
    Played,
    Prepared,
    by_concept,
    by_task,
    judge_craft,
    not_looked_at,
    play_all,
    shortest_break,
    tidy,
    total,
)
from ..script import Script, Unreadable, Woven, is_handler
from ..trial import variable
from ..words import frame_of, seconds_of
from .catalogue import HIDDEN_NAME, NO_HANDLERS, UNREADABLE, moment, texts, value_text
from .explain import Explanation, explain, explain_unreadable
from .finding import Finding
from .wording import SLIPS

Report = dict[str, Any]

EDITION: Final = 3
"""Of marking and explaining. Raise it when a report of the same script would come out differently."""


def report(
    prepared: Prepared,
    name: str,
    source: str | bytes,
    *,
    explained: bool = True,
    ended: Callable[[Played], None] | None = None,
) -> Report:
    """Marks one script and explains it, unless only the marks are asked for.

    `name` is how the report calls it; `ended` hears of each scenario as it ends.
    """
    reading = prepared.read(source)
    if isinstance(reading, Unreadable):
        explanation = explain_unreadable(prepared, reading)
        problems = [problem.as_json() for problem in reading.problems]
        found = _report(prepared, name, "unreadable", [], explanation, problems)
        _add_excerpts(found, reading.text)
        return found
    woven = prepared.weave(reading)
    played = play_all(prepared, woven, ended)
    explanation = explain(prepared, reading, played) if explained else Explanation(())
    status = "stopped" if any(run.trace.stopped for run in played) else "marked"
    craft = judge_craft(prepared.craft, reading, prepared.alias)
    found = _report(prepared, name, status, played, explanation, [], craft)
    _add_excerpts(found, reading.text)
    if explained:
        _add_shortest(prepared, woven, played, found)
    return {**found, "advice": advice(prepared, reading)}


def _add_excerpts(found: Report, text: str) -> None:
    """With each finding the first of the lines that it is about."""
    lines = text.split("\n")
    for finding in found["findings"]:
        about = next((line for line in finding["lines"] if 1 <= line <= len(lines)), None)
        finding["excerpt"] = lines[about - 1].strip() if about is not None else ""


def _add_shortest(prepared: Prepared, woven: Woven, played: list[Played], found: Report) -> None:
    """Beside a check that a wild run breaks, the shortest inputs that still do."""
    for run in played:
        shortest = shortest_break(prepared, woven, run)
        for place, evidence in shortest.items():
            found["scenarios"][run.number]["checks"][place]["shortest"] = evidence
            words = f"{evidence['words'][0].upper()}{evidence['words'][1:]}."
            for finding in found["findings"]:
                if finding["scenario"] == run.number and [run.number, place] in finding["checks"]:
                    finding["happened"] = [*finding["happened"][:2], words]


def advice(prepared: Prepared, script: Script) -> list[dict[str, Any]]:
    """What costs no marks and is worth a word."""
    found: list[dict[str, Any]] = []
    if not script.straight and not any(is_handler(node) for node in script.tree.body):
        found.append({"kind": "no-handlers", "lines": [], "text": NO_HANDLERS})
    observed = {what.what for course in prepared.courses for what in course.observe}
    for name in sorted(script.globals & {"clock", "outcome", "place"} & observed):
        found.append({"kind": "hidden-name", "lines": [], "text": HIDDEN_NAME.format(name=name)})
    return found


def _report(
    prepared: Prepared,
    name: str,
    status: str,
    played: list[Played],
    explanation: Explanation,
    problems: list[Any],
    craft: Sequence[CraftVerdict] = (),
) -> Report:
    verdicts = [verdict for run in played for verdict in run.verdicts]
    craft = craft or [not_looked_at(rule) for rule in prepared.craft]
    return {
        "script": name,
        "status": status,
        "marks": tidy(total([*verdicts, *craft])),
        "out_of": tidy(prepared.out_of),
        "problems": problems,
        "by_concept": by_concept([*verdicts, *craft]),
        "by_task": by_task(prepared, played, craft),
        "craft": [verdict.as_json() for verdict in craft],
        "scenarios": [{**run.as_json(), **_predicted(prepared, run)} for run in played],
        "findings": [finding_json(prepared, finding, played) for finding in explanation.findings],
        "advice": [],
        "cut_short": explanation.cut_short,
    }


def _predicted(prepared: Prepared, run: Played) -> dict[str, Any]:
    """What the names to be predicted were in this run, in the frame that was asked for."""
    wanted = prepared.courses[run.number].scenario.predict
    if wanted is None:
        return {}
    frame = min(frame_of(wanted.at), max(run.trace.last_frame, 0))
    samples = run.trace.samples
    values = {
        name: value_text(samples[variable(name)].at(frame)) for name in wanted.names if samples[variable(name)].values
    }
    return {"predict": {"frame": frame_of(wanted.at), "values": values}}


def finding_json(prepared: Prepared, finding: Finding, played: list[Played]) -> dict[str, Any]:
    """A finding as the report shows it, with its sentences."""
    facts = dict(finding.facts)
    if finding.slip == "unreadable":
        facts["kind"] = UNREADABLE[facts["kind"]]
    if finding.fix is not None:
        facts["mends"] = finding.fix.mends
    words = texts(SLIPS[finding.slip], facts)
    names = [prepared.courses[number].scenario.name for number in dict.fromkeys(number for number, _ in finding.checks)]
    return {
        "slip": finding.slip,
        "title": words["title"],
        "for_class": words["for_class"],
        "confidence": finding.confidence,
        "about": finding.about,
        "lines": list(finding.lines),
        "scenarios": names,
        "checks": [[number, place] for number, place in finding.checks],
        "marks_lost": tidy(finding.marks_lost),
        "scenario": finding.scenario,
        "frame": finding.frame,
        "happened": happened(finding, played),
        "nudge": words["nudge"],
        "quiet": words["quiet"],
        "pointer": words["pointer"],
        "fix": finding.fix.as_json() if finding.fix else None,
        "note": words["note"],
    }


def happened(finding: Finding, played: list[Played]) -> list[str]:
    """What happened, in three sentences at most: what was seen, what was asked, what the brief says."""
    refs = [(number, place) for number, place in finding.checks if number == finding.scenario] or list(finding.checks)
    if not refs or not played:
        return []
    number, place = refs[0]
    verdict = played[number].verdicts[place]
    if verdict.verdict == HELD:  # another mistake hid it until that one was mended
        return [f"This shows once the other mistakes are mended: `{verdict.expect}`."]
    sentences: list[str] = []
    if verdict.frame is not None and verdict.values:
        values = " and ".join(f"`{name}` was {value_text(value)}" for name, value in verdict.values)
        start = moment(verdict.frame)
        sentences.append(f"{start[0].upper()}{start[1:]} {values}.")
    elif verdict.reason:
        stop = played[number].trace.stopped
        when = f" at {seconds_of(stop.frame):.2f} s" if stop is not None and stop.frame >= 0 else ""
        sentences.append(
            f"The script stopped{when}, before this could be seen."
            if stop is not None
            else f"{verdict.reason[0].upper()}{verdict.reason[1:]}."
        )
    if verdict.because:
        sentences.append(verdict.because)
    return sentences[:3]


def halted(name: str, out_of: float, message: str, scenarios: Sequence[dict[str, Any]] = ()) -> Report:
    """The report of a script whose worker had to be ended from outside: what it showed until then, and why."""
    marks = sum(check["marks"] for scenario in scenarios for check in scenario["checks"])
    return {
        "script": name,
        "status": "stopped",
        "marks": tidy(marks),
        "out_of": tidy(out_of),
        "problems": [],
        "by_concept": {},
        "by_task": {},
        "craft": [],
        "scenarios": list(scenarios),
        "findings": [
            {
                "slip": "unsettled",
                "title": "The script was stopped from outside",
                "for_class": "The script was stopped from outside",
                "confidence": "open",
                "about": "",
                "lines": [],
                "scenarios": [],
                "checks": [],
                "marks_lost": tidy(out_of - marks),
                "scenario": None,
                "frame": None,
                "happened": [message],
                "nudge": "What could take so long, or grow so large, in this script?",
                "quiet": "What could take so long, or grow so large, in this script?",
                "pointer": message,
                "fix": None,
                "note": "This is a guard of last resort: a limit of the language should have met it.",
            }
        ],
        "advice": [],
        "cut_short": False,
    }
