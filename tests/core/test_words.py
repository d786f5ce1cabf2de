"""Values as they are written down and shown: what is too large for a person is cut."""

import json
import unittest

from hobtrial.core.words import LARGEST_WRITTEN, LONGEST_SHOWN, as_json_value, short_text
from tests.support import bakehouse, report, text


class Written(unittest.TestCase):
    def test_what_people_write_is_whole(self) -> None:
        for value in (0, "five", [1, 2.5, True, None], {"a": [1, "b"], "c": {}}, [[1, 2], [3]], list(range(100))):
            self.assertEqual(as_json_value(value), value)

    def test_what_is_too_large_says_how_much_more_there_is(self) -> None:
        cut = as_json_value(["x" * 9999] * 200)
        self.assertEqual((len(cut[0]), cut[-1]), (LONGEST_SHOWN, {"text": f"… and {200 - len(cut) + 1} more"}))
        many = as_json_value({f"key {number}": number for number in range(1000)})
        self.assertEqual(many["…"], {"text": f"… and {1000 - len(many) + 1} more"})
        for value in (cut, many, as_json_value([[["y" * 50] * 50] * 50] * 50)):
            self.assertLess(len(json.dumps(value)), 4 * LARGEST_WRITTEN)

    def test_a_report_of_large_values_is_small(self) -> None:
        script = text("""
            score = ["x" * 9999] * 200
            lives = [["y" * 99] * 99] * 99
            board("Buns", score)

            @on(frame)
            def grow():
                global lives
                lives = ["z" * 9000] * 150
        """)
        self.assertLess(len(json.dumps(report(bakehouse(), "wren.py", script))), 400_000)


class Shown(unittest.TestCase):
    def test_it_is_written_as_python_writes_it(self) -> None:
        for value in (
            1,
            2.5,
            "a'b",
            [1, "b", (2,)],
            {"a": 1, 2: []},
            {3},
            frozenset({4}),
            set(),
            (),
            None,
            True,
            (1, 2),
        ):
            self.assertEqual(short_text(value), repr(value))

    def test_it_is_cut(self) -> None:
        for value in ("x" * 1000, ["abc"] * 1000, 10**4000, dict.fromkeys(range(1000), "x")):
            shown = short_text(value)
            self.assertEqual((len(shown), shown[-1]), (LONGEST_SHOWN, "…"))
        self.assertEqual(short_text(10**5000), "a very large number")

    def test_what_holds_itself_over_and_over_takes_no_longer(self) -> None:
        doubled: list[object] = []
        deep: list[object] = []
        for _ in range(10_000):
            doubled, deep = [doubled, doubled], [deep]
        self.assertEqual((short_text(doubled)[:3], short_text(deep)[:3]), ("[[[", "[[["))
