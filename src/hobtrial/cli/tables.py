"""What `hob mark` writes for other programs: CSV for a spreadsheet, JUnit for a build server.

Both come out the same, byte for byte, for the same report.
"""

from __future__ import annotations

import csv
import io
from typing import Any, Final

from junitparser import Failure, JUnitXml, TestCase, TestSuite

FORMULAS: Final = ("=", "+", "-", "@", "\t", "\r")
"""How a cell begins that a spreadsheet would take for a formula."""


def safe_cell(value: Any) -> Any:
    """A cell that no spreadsheet computes: numbers stay numbers, a text that looks like a formula is quoted."""
    return f"'{value}" if isinstance(value, str) and value.startswith(FORMULAS) else value


def as_csv(result: dict[str, Any]) -> str:
    """One row a script: status, marks, marks by concept, by scenario and for craft, and the first finding."""
    concepts = sorted({concept for script in result["scripts"] for concept in script["by_concept"]})
    played: list[dict[str, Any]] = next(
        (script["scenarios"] for script in result["scripts"] if script["scenarios"]), []
    )
    scenarios = [each["name"] for each in played]
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    head = ["script", "status", "marks", "out of", *concepts, *scenarios, "craft", "first finding", "what to look at"]
    rows.writerow([safe_cell(cell) for cell in head])
    for script in result["scripts"]:
        by_scenario = {each["name"]: sum(check["marks"] for check in each["checks"]) for each in script["scenarios"]}
        first = script["findings"][0] if script["findings"] else None
        rows.writerow(
            safe_cell(cell)
            for cell in (
                script["script"],
                script["status"],
                script["marks"],
                script["out_of"],
                *(script["by_concept"].get(concept, {}).get("marks", 0) for concept in concepts),
                *(by_scenario.get(name, 0) for name in scenarios),
                sum(line["marks"] for line in script["craft"]),
                first["title"] if first else "",
                first["pointer"] if first else "",
            )
        )
    return out.getvalue()


def as_junit(result: dict[str, Any]) -> bytes:
    """A suite a script, a case a check; broken and not reached ones are failures."""
    xml = JUnitXml(result["exercise"])
    for script in result["scripts"]:
        suite = TestSuite(script["script"])
        if script["status"] == "unreadable":
            words = "; ".join(f"line {each['line']}: {each['message']}" for each in script["problems"])
            suite.add_testcase(_case("the script", "can be read", words))
        for scenario in script["scenarios"]:
            for check in scenario["checks"]:
                held = check["verdict"] == "held"
                name = f"{check['kind']}: {check['expect']}"
                suite.add_testcase(_case(scenario["name"], name, None if held else _failure(check)))
        for line in script["craft"]:
            met = None if line["verdict"] == "held" else line["reason"] or line["verdict"]
            suite.add_testcase(_case("craft", line["expect"], met))
        xml.add_testsuite(suite)
    xml.update_statistics()  # type: ignore[no-untyped-call]
    return b'<?xml version="1.0" encoding="utf-8"?>\n' + bytes(xml.tostring())  # type: ignore[no-untyped-call]


def _case(where: str, name: str, failure: str | None) -> TestCase:
    case = TestCase(name, classname=where)
    if failure is not None:
        case.result = [Failure(failure)]
    return case


def _failure(check: dict[str, Any]) -> str:
    parts = [check["verdict"]]
    if check["frame"] is not None:
        parts.append(f"frame {check['frame']}")
    parts += [f"{name} was {value}" for name, value in check["values"].items()]
    if check["reason"]:
        parts.append(check["reason"])
    return ", ".join(parts)
