"""The demo round, marked and explained in two processes, against the game time that it stands for.

python -m bench.round
"""

from __future__ import annotations

import asyncio
import time

from bench import short
from hobtrial.crew import Crew
from hobtrial.demo import exercise_folder, exercises, hand_ins, tries

TIMES = 1 if short() else 3


async def main() -> None:
    """Marks the class a few times; the workers and the exercise are warm after the first."""
    async with Crew(2) as crew:
        for name in exercises()[: 1 if short() else None]:
            exercise = await crew.open(exercise_folder(name))
            scripts = hand_ins(name) or {f"{each.student} {each.number}": each.source.encode() for each in tries(name)}
            played = exercise.seconds * len(scripts)
            print(f"{name}: {len(scripts)} scripts, {played:.0f} s of game")
            for explained, words, goal in ((False, "marked", 5000), (True, "marked and explained", 1000)):
                shortest = float("inf")
                for _ in range(TIMES):
                    begin = time.perf_counter()
                    marks = (crew.mark(exercise, file, source, explained=explained) for file, source in scripts.items())
                    await asyncio.gather(*marks)
                    shortest = min(shortest, time.perf_counter() - begin)
                print(f"  {played / shortest:5.0f} × faster {words}, in {shortest:.2f} s   (goal ≥ {goal})")


if __name__ == "__main__":
    asyncio.run(main())
