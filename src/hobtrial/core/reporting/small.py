"""Marked script → for each scenario what its small strip needs: one line and the pins, without labels."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from ..judging import Answer, Played, Prepared
from ..trial import OUTCOME, Observable, variable
from .making import Marked

MOST_STEPS: Final = 80
"""Changes of a value on a small strip: more than can be told apart."""


@dataclass(frozen=True, slots=True)
class SmallStrip:
    """`line` has the frames in which a value changed, with its height: the number itself, else its turn."""

    name: str
    last: int
    line: tuple[tuple[int, float], ...]
    pins: tuple[tuple[int, Answer], ...]


def small_strips(marked: Marked) -> list[SmallStrip]:
    """A small strip for each scenario, with the value that most of its checks are about; none of a text that
    cannot be read.
    """
    return [_strip(marked.prepared, each) for each in marked.played]


def _strip(prepared: Prepared, played: Played) -> SmallStrip:
    scenario = prepared.scenarios[played.number]
    what = _shown(prepared, played)
    timeline = played.trace.samples.get(what)
    heights: dict[Any, float] = {}
    line: list[tuple[int, float]] = []
    for frame, value in list(timeline.changes())[:MOST_STEPS] if timeline is not None else ():
        number = isinstance(value, (int, float)) and abs(value) < 1e9
        height = float(value) if number else heights.setdefault(repr(value), float(len(heights)))
        line.append((max(frame, 0), height))
    pins = tuple(
        (max(verdict.frame if verdict.frame is not None else verdict.span[1], 0), verdict.verdict)
        for verdict in played.verdicts
    )
    return SmallStrip(str(what), scenario.plans[played.trial].last_frame, tuple(line), pins)


def _shown(prepared: Prepared, played: Played) -> Observable:
    """What most checks of a scenario are about, of the listed variables; else the first that changes."""
    listed = [variable(each.name) for each in prepared.exercise.settings.variable]
    checks = prepared.scenarios[played.number].checks
    often = {what: sum(what in check.about for check in checks) for what in listed}
    best = max(listed, key=lambda what: often[what], default=OUTCOME)
    if often.get(best):
        return best
    return next((what for what in listed if len(played.trace.samples[what].values) > 1), OUTCOME)
