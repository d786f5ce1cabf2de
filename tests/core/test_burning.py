"""What a script spends is counted, whatever it does inside Python; and explaining it spends no more than it may."""

from __future__ import annotations

import importlib
import sys
import unittest
from typing import Any
from unittest import mock

from hobtrial.core.explaining.chain import MOST_RECORDED, traces_of
from hobtrial.core.explaining.near import near
from hobtrial.core.explaining.tried import FEWEST_PASSES, MOST_FRAMES, MOST_PASSES, MOST_TRIALS, Budget
from hobtrial.core.judging import open_exercise
from hobtrial.core.judging.marking import AFTER_THAT, MUCH
from hobtrial.core.reporting import explained, mark
from hobtrial.core.script import DEFAULT_LIMITS, Script
from hobtrial.demo import exercise_folder
from tests.support import bakehouse, text

BEGIN = """
    words = ("abc " * 1000).split()
    many = list(range(4000))
    pairs = [(i, str(i)) for i in range(1000)]
    long = "abc " * 1000
    large = 2 ** 90 + 1
    nested = [[i] for i in range(2000)]
    n = 0
"""
DEAR = {
    "n += len(list(zip(many, words)))": 1500,
    "n += len(list(enumerate(words)))": 1500,
    "n += len(dict(pairs))": 1000,
    "n += len(set(many))": 4000,
    "n += len(long.replace('a', 'bb'))": 60,
    "n += len(' '.join(words))": 100,
    "n += len({'a': nested})": 900,
    "n += (large + large + large + large + large + large) == n": 10,
    "try:\n        raise ValueError('no')\n    except ValueError:\n        n += 1": 20,
}
"""What goes through much inside Python, and how many passes it is worth at least."""


def passes_of(line: str) -> int:
    """What one line spends, beside all that stands round it."""
    prepared = bakehouse()

    def spent(body: str) -> int:
        source = text(BEGIN) + f"@on(start)\ndef go():\n    global n\n    {body}\n"
        reading = prepared.read(source)
        assert isinstance(reading, Script), reading
        trace = prepared.play(prepared.weave(reading), prepared.scenarios[0])
        assert trace.stopped is None, trace.stopped
        return trace.passes

    return spent(line) - spent("n += 1")


class Counted(unittest.TestCase):
    def test_work_inside_python_is_worth_passes(self) -> None:
        for line, least in DEAR.items():
            with self.subTest(line):
                self.assertGreaterEqual(passes_of(line), least)

    def test_a_loop_of_exceptions_is_told_as_a_loop(self) -> None:
        source = "n = 0\nwhile True:\n    try:\n        n += {}[n]\n    except KeyError:\n        n += 1\n"
        stop = mark(bakehouse(), "", source).played[0].trace.stopped
        assert stop is not None
        self.assertEqual(stop.kind, "loop")
        self.assertRegex(stop.message, r"The lines here ran more than 4,000 times in one frame")

    def test_a_loop_that_does_much_in_each_round_may_go_round_as_often_as_any_and_counts_as_more_work(self) -> None:
        wide = "(" + " + ".join(["n"] * 40) + ") % 7"
        stop = mark(bakehouse(), "", f"n = 0\nwhile True:\n    n = {wide}\n").played[0].trace.stopped
        assert stop is not None
        self.assertEqual((stop.kind, stop.line), ("loop", 2))
        self.assertEqual(stop.message, "This loop went round 100,000 times in one frame: nothing inside it ends it.")
        self.assertGreater(passes_of(f"for i in range(1000):\n        n = {wide}"), 25_000)

    def test_the_story_has_an_end(self) -> None:
        source = "@on(frame)\ndef f():\n    tell('x' * 9999)\n"
        stop = mark(bakehouse(), "", source).played[0].trace.stopped
        assert stop is not None
        self.assertEqual((stop.kind, stop.message), ("story", "The story grew beyond 200,000 characters."))

    def test_waiting_deep_inside_calls_is_worth_more(self) -> None:
        prepared = bakehouse()

        def spent(depth: int) -> int:
            source = f"def r(n):\n    if n:\n        r(n - 1)\n    else:\n        wait(0.1)\n@on(start)\ndef f():\n    r({depth})\n"
            reading = prepared.read(source)
            assert isinstance(reading, Script), reading
            return prepared.play(prepared.weave(reading), prepared.scenarios[0]).passes

        self.assertGreater(spent(80) - spent(1), 4 * 79)


