"""What a lesson shows its teacher: times of a round, the class at work, sheets to give back, and the ledger."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field, model_validator

from ..core.exercise import LevelName
from ..core.judging import Answer
from ..core.reporting import PartMarks
from ..core.script.tree import ChangedLine
from .given import Given


class Times(Given):
    """When a round opens, from when on one is late, when it closes; nothing means never."""

    opens_at: datetime | None = None
    due_at: datetime | None = None
    closes_at: datetime | None = None
    shows_hidden: bool = False
    """Whether students see what hidden scenarios gave once they have handed in."""
    watches: bool = True
    """Whether the teacher may open what is being written."""

    @model_validator(mode="after")
    def _in_order(self) -> Times:
        given = [each for each in (self.opens_at, self.due_at, self.closes_at) if each is not None]
        if any(each.tzinfo is None for each in given):
            raise ValueError("a time needs its zone, as in 2026-11-30T15:00:00Z")
        if given != sorted(given):
            raise ValueError("a round opens before it is due, and is due before it closes")
        return self


class Standing(Given):
    """What is different for one student: excused, or a later date."""

    excused: bool = False
    due_at: datetime | None = None

    @model_validator(mode="after")
    def _with_zone(self) -> Standing:
        if self.due_at is not None and self.due_at.tzinfo is None:
            raise ValueError("a time needs its zone, as in 2026-11-30T15:00:00Z")
        return self


class GivenLevel(Given):
    """The level of a student in a round; nothing: the one that they have in the class."""

    level: LevelName | None = None


class GivingBack(Given):
    """To whom marks and findings are given back: to everybody, or to one student; or that they are taken back."""

    student_id: Annotated[int, Field(ge=1, lt=2**31)] | None = None
    back: bool = True


class ForClass(Given):
    """For which class a round is copied."""

    class_id: Annotated[int, Field(ge=1, lt=2**31)]


class Reply(Given):
    """What a student answers, in one line."""

    reply: Annotated[str, Field(max_length=200)]


class StuckView(BaseModel):
    """Why somebody counts as stuck, and since when."""

    why: Literal["same", "quiet"]
    since: datetime
    tries: int
    title: str


class AtWork(BaseModel):
    """A student of a round at work. `line` has the marks of each check, with how many seconds ago it was."""

    student_id: int
    student: str
    seen_at: datetime | None
    doing: str
    line: list[tuple[float, float]]
    marks: float | None
    asks_since: datetime | None
    stuck: StuckView | None
    title: str
    """The first finding of the last check."""
    tries: int
    handed_in: bool
    excused: bool


class IdeaNow(BaseModel):
    """A finding that students have now."""

    key: str
    title: str
    students: int
    mended: int


class WorkView(BaseModel):
    """A round while a class works on it. Nothing here is a mark."""

    id: int
    title: str
    class_name: str
    out_of: float
    now: datetime
    minutes: int
    """How far back it looks."""
    watches: bool
    students: list[AtWork]
    ideas: list[IdeaNow]


class DeskNow(BaseModel):
    """What is on somebody's desk now, to be read."""

    student: str
    source: str
    changed_at: datetime


class SheetLineView(BaseModel):
    """A line of a script; `about` are those that the finding is about."""

    number: int
    text: str
    about: bool


class HandedInScenario(BaseModel):
    """A scenario; of a hidden one only the marks."""

    name: str
    marks: float
    out_of: float
    checks: list[HandedInCheck]


class HandedInCheck(BaseModel):
    """A check of a visible scenario."""

    verdict: Answer
    because: str


class HandedInFinding(BaseModel):
    """What was found in a try that was given back, as far as it is told by now."""

    marks_lost: float
    scenarios: list[str]
    scenario: int | None
    """Where its moment can be looked at."""
    frame: int | None
    nudge: str
    happened: list[str]
    title: str | None
    pointer: str | None
    lines: list[SheetLineView]
    """The lines that it is about with the few round them, once there is a pointer."""
    fix: list[ChangedLine] | None
    certain: bool


class FeedbackSheet(BaseModel):
    """A try with what was found, as its student sees it once it is given back."""

    id: int
    round_id: int
    title: str
    class_name: str
    student: str
    number: int
    handed_in_at: datetime
    late: bool
    with_name: str | None
    given_back: bool
    """Whether the teacher has given it back; before that nothing is told of its marks."""
    source: str
    marks: float | None
    out_of: float
    own_marks: float | None
    comment: str
    """The teacher's words."""
    reply: str
    """The student's one line."""
    unmarked: str
    scenarios: list[HandedInScenario]
    by_concept: dict[str, PartMarks]
    by_task: dict[str, PartMarks]
    findings: list[HandedInFinding]
    advice: list[str]


class LedgerRound(BaseModel):
    """A round as a column."""

    id: int
    title: str
    out_of: float
    opened_at: datetime


class LedgerCell(BaseModel):
    """What a student earned in a round: the teacher's own marks count where there are some."""

    round_id: int
    submission_id: int | None
    marks: float | None
    own_marks: float | None
    out_of: float | None
    """All the marks that there were at the student's level."""
    late: bool
    excused: bool
    by_concept: dict[str, PartMarks]


class LedgerStudent(BaseModel):
    """A student as a row, with a cell for each round."""

    id: int
    name: str
    left: bool
    cells: list[LedgerCell]


class ConceptOverTime(BaseModel):
    """How much of a concept the class had in each round, from 0 to 1; nothing where it was not asked for."""

    concept: str
    shares: list[float | None]


class IdeaOverTime(BaseModel):
    """A finding and how many students had it in each round."""

    key: str
    title: str
    students: list[int]


class NextExercise(BaseModel):
    """An exercise that is for a concept and was not set for the class yet."""

    version_id: int
    title: str
    concept: str


class LedgerView(BaseModel):
    """A class over the term."""

    class_id: int
    class_name: str
    rounds: list[LedgerRound]
    students: list[LedgerStudent]
    concepts: list[ConceptOverTime]
    ideas: list[IdeaOverTime]
    weakest: str | None
    """The concept of which the class has least just now."""
    next: list[NextExercise]


class ItemView(BaseModel):
    """A check of an exercise: how many held it, and how well it tells apart who did well otherwise."""

    scenario: str
    expect: str
    held: float
    apart: float | None
    scripts: int
    tells_nothing: bool


class LikeView(BaseModel):
    """Two scripts to ask about."""

    first: str
    second: str
    share: float
    first_lines: list[SheetLineView]
    second_lines: list[SheetLineView]


class CloserView(BaseModel):
    """A round looked at more closely: its checks, and scripts that are alike."""

    title: str
    class_name: str
    items: list[ItemView]
    alike: list[LikeView]


HandedInScenario.model_rebuild()
