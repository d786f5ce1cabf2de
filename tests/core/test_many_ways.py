"""A scenario beside another one that plays it round a boundary, in every order, or with whatever is played."""

from __future__ import annotations

import unittest
from typing import Any

from hobtrial.core.exercise import load
from hobtrial.core.judging import open_exercise
from hobtrial.core.words import UsageError
from hobtrial.core.workshop import CHANGE, Way, apply, in_many_ways, rehearse
from hobtrial.demo import exercise_folder, exercises

BAKEHOUSE = exercise_folder("bakehouse-rush")


def made(files: dict[str, bytes], scenario: int, way: Way) -> tuple[dict[str, Any], dict[str, bytes]]:
    """The new scenario, and the files with it."""
    row = in_many_ways(open_exercise(files), scenario, way)
    return row, apply(files, CHANGE.validate_python({"do": "add", "table": "scenario", "row": row}))


class ManyWays(unittest.TestCase):
    def test_one_below_at_it_and_one_above(self) -> None:
        row, files = made(BAKEHOUSE, 0, "boundary")
        self.assertEqual(
            [(case["arrange"], case["expect"]) for case in row["cases"]],
            [
                (["score = 1"], "outcome == 'playing' and score == 4"),
                (["score = 2"], "outcome == 'won' and score == 5"),
                (["score = 3"], "outcome == 'won' and score == 5"),
            ],
        )
        self.assertEqual(row["cases"][0]["because"], "Begun with score = 1, the game goes on.")
        off_by_one = files["reference.py"].replace(b"score >= 5", b"score > 5")
        broken = rehearse({**files, "reference.py": off_by_one}).played[-1].verdicts
        self.assertEqual([each.verdict for each in broken], ["held", "broken", "broken"])

    def test_every_order_and_whatever_is_played(self) -> None:
        row, _ = made(BAKEHOUSE, 6, "orders")
        self.assertEqual(list(row["steps"]), ["press space", "hold space"])
        row, _ = made(BAKEHOUSE, 6, "wild")
        self.assertEqual(row["wild"]["keys"], ["left", "right", "space"])
        self.assertEqual(row["check"][0]["same"], ["score", "lives", "outcome"])

    def test_the_reference_holds_whatever_is_made(self) -> None:
        ways: tuple[Way, ...] = ("boundary", "orders", "wild")
        found = dict.fromkeys(ways, 0)
        for name in exercises():
            files = exercise_folder(name)
            for number in range(0, len(load(files).settings.scenario), 2):
                for way in ways:
                    try:
                        _, more = made(files, number, way)
                    except UsageError:
                        continue
                    found[way] += 1
                    rehearsal = rehearse(more)
                    with self.subTest(exercise=name, scenario=number, way=way):
                        verdicts = {each.verdict for each in rehearsal.played[-1].verdicts}
                        self.assertEqual(verdicts, {"held"})
                        self.assertGreater(rehearsal.out_of, open_exercise(files).out_of)
        self.assertTrue(all(often >= 4 for often in found.values()), found)

    def test_where_it_makes_no_sense_it_says_why(self) -> None:
        for files, scenario, way, words in (
            (BAKEHOUSE, 1, "orders", "Every order can be tried of two to 4 doings. In this scenario the player does"),
            (BAKEHOUSE, 6, "boundary", "nothing becomes of it whether `score` is just below 5 or above"),
            (exercise_folder("first-count"), 0, "boundary", "compares no listed variable with a number"),
            (exercise_folder("bread-choices"), 0, "wild", "A straight script only asks"),
            (BAKEHOUSE, 99, "wild", "There is no such scenario"),
        ):
            with self.subTest(words), self.assertRaises(UsageError) as caught:
                in_many_ways(open_exercise(files), scenario, way)  # type: ignore[arg-type]
            self.assertIn(words, str(caught.exception))
