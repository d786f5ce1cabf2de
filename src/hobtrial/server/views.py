"""What the screens are given, as models: the front end's types are made from them."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel, Field

from ..core.trial import InputKind

Answer = Literal["held", "broken", "not reached"]
Status = Literal["waiting", "marked", "unreadable", "stopped"]


class RoundSummary(BaseModel):
    """A round as the Bench lists it. `spread` are the marks of all scripts, rising."""

    id: int
    title: str
    version: int
    class_name: str
    out_of: float
    opened_at: datetime
    scripts: int
    marked: int
    mean: float | None
    spread: list[float]


class ExerciseHead(BaseModel):
    """An exercise's newest version, as the Bench lists it."""

    version: int
    number: int
    title: str
    out_of: float
    scenarios: int


class BenchView(BaseModel):
    """The Bench."""

    rounds: list[RoundSummary]
    exercises: list[ExerciseHead]
    classes: list[str]


class CheckHead(BaseModel):
    """A check without its verdict."""

    expect: str
    kind: str
    marks: float
    because: str


class ScenarioHead(BaseModel):
    """A scenario and its checks."""

    name: str
    visible: bool
    checks: list[CheckHead]
    trials: list[str] = [""]
    """What tells its trials apart; one empty text where there is only one."""


class PartMarks(BaseModel):
    """Marks for one concept or task."""

    marks: float
    out_of: float


class CraftView(BaseModel):
    """What became of a craft line."""

    expect: str
    verdict: Answer
    marks: float
    out_of: float
    reason: str | None
    because: str


class StudentRow(BaseModel):
    """A student's last try in a round; `verdicts` has a list a scenario, empty where nothing ran."""

    try_id: int
    student: str
    number: int
    status: Status
    marks: float | None
    own_marks: float | None = None
    verdicts: list[list[Answer]]
    craft: list[CraftView]
    first: str | None
    groups: list[str]


class Typical(BaseModel):
    """Where a group's typical trial opens."""

    try_id: int
    scenario: int
    frame: int | None


class GroupView(BaseModel):
    """A group of findings: what to teach next."""

    key: str
    slip: str
    title: str
    confidence: str
    tries: list[int]
    marks_lost: float
    excerpt: str | None
    pointer: str
    typical: Typical | None


class ChangedMarks(BaseModel):
    """How a newer version of the exercise changed a student's marks."""

    try_id: int
    student: str
    before: float
    after: float
    why: list[str]


class RoundView(BaseModel):
    """The Round. `seconds` is how long the marking took, once it is done."""

    id: int
    title: str
    version: int
    newest: int
    """The number of the newest version of its exercise."""
    changed: list[ChangedMarks]
    """Whose marks the present version changed."""
    class_name: str
    out_of: float
    opened_at: datetime
    trials: int
    game_seconds: float
    done: int
    seconds: float | None
    scenarios: list[ScenarioHead]
    students: list[StudentRow]
    groups: list[GroupView]


class Neighbour(BaseModel):
    """The student before or after, in the order of the Round."""

    try_id: int
    student: str


class Problem(BaseModel):
    """A place of a text that cannot be accepted."""

    line: int
    column: int
    kind: str
    message: str
    instead: str


class ChangedLine(BaseModel):
    """A line before and after a fix."""

    line: int
    before: str
    after: str


class FixView(ChangedLine):
    """A fix that was tried."""

    mends: int
    breaks: int
    on_top: bool = False
    changes: list[ChangedLine]


class FindingView(BaseModel):
    """A finding with its sentences."""

    slip: str
    title: str
    confidence: Literal["shown", "likely", "open"]
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
    others: int = 0


class TryView(BaseModel):
    """A try with its text and what was found, for the Trial screen."""

    id: int
    round_id: int
    title: str
    class_name: str
    student: str
    number: int
    status: Status
    marks: float | None
    out_of: float
    source: str
    problems: list[Problem]
    verdicts: list[list[Answer]]
    craft: list[CraftView]
    by_concept: dict[str, PartMarks]
    by_task: dict[str, PartMarks]
    look_at: list[int]
    """For each scenario the trial to look at: the first in which a check is broken."""
    shortest: dict[int, str]
    """For wild scenarios that found something: the shortest inputs, in words."""
    own_marks: float | None = None
    own_comment: str = ""
    own_by: str = ""
    own_at: datetime | None = None
    scenarios: list[ScenarioHead]
    findings: list[FindingView]
    advice: list[str]
    previous: Neighbour | None
    next: Neighbour | None


class InputView(BaseModel):
    """Something that the player does; `what` is the key, piece, choice, text or fact."""

    kind: InputKind
    frame: int
    what: str
    value: Any
    up: int
    until: str | None


class VerdictView(BaseModel):
    """A check with its verdict. `values` are those of every part at `frame`."""

    expect: str
    kind: str
    verdict: Answer
    marks: float
    out_of: float
    frame: int | None
    values: dict[str, Any]
    reason: str | None
    concept: str | None
    because: str
    span: tuple[int, int]
    place: int
    about: list[str]
    event: str | None


class StopView(BaseModel):
    """Why a trial ended early."""

    frame: int
    line: int
    handler: str | None
    kind: str
    message: str


class StoryView(BaseModel):
    """A line of the story."""

    frame: int
    line: int
    text: str
    who: str


class ChangeView(BaseModel):
    """A value that changed."""

    frame: int
    line: int
    handler: str | None
    scope: str
    name: str
    old: Any
    new: Any


