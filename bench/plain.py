"""What the trials are measured against: the same scene engine and frame order, the unwoven tree,
no recorder, no guards.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import DEFAULT_LIMITS, SCRIPT_FILE, Script, Woven
from hobtrial.core.trial import Observable, Plan
from hobtrial.core.trial.names import game_names
from hobtrial.core.trial.run import Run


class PlainRun(Run):
    """A run whose script has Python's own builtins and no hidden names."""

    def _namespace(self) -> dict[str, Any]:
        import builtins

        return {"__builtins__": {**vars(builtins), **game_names(self)}}


def unwoven(script: Script) -> Woven:
    """The script compiled as it is."""
    code = compile(script.text, SCRIPT_FILE, "exec")
    return Woven(script, code, code, (), (), waits=False)


def play_plain(woven: Woven, scene: SceneSpec, plan: Plan, observe: Iterable[Observable] = ()) -> None:
    """Plays a trial plainly."""
    PlainRun(woven, scene, plan, tuple(observe), {}, (), {}, record=False, limits=DEFAULT_LIMITS).go()
