"""30 scripts × 10 scenarios × 20 s, marked in two processes: against the game time that it stands for, and
against a harness as a teacher would write it; growth in scripts and scenarios; wild trials a second.

python -m bench.marking
"""

from __future__ import annotations

import asyncio
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from bench import short
from hobtrial.core.judging import Prepared, open_exercise, play_scenario
from hobtrial.core.trial import Plan
from hobtrial.crew import Crew
from hobtrial.demo import exercise_folder, hand_ins

EXERCISE = "bakehouse-rush"
SCRIPTS, SCENARIOS, SECONDS = (4, 2, 20) if short() else (30, 10, 20)


def files(scenarios: int = SCENARIOS) -> dict[str, bytes]:
    """The sample exercise with so many scenarios of 20 s, each walking otherwise."""
    made = dict(exercise_folder(EXERCISE))
    head = made["exercise.toml"].decode().split("[[scenario]]", 1)[0]
    for number in range(scenarios):
        head += f"""
[[scenario]]
name = "Walk {number}"
seconds = {SECONDS}
[[scenario.input]]
at = {0.3 + number / 10}
hold = "right"
for = {1 + number / 4}
[[scenario.input]]
at = 8
hold = "left"
for = 2
[[scenario.check]]
at = 5
expect = "score >= 1"
[[scenario.check]]
always = true
expect = "0 <= lives <= 3"
[[scenario.check]]
end = true
expect = "board('Buns') == score"
"""
    made["exercise.toml"] = head.encode()
    return made


def prepared() -> Prepared:
    """The exercise made ready."""
    return open_exercise(files())


def scenario_plans(ready: Prepared) -> Iterator[tuple[str, Plan]]:
    """Name and plan of each scenario."""
    return ((scenario.spec.name, scenario.plan) for scenario in ready.scenarios)


def scripts(number: int = SCRIPTS) -> dict[str, bytes]:
    """So many different texts of the sample class; the harness has no guard against loops without end."""
    texts = [source for source in hand_ins(EXERCISE).values() if b"while" not in source]
    return {f"s{n}.py": texts[n % len(texts)] + b"\n# %d\n" % n for n in range(number)}


async def ours(scenarios: int, number: int) -> float:
    """Seconds in which two workers mark; they and the exercise are warm."""
    async with Crew(2) as crew:
        exercise = await crew.open(files(scenarios))
        texts = scripts(number)
        shortest = float("inf")
        for _ in range(3):
            begin = time.perf_counter()
            await asyncio.gather(*(crew.mark(exercise, name, text, explained=False) for name, text in texts.items()))
            shortest = min(shortest, time.perf_counter() - begin)
        return shortest


def theirs() -> float:
    """Seconds of the harness: a process a script, two at a time."""
    with tempfile.TemporaryDirectory() as folder:
        paths = []
        for name, text in scripts().items():
            paths.append(Path(folder) / name)
            paths[-1].write_bytes(text)
        begin = time.perf_counter()
        with ThreadPoolExecutor(2) as pool:
            list(
                pool.map(
                    lambda path: subprocess.run(
                        [sys.executable, "-m", "bench.harness", str(path)], capture_output=True, check=True, timeout=120
                    ),
                    paths,
                )
            )
        return time.perf_counter() - begin


def wild_trials() -> float:
    """Wild trials a second, in one process."""
    ready = open_exercise(exercise_folder("three-lives"))
    number = next(n for n, scenario in enumerate(ready.scenarios) if scenario.spec.wild is not None)
    trials = len(ready.scenarios[number].plans)
    shortest = float("inf")
    for _ in range(3):
        begin = time.perf_counter()
        play_scenario(ready, ready.reference, number)
        shortest = min(shortest, time.perf_counter() - begin)
    return trials / shortest


if __name__ == "__main__":
    game = SCRIPTS * SCENARIOS * SECONDS
    marked = asyncio.run(ours(SCENARIOS, SCRIPTS))
    print(f"{SCRIPTS} scripts × {SCENARIOS} scenarios × {SECONDS} s in two processes: {marked:.2f} s")
    print(f"  {game / marked:6.0f} × faster than the game time   (goal ≥ 5,000)")
    print(f"  {theirs() / marked:6.1f} × faster than the harness   (goal ≥ 3)")
    halves = (("half the scenarios", SCENARIOS // 2, SCRIPTS), ("half the scripts", SCENARIOS, SCRIPTS // 2))
    for words, scenarios, number in halves:
        print(f"  {marked / asyncio.run(ours(scenarios, number)):6.2f} × the time of {words}   (2 is linear)")
    print(f"  {wild_trials():6.0f} wild trials of 12 s a second, in one process")
