"""Growth in pieces: 20 → 200, with pairs of kinds, solid pieces and falling ones.

python -m bench.pieces
"""

from __future__ import annotations

from bench import short
from bench.trials import best, plan
from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import Script, read, weave
from hobtrial.core.trial import KNOWN_FUNCTIONS, Options, play, variable
from hobtrial.crew.worker import calm_the_collector

GAME = """
score = 0
sooty = 0

@on(meets(hob, bun))
def shelve(which):
    global score
    score += 1

@on(meets(bun, soot))
def dirty(what, by):
    global sooty
    sooty += 1

@on(overlaps(soot, tile))
def settle(which):
    pass
"""


def scene(pieces: int) -> SceneSpec:
    """A hob; a fifth solid tiles, two fifths buns that drift, two fifths soot that falls, all spread evenly.

    The scene grows with the pieces, so that it is as crowded with 200 as with 20.
    """
    width = 32 * pieces / 20
    tiles, buns = pieces // 5, (pieces - 1) * 2 // 5
    soot = pieces - 1 - tiles - buns
    return SceneSpec.model_validate(
        {
            "width": width,
            "piece": [
                {"name": "hob", "at": [5, 2], "motion": {"steered": {"speed": 6, "axes": "x"}}},
                *(
                    {"name": f"tile_{n}", "kind": "tile", "at": [(n + 0.5) * width / tiles, 0.5], "solid": True}
                    for n in range(tiles)
                ),
                *(
                    {
                        "name": f"bun_{n}",
                        "kind": "bun",
                        "at": [(n + 0.5) * width / buns, 3],
                        "motion": {"drifting": {"velocity": [3 - n % 7, 0], "edge": "bounce"}},
                    }
                    for n in range(buns)
                ),
                *(
                    {
                        "name": f"soot_{n}",
                        "kind": "soot",
                        "at": [(n + 0.3) * width / soot, 17],
                        "motion": {"falling": {"gravity": 0.2 + n % 20 / 5}},
                    }
                    for n in range(soot)
                ),
            ],
        }
    )


if __name__ == "__main__":
    calm_the_collector()
    script = read(GAME)
    assert isinstance(script, Script)
    woven = weave(script, KNOWN_FUNCTIONS)
    observe = (variable("score"), variable("sooty"))
    sizes = (20, 50) if short() else (20, 50, 100, 200)
    works = [(lambda spec=scene(size): play(woven, spec, plan(600), Options(observe=observe))) for size in sizes]
    times = best(list(works), 1 if short() else 5)
    print("600 frames, verdicts only; goal: 200 pieces at most 12 × the time of 20")
    for size, time in zip(sizes, times, strict=True):
        print(f"  {size:3} pieces  {time * 1000:7.1f} ms  {time / times[0]:5.2f} ×")
