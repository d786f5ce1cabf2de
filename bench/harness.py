"""A harness as a teacher would write it on the same scene engine: one process a script, `sys.settrace` on the
script's lines, and the values at the end of each scenario. What marking is measured against.

python -m bench.harness SCRIPT
"""

from __future__ import annotations

import sys
from collections import Counter
from pathlib import Path
from types import FrameType
from typing import Any

from bench.marking import prepared, scenario_plans
from bench.plain import PlainRun, unwoven
from hobtrial.core.script import SCRIPT_FILE, Script
from hobtrial.core.trial import variable


def run(source: bytes) -> dict[str, Any]:
    """Plays all scenarios with every line of the script traced."""
    ready = prepared()
    reading = ready.read(source)
    if not isinstance(reading, Script):
        return {}
    lines: Counter[int] = Counter()

    def trace(frame: FrameType, event: str, value: Any) -> Any:
        if frame.f_code.co_filename != SCRIPT_FILE:
            return None
        if event == "line":
            lines[frame.f_lineno] += 1
        return trace

    results = {}
    for name, plan in scenario_plans(ready):
        game = PlainRun(unwoven(reading), ready.scene, plan, (variable("score"), variable("lives")))
        sys.settrace(trace)
        try:
            results[name] = game.go().final
        finally:
            sys.settrace(None)
    return {"results": results, "lines": dict(lines)}


if __name__ == "__main__":
    print(run(Path(sys.argv[1]).read_bytes()))
