"""Findings that a teacher has withdrawn, for one student or for everybody; marks stay as they are."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace
from typing import Literal

from .report import FindingReport, Report

Withdrawn = Set[tuple[str, str | None]]
"""Keys of findings, each with the student for whom it is withdrawn, or None for everybody."""


def withdrawn_for(finding: FindingReport, student: str, withdrawn: Withdrawn) -> Literal["", "student", "group"]:
    """For whom a finding is withdrawn: nobody, this student, everybody. For everybody goes by the idea."""
    if (finding.idea, None) in withdrawn or (finding.key, None) in withdrawn:
        return "group"
    return "student" if (finding.key, student) in withdrawn else ""


def without(report: Report, student: str, withdrawn: Withdrawn) -> Report:
    """A report without the findings that are withdrawn for a student or for everybody."""
    return replace(
        report, findings=tuple(each for each in report.findings if not withdrawn_for(each, student, withdrawn))
    )