class Bounded(unittest.TestCase):
    SPENDS = "t = 0\n@on(frame)\ndef f():\n    global t\n    for i in range({}):\n        t += 1\n"

    def test_who_was_stopped_by_the_limit_of_a_trial_gets_less_for_each_further_one(self) -> None:
        played = mark(bakehouse(), "", self.SPENDS.format(60_000)).played
        spent = [run.passes for run in played]
        self.assertGreaterEqual(spent[0], DEFAULT_LIMITS.passes_a_trial)
        self.assertTrue(all(each <= AFTER_THAT + 60_001 for each in spent[1:]), spent)

    def test_the_stop_is_told_as_it_was_marked(self) -> None:
        found = explained(mark(bakehouse(), "", self.SPENDS.format(60_000)))
        stop = found.scenarios[0].stopped
        assert stop is not None
        self.assertEqual(stop.message, "This loop went round 2,000,000 times in one trial.")
        self.assertEqual(found.findings[0].pointer, stop.message)

    def test_of_a_loop_that_does_not_end_a_part_is_recorded_and_all_that_came_before_it(self) -> None:
        ends = {
            "while t > 0:\n            pass": "loop",  # some 30,000 passes after the game began
            "many = [0] * (t * 1000)": "collection",  # as many, and no loop that goes on
        }
        for line, kind in ends.items():
            script = self.SPENDS.format(1000) + f"    if t > 30_000:\n        {line}\n"
            found = mark(bakehouse(), "", script)
            run, prepared = found.played[0], found.prepared
            assert run.trace.stopped is not None
            self.assertEqual(run.trace.stopped.kind, kind)
            reading = prepared.read(script)
            assert isinstance(reading, Script)
            full = traces_of(prepared, reading, [run])[run.number]
            self.assertEqual((full.last_frame, full.stopped), (run.trace.last_frame, run.trace.stopped))
            self.assertLess(full.passes, run.trace.passes if kind == "loop" else MOST_RECORDED)

    def test_long_texts_names_and_many_of_them_are_explained_in_bounded_steps(self) -> None:
        counts = "@on(meets(hob, bun))\ndef f(which):\n    global score\n    score += {}\n    which.remove()\n"
        long_name = "s" * 20_000
        scripts = {
            "long names": f"score = 0\n{long_name} = 0\n" + counts.format(f"{long_name}x"),
            "a long list": f"many = [{'1, ' * 9000}]\nscore = 0\n" + counts.format("many[0]"),
            "many names": "".join(f"name{n:04} = {n}\n" for n in range(1500))
            + "score = 0\n"
            + counts.format("name0001"),
        }
        for what, script in scripts.items():
            with self.subTest(what):
                near.cache_clear()
                calls = 0

                def counted(frame: Any, event: str, given: Any) -> None:
                    nonlocal calls
                    calls += 1

                found = mark(bakehouse(), "", script)
                sys.setprofile(counted)
                try:
                    explained(found)
                finally:
                    sys.setprofile(None)
                self.assertLess(calls, 40_000_000)

    def test_a_heavy_script_that_is_never_stopped_gets_all(self) -> None:
        played = mark(bakehouse(), "", self.SPENDS.format(500)).played
        self.assertEqual([run.trace.stopped for run in played], [None] * len(played))
        self.assertLess(sum(run.passes for run in played), MUCH)

    def test_explaining_spends_no_more_than_its_parts_may(self) -> None:
        prepared = open_exercise(exercise_folder("bakehouse-rush"))
        module = importlib.import_module("hobtrial.core.judging.prepare")
        real = module.play
        spent: list[int] = []

        def counted(*given: Any, **named: Any) -> Any:
            trace = real(*given, **named)
            spent.append(trace.passes)
            return trace

        for turns in (300, 60_000):
            found = mark(prepared, "", self.SPENDS.format(turns))
            spent.clear()
            with mock.patch.object(module, "play", counted):
                explained(found)
            with self.subTest(turns=turns):
                self.assertLess(sum(spent), 3_000_000)

    def test_a_budget_ends_with_its_passes_frames_and_trials(self) -> None:
        budget = Budget(mock.Mock())
        self.assertEqual(budget.left, MOST_PASSES)
        budget.add(MOST_PASSES - 10, 100)
        self.assertEqual((budget.spent, budget.left), (False, FEWEST_PASSES))
        budget.add(20, 100)
        self.assertTrue(budget.spent)
        long = Budget(mock.Mock())
        long.add(10, MOST_FRAMES)
        self.assertFalse(long.spent)
        long.add(10, 1)
        self.assertTrue(long.spent)
        another = Budget(mock.Mock())
        self.assertTrue(another.take(MOST_TRIALS))
        self.assertFalse(another.take(1))
        self.assertTrue(another.spent)
