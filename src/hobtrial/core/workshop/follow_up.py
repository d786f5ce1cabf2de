"""A follow-up: a short exercise made from one slip.

The script is the reference with that slip planted in one line; first one says what a value will be, then the line is
mended. Two scenarios show it, and one does not.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from ..exercise.files import BRIEF, REFERENCE, STARTER
from ..judging import HELD, Prepared, play_scenario
from ..proving import Planted, planted
from ..script import Script
from ..trial import variable
from ..words import UsageError, seconds_of
from .apply import apply
from .changes import CHANGE
from .levels import without_levels

SHOWS: Final = 2
"""Scenarios that show the slip."""
LONGEST_TITLE: Final = 120
WORDS: Final = """# {title}

This script was written for *{title}*. Nearly all of it is right: **one line is not**.

1. Check the script. Say first what you expect.
2. Look at the moment where it goes wrong, and at the lines that ran there.
3. Mend that one line, check again, and hand it in.
"""
TITLE: Final = "Mend one line: {title}"


@dataclass(frozen=True)
class FollowUp:
    """The files of a follow-up, and the line in which the slip is."""

    files: dict[str, bytes]
    line: int


def follow_up(prepared: Prepared, files: Mapping[str, bytes], slip: str) -> FollowUp:
    """A follow-up for a slip. Raises `UsageError` where none can be made of this exercise."""
    visible = [number for number, scenario in enumerate(prepared.scenarios) if scenario.spec.visible]
    for each in planted(prepared):
        if each.slip == slip:
            broken = _broken(prepared, each, visible)
            if broken:
                return _made(prepared, files, each, broken, visible)
    raise UsageError("in this exercise there is no line in which that mistake could be planted so that it is seen")


def _broken(prepared: Prepared, each: Planted, visible: list[int]) -> dict[int, dict[str, Any] | None]:
    """The visible scenarios that show a planted slip, each with what is to be foretold in it."""
    reading = prepared.read(each.text)
    if not isinstance(reading, Script):
        return {}
    woven = prepared.weave(reading)
    found: dict[int, dict[str, Any] | None] = {}
    for number in visible:
        run = play_scenario(prepared, woven, number)
        lost = [verdict for verdict in run.verdicts if verdict.verdict != HELD]
        if lost and run.trace.stopped is None:
            found[number] = _asked(prepared, number, lost[0].frame)
    return found


def _asked(prepared: Prepared, number: int, frame: int | None) -> dict[str, Any] | None:
    """The listed variable that the checks of a scenario are about, at the moment of the first that breaks."""
    scenario = prepared.scenarios[number]
    for each in prepared.exercise.settings.variable:
        if any(variable(each.name) in check.about for check in scenario.checks):
            last = scenario.plan.last_frame
            return {"names": [each.name], "at": round(seconds_of(min(frame if frame is not None else last, last)), 3)}
    return None


def _made(
    prepared: Prepared,
    files: Mapping[str, bytes],
    each: Planted,
    broken: Mapping[int, dict[str, Any] | None],
    visible: list[int],
) -> FollowUp:
    kept = list(broken)[:SHOWS] + [number for number in visible if number not in broken][:1]
    title = prepared.exercise.title
    changes: list[dict[str, Any]] = [
        {"do": "set", "keys": {"title": TITLE.format(title=title)[:LONGEST_TITLE]}},
        {"do": "write", "file": STARTER, "text": each.text},
        {"do": "write", "file": BRIEF, "text": WORDS.format(title=title)},
        {"do": "write", "file": REFERENCE, "text": prepared.exercise.reference},
    ]
    first = kept[0]
    asked = broken[first]
    if asked is not None and prepared.scenarios[first].spec.predict is None:
        changes.append({"do": "change", "table": "scenario", "index": first, "keys": {"predict": asked}})
    gone = [number for number in range(len(prepared.scenarios)) if number not in kept]
    changes += [{"do": "remove", "table": "scenario", "index": number} for number in reversed(gone)]
    craft = range(len(prepared.exercise.settings.craft))
    changes += [{"do": "remove", "table": "craft", "index": number} for number in reversed(craft)]
    plain = {name: data for name, data in without_levels(files).items() if not name.startswith(("also/", "wrong/"))}
    several = CHANGE.validate_python({"do": "several", "changes": changes})
    return FollowUp(apply(plain, several), each.line)
