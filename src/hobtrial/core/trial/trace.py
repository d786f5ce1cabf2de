"""The frozen result of a trial: what was sampled, and in a full trace every record of the run."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from ..events import Event
from ..words import UNSET, Outcome, Stop, Timeline
from .observe import Observable


@dataclass(frozen=True, slots=True)
class StoryLine:
    """A line that the player was told; `who` is a piece, or "" for the game itself."""

    frame: int
    line: int
    text: str
    who: str = ""


@dataclass(frozen=True, slots=True)
class Change:
    """A value that was stored. `cause` is the number of the event in `Trace.events`, -1 for reading.

    `scope` is "script" for globals and what belongs to pieces and `game`, else the function.
    """

    frame: int
    line: int
    handler: str | None
    scope: str
    name: str
    old: Any
    new: Any
    cause: int

    @property
    def differs(self) -> bool:
        """Whether the value is another one than before."""
        return self.old is not self.new and (type(self.old) is not type(self.new) or self.old != self.new)


@dataclass(frozen=True, slots=True)
class Answered:
    """A test that was evaluated: its parts with their values, and its answer."""

    frame: int
    line: int
    text: str
    parts: tuple[tuple[str, Any], ...]
    answer: bool
    handler: str | None
    cause: int


@dataclass(frozen=True, slots=True)
class Came:
    """An event that came, with the handlers that ran for it, in order."""

    frame: int
    event: Event
    handlers: tuple[str, ...]
    lines: tuple[int, ...] = ()
    waiting: int = 0
    """How many handlers were waiting then."""


StepKind = Literal["asked", "answered", "told", "changed"]


@dataclass(frozen=True, slots=True)
class Step:
    """Something that a straight script did, in order: most of it happens in one frame."""

    kind: StepKind
    frame: int
    line: int
    text: str
    """The question, the answer, what was told, or the variable."""
    value: Any = None
    """What the variable became."""


@dataclass(frozen=True, slots=True)
class Shown:
    """A value put on the scoreboard under a label."""

    frame: int
    label: str
    value: Any
    line: int
    at: tuple[float, float] | None = None
    """Where on the scene, in squares, if the script says so."""


@dataclass(frozen=True, slots=True)
class Offered:
    """A choice was offered (`open`), or it was taken or withdrawn."""

    frame: int
    label: str
    open: bool
    line: int


@dataclass(frozen=True, slots=True)
class Asked:
    """A question that the player was asked."""

    frame: int
    text: str
    line: int


@dataclass(frozen=True, slots=True)
class Sounded:
    """A sound that was to be heard."""

    frame: int
    name: str
    line: int


@dataclass(frozen=True, slots=True)
class Sent:
    """A message, and the handlers that heard it."""

    frame: int
    text: str
    line: int
    heard_by: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Overlapped:
    """Two pieces that overlapped, by name in scene order, with the first and the last frame."""

    first: str
    second: str
    since: int
    last: int


@dataclass(frozen=True, slots=True)
class Missed:
    """Something that came to nothing: an input that the game had no use for, or an end after the end."""

    frame: int
    what: str
    why: str


@dataclass(frozen=True, slots=True)
class Moment:
    """An event that a check asks about: what things were just before it, and after its own handlers."""

    frame: int
    before: dict[Observable, Any]
    after: dict[Observable, Any]


@dataclass(frozen=True, slots=True)
class Trace:
    """One trial. Verdict runs fill the first part only."""

    last_frame: int
    """The last frame that was sampled: the plan's end, or the one before the stop."""
    planned: int
    outcome: Outcome
    stopped: Stop | None
    samples: dict[Observable, Timeline]
    story: tuple[StoryLine, ...]
    final: dict[str, Any]
    log: tuple[StoryLine, ...] = ()
    """What `print` wrote, where the exercise keeps that out of the story."""
    passes: int = 0
    """Loop passes and calls that the script spent: a measure of its work that no clock disturbs."""
    first: dict[Observable, Any] = field(default_factory=dict)
    """What was sampled, after `start` and before anything was arranged."""
    begin: dict[Observable, Any] = field(default_factory=dict)
    """The same, once everything was arranged: just before frame 0."""
    moments: dict[Event, tuple[Moment, ...]] = field(default_factory=dict)
    unarranged: tuple[str, ...] = ()
    """Variables that the scenario arranges and the script does not have."""
    bound: dict[str, str] = field(default_factory=dict)
    """For each listed variable, the name under which the script keeps it (`score`, `game.score`)."""

    changes: tuple[Change, ...] = ()
    tests: tuple[Answered, ...] = ()
    events: tuple[Came, ...] = ()
    board: tuple[Shown, ...] = ()
    offers: tuple[Offered, ...] = ()
    questions: tuple[Asked, ...] = ()
    sounds: tuple[Sounded, ...] = ()
    messages: tuple[Sent, ...] = ()
    places: tuple[tuple[int, str], ...] = ()
    """Frame and place, each time the player came to one."""
    facts: tuple[tuple[int, str, Any], ...] = ()
    """Frame, fact and new value."""
    missed: tuple[Missed, ...] = ()
    keys: tuple[tuple[int, str, bool], ...] = ()
    """Frame, key, whether it went down."""
    pieces: dict[str, dict[str, list[tuple[int, Any]]]] = field(default_factory=dict)
    overlaps: tuple[Overlapped, ...] = ()
    """Each overlap that was watched."""
    lines: dict[int, list[tuple[int, int, int]]] = field(default_factory=dict)
    """For each line the spans of frames in which it ran: first, last, how often in all."""
    removals: dict[str, int] = field(default_factory=dict)
    """For each removed piece the line that removed it."""
    thinned: tuple[str, ...] = ()
    steps: tuple[Step, ...] = ()
    """Of a straight script what it did, one thing after the other."""

    def value(self, what: Observable, frame: int) -> Any:
        """A sampled value in a frame."""
        return self.samples[what].at(frame)

    def before(self, what: Observable, frame: int) -> Any:
        """A sampled value a frame ago."""
        return self.samples[what].at(frame - 1) if frame > 0 else self.begin.get(what, UNSET)
