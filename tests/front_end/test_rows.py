"""The rows of a draft as the workshop reads them: names that are free, values as they are typed."""

import tomllib
import unittest

from hobtrial.demo import exercise_folder
from tests.front_end.support import answers, call

SETTINGS = tomllib.loads(exercise_folder("bakehouse-rush")["exercise.toml"].decode())


class Rows(unittest.TestCase):
    def test_rows_of_every_table(self) -> None:
        asked = [
            ("piece", None),
            ("spawner", None),
            ("variable", None),
            ("scenario", None),
            ("check", 1),
            ("input", 0),
            ("case", 0),
        ]
        found = answers(*(call("rows", "rowsOf", SETTINGS, table, scenario) for table, scenario in asked))
        expected = [SETTINGS["scene"]["piece"], SETTINGS["scene"]["spawner"], SETTINGS["variable"], SETTINGS["scenario"],
                    SETTINGS["scenario"][1]["check"], SETTINGS["scenario"][0]["input"], []]  # fmt: skip
        self.assertEqual(found, expected)
        self.assertEqual(
            answers(call("rows", "rowsOf", None, "piece"), call("rows", "rowsOf", {}, "check", 4)), [[], []]
        )

    def test_names_that_are_free(self) -> None:
        rows = [{"name": "soot"}, {"name": "soot_2"}, {"name": "To the bun"}]
        found = answers(
            call("rows", "freeName", rows, "soot"),
            call("rows", "freeName", rows, "bun"),
            call("rows", "freeTitle", rows, "To the bun"),
        )
        self.assertEqual(found, ["soot_3", "bun", "To the bun 2"])

    def test_values_as_they_are_typed_and_shown(self) -> None:
        typed = ["3", " 2.5", "True", "false", "plum", "", "1e2"]
        self.assertEqual(
            answers(*(call("rows", "typed", each) for each in typed)), [3, 2.5, True, False, "plum", "", 100]
        )
        shown = [3, True, "plum", [4, 2], None, {"draught": 4}]
        self.assertEqual(
            answers(*(call("rows", "words", each) for each in shown)),
            ["3", "true", "plum", "4, 2", "", '{"draught":4}'],
        )
