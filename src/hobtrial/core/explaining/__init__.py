"""Verdicts → Findings → Report: why a script lost marks, with evidence from its own runs."""

from .explain import Explanation, explain
from .finding import Edit, Finding, Fix
from .parting import Parting, first_parting, parting
from .replay import replay
from .report import Report, halted, report

__all__ = [
    "Edit",
    "Explanation",
    "Finding",
    "Fix",
    "Parting",
    "Report",
    "explain",
    "first_parting",
    "halted",
    "parting",
    "replay",
    "report",
]
