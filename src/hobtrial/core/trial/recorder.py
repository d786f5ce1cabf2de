"""Records a trial while it runs, then freezes it. One mutable recorder, one frozen `Trace`.

What checks ask about is sampled in every trial (`sampler.py`). `Recorder` adds every change, test, event and
movement, and gives the woven code its recording probes.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum
from typing import Any, Final

from ..events import Event
from ..scene import Body
from ..script import Halt, Test, Woven, text_of
from ..script.texts import DEEPEST, PLAIN
from ..words import UNSET, Named, short_text
from .trace import Answered, Came, Change, Overlapped, Step, StepKind

RECORDS_A_FRAME: Final = 200
"""Changes and tests that one frame may record before its loops go on uncounted."""
RECORDS_A_TRIAL: Final = 100_000
"""Changes and tests of one trial: about 20 MB; far more than a person can read."""
MOST_STEPS: Final = 1_000
"""Steps of a straight script that are kept: far more than a person goes through."""
MOST_KEPT: Final = 2_000
"""Parts of one value that are kept, all levels together."""


def keep(value: Any) -> Any:
    """A copy of a script's value that nothing can change any more; what is too large is only named."""
    if type(value) in PLAIN or value is UNSET:
        return value
    return _copy(value, 0, [MOST_KEPT])


def _copy(value: Any, depth: int, left: list[int]) -> Any:
    kind = type(value)
    if kind in PLAIN or value is UNSET:
        return value
    if kind in (list, tuple, dict, set):
        left[0] -= len(value) + 1
        if depth >= DEEPEST or left[0] < 0:
            return Named("a large collection")
        if kind is dict:
            return {_key(key): _copy(item, depth + 1, left) for key, item in value.items()}
        if kind is set:
            return _named(value)
        if PLAIN.issuperset(map(type, value)):  # most lists: nothing in them can change
            return kind(value)
        return kind(_copy(item, depth + 1, left) for item in value)
    if isinstance(value, Enum):
        return Named(str(value))
    return _named(value)


def _named(value: Any) -> Named:
    """A value by its text; by as much of it as is shown where it is too large to be written."""
    if isinstance(value, BaseException) and not PLAIN.issuperset(map(type, value.args)):
        return Named(type(value).__name__)  # exceptions in exceptions have no end
    try:
        return Named(text_of(value))
    except Halt:
        return Named(short_text(value))


def _key(key: Any) -> Any:
    return key if type(key) in PLAIN else _named(key)


