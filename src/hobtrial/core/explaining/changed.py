"""Whose marks a changed exercise changes, and why: two reports of one text, check by check."""

from __future__ import annotations

from typing import Any

MOST_REASONS = 5
"""Reasons that are named; more cannot be taken in."""


def why_changed(before: dict[str, Any], after: dict[str, Any]) -> list[str]:
    """What differs between two reports of one text, in a few sentences; nothing where the marks are the same."""
    if before["marks"] == after["marks"]:
        return []
    old, new = _lines(before), _lines(after)
    reasons: list[str] = []
    for key, (verdict, marks) in new.items():
        if key not in old:
            reasons.append(f"{key} is new: {verdict}, {marks:g} marks.")
        elif old[key] != (verdict, marks):
            was, had = old[key]
            words = f"is {verdict}, it was {was}" if was != verdict else f"gives {marks:g} marks, it gave {had:g}"
            reasons.append(f"{key} {words}.")
    gone = [(key, marks) for key, (_, marks) in old.items() if key not in new]
    reasons += [f"{key} is no longer asked; it gave {marks:g} marks." for key, marks in gone]
    if before["status"] != after["status"]:
        reasons.insert(0, f"The script is {after['status']} now; it was {before['status']}.")
    return reasons[:MOST_REASONS]


def _lines(report: dict[str, Any]) -> dict[str, tuple[str, float]]:
    """Verdict and marks of every check and craft line, by the words for it."""
    checks = {
        f"{scenario['name']}: `{check['expect']}` ({check['kind']})": (check["verdict"], check["marks"])
        for scenario in report["scenarios"]
        for check in scenario["checks"]
    }
    return checks | {f"Craft: `{line['expect']}`": (line["verdict"], line["marks"]) for line in report["craft"]}
