"""A trial as the screens are given it: inputs, verdicts, the trace, the scene."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from ..core.events import EventKind
from ..core.exercise import CheckKind
from ..core.judging import Answer
from ..core.trial import InputKind, StepKind
from ..core.words import Outcome


class InputView(BaseModel):
    """Something that the player does; `what` is the key, piece, choice, text or fact."""

    kind: InputKind
    frame: int
    what: str
    value: Any
    up: int
    until: str | None


class EventWords(BaseModel):
    """An event: its kind, what it is about, and as it is written in a script."""

    kind: EventKind
    about: list[str | float]
    text: str


class VerdictView(BaseModel):
    """A check with its verdict. `values` are those of every part at `frame`."""

    expect: str
    kind: CheckKind
    verdict: Answer
    marks: float
    out_of: float
    frame: int | None
    values: dict[str, Any]
    reason: str | None
    concept: str | None
    because: str
    span: tuple[int, int]
    index: int
    about: list[str]
    event: EventWords | None


class StopView(BaseModel):
    """Why a trial ended early."""

    frame: int
    line: int
    handler: str | None
    kind: str
    message: str
    plain: str
    """The same in plain words, with its line."""


class StoryView(BaseModel):
    """A line of the story."""

    frame: int
    line: int
    text: str
    who: str


class LogView(BaseModel):
    """A line of the log: it counts for nothing."""

    frame: int
    line: int
    text: str


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
    event: EventWords
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


class WrittenView(BaseModel):
    """A value that was written on the scoreboard."""

    frame: int
    label: str
    value: Any


class TraceView(BaseModel):
    """The whole trace of a trial; reading is frame -1."""

    frames: int
    outcome: Outcome
    stopped: StopView | None
    story: list[StoryView]
    log: list[LogView]
    """What `print` wrote, where the exercise keeps that out of the story."""
    changes: list[ChangeView]
    tests: list[TestView]
    events: list[EventView]
    messages: list[MessageView]
    board: list[WrittenView]
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
    at: tuple[float, float]
    look: str
    facing: float
    hidden: bool
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
    own_looks: list[str]


class StepView(BaseModel):
    """Something that a straight script did: what it asked, was answered, told, or which variable became what."""

    kind: StepKind
    frame: int
    line: int
    text: str
    value: Any


class ReferenceView(BaseModel):
    """What the reference did in the same scenario."""

    samples: dict[str, list[tuple[int, Any]]]
    outcome: Outcome
    steps: list[StepView]


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
    version_id: int
    last_frame: int
    seed: int
    luck: Any
    arrange: list[str]
    variables: list[VariableView]
    inputs: list[InputView]
    checks: list[VerdictView]
    trace: TraceView | None
    asides: AsidesView | None
    samples: dict[str, list[tuple[int, Any]]]
    overlaps: list[OverlapView]
    straight: bool
    """Whether the script runs from top to bottom: then it is shown by steps."""
    steps: list[StepView]
    reference: ReferenceView | None
    """Nothing where a student looks at a run of their own."""
    parting: PartingView | None
    scene: SceneView
    toml: str
    """The trial as a scenario, to be put into an exercise."""
    predict: PredictView | None
