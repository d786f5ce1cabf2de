"""What a handler can wait for, as values. Imports nothing of ours but the shared words.

An event is written as in a script: `meets(hob, bun)`, `heard("bell")`, `every(2)`, `replied`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Final, Literal

from .words import GameError

EventKind = Literal[
    "start",
    "pressed",
    "released",
    "held",
    "clicked",
    "meets",
    "overlaps",
    "parts",
    "frame",
    "every",
    "after",
    "heard",
    "picked",
    "replied",
    "typed",
    "entered",
    "appeared",
    "gone",
    "finished",
]
PLAIN_EVENTS: Final[tuple[EventKind, ...]] = ("start", "frame", "replied", "finished")
"""Events that are about nothing: a name without brackets."""
KEY_EVENTS: Final[tuple[EventKind, ...]] = ("pressed", "released", "held")
PAIR_EVENTS: Final[tuple[EventKind, ...]] = ("meets", "overlaps", "parts")
PIECE_EVENTS: Final[tuple[EventKind, ...]] = ("clicked", "appeared", "gone")
"""Events about one piece or kind; `clicked()` is about no piece in particular."""
TEXT_EVENTS: Final[tuple[EventKind, ...]] = ("heard", "picked", "typed", "entered")
TIME_EVENTS: Final[tuple[EventKind, ...]] = ("every", "after")
EVERY_FRAME: Final[tuple[EventKind, ...]] = ("held", "overlaps", "frame")
"""Events that come in frame after frame: a handler that still waits is not started again."""

_ASK: Final[dict[str, str]] = {
    "appeared": "a variable that its handler sets",
    "heard": "a variable that its handler sets",
    "picked": "a variable that its handler sets",
    "typed": "a variable that its handler sets",
    "replied": "a variable that its handler sets",
    "clicked": "a variable that its handler sets",
    "finished": 'outcome() != "playing"',
    "start": "clock() == 0",
    "frame": "clock()",
    "every": "clock()",
}
"""What to ask instead of an event, where no name has to be put in."""


@dataclass(frozen=True, slots=True, repr=False)
class Event:
    """Something that can come: its kind and what it is about (keys, names, texts, or seconds)."""

    kind: EventKind
    about: tuple[str | float, ...] = ()
    answer: Callable[[], bool] | None = field(default=None, compare=False)
    """Answers `gone(bun_1)` where a script asks it as a question; other events are none."""

    def __str__(self) -> str:
        if not self.about:
            return f"{self.kind}()" if self.kind == "clicked" else self.kind
        return f"{self.kind}({', '.join(self._written(each) for each in self.about)})"

    __repr__ = __str__

    def _written(self, each: str | float) -> str:
        if isinstance(each, str):
            return each if self.kind in PAIR_EVENTS or self.kind in PIECE_EVENTS else _quoted(each)
        return f"{each:g}"

    def __eq__(self, other: object) -> bool:
        if self.answer is not None and isinstance(other, bool):
            return self.answer() == other
        return isinstance(other, Event) and (self.kind, self.about) == (other.kind, other.about)

    def __hash__(self) -> int:
        return hash((self.kind, self.about))

    def __bool__(self) -> bool:
        if self.answer is not None:
            return self.answer()
        raise GameError(
            f"{self} is an event to wait for, so it is neither true nor false. "
            f"To ask what is so now, write {self._question()}."
        )

    def _question(self) -> str:
        about = [str(each) for each in self.about]
        match self.kind, about:
            case ("meets" | "overlaps", [first, second]):
                return f"{first}.overlaps({second})"
            case "parts", [first, second]:
                return f"not {first}.overlaps({second})"
            case ("pressed" | "held", [key]):
                return f"is_down({_quoted(key)})"
            case "gone", [kind]:
                return f"len({kind}) == 0, or gone(…) of one piece"
            case "released", [key]:
                return f"not is_down({_quoted(key)})"
            case "entered", [place]:
                return f"place() == {_quoted(place)}"
            case "after", [seconds]:
                return f"clock() >= {seconds}"
        return _ASK[self.kind]


def _quoted(text: str) -> str:
    escaped = text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\n")
    return f'"{escaped}"'
