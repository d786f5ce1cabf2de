"""What the workshop is given, and what it sends."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from ..core.exercise import CheckKind
from ..core.judging import Answer
from ..core.workshop import Change, Way
from .given import Given
from .trial_views import TrialView

Number = Annotated[int, Field(ge=0, lt=2**31)]


class DraftHead(BaseModel):
    """A draft as the Bench lists it."""

    id: int
    title: str
    changed_at: datetime
    unfit: str | None
    """Why it cannot be set for a class: empty where it can, nothing where that is not known."""


class BeginDraft(Given):
    """What a draft begins with: a version of an exercise, or nothing."""

    version_id: Number | None = None
    title: Annotated[str, Field(max_length=120)] = ""


class DraftId(BaseModel):
    """The number of a draft, or of the round that was set with one."""

    id: int


class ChangeDraft(Given):
    """A change, and the step on which it was made; `scenario` is the one that is looked at."""

    at: Number
    change: Change
    scenario: Number = 0


class StepDraft(Given):
    """Undo (-1) or redo (1), from the step that is looked at."""

    at: Number
    by: Literal[-1, 1]
    scenario: Number = 0


class Asked(Given):
    """A moment of a lane, or a span of frames along it."""

    scenario: Number = 0
    what: Annotated[str, Field(max_length=60)]
    first: Number
    last: Number


class AskedWays(Given):
    """A scenario to be played in many ways: round a boundary, in every order, with whatever is played."""

    scenario: Number
    way: Way


class WayView(BaseModel):
    """The keys of the scenario that plays another one in many ways."""

    row: dict[str, Any]


class SuggestionView(BaseModel):
    """A check that holds for the reference, in words. `breaks` are the planted slips that it tells."""

    words: str
    check: dict[str, Any]
    breaks: int


class SetDraft(Given):
    """The class for which a round is opened."""

    class_name: Annotated[str, Field(min_length=1, max_length=60, pattern=r"\S")]


class NoticeView(BaseModel):
    """Something to know, and where: a row of a table, or the line of a file. A fault stops everything."""

    text: str
    kind: Literal["fault", "lost", "odd"]
    file: str
    line: int
    table: str | None
    index: int | None
    scenario: int | None


class DraftCheck(BaseModel):
    """A check with what the reference had."""

    index: int
    expect: str
    kind: CheckKind
    verdict: Answer
    out_of: float
    reason: str | None
    concept: str | None
    because: str


class DraftScenario(BaseModel):
    """A scenario in the list. `line` are the changes of its first variable."""

    name: str
    visible: bool
    way: Literal["cases", "steps", "wild"] | None
    trials: int
    seconds: float
    line: list[tuple[int, float]]
    checks: list[DraftCheck]


class RehearsalView(BaseModel):
    """What is said of a draft. `settings` is `exercise.toml` as plain values; nothing where it is not TOML."""

    settings: dict[str, Any] | None
    playable: bool
    notices: list[NoticeView]
    marks: float
    out_of: float
    scenarios: list[DraftScenario]
    concepts: dict[str, float]


class DraftView(BaseModel):
    """A draft. `words` are those of the change that *undo* takes back, `next_words` of the one that *redo* makes."""

    id: int
    at: int
    last: int
    words: str | None
    next_words: str | None
    changed_at: datetime
    title: str
    texts: dict[str, str]
    pictures: list[str]
    rehearsal: RehearsalView | None
    unplayed: str | None
    """Why nothing is said of it, where the machine or this program was at fault."""
    trial: TrialView | None


class ThroughView(BaseModel):
    """A planted slip that gets through: what it changes, and the scenario that would catch it."""

    number: int
    slip: str
    line: int
    before: str
    after: str
    expect: str
    row: dict[str, Any]


class ProofView(BaseModel):
    """How far a proof has come."""

    state: Literal["waiting", "trying", "done", "not playable"]
    planted: int
    tried: int
    caught: int
    same: int
    through: list[ThroughView]
    starter: float
    empty: float
    out_of: float
    warnings: list[str]
    companions: int
    """Scripts beside the reference that were tried."""
    astray: list[str]
    """What is wrong with those of them that do not come out as they must."""
