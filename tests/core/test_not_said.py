"""What is not said of a script that stopped, or of which only a part is understood: a wrong reason is worse than none.

Each case takes a right script, written otherwise than the reference, and puts one mistake into it.
"""

from __future__ import annotations

import unittest
from typing import Any

from tests.slips.support import prepared
from tests.support import report

LIVES = """
lives = 3
hits = 0
words = ["Too sooty", "careful, last life", "ouch"]
board("Lives", lives)

@on(meets(hob, soot))
def bump(which):
    global lives, hits
    which.remove()
    if hits < 3:
        hits += 1
    lives = 3 - hits
    board("Lives", lives)
    if lives == 0:
        lose(words[lives])
    else:
        tell(words[lives])
"""
BASKET = """
buns = 0
room = 2
inside = []
board("Buns", buns)
board("Room", room)

@on(meets(bun, basket))
def collide(one, other):
    global buns
    if len(inside) < room:
        inside.append(one.name)
        one.remove()
    buns = len(inside)
    board("Buns", buns)

@on(pressed("b"))
def more():
    global room
    room += 1
    board("Room", room)
"""
DOUGH = """
height = 1
board("Height", height)

def grow(by):
    global height
    height += by
    board("Height", height)

@on(start)
def rise():
    while True:
        wait(1)
        grow(1)

@on(pressed("w"))
def warm():
    for i in range(2):
        grow(1)

@on(pressed("space"))
def knock():
    global height
    height = 1
    board("Height", height)
"""
CELLAR = """
from enum import Enum
import random

class Flap(Enum):
    LOW = 50
    HIGH = 200

heat = 100
logs = 0
specks = 0
board("Heat", heat)
offer("Go down")

@on(typed("more wood"))
def wood():
    global heat, logs
    logs = random.randint(1, 6)
    for log in range(logs):
        heat += 10 - draught
    board("Heat", heat)

@on(picked("Go down"))
def down():
    enter("cellar")
    question("How hot?")

@on(replied)
def reply(text):
    global heat
    if text == "low":
        heat = Flap.LOW.value
        send("flap")
    if text == "high":
        heat = Flap.HIGH.value
        send("flap")
    board("Heat", heat)

@on(heard("flap"))
def clank():
    sound("clank")

@on(meets(soot, floor))
def settle(one, other):
    global specks
    specks += 1
    one.freeze()
"""


def found(exercise: str, source: str, *changes: tuple[str, str]) -> list[dict[str, Any]]:
    """The findings of a script with some texts changed."""
    for old, new in changes:
        assert old in source, old
        source = source.replace(old, new, 1)
    findings: list[dict[str, Any]] = report(prepared(exercise), "x.py", source)["findings"]
    return findings


def told(exercise: str, source: str, *changes: tuple[str, str]) -> list[tuple[str, str, list[int]]]:
    """Confidence, slip and lines of each finding."""
    return [(each["confidence"], each["slip"], each["lines"]) for each in found(exercise, source, *changes)]


class RightOnes(unittest.TestCase):
    def test_the_scripts_themselves_are_right(self) -> None:
        cases = (("three-lives", LIVES), ("cap-the-basket", BASKET), ("set-or-change", DOUGH), ("draught-heat", CELLAR))
        for exercise, source in cases:
            with self.subTest(exercise):
                self.assertEqual(told(exercise, source), [])


class StoppedAtAName(unittest.TestCase):
    def test_a_list_that_is_never_made_is_said_to_be_missing_and_nothing_else(self) -> None:
        (finding,) = found("three-lives", LIVES, ('words = ["Too sooty", "careful, last life", "ouch"]\n', ""))
        self.assertEqual((finding["slip"], finding["confidence"]), ("never-set", "likely"))
        self.assertEqual(finding["pointer"], "Line 17 uses `words`. Nothing gives it a value when the game begins.")
        self.assertIsNone(finding["fix"])
        self.assertEqual(told("cap-the-basket", BASKET, ("inside = []\n", "")), [("likely", "never-set", [10])])

    def test_a_handler_is_not_said_to_count_twice_since_the_game_goes_on_without_it(self) -> None:
        slips = {slip for _, slip, _ in told("cap-the-basket", BASKET, ("len(inside) < room", "len(basket) < rooom"))}
        self.assertNotIn("handled-twice", slips)
        self.assertNotIn("no-handler", slips)

    def test_an_enumeration_that_is_not_there(self) -> None:
        without = ("class Flap(Enum):\n    LOW = 50\n    HIGH = 200\n", "")
        slips = [(slip, lines) for _, slip, lines in told("draught-heat", CELLAR, without)]
        self.assertIn(("never-set", [29]), slips)
        self.assertNotIn("handled-twice", dict(slips))

    def test_what_is_not_imported_is_no_variable(self) -> None:
        (finding,) = found("draught-heat", CELLAR, ("import random\n", ""))
        self.assertEqual((finding["slip"], finding["confidence"]), ("unsettled", "open"))
        self.assertIn("Line 17 uses `random`, and nothing has that name.", finding["pointer"])

    def test_a_text_without_quotes_is_no_variable(self) -> None:
        slips = [slip for _, slip, _ in told("draught-heat", CELLAR, ('enter("cellar")', "enter(cellar)"))]
        self.assertNotIn("never-set", slips)

    def test_a_name_of_another_function_is_another_variable(self) -> None:
        (finding,) = found("set-or-change", DOUGH, ("height += by", "height = i + by"))
        self.assertEqual((finding["confidence"], finding["slip"], finding["lines"]), ("shown", "wrong-variable", [7]))
        top = told("three-lives", LIVES, ('board("Lives", lives)\n\n', 'board("Lives", which)\n\n'))
        self.assertEqual(top, [("shown", "wrong-variable", [5])])

    def test_what_has_no_value_yet_is_not_an_old_value(self) -> None:
        late = (
            'heat = 100\nlogs = 0\nspecks = 0\nboard("Heat", heat)',
            'logs = 0\nspecks = 0\nboard("Heat", heat)\nheat = 100',
        )
        (finding, *_) = found("draught-heat", CELLAR, late)
        self.assertEqual(finding["pointer"], "Line 11 uses `heat`. In this run it had no value by then.")


