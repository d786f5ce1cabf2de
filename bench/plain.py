"""What the trials are measured against: the same scene engine and frame order, the unwoven tree,
no recorder, no guards.
"""

from __future__ import annotations

import builtins
import functools
from collections.abc import Iterable
from types import CodeType

from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import SCRIPT_FILE, Script, Woven
from hobtrial.core.trial import Observable, Options, Plan, Run
from hobtrial.core.trial.names import game_names


class Unwoven(Woven):
    """A script compiled as it is."""

    @functools.cached_property
    def counting(self) -> tuple[CodeType, ...]:
        """Python's own code."""
        return (compile(self.script.text, SCRIPT_FILE, "exec"),)

    @functools.cached_property
    def waits(self) -> bool:
        """No script of these benches waits."""
        return False


class PlainRun(Run):
    """A run whose script has Python's own builtins and no hidden names."""

    def __init__(self, woven: Woven, scene: SceneSpec, plan: Plan, observe: Iterable[Observable] = ()) -> None:
        super().__init__(woven, scene, plan, Options(observe=tuple(observe)))
        names = self.state.names
        names.clear()
        names.update({**vars(builtins), **game_names(self.state), "__name__": "__main__"})


def unwoven(script: Script) -> Woven:
    """The script compiled as it is."""
    return Unwoven(script, frozenset())


def play_plain(woven: Woven, scene: SceneSpec, plan: Plan, observe: Iterable[Observable] = ()) -> None:
    """Plays a trial plainly."""
    PlainRun(woven, scene, plan, observe).go()
