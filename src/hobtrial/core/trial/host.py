"""Runs pieces of the script: under its budget, with its names, and until it is stopped.

What woven code and handles call ends up here. The frame order stands in `run.py`.
"""

from __future__ import annotations

import builtins
import sys
from abc import abstractmethod
from collections.abc import Callable
from typing import Any

from ..scene import Body, SceneState
from ..script import SCRIPT_FILE, Guards, Halt, Limits, Woven, builtins_of, stand_ins
from ..script.hints import loop_hint
from ..script.texts import message_of
from ..words import READING, Event, Outcome, Stop, short_text
from .handles import HANDLES, GameHolder, PieceHandle, had_value
from .names import game_names
from .pairs import Handler
from .plan import Plan
from .recorder import Recorder
from .story import Story
from .trace import Shown
from .waits import Waits


class TrialOver(BaseException):
    """Unwinds to the end of the trial once the script was stopped."""


class Host:
    """One trial's script while it runs: its globals, its budget, its story, its waiting handlers."""

    def __init__(self, woven: Woven, scene: SceneState, plan: Plan, limits: Limits, *, record: bool) -> None:
        self.scene = scene
        self.plan = plan
        self.frame = READING
        self.outcome: Outcome = "playing"
        self.down: dict[str, int] = {}
        self.board: dict[str, Any] = {}
        self.shown: list[Shown] = []
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
        self._answers = list(plan.answers)
        self._removed = False
        self._stop: Stop | None = None
        self._globals: dict[str, Any] = self._namespace()

    @abstractmethod
    def register(self, function: Any, events: tuple[Event, ...], takes: int) -> None:
        """Adds a handler, for each of its events once, in file order."""

    def _context(self) -> tuple[Handler | None, int, int]:
        """What is to be restored when a handler goes on after waiting."""
        return self._handler, self._depth, self.recorder.cause if self.recorder else -1

    def _namespace(self) -> dict[str, Any]:
        modules = stand_ins(self.guards, self.plan.seed, self.waits.wait)

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
        return {"__builtins__": {**builtins_of(self.guards), **game_names(self), **hidden}}

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
            self._stopped("memory", "The script used more memory than a trial may.", _line_of(error), limit=True)
        except Exception as error:
            self._stopped(type(error).__name__, message_of(error)[:500], _line_of(error), limit=False)
        finally:
            self._left -= granted - max(self._budget[0], 0)

    def _stopped(self, kind: str, message: str, line: int, *, limit: bool) -> None:
        name = self._handler.name if self._handler else None
        self._stop = Stop(self.frame, line, name, kind, message, limit)
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
        if isinstance(sys.exception(), (MemoryError, RecursionError)):
            raise Halt(
                "depth" if isinstance(sys.exception(), RecursionError) else "memory", "The script grew too large.", line
            )
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
        if body.removed:
            self._removed = True

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
        if self.outcome == "playing":
            self.outcome = outcome
            if self.recorder is not None:
                self.recorder.change(self.script_line(), "script", "outcome", outcome)
            if text:
                self.story.tell(text)

    def ask(self, text: str) -> str:
        """`input`: tells the question and waits for the scenario's next answer."""
        if text:
            self.story.tell(text)
        if not self._answers:
            raise Halt("input", "The script asked once more than the scenario answers.", self.script_line())
        frame, answer = self._answers.pop(0)
        if frame > self.frame:
            self.waits.sleep_until(frame, frame / 30)
        return answer


def _line_of(error: BaseException) -> int:
    """The last line of the script in an exception's traceback."""
    line, trace = 0, error.__traceback__
    while trace is not None:
        if trace.tb_frame.f_code.co_filename == SCRIPT_FILE:
            line = trace.tb_lineno
        trace = trace.tb_next
    return line
