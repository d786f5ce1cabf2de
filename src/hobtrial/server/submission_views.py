"""What the Trial is given of a try: its findings, and the tries around it."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from hobtrial.core.script.tree import ChangedLine

from ..core.explaining import Confidence
from ..core.judging import Answer
from ..core.reporting import CraftReport, Fault, PartMarks, ProblemReport, Turned
from .views import ScenarioHead, Status


class Neighbour(BaseModel):
    """The student before or after, in the order of the Round."""

    submission_id: int
    student: str


class FixView(BaseModel):
    """A fix that was tried; `line`, `before` and `after` are those of its first change."""

    line: int
    before: str
    after: str
    mends: int
    breaks: int
    on_top: bool
    shows_reference: bool
    changes: list[ChangedLine]


class FindingView(BaseModel):
    """A finding with its sentences."""

    slip: str
    title: str
    confidence: Confidence
    about: str
    lines: list[int]
    scenarios: list[str]
    checks: list[tuple[int, int]]
    marks_lost: float
    scenario: int | None
    frame: int | None
    happened: list[str]
    nudge: str
    pointer: str
    fix: FixView | None
    note: str
    others: int
    key: str
    withdrawn: Literal["", "student", "group"]


class EarlierSubmission(BaseModel):
    """A student's try before another."""

    id: int
    number: int
    marks: float | None


class SubmissionView(BaseModel):
    """A try with its text and what was found, for the Trial screen."""

    id: int
    round_id: int
    title: str
    class_name: str
    student: str
    number: int
    status: Status
    fault: Fault | None
    marks: float | None
    out_of: float
    source: str
    problems: list[ProblemReport]
    verdicts: list[list[Answer]]
    craft: list[CraftReport]
    by_concept: dict[str, PartMarks]
    by_task: dict[str, PartMarks]
    look_at: list[int]
    """For each scenario the trial to look at: the first in which a check is broken."""
    shortest: dict[int, str]
    """For wild scenarios that found something: the shortest inputs, in words."""
    own_marks: float | None
    own_comment: str
    reply: str
    """The student's one line about what was given back."""
    with_name: str | None
    own_by: str
    own_at: datetime | None
    scenarios: list[ScenarioHead]
    findings: list[FindingView]
    advice: list[str]
    previous: Neighbour | None
    next: Neighbour | None
    predictions: dict[int, dict[str, str]]
    """What was predicted, by scenario and name."""
    foretold: dict[int, dict[str, bool]]
    """The same for whether it came out; nothing before the script is marked."""
    earlier: EarlierSubmission | None
    """The same student's try before this one."""


class TriedChange(BaseModel):
    """A script with a finding's fix in it, marked again."""

    marks_before: float
    marks: float
    out_of: float
    checks: list[Turned]
    source: str
