"""What comes at set times: `every`, `after` and spawners. Times are in seconds from frame 0."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

from ..events import Event
from ..scene import SpawnerSpec
from ..words import frame_of

NEVER: Final = 10**9
"""A frame that no trial has."""


@dataclass(slots=True, eq=False)
class Timer:
    """One timer or spawner: `turn` counts how often it came, `age` orders what is due at the same time."""

    what: Event | SpawnerSpec
    age: int
    turn: int = 0

    def due(self) -> float | None:
        """When it comes next; nothing where it does not come again."""
        match self.what:
            case Event(kind="every", about=(float(period),)):
                return (self.turn + 1) * period
            case Event(about=(float(delay),)):
                return delay if self.turn == 0 else None
            case SpawnerSpec(every=float(period)):
                return (self.turn + 1) * period
            case SpawnerSpec(times=times) if times is not None and self.turn < len(times):
                return sorted(times)[self.turn]
        return None


class Timers:
    """All timers of one trial: spawners first, since the scene was there before the script."""

    def __init__(self, spawners: Iterable[SpawnerSpec]) -> None:
        self._timers = [Timer(spawner, age) for age, spawner in enumerate(spawners)]
        self.next_frame = 0
        """No timer comes before this frame."""

    def add(self, events: Iterable[Event]) -> None:
        """Adds timers for events, the oldest first."""
        for event in events:
            self._timers.append(Timer(event, len(self._timers)))

    def due(self, frame: int) -> list[tuple[float, Timer]]:
        """Everything that comes up to and in a frame, with its time; each is then set to its next."""
        found: list[tuple[float, Timer]] = []
        self.next_frame = NEVER
        for timer in self._timers:
            time = timer.due()
            while time is not None and frame_of(time) <= frame:
                found.append((time, timer))
                timer.turn += 1
                time = timer.due()
            if time is not None:
                self.next_frame = min(self.next_frame, frame_of(time))
        return found
