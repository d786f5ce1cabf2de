"""Proof: planted slips and what catches them, marks for nothing, branches and pieces in the way."""

import tomllib
import unittest
from collections import Counter

from hobtrial.core.exercise import Scenario
from hobtrial.core.explaining.wording import SLIPS
from hobtrial.core.judging import open_exercise, play_scenario
from hobtrial.core.proving import fitness, planted, proof, try_planted
from hobtrial.core.proving.plant import MOST_OF_A_SLIP, PLANTERS
from hobtrial.core.script import Script
from tests.slips.support import folder, prepared

TOML = """
format = 1
title = "Small"
seconds = 2
[scene]
[[scene.piece]]
name = "hob"
at = [5, 2]
motion = {steered = {speed = 6}}
[[scene.piece]]
name = "bell"
at = [5.5, 2]
[[scene.piece]]
name = "wall"
at = [15, 8]
size = [1, 12]
solid = true
[[variable]]
name = "score"
start = 0
[[scenario]]
name = "One press"
[[scenario.input]]
at = 0.5
press = "space"
[[scenario.check]]
end = true
expect = "score == 1"
[[scenario.check]]
at = 0.2
expect = "score == 0"
"""
REFERENCE = """
score = 0


@on(pressed("space"))
def press():
    global score
    score += 1
    if score >= 3:
        win("Enough")
"""


def small() -> dict[str, bytes]:
    return {"exercise.toml": TOML.encode(), "reference.py": REFERENCE.encode(), "starter.py": b"score = 0\n"}


class Fit(unittest.TestCase):
    def test_marks_branches_and_pieces(self) -> None:
        found = fitness(open_exercise(small()))
        self.assertEqual((found.reference, found.empty, found.starter, found.out_of), (2, 0, 1, 2))
        self.assertEqual(found.branches, ({"line": 9, "test": "score >= 3", "branch": "yes"},))
        self.assertEqual(found.overlaps, (("hob", "bell"),))
        self.assertEqual(found.ways_round, ({"piece": "hob", "obstacle": "wall"},))
        self.assertEqual(
            found.warnings(),
            [
                "The starter earns 1 of 2 marks; a fifth is the most that is fair.",
                "No scenario goes down the branch of `score >= 3` in line 9.",
                "`hob` and `bell` overlap in the first frame.",
                "`hob` can walk round `wall`.",
            ],
        )

    def test_a_wall_from_edge_to_edge_has_no_way_round(self) -> None:
        files = small() | {"exercise.toml": TOML.replace("size = [1, 12]", "size = [1, 30]").encode()}
        self.assertEqual(fitness(open_exercise(files)).ways_round, ())


class PlantedSlips(unittest.TestCase):
    def test_each_is_a_script_of_its_own_with_one_slip_of_the_catalogue(self) -> None:
        exercise = prepared("bakehouse-rush")
        found = planted(exercise)
        self.assertLessEqual({each.slip for each in found}, set(SLIPS))
        self.assertEqual(len({each.text for each in found}), len(found))
        self.assertLessEqual(max(Counter(each.slip for each in found).values()), MOST_OF_A_SLIP)
        for each in found:
            self.assertIsInstance(exercise.read(each.text), Script, each.slip)
            self.assertTrue(each.changes)

    def test_every_planter_finds_a_place_in_some_exercise(self) -> None:
        names = ("bakehouse-rush", "again-and-best", "draught-heat", "bread-choices", "at-least", "loaf-in-order")
        there = {each.slip for name in names for each in planted(prepared(name))}
        self.assertEqual(there, set(PLANTERS))

    def test_what_gets_through_is_shown_with_a_scenario_that_catches_it(self) -> None:
        exercise = open_exercise(small())
        listed = proof(exercise)["planted"]
        number = next(n for n, each in enumerate(listed) if each["slip"] == "boundary")
        found = try_planted(exercise, number)
        self.assertEqual((found["verdict"], found["expect"]), ("through", "outcome == 'won'"))
        scenario = Scenario.model_validate(tomllib.loads(found["scenario"])["scenario"][0])
        whole = open_exercise(small() | {"exercise.toml": (TOML + "\n" + found["scenario"]).encode()})
        self.assertEqual(scenario.name, "Space held twice, space pressed")
        slip = exercise.read(planted(exercise)[number].text)
        assert isinstance(slip, Script)
        last = len(whole.scenarios) - 1
        self.assertTrue(play_scenario(whole, whole.weave(slip), last).broken)
        self.assertFalse(play_scenario(whole, whole.reference, last).broken)

    def test_what_is_caught_names_the_checks(self) -> None:
        exercise = open_exercise(small())
        listed = proof(exercise)["planted"]
        number = next(n for n, each in enumerate(listed) if each["slip"] in ("set-for-change", "wrong-sign"))
        found = try_planted(exercise, number)
        self.assertEqual(found["verdict"] == "caught", bool(found["caught_by"]))

    def test_what_acts_the_same_is_called_perhaps_no_mistake(self) -> None:
        exercise = prepared("three-lives")
        listed = proof(exercise)["planted"]
        number = next(
            n
            for n, each in enumerate(listed)
            if each["slip"] == "no-handler" and "frame" in each["changes"][0]["before"]
        )
        found = try_planted(exercise, number)
        self.assertEqual((found["verdict"], found["runs"]), ("same", 500))


class TheDemo(unittest.TestCase):
    def test_the_small_exercises_let_at_most_one_in_twenty_through(self) -> None:
        for name in ("first-count", "set-or-change", "at-least", "cap-the-basket"):
            with self.subTest(name):
                exercise = open_exercise(folder(name))
                verdicts = [try_planted(exercise, n)["verdict"] for n, _ in enumerate(planted(exercise))]
                self.assertLessEqual(verdicts.count("through"), 0.05 * len(verdicts))
