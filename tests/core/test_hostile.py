"""The language's wall: every hostile script is met in the language itself, whatever body runs."""

import unittest

from hobtrial.core.script import Unreadable, read
from tests.core.hostile import HOSTILE
from tests.support import bun, run, scene

SPEC = scene(bun("bun_1", 9))
TAKEN = SPEC.kinds | {piece.name for piece in SPEC.piece}


class Hostile(unittest.TestCase):
    def test_there_are_many(self) -> None:
        self.assertGreaterEqual(len(HOSTILE), 100)

    def test_each_is_met(self) -> None:
        for name, (source, kind) in HOSTILE.items():
            reading = read(source, TAKEN)
            if isinstance(reading, Unreadable):
                self.assertEqual(kind, "refused", f"{name}: {reading.problems[0].message}")
                self.assertTrue(reading.problems[0].message)
                continue
            for record in (True, False):
                with self.subTest(name, record=record):
                    stop = run(source, SPEC, frames=2, record=record).stopped
                    self.assertEqual(stop.kind if stop else "fine", kind, stop and stop.message)
                    if stop is not None:
                        self.assertGreater(stop.line, 0)

    def test_what_is_refused_at_run_time_cannot_be_caught(self) -> None:
        for body in ('a = "x" * 10**9', "a = (5).real", "a = 9 ** 9 ** 9", "while True:\n        pass"):
            stop = run(f"try:\n    {body}\nexcept Exception:\n    tell('caught')", SPEC, frames=2).stopped
            assert stop is not None
            self.assertTrue(stop.limit)

    def test_nothing_of_one_trial_is_left_for_the_next(self) -> None:
        first = run("game.x = 1\nhob.y = 5\nimport random\na = random.random()", SPEC, frames=2)
        run("game.x = 2\nhob.z = 7\nwhile True:\n    pass", SPEC, frames=2)
        again = run("game.x = 1\nhob.y = 5\nimport random\na = random.random()", SPEC, frames=2)
        self.assertEqual(first, again)
