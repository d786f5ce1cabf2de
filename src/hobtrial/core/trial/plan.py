"""What a scenario asks of one trial: how long, what is put in place, what the player does."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ..events import Event
from ..words import frame_of

InputKind = Literal["press", "hold", "click", "pick", "answer", "type", "set"]


@dataclass(frozen=True, slots=True)
class Arrangement:
    """One line of `arrange`: `hob.x = 5` has the owner `hob`, `lives = 1` has none."""

    text: str
    owner: str | None
    name: str
    value: Any


@dataclass(frozen=True, slots=True)
class PlayerInput:
    """One thing that the player does, in frame `frame`.

    `what` is the key, the piece clicked, the choice, the answer, the words, or the fact. `value` is
    the place of a click as (x, y) in squares, or the new value of a fact. A key comes up in frame
    `up`, or before that once the event `until` comes.
    """

    kind: InputKind
    frame: int
    what: str = ""
    value: Any = None
    up: int = 0
    until: Event | None = None

    def as_json(self) -> dict[str, Any]:
        """The input as the strip draws it."""
        value = list(self.value) if isinstance(self.value, tuple) else self.value
        return {
            "kind": self.kind,
            "frame": self.frame,
            "what": self.what,
            "value": value,
            "up": self.up,
            "until": str(self.until) if self.until is not None else None,
        }


@dataclass(frozen=True, slots=True)
class Plan:
    """The inputs of one trial. `last_frame` is the frame of its end, which is sampled too."""

    last_frame: int
    seed: int = 1
    arrange: tuple[Arrangement, ...] = ()
    inputs: tuple[PlayerInput, ...] = ()
    answers: tuple[tuple[int, str], ...] = ()
    """Frames from which an answer is there, and the answers, for a script that asks with `input`."""
    freeze_at_end: bool = False
    """Whether the game stands still once it is won or lost."""
    log_prints: bool = False
    """Whether `print` writes to the log, which nobody is told and no check looks at, instead of the story."""
    by_hand: bool = False
    """Whether a person plays: a script that asks with `input` waits for them."""
    put: tuple[tuple[int, Arrangement], ...] = ()
    """What a person who plays put in place by hand, each after a frame."""
    luck: str | tuple[Any, ...] | None = None
    """What `random` gives instead of chance: "lowest", "highest", or these values in order."""


def pressed_key(key: str, at: float) -> PlayerInput:
    """A press at a time in seconds: down for one frame."""
    frame = frame_of(at)
    return PlayerInput("press", frame, key, up=frame + 1)


def held_key(key: str, at: float, seconds: float, until: Event | None = None) -> PlayerInput:
    """A hold from a time for some seconds: up to the frame before that of its end, at least one."""
    frame = frame_of(at)
    return PlayerInput("hold", frame, key, up=max(frame + 1, frame_of(at + seconds)), until=until)


def click(at: float, piece: str = "", place: tuple[float, float] | None = None) -> PlayerInput:
    """A click at a time in seconds, on a piece by its name or at a place in squares."""
    return PlayerInput("click", frame_of(at), piece, place)


def done(kind: InputKind, at: float, what: str, value: Any = None) -> PlayerInput:
    """A choice taken, an answer, words typed or a fact set, at a time in seconds."""
    return PlayerInput(kind, frame_of(at), what, value)
