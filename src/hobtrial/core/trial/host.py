"""Runs pieces of the script: under its budget, with its names, and until it is stopped.

What woven code calls ends up here; what its names do to the game stands in `state.py`, the frame order in `run.py`.
"""

from __future__ import annotations

import builtins
import sys
from collections.abc import Callable
from typing import Any

from ..script import Guards, Halt, Limits, OutOfMemory, StandIn, Woven, builtins_of, stand_ins
from ..script.hints import loop_hint
from ..script.texts import message_of
from ..words import Stop, short_text
from .handles import HANDLES
from .lines import line_of
from .names import game_names
from .state import GameState

WORK_OF_AN_EXCEPTION = 20
"""Passes that making and catching an exception is worth."""
LONGEST_MESSAGE = 500
"""Characters of what an exception says."""


class TrialOver(BaseException):
    """Unwinds to the end of the trial once the script was stopped."""


def _message(error: Exception) -> str:
    """What an exception says, cut; of what is too large to be written, as much as is shown of a value."""
    try:
        return message_of(error)[:LONGEST_MESSAGE]
    except (Halt, RecursionError):
        return ", ".join(map(short_text, error.args[:3]))


class Host:
    """The script of one trial while it runs: its globals, its budget, and why it was stopped."""

    def __init__(self, woven: Woven, state: GameState, limits: Limits) -> None:
        self.state = state
        self.stop: Stop | None = None
        self.guards = Guards(limits, HANDLES)
        self._woven = woven
        self._limits = limits
        self._budget = self.guards.budget
        self._left = limits.passes_a_trial
        self._charged_before = 0
        self._rounds = self._rounds_before = 0
        """What of that belongs to the rounds of loops, as exceptions do: now, and before this handler ran."""
        self._modules: dict[str, StandIn] = {}
        self._pieces = woven.counting if state.recorder is None else woven.recording
        self.globals: dict[str, Any] = {"__builtins__": self._names()}
        state.script = self.globals

    def _names(self) -> dict[str, Any]:
        state = self.state
        hidden: dict[str, Any] = {
            "__name__": "__main__",
            "__build_class__": builtins.__build_class__,
            "__b": self._budget,
            "__over": self._over,
            "__tick": self._tick,
            "__except": self._except,
            "__long": self._long,
            "__module": self._module,
            "__enter": self._enter,
            "__leave": self._leave,
            "__put": self._put,
            **self.guards.hidden(),
            **(state.recorder.hidden() if state.recorder else {}),
        }
        state.names.update({**builtins_of(self.guards), **game_names(state), **state.facts, **hidden})
        return state.names

    @property
    def passes(self) -> int:
        """Loop passes and calls that the script has spent, those of what is Python's own among them."""
        return self._limits.passes_a_trial - self._left + self.guards.calls

    @property
    def spent(self) -> tuple[int, int, int]:
        """Passes of the budget, calls that went through the guards, and work that they charged."""
        return self._limits.passes_a_trial - self._left, self.guards.calls, self.guards.charged

    @property
    def room(self) -> int:
        """Passes that can be spent before the trial's limit is near."""
        return max(0, self._left - self._limits.passes_a_handler)

    def spend(self, passes: int, calls: int, charged: int) -> None:
        """Counts what was not run, since it would have changed nothing."""
        self._left -= passes
        self.guards.calls += calls
        self.guards.charged += charged

    def read_file(self) -> None:
        """Runs the file from top to bottom."""
        members = any(isinstance(value, str) and "." in value for value in self.state.facts.values())
        for piece in self._pieces:
            exec(piece, self.globals)
            if members:
                self.state.bind_members()

    def run(self, work: Callable[..., Any], *given: Any) -> None:
        """Runs a piece of the script under its budget. Raises `TrialOver` where that is stopped; `stop` says why."""
        self._charged_before, self._rounds_before = self.guards.charged, self._rounds
        granted = self._budget[0] = min(self._limits.passes_a_handler, self._left)
        try:
            work(*given)
        except Halt as halt:
            self._stopped(halt.kind, halt.message, halt.line or line_of(halt), limit=True)
        except RecursionError as error:
            self._stopped("depth", "Functions called each other too deep.", line_of(error), limit=True)
        except MemoryError as error:
            raise OutOfMemory from error
        except Exception as error:
            self._stopped(type(error).__name__, _message(error), line_of(error), limit=False)
        finally:
            self._left -= granted - max(self._budget[0], 0)

    def _stopped(self, kind: str, message: str, line: int, *, limit: bool) -> None:
        name = self.state.handler.name if self.state.handler else None
        self.stop = Stop(self.state.frame, line, name, kind, message, limit)
        raise TrialOver

    # ---- what the woven code calls

    def _module(self, name: str, part: str | None) -> Any:
        if not self._modules:
            plan = self.state.plan
            self._modules = stand_ins(self.guards, plan.seed, self.state.waits.wait, plan.luck)
        module = self._modules[name]
        return module if part is None else getattr(module, part)

    def _over(self, line: int) -> None:
        """The budget is spent: on passes of a loop and calls, or on what single lines go through inside Python."""
        in_trial = (
            self._left <= self._limits.passes_a_handler
            and self._budget[0] < 0
            and self._left < self._limits.passes_a_trial
        )
        limit = self._limits.passes_a_trial if in_trial else self._limits.passes_a_handler
        where = "in one trial" if in_trial else "in one frame"
        charged = self.guards.charged - (0 if in_trial else self._charged_before)
        rounds = self._rounds - (0 if in_trial else self._rounds_before)
        if (charged - rounds) * 2 > limit:
            words = f"The lines here go through long texts, lists or numbers again and again: too much work {where}."
            raise Halt("work", words, line)
        passes = limit if charged * 100 < limit else (limit - charged) // 1000 * 1000
        often = f"{passes:,} times {where}" if passes == limit else f"more than {passes:,} times {where}"
        raise Halt("loop", loop_hint(self._woven.script, line, often), line)

    def _tick(self, line: int) -> bool:
        """A pass of a loop inside an expression, or a call of a lambda."""
        self._budget[0] -= 1
        if self._budget[0] < 0:
            self._over(line)
        return True

    def _long(self, more: int) -> None:
        """A pass of a loop that does many things is work as several are, and one pass by the limits all the same."""
        self.guards.calls += more

    def _except(self, line: int) -> None:
        """The body of an `except` begins: what no script may catch is raised again."""
        met = sys.exception()
        if isinstance(met, MemoryError):
            raise OutOfMemory from met
        if isinstance(met, RecursionError):
            raise Halt("depth", "Functions called each other too deep.", line)
        self.guards.charge(WORK_OF_AN_EXCEPTION)
        self._rounds += WORK_OF_AN_EXCEPTION
        if self._budget[0] < 0:
            self._over(line)

    def _enter(self, line: int) -> None:
        self.state.depth += 1
        if self.state.depth > self._limits.depth:
            raise Halt("depth", f"Functions called each other {self._limits.depth} deep.", line)

    def _leave(self) -> None:
        self.state.depth -= 1

    def _put(self, line: int, name: str, value: Any, owner: Any) -> None:
        if not isinstance(owner, HANDLES):
            raise Halt(
                "refused", f"Only pieces and `game` can hold variables of their own, not {short_text(owner)}.", line
            )
        self.state.line = line
        setattr(owner, name, value)
