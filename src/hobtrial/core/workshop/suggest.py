"""reference's run + a moment → checks: what is true there, each of it a check, and the most telling first.

Every suggestion holds for the reference. How telling one is, the planted slips of the exercise say: the more of them
break it, the further up it stands.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass
from typing import Any, Final

from ..exercise import Check, ExerciseError, Scenario
from ..judging import HELD, Prepared, PreparedScenario, judge
from ..proving import planted
from ..script import Script, Woven
from ..trial import Options, Trace, play
from .true_there import PASSED_OVER, true_there

MOST_THAT_FIT: Final = 3
"""Suggestions of a kind of check that fits the moment."""
MOST_OF_ANOTHER: Final = 2
"""Suggestions of another kind."""
MOST: Final = 12
"""Suggestions that are offered at once."""
NEAR: Final = 3
"""Suggestions that are seen at a glance."""
VARIANTS: Final = 24
"""Planted slips that are played to see how telling a suggestion is."""


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A check that can be pinned, in words, and how many of the planted slips break it."""

    words: str
    check: dict[str, Any]
    breaks: int

    def as_json(self) -> dict[str, Any]:
        """The suggestion as the workshop shows it."""
        return {"words": self.words, "check": self.check, "breaks": self.breaks}


def suggest(prepared: Prepared, number: int, what: str, first: int, last: int) -> list[Suggestion]:
    """Checks about a lane of a scenario's strip, at a frame or along a span of frames.

    `what` is a listed variable, `outcome`, `told`, or `came` for what came then.
    """
    scenario = prepared.scenarios[number]
    trace = prepared.reference_trace(scenario)
    last = min(max(first, last), trace.last_frame)
    first = min(max(first, 0), last)
    known = {_key(check.spec.model_dump(by_alias=True, exclude_defaults=True)) for check in scenario.checks}
    wanted: dict[tuple[Any, ...], tuple[str, dict[str, Any]]] = {}
    for words, check in true_there(prepared, trace, what, first, last):
        if _key(check) not in known:
            wanted.setdefault(_key(check), (words, check))
    if not wanted:
        return []
    wanted = {key: each for key, each in wanted.items() if _can_be_read(prepared, scenario, each[1])}
    made = _made(prepared, scenario, [check for _, check in wanted.values()])
    reference = _run(prepared, made, prepared.reference)
    holds = [judge(check, reference, lambda: reference).verdict == HELD for check in made.checks]
    breaks = [0] * len(made.checks)
    for woven in _variants(prepared):
        run = _run(prepared, made, woven)
        for index, prepared_check in enumerate(made.checks):
            breaks[index] += holds[index] and judge(prepared_check, run, lambda: reference).verdict != HELD
    found = [
        Suggestion(words, check, breaks[index]) for index, (words, check) in enumerate(wanted.values()) if holds[index]
    ]
    fits = _fitting(trace, first, last)
    ordered = sorted(found, key=lambda each: (_kind(each) not in fits, -each.breaks, len(_parts(each))))
    return _varied(_plainest_near(_telling(ordered), fits), fits)


def _plainest_near(ordered: list[Suggestion], fits: frozenset[str]) -> list[Suggestion]:
    """The plainest of what fits, "score is 3 at 2 s", is never far: most who point there mean it."""
    plain = [each for each in ordered[NEAR:] if _kind(each) in fits and len(_parts(each)) == 1 and "at" in each.check]
    plain += [each for each in ordered[NEAR:] if _kind(each) == "end" and "end" in fits and len(_parts(each)) == 1]
    if not plain or any(len(_parts(each)) == 1 and _kind(each) in ("at", "end") for each in ordered[:NEAR]):
        return ordered
    return [*ordered[: NEAR - 1], plain[0], *(each for each in ordered[NEAR - 1 :] if each is not plain[0])]


def _kind(each: Suggestion) -> str:
    return next(iter(each.check))


def _parts(each: Suggestion) -> frozenset[str]:
    return frozenset(str(each.check.get("expect", "")).split(" and "))


def _telling(ordered: list[Suggestion]) -> list[Suggestion]:
    """Without those that ask for more than another one of their kind and catch no more; what is shown may be asked."""
    kept: list[Suggestion] = []
    for each in ordered:
        parts, when = _parts(each), {**each.check, "expect": ""}
        if not any(
            {**other.check, "expect": ""} == when
            and other.breaks == each.breaks
            and parts > _parts(other)
            and not any(map(_is_seen, parts - _parts(other)))
            for other in kept
        ):
            kept.append(each)
    return kept


def _fitting(trace: Trace, first: int, last: int) -> frozenset[str]:
    """The kinds of checks that somebody means who points there: at the end, where something came, or in between."""
    if last > first:
        return frozenset(("always", "never", "unchanged"))
    if first == trace.last_frame:
        return frozenset(("end",))
    if first == 0:
        return frozenset(("always", "never", "unchanged", "same", "each"))
    if any(came.handlers and came.frame == first and came.event.kind not in PASSED_OVER for came in trace.events):
        return frozenset(("after", "each"))
    return frozenset(("at",))


def _is_seen(part: str) -> bool:
    """Whether a part of an expectation is about what the player sees or hears: worth asking beside a variable."""
    return "(" in part or ".look" in part or part in ("outcome == 'won'", "outcome == 'lost'")


def _varied(ordered: list[Suggestion], fits: frozenset[str]) -> list[Suggestion]:
    """The first ones, at most a few of each kind, so that not all of them say the same in other words."""
    kinds: dict[str, int] = {}
    kept = []
    for each in ordered:
        kind = _kind(each)
        kinds[kind] = kinds.get(kind, 0) + 1
        if kinds[kind] <= (MOST_THAT_FIT if kind in fits else MOST_OF_ANOTHER):
            kept.append(each)
    return kept[:MOST]


def _key(check: dict[str, Any]) -> tuple[Any, ...]:
    """What a check asks, without its marks and reasons."""
    said = ("marks", "concept", "because", "expect")
    asks = sorted(str(check.get("expect", "")).split(" and "))
    return (*asks, *sorted((key, str(value)) for key, value in check.items() if key not in said))


def _made(prepared: Prepared, scenario: PreparedScenario, checks: list[dict[str, Any]]) -> PreparedScenario:
    """The scenario with these checks in the place of its own; such as cannot be read are left out."""
    spec = scenario.spec
    plain = spec.model_copy(update={"check": tuple(Check.model_validate(check) for check in checks), "cases": None})
    return prepared.scenario_of(Scenario.model_validate(plain.model_dump(by_alias=True, exclude_defaults=True)))


def _can_be_read(prepared: Prepared, scenario: PreparedScenario, check: dict[str, Any]) -> bool:
    """Whether a check means something in the exercise: an event of a piece that comes later may not."""
    try:
        _made(prepared, scenario, [check])
    except ExerciseError:
        return False
    return True


def _run(prepared: Prepared, scenario: PreparedScenario, woven: Woven) -> Trace:
    options = Options(scenario.observe, prepared.alias, (), scenario.each, False, prepared.limits)
    return play(woven, prepared.scene, scenario.plan, options)


@functools.lru_cache(maxsize=2)
def _variants(prepared: Prepared) -> list[Woven]:
    """Some of the planted slips, spread over all of them."""
    texts = [each.text for each in planted(prepared)]
    step = max(1, len(texts) // VARIANTS)
    readings = (prepared.read(text) for text in texts[::step])
    return [prepared.weave(reading) for reading in readings if isinstance(reading, Script)][:VARIANTS]
