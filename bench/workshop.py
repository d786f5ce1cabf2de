"""The workshop: from a change to a new strip, the proof of the largest sample exercise, and how often the first three
suggestions hold the check that an exercise really has at that moment.

python -m bench.workshop
"""

from __future__ import annotations

import asyncio
import dataclasses
import time
from typing import Any

from bench import short
from hobtrial.core.judging import Prepared, judge, open_exercise
from hobtrial.core.workshop import CHANGE, apply, suggest
from hobtrial.crew import Crew
from hobtrial.demo import exercise_folder, exercises

CHANGES = 5 if short() else 60
GOAL = 0.2
"""Seconds from a change to a new strip, at the 95th percentile."""
LARGEST = "loaf-in-order"


async def changes(crew: Crew) -> None:
    """Moves a piece again and again, and asks for what is said then and for the strip."""
    files = exercise_folder(LARGEST)
    await crew.rehearse(files, 0)
    took = []
    for number in range(CHANGES):
        begin = time.perf_counter()
        moved = {"do": "change", "table": "piece", "index": 0, "keys": {"at": [3 + number % 7, 2]}}
        files = apply(files, CHANGE.validate_python(moved))
        await crew.rehearse(files, number % 3)
        took.append(time.perf_counter() - begin)
    worst = sorted(took)[int(len(took) * 0.95) - 1 if len(took) > 1 else 0]
    print(f"change to new strip, p95: {100 * worst / GOAL:.0f} % of {GOAL} s   (goal ≤ 100 %)")


async def proof(crew: Crew) -> None:
    """Proves an exercise one planted slip after the other, as behind a draft."""
    exercise = await crew.open(exercise_folder(LARGEST))
    begin = time.perf_counter()
    found = await crew.fitness(exercise)
    planted = found["planted"][: 3 if short() else None]
    await crew.try_planted(exercise, planted[0], 0)
    first = time.perf_counter() - begin
    for number, each in enumerate(planted):
        await crew.try_planted(exercise, each, number)
    whole = time.perf_counter() - begin
    first, whole = 100 * first / 5, 100 * whole / 120
    print(f"first result of a proof: {first:.0f} % of 5 s; all {len(planted)}: {whole:.0f} % of 120 s")


def suggestions() -> None:
    """Takes each check of the sample exercises away and looks whether it is suggested at its moment."""
    found = tried = 0
    for name in exercises()[: 2 if short() else None]:
        prepared = open_exercise(exercise_folder(name))
        if prepared.exercise.settings.style == "straight":
            continue
        for number, scenario in enumerate(prepared.scenarios):
            spec = scenario.spec
            if spec.wild or spec.cases or spec.steps:
                continue
            for check in scenario.checks:
                tried += 1
                others = tuple(each for each in scenario.checks if each is not check)
                without = dataclasses.replace(scenario, checks=others)
                offered = suggest(_with(prepared, number, without), number, *_moment(prepared, number, check))
                found += any(_flat(each.check.get("expect")) == _flat(check.spec.expect) for each in offered[:3])
    share = 100 * found / tried
    print(f"checks among the first three suggestions: {share:.0f} % of {tried}   (goal ≥ 70 %)")


def _with(prepared: Prepared, number: int, scenario: Any) -> Prepared:
    scenarios = list(prepared.scenarios)
    scenarios[number] = scenario
    return dataclasses.replace(prepared, scenarios=tuple(scenarios), examining=[], _reference_traces={})


def _moment(prepared: Prepared, number: int, check: Any) -> tuple[str, int, int]:
    """The lane that a check is about, and the frame in which it is settled."""
    about = {what.what: what.name for what in reversed(check.about)}
    lane = about.get("variable") or ("outcome" if "outcome" in about else "told" if "told" in about else "came")
    trace = prepared.reference_trace(prepared.scenarios[number])
    verdict = judge(check, trace, lambda: trace)
    frame = verdict.frame if verdict.frame is not None else verdict.span[0]
    return lane, frame, frame


def _flat(text: str | None) -> str:
    """An expectation without spaces; in which order its parts are joined by `and` does not matter."""
    plain = (text or "").replace('"', "'")
    return "and".join(sorted(part.replace(" ", "") for part in plain.split(" and ")))


async def main() -> None:
    """Runs all three."""
    async with Crew(2) as crew:
        await changes(crew)
        await proof(crew)
    suggestions()


if __name__ == "__main__":
    asyncio.run(main())
