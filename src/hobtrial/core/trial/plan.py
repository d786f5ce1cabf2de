"""What a scenario asks of one trial: how long, what is put in place, what the player does."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..words import frame_of


@dataclass(frozen=True, slots=True)
class Arrangement:
    """One line of `arrange`: `hob.x = 5` has the owner `hob`, `lives = 1` has none."""

    text: str
    owner: str | None
    name: str
    value: Any


@dataclass(frozen=True, slots=True)
class KeyInput:
    """A key that goes down in frame `down` and comes up in frame `up`; `held` tells a hold from a press."""

    key: str
    down: int
    up: int
    held: bool


@dataclass(frozen=True, slots=True)
class Plan:
    """The inputs of one trial. `last_frame` is the frame of its end, which is sampled too."""

    last_frame: int
    seed: int = 1
    arrange: tuple[Arrangement, ...] = ()
    inputs: tuple[KeyInput, ...] = ()
    answers: tuple[tuple[int, str], ...] = ()
    """Frames from which an answer is there, and the answers, for a script that asks with `input`."""


def pressed_key(key: str, at: float) -> KeyInput:
    """A press at a time in seconds: down for one frame."""
    frame = frame_of(at)
    return KeyInput(key, frame, frame + 1, held=False)


def held_key(key: str, at: float, seconds: float) -> KeyInput:
    """A hold from a time for some seconds: up to the frame before that of its end, at least one."""
    frame = frame_of(at)
    return KeyInput(key, frame, max(frame + 1, frame_of(at + seconds)), held=True)