class PartView(BaseModel):
    """A part of a test with its value."""

    text: str
    value: Any


class TestView(BaseModel):
    """A test that was answered."""

    frame: int
    line: int
    text: str
    parts: list[PartView]
    answer: bool


class EventView(BaseModel):
    """An event that came."""

    frame: int
    event: str
    handlers: list[str]
    waiting: int


class ShownView(BaseModel):
    """A value put on the scoreboard."""

    frame: int
    line: int
    label: str
    value: Any
    at: tuple[float, float] | None


class OfferView(BaseModel):
    """A choice that was offered (`value`), or taken or withdrawn."""

    frame: int
    label: str
    value: bool


class AskedView(BaseModel):
    """A question to the player."""

    frame: int
    line: int
    text: str


class SoundView(BaseModel):
    """A sound."""

    frame: int
    name: str


class MessageView(BaseModel):
    """A message and the handlers that heard it."""

    frame: int
    text: str
    heard_by: list[str]


class PlaceView(BaseModel):
    """The player came to a place."""

    frame: int
    place: str


class FactChangeView(BaseModel):
    """A fact got another value."""

    frame: int
    name: str
    value: Any


class MissedView(BaseModel):
    """Something that came to nothing, and why."""

    frame: int
    what: str
    why: str


class TraceView(BaseModel):
    """The whole trace of a trial; reading is frame -1."""

    frames: int
    outcome: str
    stopped: StopView | None
    story: list[StoryView]
    changes: list[ChangeView]
    tests: list[TestView]
    events: list[EventView]
    messages: list[MessageView]
    offers: list[OfferView]
    sounds: list[SoundView]
    pieces: dict[str, dict[str, list[tuple[int, Any]]]]
    lines: dict[str, list[tuple[int, int, int]]]
    thinned: list[str]
    final: dict[str, Any]


class AsidesView(BaseModel):
    """What a trace does not hold and the scene shows: where labels stand, questions, places, facts."""

    board: list[ShownView]
    questions: list[AskedView]
    places: list[PlaceView]
    facts: list[FactChangeView]
    missed: list[MissedView]


class OverlapView(BaseModel):
    """Two pieces that overlapped, from the first to the last frame."""

    pair: tuple[str, str]
    first: int
    last: int
    handled: bool


class PieceView(BaseModel):
    """A piece of the scene as it is set up."""

    name: str
    kind: str
    size: tuple[float, float]
    solid: bool
    zone: bool
    keys: list[str]


class FactView(BaseModel):
    """A value of the scene: a dial in live play."""

    name: str
    start: Any
    range: tuple[float, float] | None
    choices: list[Any] | None


class SceneView(BaseModel):
    """The scene of a trial, in squares; `kinds` says what a piece is like that comes later."""

    width: float
    height: float
    background: str | None
    places: list[str]
    pieces: list[PieceView]
    kinds: list[PieceView]
    facts: list[FactView]
    own_looks: list[str] = []


class ReferenceView(BaseModel):
    """What the reference did in the same scenario."""

    samples: dict[str, list[tuple[int, Any]]]
    outcome: str


class PartingView(BaseModel):
    """Where the run and the reference's part."""

    frame: int
    seconds: float
    what: str


class VariableView(BaseModel):
    """A listed variable."""

    name: str
    meaning: str
    label: str | None


class PredictView(BaseModel):
    """What is to be predicted, and the frame that it is about."""

    names: list[str]
    frame: int


class TrialView(BaseModel):
    """One trial with everything that the Trial screen shows."""

    scenario: str
    trial: int
    trials: list[str]
    visible: bool
    version: int = 0
    last_frame: int
    seed: int
    luck: Any = None
    arrange: list[str]
    variables: list[VariableView]
    inputs: list[InputView]
    checks: list[VerdictView]
    trace: TraceView | None
    asides: AsidesView | None
    samples: dict[str, list[tuple[int, Any]]]
    overlaps: list[OverlapView]
    reference: ReferenceView
    parting: PartingView | None
    scene: SceneView
    toml: str = ""
    """The trial as a scenario, to be put into an exercise."""
    predict: PredictView | None = None


class PlayView(BaseModel):
    """An exercise to play, with the script to begin with."""

    version: int
    title: str
    brief: str
    script: str
    scene: SceneView
    variables: list[VariableView]


class KeptView(BaseModel):
    """A game by hand that was kept."""

    id: int
    version: int
    title: str
    source: str


class NewRound(BaseModel):
    """A class and an exercise to open a round for."""

    version: int
    class_name: str = Field(min_length=1, max_length=60, pattern=r"\S")


class Opened(BaseModel):
    """The number of a round."""

    id: int


class DoubtView(BaseModel):
    """A file whose student is not sure."""

    file: str
    candidates: list[str]
    why: str


class HandedIn(BaseModel):
    """What became of files that were handed in; the doubtful ones wait for an answer."""

    handed_in: int
    doubtful: list[DoubtView]
    students: list[str]


class OwnMark(BaseModel):
    """A teacher's own mark and comment beside the computed one; no mark takes it back."""

    marks: float | None = Field(default=None, ge=0, le=1000, multiple_of=0.5)
    comment: str = Field(default="", max_length=2000)


class Sorry(BaseModel):
    """An error: what went wrong, in a sentence that says what would be right."""

    detail: str
