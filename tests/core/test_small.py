"""Small strips: one line and the pins of a scenario, for a row of tries."""

import unittest

from hobtrial.core.judging import open_exercise
from hobtrial.core.reporting import mark, small_strips, to_json
from tests.server.desks import EXERCISE, ONE_TOO_MANY


class Small(unittest.TestCase):
    def setUp(self) -> None:
        self.prepared = open_exercise(EXERCISE)

    def test_the_value_that_most_checks_are_about_with_a_pin_for_each(self) -> None:
        two, won, secret = small_strips(mark(self.prepared, "x", ONE_TOO_MANY))
        self.assertEqual((two.name, two.last, [height for _, height in two.line]), ("score", 60, [0, 1, 2]))
        self.assertEqual(two.pins, ((60, "held"),))
        self.assertEqual(won.pins, ((60, "broken"),))
        self.assertEqual((secret.name, secret.line), ("score", ((0, 0.0),)))

    def test_what_is_no_number_has_its_turn_for_a_height(self) -> None:
        files = {**EXERCISE, "exercise.toml": EXERCISE["exercise.toml"].replace(b"score == 2", b"score == 'two'")}
        words = "score = 'none'\n@on(after(1))\ndef f():\n    global score\n    score = 'two'\n"
        strip = small_strips(mark(open_exercise(files), "x", words))[0]
        self.assertEqual([height for _, height in strip.line], [0.0, 1.0])

    def test_a_text_that_cannot_be_read_has_none_and_one_that_stops_has_what_there_was(self) -> None:
        self.assertEqual(small_strips(mark(self.prepared, "x", "score = ")), [])
        stopped = small_strips(mark(self.prepared, "x", "score = 1\n@on(after(1))\ndef f():\n    tell(1 / 0)\n"))
        self.assertEqual([strip.line[0][1] for strip in stopped], [1.0, 0.0, 1.0])
        self.assertEqual([answer for strip in stopped for _, answer in strip.pins], ["not reached"] * 3)

    def test_they_are_json_and_not_long(self) -> None:
        wild = "score = 0\n@on(frame)\ndef f():\n    global score\n    score = (score * 7 + 1) % 97\n"
        for strip in to_json(small_strips(mark(self.prepared, "x", wild))):
            self.assertLessEqual(len(strip["line"]), 80)
            self.assertEqual(set(strip), {"name", "last", "line", "pins"})
