"""Two minutes of kills at random while eight clients hand in two hundred scripts and an author works on a draft: what
was lost.

Server, workers and PostgreSQL are killed as a power cut would. python -m bench.killing
"""

from __future__ import annotations

import time
import unittest
from collections import Counter
from collections.abc import Iterator
from random import Random
from typing import ClassVar

from tests.server.test_killed import KilledAtRandom

from bench import short

SECONDS = 6 if short() else 120
KINDS = ("inside", "inside", "worker", "serve", "database")
"""Processes that answer or mark twice as often as the others: there are more of them."""
WORDS = {
    "inside": "processes that answer or mark",
    "worker": "workers beside the server",
    "serve": "the whole server",
    "database": "PostgreSQL",
}


class TwoMinutes(KilledAtRandom):
    """The test of killed processes, longer."""

    clients, each = (2, 3) if short() else (8, 25)
    killed: ClassVar[Counter[str]] = Counter()

    def kills(self, random: Random) -> Iterator[tuple[float, str]]:
        """Something at random, every few seconds."""
        end = time.monotonic() + SECONDS
        while time.monotonic() < end:
            what = random.choice(KINDS)
            self.killed[what] += 1
            yield 0.5 + 3 * random.random(), what


def main() -> None:
    """Runs it once, and says what was killed and what was lost."""
    begin = time.perf_counter()
    tried = unittest.defaultTestLoader.loadTestsFromTestCase(TwoMinutes)
    found = unittest.TextTestRunner(verbosity=0).run(tried)
    scripts = TwoMinutes.clients * TwoMinutes.each
    print(f"{scripts} scripts by {TwoMinutes.clients} clients, killed at random for {SECONDS} s:")
    for what, often in TwoMinutes.killed.most_common():
        print(f"  {WORDS[what]}: {often} times")
    took = time.perf_counter() - begin
    lost = "0 % was lost" if found.wasSuccessful() else "SOMETHING WAS LOST, as said above"
    print(f"  {lost}; all of it took {took / SECONDS:.1f} × as long as the kills")
    raise SystemExit(not found.wasSuccessful())


if __name__ == "__main__":
    main()
