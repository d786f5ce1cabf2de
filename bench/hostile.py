"""How long any hostile script holds a worker: processor seconds of its whole marking.

python -m bench.hostile
"""

from __future__ import annotations

import asyncio
import time

from tests.core.hostile import HOSTILE

from bench import short
from hobtrial.crew import Crew
from hobtrial.demo import exercise_folder


async def main() -> None:
    """Marks each of them in one worker, and names the five that took longest."""
    took: list[tuple[float, str]] = []
    async with Crew(1) as crew:
        exercise = await crew.open(exercise_folder("bakehouse-rush"))
        usual = time.perf_counter()
        await crew.mark(exercise, "usual", exercise_folder("bakehouse-rush")["reference.py"])
        usual = time.perf_counter() - usual
        hostile = list(HOSTILE.items())[:: 20 if short() else 1]
        for name, (source, _) in hostile:
            begin = time.perf_counter()
            await crew.mark(exercise, name, source.encode("utf-8", "replace"))
            took.append((time.perf_counter() - begin, name))
    for seconds, name in sorted(took, reverse=True)[:5]:
        print(f"{seconds:5.2f} s, {seconds / usual:4.0f} × a right script: {name}")


if __name__ == "__main__":
    asyncio.run(main())
