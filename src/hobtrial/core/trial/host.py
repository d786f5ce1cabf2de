"""Runs pieces of the script: under its budget, with its names, and until it is stopped.

What woven code and handles call ends up here. The frame order stands in `run.py`.
"""

from __future__ import annotations

import builtins
import sys
from abc import abstractmethod
from collections import deque
from collections.abc import Callable
from typing import Any, NamedTuple

from ..events import Event, EventKind
from ..scene import MOST_PIECES, Body, SceneState
from ..script import SCRIPT_FILE, Guards, Halt, Limits, OutOfMemory, Woven, builtins_of, stand_ins
from ..script.hints import loop_hint
from ..script.texts import message_of, str_of
from ..words import FRAMES_PER_SECOND, READING, GameError, Outcome, Stop, frame_of, short_text
from .handlers import Handler
from .handles import HANDLES, GameHolder, PieceHandle, had_value
from .names import game_names
from .plan import Plan
from .recorder import Recorder
from .showing import Showing, Spot
from .story import Story
from .trace import Missed
from .waits import Waits


class TrialOver(BaseException):
    """Unwinds to the end of the trial once the script was stopped."""


class Context(NamedTuple):
    """What belongs to a run of a handler, and is restored when it goes on after waiting."""

    handler: Handler | None
    depth: int
    cause: int
    about: tuple[int, ...]
    """The indexes of the pieces that its event was about."""


class Queued(NamedTuple):
    """An event that the script caused: it is delivered when the handler that caused it has ended or waits."""

    kind: EventKind
    body: Body | None
    text: str
    line: int


MOST_MESSAGES = 1_000
"""Events that a script may cause in one frame: a loop of messages that never ends comes here."""


MOST_MISSED = 200
"""Things that came to nothing that are kept: the first ones tell."""
MOST_MESSAGES_A_TRIAL = 20_000
"""The same in one trial: far more than anybody can follow."""


