"""30 scripts × 10 scenarios × 20 s, two thirds of them wrong, marked and explained in two processes, against the
game time that it stands for; edits tried a second; planted slips proved a second.

python -m bench.explaining
"""

from __future__ import annotations

import asyncio
import time

from bench import short
from bench.marking import SCENARIOS, SCRIPTS, SECONDS, files
from hobtrial.core.explaining.chain import subject_of
from hobtrial.core.explaining.one_change import search
from hobtrial.core.explaining.tried import Budget
from hobtrial.core.judging import Examination, open_exercise, play_all
from hobtrial.core.proving import planted, try_planted
from hobtrial.core.script import Script
from hobtrial.crew import Crew
from hobtrial.demo import exercise_folder, hand_ins, tries

WRONG, PLANTED = (2, 3) if short() else (20, 40)


def scripts() -> dict[str, bytes]:
    """Right and wrong texts of the sample class; which are wrong is told by their marks."""
    ready = open_exercise(files())
    texts = [source for source in hand_ins("bakehouse-rush").values() if b"while" not in source]
    texts += [each.source.encode() for each in tries("bakehouse-rush")]
    wrong: list[bytes] = []
    right: list[bytes] = []
    for text in texts:
        reading = ready.read(text)
        if isinstance(reading, Script):
            broken = any(run.broken for run in play_all(ready, ready.weave(reading)))
            (wrong if broken else right).append(text)
    chosen = [wrong[n % len(wrong)] for n in range(WRONG)] + [right[n % len(right)] for n in range(SCRIPTS - WRONG)]
    return {f"s{n}.py": text + b"\n# %d\n" % n for n, text in enumerate(chosen)}


async def explained(texts: dict[str, bytes]) -> float:
    """Seconds in which two workers mark and explain them; they and the exercise are warm."""
    async with Crew(2) as crew:
        exercise = await crew.open(files())
        first = dict(list(texts.items())[:2])
        await asyncio.gather(*(crew.mark(exercise, name, text) for name, text in first.items()))
        begin = time.perf_counter()
        await asyncio.gather(*(crew.mark(exercise, name, text) for name, text in texts.items()))
        return time.perf_counter() - begin


def edits_a_second(texts: dict[str, bytes]) -> tuple[float, float]:
    """Edits that one process tries a second, on the first wrong scripts, and the share ruled out without a run."""
    ready = open_exercise(files())
    count, ruled_out, spent = 0, 0, 0.0
    for text in list(texts.values())[:6]:
        reading = ready.read(text)
        assert isinstance(reading, Script)
        played = play_all(ready, ready.weave(reading))
        budget = Budget(Examination(ready, ready.weave(reading)))
        begin = time.perf_counter()
        search(ready, subject_of(ready, reading, played), played, budget)
        spent += time.perf_counter() - begin
        count += budget.edits
        ruled_out += budget.ruled_out
    return count / spent, ruled_out / max(count + ruled_out, 1)


def planted_a_second() -> float:
    """Planted slips that one process tries a second on the sample exercise."""
    ready = open_exercise(exercise_folder("bakehouse-rush"))
    number = min(PLANTED, len(planted(ready)))
    begin = time.perf_counter()
    for place in range(number):
        try_planted(ready, place)
    return number / (time.perf_counter() - begin)


def main() -> None:
    """Prints each line with its ratio."""
    texts = scripts()
    game = SCRIPTS * SCENARIOS * SECONDS
    took = asyncio.run(explained(texts))
    print(f"{SCRIPTS} scripts × {SCENARIOS} scenarios × {SECONDS} s, {WRONG} of them wrong, marked and explained:")
    print(f"  {game / took:5.0f} × faster than the game, in {took:.1f} s   (goal ≥ 1,000)")
    edits, ruled_out = edits_a_second(texts)
    print(f"  {edits:5.0f} edits tried a second, in one process; {ruled_out:.0%} more were ruled out without a run")
    print(f"  {planted_a_second():5.0f} planted slips a second, in one process")


if __name__ == "__main__":
    main()
