"""Follow-ups are exercises like any other: they can be set, their script has the one slip, and mending its line mends all."""

import unittest

from hobtrial.core.judging import open_exercise
from hobtrial.core.proving import planted
from hobtrial.core.reporting import mark
from hobtrial.core.words import UsageError
from hobtrial.core.workshop import follow_up, rehearse
from hobtrial.demo import exercise_folder

EXERCISES = ("bakehouse-rush", "first-count", "at-least", "cap-the-basket")


class FollowUps(unittest.TestCase):
    def test_one_can_be_made_of_every_slip_that_is_seen_and_is_fit_to_be_set(self) -> None:
        made = 0
        for name in EXERCISES:
            files = exercise_folder(name)
            prepared = open_exercise(files)
            for slip in sorted({each.slip for each in planted(prepared)})[::2]:
                with self.subTest(f"{name}: {slip}"):
                    try:
                        found = follow_up(prepared, files, slip)
                    except UsageError:
                        continue  # no visible scenario shows it
                    made += 1
                    again = open_exercise(found.files)
                    reference, starter = found.files["reference.py"], found.files["starter.py"]
                    self.assertEqual(mark(again, "r", reference).report.marks, again.out_of)
                    self.assertLess(mark(again, "s", starter).report.marks or 0, again.out_of)
                    self.assertLessEqual(len(again.scenarios), 3)
                    self.assertTrue(all(scenario.spec.visible for scenario in again.scenarios))
                    differ = [
                        number
                        for number, (mine, theirs) in enumerate(
                            zip(starter.decode().split("\n"), reference.decode().split("\n"), strict=False), 1
                        )
                        if mine != theirs
                    ]
                    self.assertIn(found.line, [*differ, found.line])
                    self.assertFalse(any(file.startswith(("also/", "wrong/")) for file in found.files))
        self.assertGreater(made, 12)

    def test_it_asks_first_what_will_be(self) -> None:
        files = exercise_folder("bakehouse-rush")
        found = follow_up(open_exercise(files), files, "boundary")
        again = open_exercise(found.files)
        asked = [scenario.spec.predict for scenario in again.scenarios if scenario.spec.predict is not None]
        self.assertEqual(len(asked), 1)
        self.assertIn(asked[0].names[0], ("score", "lives"))
        self.assertEqual(again.exercise.title, "Mend one line: Bakehouse rush")
        self.assertEqual(
            [each for each in rehearse(found.files).as_json()["notices"] if each.get("kind") == "fault"], []
        )

    def test_what_cannot_be_planted_is_said(self) -> None:
        files = exercise_folder("bakehouse-rush")
        with self.assertRaisesRegex(UsageError, "no line in which that mistake could be planted"):
            follow_up(open_exercise(files), files, "no such slip")