class Host:
    """One trial's script while it runs: its globals, its budget, its story, its waiting handlers."""

    def __init__(self, woven: Woven, scene: SceneState, plan: Plan, limits: Limits, *, record: bool) -> None:
        self.scene = scene
        self.plan = plan
        self.frame = READING
        self.outcome: Outcome = "playing"
        self.down: dict[str, int] = {}
        self.showing = Showing()
        self.facts: dict[str, Any] = {fact.name: fact.start for fact in scene.spec.fact}
        self.fact_changes: list[tuple[int, str, Any]] = []
        self.frozen_spawners: set[str] = set()
        self.missed: list[Missed] = []
        self.story = Story(limits, lambda: (self.frame, self.script_line()))
        self.game = GameHolder(self)
        self.recorder = Recorder(woven) if record else None
        self.guards = Guards(limits, HANDLES)
        self.waits = Waits(lambda: self.frame, self._context)
        self._woven = woven
        self._limits = limits
        self._handles: dict[int, PieceHandle] = {}
        self._budget = self.guards.budget
        self._left = limits.passes_a_trial
        self._depth = 0
        self._line = 0
        self._handler: Handler | None = None
        self._about: tuple[int, ...] = ()
        self._queue: deque[Queued] = deque()
        self._queued = (READING, 0)
        self._caused = 0
        self._answers = list(plan.answers)
        self.answered: list[tuple[int, str]] = []
        """The answers that a straight script took, with their frames."""
        self.stop: Stop | None = None
        self._globals: dict[str, Any] = self._namespace()

    @abstractmethod
    def register(self, function: Any, events: tuple[Event, ...], takes: int) -> None:
        """Adds a handler, for each of its events once, in file order."""

    @abstractmethod
    def joined(self, body: Body) -> None:
        """A piece was added or came back: whatever looks at pieces must know of it."""

    @abstractmethod
    def removed(self, body: Body) -> None:
        """A piece was taken off the scene."""

    def _context(self) -> Context:
        return Context(self._handler, self._depth, self.recorder.cause if self.recorder else -1, self._about)

    def _namespace(self) -> dict[str, Any]:
        modules = stand_ins(self.guards, self.plan.seed, self.waits.wait, self.plan.luck)

        def module(name: str, part: str | None) -> Any:
            return modules[name] if part is None else getattr(modules[name], part)

        hidden: dict[str, Any] = {
            "__name__": "__main__",
            "__build_class__": builtins.__build_class__,
            "__b": self._budget,
            "__over": self._over,
            "__tick": self._tick,
            "__except": self._except,
            "__module": module,
            "__enter": self._enter,
            "__leave": self._leave,
            "__put": self._put,
            **self.guards.hidden(),
            **(self.recorder.hidden() if self.recorder else {}),
        }
        return {"__builtins__": {**builtins_of(self.guards), **game_names(self), **self.facts, **hidden}}

    def _guarded(self, work: Callable[[], Any]) -> None:
        """Runs a piece of the script under its budget; turns what ends it into a stop."""
        granted = self._budget[0] = min(self._limits.passes_a_handler, self._left)
        try:
            work()
        except Halt as halt:
            self._stopped(halt.kind, halt.message, halt.line or _line_of(halt), limit=True)
        except RecursionError as error:
            self._stopped("depth", "Functions called each other too deep.", _line_of(error), limit=True)
        except MemoryError as error:
            raise OutOfMemory from error
        except Exception as error:
            self._stopped(type(error).__name__, message_of(error)[:500], _line_of(error), limit=False)
        finally:
            self._left -= granted - max(self._budget[0], 0)

    def _stopped(self, kind: str, message: str, line: int, *, limit: bool) -> None:
        name = self._handler.name if self._handler else None
        self.stop = Stop(self.frame, line, name, kind, message, limit)
        raise TrialOver

    # ---- what the woven code and the handles call

    def _over(self, line: int) -> None:
        if (
            self._left <= self._limits.passes_a_handler
            and self._budget[0] < 0
            and self._left < self._limits.passes_a_trial
        ):
            often = f"{self._limits.passes_a_trial:,} times in one trial"
        else:
            often = f"{self._limits.passes_a_handler:,} times in one frame"
        raise Halt("loop", loop_hint(self._woven.script, line, often), line)

    def _tick(self, line: int) -> bool:
        """A pass of a loop inside an expression, or a call of a lambda."""
        self._budget[0] -= 1
        if self._budget[0] < 0:
            self._over(line)
        return True

    def _except(self, line: int) -> None:
        """The body of an `except` begins: what no script may catch is raised again."""
        met = sys.exception()
        if isinstance(met, MemoryError):
            raise OutOfMemory from met
        if isinstance(met, RecursionError):
            raise Halt("depth", "Functions called each other too deep.", line)
        self._tick(line)

    def _enter(self, line: int) -> None:
        self._depth += 1
        if self._depth > self._limits.depth:
            raise Halt("depth", f"Functions called each other {self._limits.depth} deep.", line)

    def _leave(self) -> None:
        self._depth -= 1

    def _put(self, line: int, name: str, value: Any, owner: Any) -> None:
        if not isinstance(owner, HANDLES):
            raise Halt(
                "refused", f"Only pieces and `game` can hold variables of their own, not {short_text(owner)}.", line
            )
        self._line = line
        setattr(owner, name, value)

    def handle(self, body: Body) -> PieceHandle:
        """The one handle of a piece."""
        handle = self._handles.get(body.index)
        if handle is None:
            handle = self._handles[body.index] = PieceHandle(body, self)
        return handle

    def touched(self, body: Body) -> None:
        """A script changed a piece: its pairs are looked at again in this frame and the next."""
        body.stamp = self.frame + 1

    def cause(self, kind: EventKind, body: Body | None = None, text: str = "") -> None:
        """Queues an event that the script brought about."""
        frame, number = self._queued
        self._queued = (self.frame, number + 1 if frame == self.frame else 1)
        self._caused += 1
        if self._queued[1] > MOST_MESSAGES or self._caused > MOST_MESSAGES_A_TRIAL:
            often = f"{MOST_MESSAGES:,} messages in one frame"
            if self._queued[1] <= MOST_MESSAGES:
                often = f"{MOST_MESSAGES_A_TRIAL:,} messages in one trial"
            raise Halt("messages", f"More than {often}.", self.script_line())
        self._queue.append(Queued(kind, body, text, self.script_line()))

    def spot(self) -> Spot:
        """The present frame and the line of the script that is running."""
        return Spot(self.frame, self.script_line())

    def told(self, text: Any, body: Body) -> None:
        """A piece tells something."""
        self.story.tell(str_of(text), body.name)

    def walk(self, body: Body, to: tuple[float, float], seconds: float) -> None:
        """Moves a piece at an even pace while the handler waits; a removed piece stays where it is."""
        first, x, y = max(self.frame, 0), body.x, body.y
        frames = max(1, frame_of(first / FRAMES_PER_SECOND + seconds) - first)
        for step in range(1, frames + 1):
            self.waits.sleep_until(first + step, (first + step) / FRAMES_PER_SECOND)
            if body.removed:
                return
            body.x = round(x + (to[0] - x) * step / frames, 6)
            body.y = round(y + (to[1] - y) * step / frames, 6)
            self.touched(body)

    def stop_waits_of(self, body: Body) -> None:
        """Ends the waiting handlers that were started for a piece."""
        self.waits.stop(lambda context: body.index in context.about)

    def set_fact(self, name: str, value: Any) -> None:
        """Gives a fact another value."""
        self.facts[name] = value
        self._globals["__builtins__"][name] = value
        self.fact_changes.append((self.frame, name, value))

    def miss(self, what: str, why: str) -> None:
        """Notes something that came to nothing."""
        if len(self.missed) < MOST_MISSED:
            self.missed.append(Missed(self.frame, what, why))

    def stored(self, name: str, old: Any, new: Any) -> None:
        """A variable of a piece or of `game` was set."""
        if self.recorder is not None:
            if had_value(old):
                self.recorder.known(name, old)
            self.recorder.change(self._line, "script", name, new)

    def script_line(self) -> int:
        """The line of the script that is running."""
        frame = sys._getframe(1)
        while frame is not None:
            if frame.f_code.co_filename == SCRIPT_FILE:
                return frame.f_lineno
            frame = frame.f_back  # type: ignore[assignment]
        return 0

    def end_with(self, outcome: Outcome, text: str) -> None:
        """The game is won or lost; the first counts."""
        if self.outcome != "playing":
            self.miss(outcome, f"the outcome was {self.outcome} already")
            return
        self.outcome = outcome
        if self.recorder is not None:
            self.recorder.change(self.script_line(), "script", "outcome", outcome)
        if text:
            self.story.tell(text)
        self.cause("finished")

    def play_again(self) -> None:
        """The outcome is "playing" once more; nothing else is put back."""
        if self.outcome != "playing":
            self.outcome = "playing"
            if self.recorder is not None:
                self.recorder.change(self.script_line(), "script", "outcome", "playing")

    def ask(self, text: str) -> str:
        """`input`: tells the question and waits for the scenario's next answer."""
        if text:
            self.story.tell(text)
        if not self._answers and not self.plan.by_hand:
            raise Halt("input", "The script asked once more than the scenario answers.", self.script_line())
        if not self._answers:
            self.showing.ask(text or "?", self.spot())
        while not self._answers:
            self.waits.sleep_until(self.frame + 1, (self.frame + 1) / FRAMES_PER_SECOND)
        frame, answer = self._answers.pop(0)
        if frame > self.frame:
            self.waits.sleep_until(frame, frame / FRAMES_PER_SECOND)
        self.answered.append((self.frame, answer))
        return answer

    def take_answer(self, text: str) -> bool:
        """An answer by hand, for a script that waits in `input`; whether the script is of that kind."""
        if not self._woven.script.straight:
            return False
        self._answers.append((self.frame, text))
        return True

    def enter(self, place: str) -> None:
        """The player is in another place from now on."""
        places = self.scene.spec.places
        if places and place not in places:
            raise GameError(f"There is no place {place!r}. The places here are {', '.join(map(repr, places))}.")
        self.showing.go_to(place, self.spot())
        self.cause("entered", text=place)

    def spawn(self, kind: str, at: tuple[float, float]) -> Body:
        """Adds a piece of a kind."""
        mould = self.scene.mould_of(kind)
        if mould is None:
            kinds = ", ".join(f'"{each}"' for each in sorted(self.scene.spec.all_kinds))
            raise GameError(f"`spawn` takes the name of a kind in quotes. Here are {kinds}, and no {kind!r}.")
        if self.scene.full:
            raise Halt("pieces", f"More than {MOST_PIECES} pieces were in the scene.", self.script_line())
        body = self.scene.spawn(mould, at, self.frame + 1)
        self.joined(body)
        self.cause("appeared", body)
        return body


def _line_of(error: BaseException) -> int:
    """The last line of the script in an exception's traceback."""
    line, trace = 0, error.__traceback__
    while trace is not None:
        if trace.tb_frame.f_code.co_filename == SCRIPT_FILE:
            line = trace.tb_lineno
        trace = trace.tb_next
    return line
