"""Report → what its student may see of it: evidence from visible scenarios only, help as far as it is allowed.

Of what only a hidden scenario shows there is the quiet nudge, without its inputs and values. What
writes out a part of the reference stays a nudge: the rest is the teacher's to tell.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Final

from .groups import key_of

LEVELS: Final = ("none", "nudge", "pointer", "fix")
HIDDEN: Final = "A hidden scenario"


def for_student(
    report: Mapping[str, Any] | None, help_: Mapping[str, Any], tries: int, visible: Sequence[bool]
) -> dict[str, Any]:
    """What a student may see of a report.

    `help_` has `upto` and `after` of the exercise, `tries` is the number of the try, `visible` says of each
    scenario whether students see it. Gives `marks`, `out_of`, `by_concept`, `scenarios`, `findings`, `advice`.
    """
    if report is None:
        return {"marks": None, "out_of": None, "by_concept": {}, "scenarios": [], "findings": [], "advice": []}
    level = _level(help_, tries)
    found = [_finding(each, level, visible) for each in report["findings"]] if level else []
    return {
        "marks": report["marks"],
        "out_of": report["out_of"],
        "by_concept": report["by_concept"],
        "scenarios": [_scenario(each, shown) for each, shown in zip(report["scenarios"], visible, strict=False)],
        "findings": found,
        "advice": [each["text"] for each in report["advice"]],
    }


def _level(help_: Mapping[str, Any], tries: int) -> int:
    """How many steps of help there are by now: 0 none, 1 the nudge, 2 the pointer, 3 the fix."""
    most = LEVELS.index(help_["upto"])
    return int(min(most, sum(tries >= after for after in help_["after"])))


def _finding(found: Mapping[str, Any], level: int, visible: Sequence[bool]) -> dict[str, Any]:
    seen = found["scenario"] is None or (found["scenario"] < len(visible) and visible[found["scenario"]])
    fix = found["fix"]
    told = seen and not (fix is not None and fix["shows_reference"])
    pointed = told and level >= 2
    return {
        "key": key_of(dict(found)),
        "marks_lost": found["marks_lost"],
        "scenarios": [each for each in found["scenarios"] if each in _names(found, visible)] if seen else [HIDDEN],
        "nudge": found["nudge"] if seen else found["quiet"],
        "happened": found["happened"] if seen else [],
        "title": found["title"] if pointed else None,
        "pointer": found["pointer"] if pointed else None,
        "fix": fix["changes"] if told and level >= 3 and fix is not None else None,
        "certain": found["confidence"] == "shown",
    }


def _names(found: Mapping[str, Any], visible: Sequence[bool]) -> set[str]:
    """Names of the visible scenarios that a finding is about."""
    numbers = list(dict.fromkeys(number for number, _ in found["checks"]))
    return {name for number, name in zip(numbers, found["scenarios"], strict=False) if visible[number]}


def _scenario(scenario: Mapping[str, Any], shown: bool) -> dict[str, Any]:
    checks = scenario["checks"]
    return {
        "name": scenario["name"] if shown else HIDDEN,
        "marks": sum(check["marks"] for check in checks),
        "out_of": sum(check["out_of"] for check in checks),
        "checks": [
            {"verdict": check["verdict"], "because": check["because"] if shown else ""} for check in checks
        ] if shown else [],
    }  # fmt: skip
