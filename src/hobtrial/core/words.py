"""The vocabulary that every room shares. Imports nothing of ours.

Units everywhere: time in seconds, lengths in squares, angles in degrees, one frame = 1/30 s.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator
from dataclasses import dataclass
from typing import Any, Final, Literal

FRAMES_PER_SECOND: Final = 30
READING: Final = -1
"""The frame in which the file is read and `start` runs: before frame 0."""

Outcome = Literal["playing", "won", "lost"]

KEYS: Final = frozenset(["left", "right", "up", "down", "space", "enter", *"abcdefghijklmnopqrstuvwxyz0123456789"])


def frame_of(seconds: float) -> int:
    """The frame that a time in seconds belongs to."""
    return math.floor(FRAMES_PER_SECOND * seconds + 0.5 + 1e-9)


def seconds_of(frame: int) -> float:
    """The time in seconds at which a frame begins."""
    return frame / FRAMES_PER_SECOND


class HobError(Exception):
    """Base of everything that this product raises on purpose."""


class UsageError(HobError):
    """What was handed in cannot be used: says what, where and what would be right."""


class Unset:
    """The state of a variable that was never given a value. It is not 0 and not None."""

    _only: Unset | None = None

    def __new__(cls) -> Unset:  # noqa: D102
        if cls._only is None:
            cls._only = super().__new__(cls)
        return cls._only

    def __repr__(self) -> str:
        return "unset"

    def __bool__(self) -> bool:
        return False


UNSET: Final = Unset()


@dataclass(frozen=True, slots=True, order=True)
class Problem:
    """One place in a text that cannot be accepted, in words for the person who wrote it."""

    line: int
    column: int
    kind: str
    message: str
    instead: str = ""

    def as_json(self) -> dict[str, Any]:
        """The problem as the report shows it."""
        return {
            "line": self.line,
            "column": self.column,
            "kind": self.kind,
            "message": self.message,
            "instead": self.instead,
        }


class GameError(Exception):
    """A call into the game that makes no sense there. A script sees it as an exception."""


@dataclass(frozen=True, slots=True)
class Stop:
    """Why a trial ended early: an exception that nobody caught, or a limit."""

    frame: int
    line: int
    handler: str | None
    kind: str
    message: str
    limit: bool = False

    def as_json(self) -> dict[str, Any]:
        """The stop as reports and traces show it."""
        return {
            "frame": self.frame,
            "line": self.line,
            "handler": self.handler,
            "kind": self.kind,
            "message": self.message,
        }


@dataclass(frozen=True, slots=True)
class Named:
    """A value that is shown by its text: a piece, a kind, a function."""

    text: str

    def __repr__(self) -> str:
        return self.text


def as_json_value(value: Any) -> Any:
    """A value of a script as JSON: unset, nan, inf, tuples and named things keep their own form.

    What is larger than a person would read is cut where it is written down: `… and 187 more`.
    """
    return _as_json(value, [LARGEST_WRITTEN])


def _as_json(value: Any, room: list[int]) -> Any:
    """The same; `room` is how many characters may still be written."""
    if value is None or isinstance(value, bool):
        return value
    if isinstance(value, str):
        room[0] -= len(value) + 1
        return value if len(value) <= LONGEST_SHOWN else f"{value[: LONGEST_SHOWN - 1]}…"
    room[0] -= 4
    if isinstance(value, int):
        return value if abs(value) < 2**53 else {"text": short_text(value)}
    if isinstance(value, float):
        return value if math.isfinite(value) else {"text": str(value)}
    if isinstance(value, Unset):
        return {"unset": True}
    if isinstance(value, list):
        return _some(value, room)
    if isinstance(value, dict) and all(isinstance(key, str) for key in value):
        return {key[:LONGEST_SHOWN]: item for key, item in _some(value.items(), room, pairs=True)}
    room[0] -= LONGEST_SHOWN // 4
    return {"text": short_text(value)}


def _some(items: Collection[Any], room: list[int], *, pairs: bool = False) -> list[Any]:
    """As many items as there is room for, and how many there are besides."""
    found: list[Any] = []
    for item in items:
        if room[0] <= 0:
            more = {"text": f"… and {len(items) - len(found)} more"}
            found.append(("…", more) if pairs else more)
            break
        if pairs:
            room[0] -= len(item[0])
        found.append((item[0], _as_json(item[1], room)) if pairs else _as_json(item, room))
    return found


LARGEST_WRITTEN: Final = 600
"""Characters of a value that are written down, whatever it is made of; a list of a hundred numbers is whole."""
LONGEST_SHOWN: Final = 200
"""Characters of a value that are shown to a person; more than a line helps nobody."""


def short_text(value: Any) -> str:
    """A value as Python writes it, cut after `LONGEST_SHOWN` characters.

    Only what is shown is looked at: a list that holds itself twice, sixty times over, would take for ever.
    """
    parts: list[str] = []
    _write(value, parts, [LONGEST_SHOWN])
    text = "".join(parts)
    return text if len(text) <= LONGEST_SHOWN else text[: LONGEST_SHOWN - 1] + "…"


_BRACKETS: Final[dict[type, tuple[str, str]]] = {
    list: ("[", "]"),
    tuple: ("(", ")"),
    set: ("{", "}"),
    frozenset: ("frozenset({", "})"),
    dict: ("{", "}"),
}


def _write(value: Any, parts: list[str], room: list[int]) -> None:
    """Writes a value into `parts` as long as there is room; each level and each item takes some."""

    def add(text: str) -> None:
        parts.append(text)
        room[0] -= len(text)

    if room[0] < 0:
        return
    if isinstance(value, BaseException):
        add(type(value).__name__)
        value = tuple(value.args)
        if len(value) == 1:
            add("(")
            _write(value[0], parts, room)
            add(")")
            return
    brackets = _BRACKETS.get(type(value))
    if brackets is None or not value:
        add(_plain(value, max(room[0], 0) + 1))
        return
    add(brackets[0])
    for number, item in enumerate(value):
        if room[0] < 0:
            return
        if number:
            add(", ")
        _write(item, parts, room)
        if type(value) is dict:
            add(": ")
            _write(value[item], parts, room)
    add(",)" if type(value) is tuple and len(value) == 1 else brackets[1])


def _plain(value: Any, room: int) -> str:
    """A value that holds no others, as Python writes it."""
    try:
        return repr(value[:room] if isinstance(value, str) else value)
    except ValueError:  # a whole number with more digits than Python will write
        return "a very large number"


@dataclass(slots=True)
class Timeline:
    """The values that one thing took: parallel lists, a new entry only where the value changed.

    Written by one recorder, then only read. Frames rise strictly.
    """

    frames: list[int]
    values: list[Any]

    def at(self, frame: int) -> Any:
        """The value in a frame; unset before the first entry."""
        low, high = 0, len(self.frames)
        while low < high:
            middle = (low + high) // 2
            if self.frames[middle] <= frame:
                low = middle + 1
            else:
                high = middle
        return self.values[low - 1] if low else UNSET

    def changes(self) -> Iterator[tuple[int, Any]]:
        """Frame and new value, in order."""
        return zip(self.frames, self.values, strict=True)


_CONTROLS: Final = {
    number: "�" for number in (*range(32), *range(127, 160), *range(0xD800, 0xE000)) if number not in (9, 10)
}


def clean(value: Any) -> Any:
    """JSON without control characters and lone surrogates, which databases and terminals choke on."""
    if isinstance(value, str):
        return value if value.isprintable() else value.translate(_CONTROLS)
    if isinstance(value, dict):
        return {clean(key): clean(item) for key, item in value.items()}
    if isinstance(value, list):
        return [clean(item) for item in value]
    return value


def plural(count: int, one: str, many: str | None = None) -> str:
    """`1 check`, `2 checks`."""
    return f"{count} {one if count == 1 else many or one + 's'}"


FORMULAS: Final = ("=", "+", "-", "@", "\t", "\r")
"""How a cell begins that a spreadsheet would take for a formula."""


def safe_cell(value: Any) -> Any:
    """A cell that no spreadsheet computes: numbers stay numbers, a text that looks like a formula is quoted."""
    return f"'{value}" if isinstance(value, str) and value.startswith(FORMULAS) else value
