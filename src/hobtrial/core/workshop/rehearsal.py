"""files → Rehearsal: what can be said of a draft after every change, before anybody has to do anything with it.

The reference is played in every scenario. A check that it loses, a text that nobody ever tells, a number that the brief
does not say: each is told at the thing that has it.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from ..exercise import SETTINGS, ExerciseError
from ..judging import HELD, Played, Prepared, by_concept, judge_craft, open_exercise, play_scenario, tidy, total
from ..trial import samples_json, variable
from .brief import missing_in_brief
from .notices import notices_of
from .places import Notice, Place, notice_of

MOST_POINTS: Final = 60
"""Points of the small line of a scenario."""


@dataclass(frozen=True)
class Rehearsal:
    """What is known of a draft. `prepared` is nothing where it cannot be played yet."""

    prepared: Prepared | None
    settings: dict[str, Any] | None
    """`exercise.toml` as plain values; nothing where it is not TOML."""
    notices: tuple[Notice, ...]
    played: tuple[Played, ...] = ()
    marks: float = 0
    out_of: float = 0

    def as_json(self) -> dict[str, Any]:
        """The rehearsal as the workshop shows it."""
        return {
            "settings": self.settings,
            "playable": self.prepared is not None,
            "notices": [notice.as_json() for notice in self.notices],
            "marks": tidy(self.marks),
            "out_of": tidy(self.out_of),
            "scenarios": [_scenario(self.prepared, run) for run in self.played] if self.prepared else [],
            "concepts": {name: part["out_of"] for name, part in by_concept(_verdicts(self.played)).items()},
        }


def rehearse(files: Mapping[str, bytes], prepared: Prepared | None = None) -> Rehearsal:
    """Plays the reference of a draft in all its scenarios. Raises nothing for whatever is wrong with it."""
    settings = _plain(files.get(SETTINGS, b""))
    toml = files.get(SETTINGS, b"").decode("utf-8-sig", "replace")
    try:
        prepared = prepared or open_exercise(files)
    except ExerciseError as error:
        return Rehearsal(None, settings, tuple(notice_of(fault, toml) for fault in error.faults))
    played = [play_scenario(prepared, prepared.reference, number) for number in range(len(prepared.scenarios))]
    craft = judge_craft(prepared.craft, prepared.reference.script, prepared.alias)
    notices = [*_lost(prepared, played, craft), *notices_of(prepared, played), *missing_in_brief(prepared)]
    marks = total([*_verdicts(played), *craft])
    return Rehearsal(prepared, settings, tuple(notices), tuple(played), marks, prepared.out_of)


def _plain(data: bytes) -> dict[str, Any] | None:
    """The settings as plain values, if they are TOML; what JSON cannot hold (a date, `nan`) as its text."""
    try:
        return {key: _speakable(value) for key, value in tomllib.loads(data.decode("utf-8-sig", "replace")).items()}
    except (tomllib.TOMLDecodeError, RecursionError):
        return None


def _speakable(value: Any) -> Any:
    """A value of a TOML text as JSON has it."""
    if isinstance(value, dict):
        return {key: _speakable(each) for key, each in value.items()}
    if isinstance(value, list):
        return [_speakable(each) for each in value]
    plain = isinstance(value, (str, int)) or (isinstance(value, float) and math.isfinite(value))
    return value if plain else str(value)


def _verdicts(played: Any) -> list[Any]:
    return [verdict for run in played for verdict in run.verdicts]


def _lost(prepared: Prepared, played: list[Played], craft: Any) -> Iterator[Notice]:
    """The checks and craft lines that the reference itself loses, with what it had there."""
    for run in played:
        for index, verdict in enumerate(run.verdicts):
            if verdict.verdict == HELD:
                continue
            case = prepared.scenarios[run.number].spec.cases is not None and verdict.kind == "case"
            known = [f"`{name}` was {value!r}" for name, value in verdict.values if not isinstance(value, bool)]
            why = verdict.reason or (", ".join(known) if known else "")
            what = "is never reached by" if verdict.verdict != "broken" else "does not hold for"
            text = f"`{verdict.expect}` {what} the reference itself{': ' + why if why else ''}."
            yield Notice(text, _check_place(prepared, run.number, index, case=case), "lost")
    for index, verdict in enumerate(craft):
        if verdict.verdict != HELD:
            yield Notice(f"The reference itself loses `{verdict.expect}`.", Place(table="craft", index=index), "lost")


def _check_place(prepared: Prepared, scenario: int, index: int, *, case: bool) -> Place:
    """The row of a check, or of the case that became one; those come after the checks."""
    before = len(prepared.scenarios[scenario].spec.check)
    if case:
        return Place(table="case", index=index - before, scenario=scenario)
    return Place(table="check", index=index, scenario=scenario)


def _scenario(prepared: Prepared, run: Played) -> dict[str, Any]:
    """A scenario in the list: what it is, a small line of its first variable, and what its checks say."""
    scenario = prepared.scenarios[run.number]
    settings = prepared.exercise.settings
    ways = [way for way in ("cases", "steps", "wild") if getattr(scenario.spec, way) is not None]
    listed = [each.name for each in settings.variable]
    line = samples_json(run.trace).get(str(variable(listed[0])), []) if listed else []
    return {
        "name": scenario.spec.name,
        "visible": scenario.spec.visible,
        "way": ways[0] if ways else None,
        "trials": len(scenario.plans),
        "seconds": settings.length(scenario.spec),
        "line": [point for point in line if isinstance(point[1], (int, float))][:MOST_POINTS],
        "checks": [{**verdict.as_json(), "index": index} for index, verdict in enumerate(run.verdicts)],
    }
