"""The same script, scenario and seed give the same trace, byte for byte, in any process and after any other trial."""

import os
import subprocess
import sys
import unittest

from tests.support import ROOT

SCRIPT = """
import random
from enum import Enum

class Stage(Enum):
    DOUGH = 1

words = {"bun", "oven", "soot", "hob", "bell"}
order = [w for w in words]
bag = set()
for w in order:
    bag.add(w + str(random.randint(1, 100)))
print(words, bag, hob, bun, Stage.DOUGH, print, lambda: 3, {w: len(w) for w in words})
first = bag.pop()

def missing():
    try:
        {}[missing]
    except KeyError as e:
        tell(e)
    try:
        raise ValueError([missing])
    except ValueError as e:
        tell(f"{e} {[e]}")

missing()
random.shuffle(order)

def tellings(x):
    return f"{x} {[x]} {tellings} {words}"

@on(meets(hob, bun))
def met(which):
    tell(tellings(which))
    wait(random.random())
    board("Bag", sorted(bag))
    which.remove()
"""


def main(when: str) -> None:
    """Writes traces, after many other trials where that is asked for."""
    import json

    from hobtrial.core.reporting import replay
    from hobtrial.core.script import Unreadable, read
    from hobtrial.core.trial import held_key, trace_json
    from tests.core.both_ways import programs
    from tests.core.hostile import HOSTILE
    from tests.support import bakehouse, bun, run, sample_class, scene

    spec = scene(bun("bun_1", 7), bun("bun_2", 9))
    taken = spec.kinds | {piece.name for piece in spec.piece}
    if when == "after":
        for source in (
            *programs().values(),
            *(each for each, kind in HOSTILE.values() if kind not in ("loop", "refused")),
        ):
            if not isinstance(read(source, taken), Unreadable):
                run(source, spec, frames=2)
    found = [trace_json(run(SCRIPT, spec, (held_key("right", 0, 1),), frames=90))]
    found += [
        replay(bakehouse(), sample_class()[name], bakehouse().scenarios[4])
        for name in ("wren", "quince", "yarrow", "teasel")
    ]
    print(json.dumps(found))


def output(seed: str, when: str) -> bytes:
    """What a fresh process writes, with a hash seed of its own."""
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "PYTHONHASHSEED": seed}
    command = [sys.executable, "-W", "ignore", "-m", "tests.core.test_deterministic", when]
    return subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, check=True).stdout


class Deterministic(unittest.TestCase):
    def test_in_fresh_processes_with_other_hash_seeds_and_after_other_trials(self) -> None:
        first = output("1", "alone")
        self.assertGreater(len(first), 10_000)
        self.assertEqual(output("2", "alone"), first)
        self.assertEqual(output("3", "after"), first)


if __name__ == "__main__":
    main(sys.argv[1])
