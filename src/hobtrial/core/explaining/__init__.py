"""Verdicts → Findings → Report: why a script lost marks, with evidence from its own runs."""

from .changed import why_changed
from .edits import with_changes
from .explain import Explanation, explain
from .finding import Edit, Finding, Fix
from .groups import Group, groups, key_of
from .parting import Parting, first_parting, parting
from .replay import replay, scene_json, variables_json
from .report import EDITION, Report, halted, report
from .student import for_student

__all__ = [
    "EDITION",
    "Edit",
    "Explanation",
    "Finding",
    "Fix",
    "Group",
    "Parting",
    "Report",
    "explain",
    "first_parting",
    "for_student",
    "groups",
    "halted",
    "key_of",
    "parting",
    "replay",
    "report",
    "scene_json",
    "variables_json",
    "why_changed",
    "with_changes",
]
