"""Runs all small programs one way, in a process of its own: `python -m tests.core.both_ways plain|recording|counting`.

Prints JSON: for each program its variables, its printed lines and its exception.
"""

from __future__ import annotations

import contextlib
import io
import json
import re
import sys
from collections.abc import Callable
from typing import Any

from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import SCRIPT_FILE, read, weave
from hobtrial.core.script.read import Script
from hobtrial.core.trial import KNOWN_FUNCTIONS, Options, Plan
from hobtrial.core.trial.run import Run
from tests.core import cpython_programs
from tests.core import programs as programs_of_ours

Result = tuple[dict[str, str], list[str], list[str] | None]


def programs() -> dict[str, str]:
    """The programs by name."""
    sections = [each for text in (programs_of_ours.TEXT, cpython_programs.TEXT) for each in text.split("\n## ")[1:]]
    return {name: body.rstrip("\n") + "\n" for name, _, body in (section.partition("\n") for section in sections)}


def plain(source: str) -> Result:
    """A program as Python runs it."""
    out, error = io.StringIO(), None
    names: dict[str, Any] = {"__name__": "__main__"}
    with contextlib.redirect_stdout(out):
        try:
            exec(compile(source, SCRIPT_FILE, "exec"), names)
        except Exception as caught:
            error = [type(caught).__name__, _message(caught)]
    lines = re.sub(r" at 0x[0-9a-f]+>", ">", out.getvalue()).split("\n")  # the language prints no addresses
    return _shown(names), lines[:-1] if lines[-1] == "" else lines, error


def woven(source: str, *, record: bool) -> Result:
    """The same program, woven."""
    reading = read(source)
    if not isinstance(reading, Script):
        raise AssertionError(f"turned down: {reading.problems}")
    run = Run(weave(reading, KNOWN_FUNCTIONS), SceneSpec(), Plan(0), Options(record=record))
    trace = run.go()
    stop = trace.stopped
    return (
        _shown(run.host.globals),
        [part for line in trace.story for part in line.text.split("\n")],
        [stop.kind, stop.message] if stop else None,
    )


def _message(error: Exception) -> str:
    return repr(error.args[0]) if isinstance(error, KeyError) and error.args else str(error)


def _shown(names: dict[str, Any]) -> dict[str, str]:
    """Variables as text; functions, classes and modules are left out, and sets sorted."""
    shown = {}
    for name, value in names.items():
        if not name.startswith("__") and not callable(value) and type(value).__name__ not in ("module", "StandIn"):
            shown[name] = repr(sorted(value, key=repr) if isinstance(value, set) else value)
    return shown


if __name__ == "__main__":
    ways: dict[str, Callable[[str], Result]] = {
        "plain": plain,
        "recording": lambda text: woven(text, record=True),
        "counting": lambda text: woven(text, record=False),
    }
    print(json.dumps({name: ways[sys.argv[1]](source) for name, source in programs().items()}))
