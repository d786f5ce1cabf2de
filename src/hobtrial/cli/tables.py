"""What `hob mark` writes for other programs: CSV for a spreadsheet, JUnit for a build server.

Both come out the same, byte for byte, for the same report.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from typing import Any

from junitparser import Error, Failure, JUnitXml, TestCase, TestSuite

from ..core.reporting import CheckReport, Report
from ..core.words import safe_cell


def as_csv(reports: Sequence[Report]) -> str:
    """One row a script: status, marks, marks by concept, by scenario and for craft, and the first finding.

    A script that could not be marked has no marks in its row, and the reason where others have what to look at.
    """
    concepts = sorted({concept for report in reports for concept in report.by_concept})
    scenarios = [each.name for each in next((report.scenarios for report in reports if report.scenarios), ())]
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    head = ["script", "status", "marks", "out of", *concepts, *scenarios, "craft", "first finding", "what to look at"]
    rows.writerow([safe_cell(cell) for cell in head])
    for report in reports:
        rows.writerow([safe_cell(cell) for cell in _row(report, concepts, scenarios)])
    return out.getvalue()


def _row(report: Report, concepts: list[str], scenarios: list[str]) -> list[Any]:
    if report.fault is not None:
        nothing = [""] * (len(concepts) + len(scenarios) + 1)
        return [report.script, report.status, "", report.out_of, *nothing, "", report.fault.message]
    by_scenario = {each.name: each.marks for each in report.scenarios}
    earned = {concept: part.marks for concept, part in report.by_concept.items()}
    first = report.findings[0] if report.findings else None
    return [
        report.script,
        report.status,
        report.marks,
        report.out_of,
        *(earned.get(concept, 0) for concept in concepts),
        *(by_scenario.get(name, 0) for name in scenarios),
        sum(line.marks for line in report.craft),
        first.title if first else "",
        first.pointer if first else "",
    ]


def as_junit(exercise: str, reports: Sequence[Report]) -> bytes:
    """A suite a script, a case a check; broken and not reached ones are failures, what could not be marked an error."""
    xml = JUnitXml(exercise)
    for report in reports:
        suite = TestSuite(report.script)
        if report.fault is not None:
            suite.add_testcase(_case("the script", "can be marked", Error(report.fault.message)))
        if report.status == "unreadable":
            words = "; ".join(f"line {each.line}: {each.message}" for each in report.problems)
            suite.add_testcase(_case("the script", "can be read", Failure(words)))
        for scenario in report.scenarios:
            for check in scenario.checks:
                held = check.verdict == "held"
                name = f"{check.kind}: {check.expect}"
                suite.add_testcase(_case(scenario.name, name, None if held else Failure(_why(check))))
        for line in report.craft:
            held = line.verdict == "held"
            suite.add_testcase(_case("craft", line.expect, None if held else Failure(line.reason or line.verdict)))
        xml.add_testsuite(suite)
    xml.update_statistics()  # type: ignore[no-untyped-call]
    return b'<?xml version="1.0" encoding="utf-8"?>\n' + bytes(xml.tostring())  # type: ignore[no-untyped-call]


def _case(where: str, name: str, result: Failure | Error | None) -> TestCase:
    case = TestCase(name, classname=where)
    if result is not None:
        case.result = [result]
    return case


def _why(check: CheckReport) -> str:
    parts: list[str] = [check.verdict]
    if check.frame is not None:
        parts.append(f"frame {check.frame}")
    parts += [f"{name} was {value}" for name, value in check.values.items()]
    if check.reason:
        parts.append(check.reason)
    return ", ".join(parts)
