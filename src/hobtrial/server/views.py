"""What the screens are given, as models: the front end's types are made from them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.exercise import CheckKind, LevelName
from ..core.explaining import Confidence
from ..core.judging import Answer
from ..core.reporting import CraftReport, Fault, PartMarks
from .desk_views import DeskScenarioName
from .given import Given
from .trial_views import SceneView, VariableView

Status = Literal["waiting", "marked", "unreadable", "stopped", "unmarked"]


class RoundSummary(BaseModel):
    """A round as the Bench lists it. `spread` are the marks of all scripts, rising."""

    id: int
    exercise_id: int
    title: str
    version_number: int
    class_name: str
    out_of: float
    opened_at: datetime
    scripts: int
    marked: int
    mean: float | None
    spread: list[float]


class ExerciseHead(BaseModel):
    """An exercise's newest version, as the Bench lists it."""

    exercise_id: int
    version_id: int
    version_number: int
    title: str
    out_of: float
    scenarios: int
    concepts: list[str]
    """What its checks are for."""


class BenchView(BaseModel):
    """The Bench."""

    rounds: list[RoundSummary]
    exercises: list[ExerciseHead]
    classes: list[str]
    marking_trouble: str | None
    """Why marking does not run just now."""


class CheckHead(BaseModel):
    """A check without its verdict."""

    expect: str
    kind: CheckKind
    marks: float
    because: str


class ScenarioHead(BaseModel):
    """A scenario and its checks."""

    name: str
    visible: bool
    checks: list[CheckHead]
    trials: list[str]
    """What tells its trials apart; one empty text where there is only one."""


class Predicted(BaseModel):
    """How many values of a scenario were predicted, and how many of them came out."""

    scenario: int
    right: int
    of: int
    marks: float
    out_of: float


class Guesses(Given):
    """What is predicted, by name."""

    guesses: dict[Annotated[str, Field(max_length=60)], Annotated[str, Field(max_length=60)]] = Field(max_length=20)


class WithoutTry(BaseModel):
    """A student of a round who has handed in nothing yet."""

    student_id: int
    student: str
    excused: bool
    due_at: datetime | None
    """A later date of their own."""
    seen: bool
    """Whether they have been at their desk."""


class StudentRow(BaseModel):
    """A student's last try in a round; `verdicts` has a list a scenario, empty where nothing ran."""

    submission_id: int
    student_id: int
    late: bool
    with_name: str | None
    """The other one whose try it is, too."""
    given_back: bool
    reply: str
    """The student's one line about what was given back."""
    student: str
    number: int
    status: Status
    marks: float | None
    fault: Fault | None
    """Why it could not be marked, or its mistakes not be looked for, through no fault of the script."""
    own_marks: float | None
    out_of: float
    """All the marks that there are at this student's level."""
    verdicts: list[list[Answer]]
    craft: list[CraftReport]
    first: str | None
    groups: list[str]
    predicted: list[Predicted]


class Typical(BaseModel):
    """Where a group's typical trial opens."""

    submission_id: int
    scenario: int
    trial: int
    frame: int | None


class VariantView(BaseModel):
    """One way in which an idea went wrong: a line, and how many scripts have it."""

    excerpt: str
    scripts: int


class GroupView(BaseModel):
    """A group of findings with one idea: what to teach next."""

    key: str
    slip: str
    title: str
    confidence: Confidence
    submission_ids: list[int]
    marks_lost: float
    excerpt: str | None
    variants: list[VariantView]
    """The ways in which it went wrong, the commonest first."""
    pointer: str
    typical: Typical | None
    withdrawn: bool
    """Whether it is withdrawn for everybody who has it."""
    follow_up: FollowUpView | None


class FollowUpView(BaseModel):
    """A short exercise that was set for the students of a group, and whom it helped."""

    round_id: int
    students: int
    handed_in: int
    helped: int


class NewFollowUp(Given):
    """For which group of findings a follow-up is made."""

    key: str = Field(max_length=4000)


class Withdrawal(Given):
    """A finding to withdraw or put back: for the student of a try, or for everybody where there is none."""

    key: str = Field(max_length=4000)
    submission_id: Annotated[int, Field(ge=1, lt=2**31)] | None = None
    withdrawn: bool


class SheetLine(BaseModel):
    """A line of the typical script on a sheet; `about` are those that the finding is about."""

    number: int
    text: str
    about: bool


class SheetView(BaseModel):
    """A group of findings for the projector or the printer: no names."""

    title: str
    exercise: str
    scripts: int
    of: int
    marks_lost: float
    question: str
    pointer: str
    happened: list[str]
    note: str
    lines: list[SheetLine]
    typical: Typical | None


class ChangedMarks(BaseModel):
    """How a newer version of the exercise changed a student's marks."""

    submission_id: int
    student: str
    before: float
    after: float
    why: list[str]


class AtLevel(BaseModel):
    """The level of a student: in this round, and in the class; nothing means core."""

    student_id: int
    student: str
    level: LevelName | None
    in_class: LevelName | None


class RoundView(BaseModel):
    """The Round. `seconds` is how long the marking took, once it is done."""

    id: int
    title: str
    version_number: int
    newest: int
    """The number of the newest version of its exercise."""
    changed: list[ChangedMarks]
    """Whose marks the present version changed."""
    class_id: int
    class_name: str
    out_of: float
    opened_at: datetime
    opens_at: datetime | None
    due_at: datetime | None
    closes_at: datetime | None
    shows_hidden: bool
    watches: bool
    levels: list[str]
    """Those that its exercise has, from the supported one on."""
    at_level: list[AtLevel]
    """The level of each student, where the exercise has levels."""
    given_back_at: datetime | None
    without: list[WithoutTry]
    trials: int
    game_seconds: float
    done: int
    marking_trouble: str | None
    """Why marking does not run just now, where scripts wait for it."""
    seconds: float | None
    scenarios: list[ScenarioHead]
    students: list[StudentRow]
    groups: list[GroupView]
    by_concept: dict[str, PartMarks]
    by_task: dict[str, PartMarks]
    """Marks of the whole class for each concept and task."""


class PlayView(BaseModel):
    """An exercise to play, with the script to begin with."""

    version_id: int
    title: str
    brief: str
    script: str
    starter: str
    straight: bool
    scene: SceneView
    variables: list[VariableView]
    scenarios: list[DeskScenarioName]
    words: list[str]
    """The words of the language that its reference uses."""


class KeptView(BaseModel):
    """A game by hand that was kept."""

    id: int
    version_id: int
    title: str
    source: str


class OwnMark(Given):
    """A teacher's own mark and comment beside the computed one; no mark takes it back."""

    marks: float | None = Field(default=None, ge=0, le=1000, multiple_of=0.5)
    comment: str = Field(default="", max_length=2000)


class Sorry(BaseModel):
    """An error: what went wrong, in a sentence that says what would be right."""

    detail: str
