"""Findings → Report: all that is said of a script, and what a class, a student and a teacher see of it."""

from .changed import Turned, turned, why_changed
from .groups import Group, Variant, groups
from .items import Item, items, point_biserial
from .making import Marked, explained, mark, report, unmarked
from .predictions import Foretold, Guess, foretold, is_right, must_foretell
from .replay import predict_json, replay, scene_json, stop_json, variables_json
from .report import (
    EDITION,
    CheckReport,
    CraftReport,
    Fault,
    FindingReport,
    FixReport,
    PartMarks,
    ProblemReport,
    Report,
    ScenarioReport,
    Status,
    from_json,
    idea_of,
    to_json,
)
from .small import SmallStrip, small_strips
from .student import SeenFinding, StudentReport, for_student, tries_until
from .withdrawing import Withdrawn, withdrawn_for, without
from .work import Checked, Idea, Stuck, ideas_now, stuck

__all__ = [
    "EDITION",
    "CheckReport",
    "Checked",
    "CraftReport",
    "Fault",
    "FindingReport",
    "FixReport",
    "Foretold",
    "Group",
    "Guess",
    "Idea",
    "Item",
    "Marked",
    "PartMarks",
    "ProblemReport",
    "Report",
    "ScenarioReport",
    "SeenFinding",
    "SmallStrip",
    "Status",
    "Stuck",
    "StudentReport",
    "Turned",
    "Variant",
    "Withdrawn",
    "explained",
    "for_student",
    "foretold",
    "from_json",
    "groups",
    "idea_of",
    "ideas_now",
    "is_right",
    "items",
    "mark",
    "must_foretell",
    "point_biserial",
    "predict_json",
    "replay",
    "report",
    "scene_json",
    "small_strips",
    "stop_json",
    "stuck",
    "to_json",
    "tries_until",
    "turned",
    "unmarked",
    "variables_json",
    "why_changed",
    "withdrawn_for",
    "without",
]