class Recorder:
    """Everything that happens in one trial. `frame`, `handler` and `cause` are kept by the run."""

    def __init__(self, woven: Woven) -> None:
        self.frame = -1
        self.handler: str | None = None
        self.cause = -1
        self.changes: list[Change] = []
        self.tests: list[Answered] = []
        self.events: list[Came] = []
        self.keys: list[tuple[int, str, bool]] = []
        self.overlaps: list[Overlapped] = []
        self.pieces: dict[str, dict[str, list[tuple[int, Any]]]] = {}
        self.lines: dict[int, list[tuple[int, int, int]]] = {}
        self.thinned: list[str] = []
        self.steps: list[Step] = []
        self._by_steps = woven.script.straight
        self.counters = [0] * len(woven.lines)
        self.recording = [True]
        self._woven = woven
        self._values: dict[tuple[str, str], Any] = {}
        self._parts: list[tuple[int, int, Any]] = []
        self._frame_start = 0

    def hidden(self) -> dict[str, Any]:
        """The hidden names of the woven code that record."""
        return {
            "__n": self.counters,
            "__r": self.recording,
            "__set": self.global_set,
            "__loc": self.local_set,
            "__kept": self.kept,
            "__again": self.again,
            "__v": self.part,
            "__t": self.answer,
        }

    # ---- probes

    def global_set(self, line: int, name: str, value: Any) -> None:
        """A global has a new value."""
        self.change(line, "script", name, value)

    def local_set(self, line: int, scope: str, name: str, value: Any) -> None:
        """A local of a function has a new value."""
        self.change(line, scope, name, value)

    def kept(self, line: int, scope: str | None, name: str, value: Any) -> Any:
        """`name := value`; gives the value on."""
        self.change(line, scope or "script", name, value)
        return value

    def again(self, line: int, scope: str | None, name: str, value: Any) -> None:
        """A statement may have changed the collection that a variable holds."""
        if type(value) in (list, dict, set):
            self.change(line, scope or "script", name, value)

    def change(self, line: int, scope: str, name: str, value: Any) -> None:
        """Notes that a value was stored, with the value before."""
        new = value if type(value) in PLAIN else keep(value)
        key = (scope, name)
        old = self._values.get(key, UNSET)
        self._values[key] = new
        if self._room():
            self.changes.append(Change(self.frame, line, self.handler, scope, name, old, new, self.cause))
            if scope == "script" and old != new:
                self.step("changed", line, name, new)

    def step(self, kind: StepKind, line: int, text: str, value: Any = None) -> None:
        """Notes what a straight script did; other scripts do things in frames."""
        if self._by_steps and len(self.steps) < MOST_STEPS:
            self.steps.append(Step(kind, self.frame, line, text, value))

    def arranged(self, name: str, value: Any) -> None:
        """A scenario put a value in place of the script's: no change of the script's own."""
        self._values["script", name] = keep(value)

    def known(self, name: str, value: Any) -> None:
        """The value that a variable of a piece has had since before anything was recorded."""
        self._values.setdefault(("script", name), keep(value))

    def part(self, test: int, part: int, value: Any) -> Any:
        """A part of a test was evaluated; gives the value on."""
        self._parts.append((test, part, value))
        return value

    def answer(self, number: int, answer: Any) -> Any:
        """A test was answered; gives the answer on."""
        parts: list[tuple[str, Any]] = []
        test: Test = self._woven.tests[number]
        last = len(test.parts)
        stack = self._parts
        while stack and stack[-1][0] == number and stack[-1][1] < last:
            _, last, value = stack.pop()
            parts.append((test.parts[last], value if type(value) in PLAIN else keep(value)))
        if self._room():
            parts.reverse()
            self.tests.append(
                Answered(self.frame, test.line, test.text, tuple(parts), bool(answer), self.handler, self.cause)
            )
        return answer

    def _room(self) -> bool:
        """Whether this frame may record one more; switches its loops to counting when not."""
        made = len(self.changes) + len(self.tests)
        if made - self._frame_start < RECORDS_A_FRAME and made < RECORDS_A_TRIAL:
            return True
        if self.recording[0]:
            self.recording[0] = False
            where = "the reading of the file" if self.frame < 0 else f"frame {self.frame}"
            self.thinned.append(f"{where}: after {RECORDS_A_FRAME} records the rest was left out")
        return False

    # ---- the run

    def came(self, event: Event, handlers: tuple[str, ...], lines: tuple[int, ...], waiting: int) -> None:
        """An event came; its number becomes the cause of what follows."""
        if len(self.events) >= RECORDS_A_TRIAL:
            words = f"after {RECORDS_A_TRIAL:,} events the rest was left out"
            if not (self.thinned and self.thinned[-1].endswith(words)):
                self.thinned.append(f"frame {self.frame}: {words}")
            self.cause = -1
            return
        self.cause = len(self.events)
        self.events.append(Came(self.frame, event, handlers, lines, waiting))

    def begin(self, frame: int) -> None:
        """A frame begins."""
        self.frame = frame
        self._frame_start = len(self.changes) + len(self.tests)
        if not self.recording[0] and self._frame_start < RECORDS_A_TRIAL:
            self.recording[0] = True

    def end(self, bodies: Sequence[Body], *, ran: bool) -> None:
        """A frame ends: folds the line counters if any handler ran, and notes what moved."""
        frame = self.frame
        if ran:
            self._fold(frame)
        for body in bodies:
            if body.stamp < frame:
                continue
            track = self.pieces.get(body.name)
            if track is None:
                track = self.pieces[body.name] = {}
            x = track.get("x")
            if x is None:
                _note_all(track, body, frame)
                continue
            if x[-1][1] != body.x:
                x.append((frame, body.x))
            y = track["y"]
            if y[-1][1] != body.y:
                y.append((frame, body.y))
            if body.stamp > frame:  # a script touched it
                _note_all(track, body, frame)

    def _fold(self, frame: int) -> None:
        counters, lines, spans = self.counters, self._woven.lines, self.lines
        for number, count in enumerate(counters):
            if not count:
                continue
            counters[number] = 0
            runs = spans.setdefault(lines[number], [])
            if runs and runs[-1][1] >= frame - 1:
                first, _, before = runs[-1]
                runs[-1] = (first, frame, before + count)
            else:
                runs.append((frame, frame, count))


def _note_all(track: dict[str, list[tuple[int, Any]]], body: Body, frame: int) -> None:
    values = {
        "x": body.x,
        "y": body.y,
        "facing": body.facing,
        "look": body.look,
        "visible": body.visible,
        "opacity": body.opacity,
        "size": body.size,
        "speed": body.speed,
        "carrying": body.carrying.name if body.carrying is not None else None,
        "removed": body.removed,
        "kind": body.kind,
    }
    for name, value in values.items():
        history = track.setdefault(name, [])
        if not history or history[-1][1] != value:
            history.append((frame, value))
