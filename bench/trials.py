"""Trials against plain: full trace, verdicts only, and with a heavy loop in a handler.

python -m bench.trials
"""

from __future__ import annotations

import time
from collections.abc import Callable

from bench import short
from bench.plain import play_plain, unwoven
from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import Script, read, weave
from hobtrial.core.trial import KNOWN_FUNCTIONS, Options, Plan, held_key, play, variable
from hobtrial.crew.worker import calm_the_collector

GAME = """
score = 0
lives = 3
board("Buns", score)

@on(meets(hob, bun))
def shelve(which):
    global score
    score += 1
    board("Buns", score)
    if score >= 5 and outcome() == "playing":
        win("The shelf is full")

@on(meets(hob, soot))
def burn(which):
    global lives
    lives -= 1
    if lives <= 0:
        lose("Too sooty")

@on(frame)
def watch():
    if hob.x > 20:
        hob.speed = 4
    elif hob.x < 4:
        hob.speed = 7
"""

HEAVY = """
n = 0

@on(pressed("space"))
def work():
    global n
    for i in range(30000):
        n += i
        if n > 1000:
            n = 0
"""


def scene(pieces: int) -> SceneSpec:
    """A hob, buns, and falling soot: so many pieces in all."""
    half = (pieces - 1) // 2
    return SceneSpec.model_validate(
        {
            "piece": [
                {"name": "hob", "at": [5, 2], "motion": {"steered": {"speed": 6, "axes": "x"}}},
                *({"name": f"bun_{n}", "kind": "bun", "at": [2 + n * 28 / half, 2]} for n in range(half)),
                *(
                    {
                        "name": f"soot_{n}",
                        "kind": "soot",
                        "at": [3 + n * 27 / half, 17],
                        "motion": {"falling": {"gravity": 0.2 + n / 20}},
                    }
                    for n in range(pieces - 1 - half)
                ),
            ]
        }
    )


def plan(frames: int) -> Plan:
    """The hob walks to and fro; space is pressed once a second."""
    holds = [held_key("right" if n % 2 else "left", n * 2, 1.8) for n in range(frames // 60)]
    presses = [held_key("space", n + 0.5, 0.1) for n in range(frames // 30)]
    return Plan(frames, inputs=(*holds, *presses))


def best(works: list[Callable[[], object]], times: int) -> list[float]:
    """The shortest time of each work, in seconds; they take turns, so that a disturbance meets all."""
    shortest = [float("inf")] * len(works)
    for _ in range(times):
        for place, work in enumerate(works):
            begin = time.perf_counter()
            work()
            shortest[place] = min(shortest[place], time.perf_counter() - begin)
    return shortest


def compare(name: str, text: str, frames: int, goals: tuple[float, float], times: int = 20) -> None:
    """Prints a game's times and their ratios to plain."""
    spec, given = scene(20), plan(frames)
    script = read(text)
    assert isinstance(script, Script)
    woven, plain = weave(script, KNOWN_FUNCTIONS), unwoven(script)
    observe = (variable("score"), variable("lives"), variable("n"))
    base, whole, verdicts = best(
        [
            lambda: play_plain(plain, spec, given),
            lambda: play(woven, spec, given, Options(observe=observe, record=True)),
            lambda: play(woven, spec, given, Options(observe=observe)),
        ],
        times,
    )
    print(f"{name}: plain {base * 1000:.1f} ms")
    print(f"  full trace     {whole / base:5.2f} × plain   (goal ≤ {goals[0]})")
    print(f"  verdicts only  {verdicts / base:5.2f} × plain   (goal ≤ {goals[1]})")


if __name__ == "__main__":
    calm_the_collector()  # as in a worker
    compare("600 frames, 20 pieces", GAME, 600, (2.0, 1.3), times=1 if short() else 20)
    if not short():
        compare("6,000 frames, 20 pieces", GAME, 6000, (2.0, 1.3), times=5)
    compare("600 frames, a heavy loop", HEAVY, 600, (4.0, 4.0), times=1 if short() else 5)
