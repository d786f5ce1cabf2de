"""What a student's desk is given and gives. Nothing of the reference, of hidden scenarios or of others is in it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from ..core.judging import Answer
from ..core.reporting import ProblemReport, SmallStrip, Status
from ..core.script.tree import ChangedLine
from .given import Given
from .trial_views import PredictView, SceneView, VariableView

LONGEST_SOURCE = 100_000
"""Characters of a text: more than a script may have, so that it is the reader who says so."""
Source = Annotated[str, Field(max_length=LONGEST_SOURCE)]


class DeskTry(BaseModel):
    """A try of one's own that was handed in."""

    id: int
    number: int
    handed_in_at: datetime
    late: bool
    with_name: str | None
    """The other one whose try it is, too."""
    marks: float | None
    """Nothing until it is marked and given back."""
    own_marks: float | None
    """The teacher's own marks, which count where there are some."""


class DeskTimes(BaseModel):
    """When a round is due and closes, for this student."""

    due_at: datetime | None
    closes_at: datetime | None
    excused: bool
    given_back_at: datetime | None


class DeskRound(DeskTimes):
    """An exercise that is set, with one's own tries."""

    id: int
    title: str
    out_of: float
    opened_at: datetime
    tries: list[DeskTry]


class DeskView(BaseModel):
    """A student's own page."""

    rounds: list[DeskRound]


class CheckedTry(BaseModel):
    """A text that was checked, as a line of the tries so far. Marks are those of visible scenarios."""

    id: int
    number: int
    made_at: datetime
    marks: float | None
    out_of: float
    small: SmallStrip | None
    """The small strip of the scenario that earned least."""


class DeskScenarioName(BaseModel):
    """A scenario that students see, by its number in the exercise."""

    number: int
    name: str
    predict: PredictView | None


class Asking(BaseModel):
    """One's place in the line of those who want the teacher's help."""

    since: datetime
    place: int


class DeskText(BaseModel):
    """A text as it was kept last."""

    source: str
    at: int
    """Counts the changes; whoever changes a text says which one they had."""
    changed_at: datetime


class DeskTask(DeskTimes):
    """An exercise at a desk."""

    id: int
    version_id: int
    title: str
    out_of: float
    brief: str
    starter: str
    straight: bool
    scene: SceneView
    variables: list[VariableView]
    scenarios: list[DeskScenarioName]
    """Those that are shown."""
    hidden: int
    text: DeskText
    checked: list[CheckedTry]
    tries: list[DeskTry]
    asking: Asking | None
    partner: str | None


class KeepText(Given):
    """A text to be kept, and which change of it one had."""

    source: Source
    at: Annotated[int, Field(ge=0, lt=2**31)]


class KeptText(BaseModel):
    """A text was kept; `problems` are what of it cannot be read."""

    at: int
    problems: list[ProblemReport]


class OtherText(BaseModel):
    """Another window kept another text meanwhile."""

    detail: str
    text: DeskText


class GivenText(Given):
    """A text to be checked or handed in."""

    source: Source


class TextToCheck(GivenText):
    """A text that a teacher checks."""

    explained: bool = False
    """Whether mistakes are looked for, too, which takes longer."""


class TextToPlay(GivenText):
    """A text that a teacher looks at in a scenario, with what is on show besides the listed variables."""

    scenario: Annotated[int, Field(ge=0, le=10_000)]
    show: list[Annotated[str, Field(max_length=200)]] = Field(default_factory=list, max_length=50)


class DeskCheck(BaseModel):
    """A check of a visible scenario."""

    verdict: Answer
    because: str


class DeskRow(BaseModel):
    """A visible scenario of a text that was checked. While it waits for a prediction, its verdicts are not told."""

    number: int
    name: str
    waits: bool
    predict: PredictView | None
    guesses: dict[str, str]
    came: dict[str, bool]
    """For each name that was predicted whether it came out."""
    foretold: tuple[float, float]
    """The marks for what was predicted, and how many there are; they stand beside the script's."""
    marks: float
    out_of: float
    checks: list[DeskCheck]
    small: SmallStrip | None


class DeskFinding(BaseModel):
    """What was found, as far as it was asked for."""

    index: int
    """Its place among the findings of the text."""
    marks_lost: float
    scenarios: list[str]
    step: int
    """How many steps of help are told: 1 the nudge, 2 the pointer, 3 the fix."""
    scenario: int | None
    frame: int | None
    nudge: str
    happened: list[str]
    title: str | None
    pointer: str | None
    lines: list[int]
    """The lines that it is about, once there is a pointer."""
    fix: list[ChangedLine] | None
    certain: bool


class DeskChecked(BaseModel):
    """A text that was checked: verdicts first, findings as they come."""

    id: int
    number: int
    source: str
    status: Status
    unmarked: str
    problems: list[ProblemReport]
    scenarios: list[DeskRow]
    marks: float | None
    out_of: float
    findings: list[DeskFinding] | None
    """Nothing while they are looked for."""
    tries_until: list[int | None]
    """How many more tries the nudge, the pointer and the fix need; nothing where they are never told."""
    advice: list[str]


class GuessOf(Given):
    """What is expected of a scenario: values by name."""

    guesses: Annotated[
        dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=200)]],
        Field(min_length=1, max_length=20),
    ]


class StepOf(Given):
    """A step of help that is asked for."""

    index: Annotated[int, Field(ge=0, lt=1000)]
    step: Annotated[int, Field(ge=1, le=3)]


class Wants(Given):
    """Whether one wants the teacher's help."""

    wants: bool


class PartnerCard(Given):
    """The card of who works here, too."""

    card: Annotated[str, Field(max_length=200)]


class HandedInAtDesk(BaseModel):
    """A text was handed in."""

    submission_id: int
    late: bool
