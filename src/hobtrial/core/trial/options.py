"""What is asked of a trial besides the plan of its inputs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..events import Event
from ..script import DEFAULT_LIMITS, Limits
from .moments import Wanted
from .observe import Observable


@dataclass(frozen=True, slots=True)
class Options:
    """What to look at in a trial, and how closely."""

    observe: tuple[Observable, ...] = ()
    """Sampled at the end of each frame."""
    names: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    """For each variable asked for the other names under which a script may keep it."""
    watch: tuple[Event, ...] = ()
    """Pair events to look at even where no handler does."""
    each: Wanted = field(default_factory=dict)
    """Events, with what is asked of every one that comes."""
    record: bool = False
    """Whether the trace is whole; else it holds the samples, the story and the end."""
    limits: Limits = DEFAULT_LIMITS
    skips: bool = True
    """Whether frames in which nothing can happen are passed over quickly."""