class StoppedElsewhere(unittest.TestCase):
    def test_a_test_is_not_turned_so_that_the_line_is_not_reached(self) -> None:
        (finding,) = found("three-lives", LIVES, ("lose(words[lives])", "lose(lives[0])"))
        self.assertNotIn(finding["slip"], ("text-and-number", "flipped", "always-true"))
        self.assertEqual(finding["lines"], [16])

    def test_a_member_that_is_not_there_is_not_the_other_one(self) -> None:
        slips = [slip for _, slip, _ in told("draught-heat", CELLAR, ("    HIGH = 200\n", ""))]
        self.assertNotIn("not-a-member", slips)
        self.assertNotIn("overwritten", slips)

    def test_a_member_that_is_nearly_there_is(self) -> None:
        misspelt = told("draught-heat", CELLAR, ("heat = Flap.HIGH.value", "heat = Flap.HIHG.value"))
        self.assertEqual(misspelt, [("shown", "misspelt-name", [35])])

    def test_a_line_that_stopped_would_have_told(self) -> None:
        slips = [slip for _, slip, _ in told("three-lives", LIVES, ("tell(words[lives])", "tell(words[lives + 4])"))]
        self.assertNotIn("no-feedback", slips)


class OtherWays(unittest.TestCase):
    def test_who_waits_needs_no_handler_of_each_second(self) -> None:
        self.assertEqual(told("set-or-change", DOUGH, ("wait(1)", "wait(2)")), [("shown", "wrong-amount", [13])])
        slips = [slip for _, slip, _ in told("set-or-change", DOUGH, ("        grow(1)\n\n@on", "        pass\n\n@on"))]
        self.assertNotIn("no-handler", slips)

    def test_who_enters_a_place_can_ask_right_there(self) -> None:
        (finding,) = found("draught-heat", CELLAR, ('    question("How hot?")\n', ""))
        self.assertEqual((finding["confidence"], finding["slip"]), ("likely", "no-feedback"))
        self.assertIn('`question("How hot?")` should come.', finding["pointer"])

    def test_a_number_in_a_sum_is_another_number_and_no_other_sum(self) -> None:
        for old, new in (("3 - hits", "4 - hits"), ("3 - hits", "2 - hits")):
            with self.subTest(new):
                (finding,) = found("three-lives", LIVES, (old, new))
                self.assertEqual(
                    (finding["confidence"], finding["slip"], finding["lines"]), ("shown", "wrong-amount", [13])
                )

    def test_a_number_in_a_limit_is_another_number(self) -> None:
        limited = ("    if hits < 3:\n        hits += 1\n    lives = 3 - hits\n", "    lives = max(1, lives - 1)\n")
        (finding,) = found("three-lives", LIVES, limited)
        self.assertEqual((finding["confidence"], finding["slip"], finding["lines"]), ("shown", "wrong-amount", [11]))
        self.assertEqual(finding["pointer"], "Line 11 has the number 1. The number asked for is 0.")

    def test_one_number_alone_is_not_passed_by_a_value_that_stays_on_one_side(self) -> None:
        slips = told("three-lives", LIVES, ("if lives == 0:", "if lives == -1:"))
        self.assertEqual(slips, [("shown", "wrong-amount", [15])])


class Sentences(unittest.TestCase):
    def test_a_scoreboard_that_nobody_tells_does_not_run_at_the_wrong_moment(self) -> None:
        silent = ('    height += by\n    board("Height", height)\n', "    height += by\n")
        (finding,) = found("set-or-change", DOUGH, silent)
        self.assertEqual(finding["slip"], "stale-display")
        self.assertEqual(finding["pointer"], "Line 7 changes a value. The scoreboard is not told right after it.")

    def test_a_loop_goes_round_once(self) -> None:
        (finding,) = found("set-or-change", DOUGH, ("range(2)", "range(1)"))
        self.assertEqual(finding["pointer"], "Line 18 goes round once. It should go round twice.")

    def test_a_limit_speaks_of_the_change_that_went_beyond_it(self) -> None:
        endless = (("    if hits < 3:\n        hits += 1\n    lives = 3 - hits\n", "    lives -= 1\n"),
                   ("    if lives == 0:\n        lose(words[lives])\n    else:\n        tell(words[lives])\n", ""))  # fmt: skip
        limits = [each for each in found("three-lives", LIVES, *endless) if each["slip"] == "missing-limit"]
        self.assertEqual(
            [each["pointer"] for each in limits], ["Line 11 made `lives` -1. It was 0, and should have stayed."]
        )


if __name__ == "__main__":
    unittest.main()
