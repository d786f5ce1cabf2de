"""Craft: what a script's text must have, seen through parentheses, order, helpers and constants."""

import unittest

from hobtrial.core.exercise import Craft
from hobtrial.core.judging import ExpectationError, Surroundings, open_exercise
from hobtrial.core.judging.craft import read_craft
from hobtrial.demo import exercise_folder, solution_of
from tests.support import accepted, report

NAMES = Surroundings(frozenset({"score", "lives"}), frozenset({"hob", "oven"}), frozenset({"bun"}))
ALIAS = {"score": ("points",)}


def holds(line: str, script: str) -> bool:
    """Whether a craft line holds for a script."""
    return read_craft(Craft(expect=line), NAMES).holds(accepted(script), ALIAS)[0]


CASES = {
    "handles meets(hob, bun)": (
        [
            "@on(meets(hob, bun))\ndef f(): pass",
            "@on((meets(bun, hob)))\ndef f(): pass",
            "hit = meets(hob, bun)\n@on(start, hit)\ndef f(): pass",
        ],
        [
            "@on(parts(hob, bun))\ndef f(): pass",
            "# @on(meets(hob, bun))\ns = 'meets(hob, bun)'",
            "@on(meets(hob, oven))\ndef f(): pass",
        ],
    ),
    'handles pressed("space")': (
        ['key = pressed("space")\n@on(key)\ndef f(): pass'],
        ['@on(pressed("a"))\ndef f(): pass'],
    ),
    "assigns score": (
        [
            "score = 0",
            "game.score = 0",
            "points = 0",
            "a, score = 1, 2",
            "for score in range(3): pass",
            "def f():\n    global score\n    score = 1",
        ],
        ["scores = 0", "def f():\n    score = 1", "print('score = 0')", "hob.score = 1"],
    ),
    "changes score": (
        ["score = 0\nscore += 1", "score = 0\nscore = (score) + 1", "game.score = 0\ngame.score = 1 + game.score"],
        ["score = 1", "score = 0\ndef f(score):\n    score += 1", "score = 0\ndef f():\n    score = 0\n    score += 1"],
    ),
    "tests score": (
        [
            "score = 0\nif score > 3: pass",
            "score = 0\nfull = score > 3",
            "score = 0\nx = 1 if (score) else 2",
            "score = 0\ndef full():\n    return score\nif full(): pass",
            "score = 0\nmatch score:\n    case 1: pass",
        ],
        ["score = 0\nprint(score)", "score = 0\ndef f(score):\n    return score > 1"],
    ),
    "compares score with >=": (
        [
            "score = 0\nif score >= 5: pass",
            "score = 0\nif 5 <= score: pass",
            "score = 0\nif not (score < 5): pass",
            "GOAL = 5\nscore = 0\ndef full():\n    return score >= GOAL",
            "score = 0\nif 3 < score >= 5: pass",
            "score = 0\nif score > 4: pass",
        ],
        ["score = 0\nif score > 4.5: pass", "score = 0\nif not score >= 5: pass", "score = 0\nif score == 5: pass"],
    ),
    "compares hob.lives with ==": (
        ["hob.lives = 1\nif 0 == hob.lives: pass"],
        ["hob.lives = 1\nif oven.lives == 0: pass"],
    ),
    "uses elif": (["if 1: pass\nelif 2: pass"], ["if 1: pass\nelse:\n    if 2: pass"]),
    "uses else": (["if 1: pass\nelse: pass", "if 1: pass\nelif 2: pass\nelse: pass"], ["if 1: pass\nelif 2: pass"]),
    "uses and": (["x = 1 and 2"], ["x = 1 or 2", "# and"]),
    "uses not": (["x = not 1"], ["x = 1 != 2", "x = 1 not in [2]"]),
    "uses match": (["match 1:\n    case _: pass"], ["match = 1"]),
    "uses a function": (["def f(): pass"], ["@on(start)\ndef f(): pass"]),
    "uses an Enum": (["from enum import Enum\nclass Way(Enum):\n    UP = 1"], ["x = 1"]),
    "uses a loop": (["for i in range(2): pass", "while False: pass"], ["x = 1"]),
    "at most 1 handler for meets(hob, bun)": (
        ["@on(meets(bun, hob))\ndef f(): pass"],
        ["@on(meets(bun, hob))\ndef f(): pass\n@on(meets(hob, bun))\ndef g(): pass"],
    ),
    "no number 5": (["GOAL = 5\nif GOAL > 3: pass", "x = 55"], ["if 1 > 5: pass", "x = [5]", "x = 5.0 + 1"]),
    "no number -1": (["x = 1"], ["y = 0\ny += -1"]),
}


class Findings(unittest.TestCase):
    def test_a_mark_lost_for_craft_has_a_finding_that_says_what_the_brief_asks(self) -> None:
        prepared = open_exercise(exercise_folder("at-least"))
        source = solution_of("at-least", "reference").replace(">= 200", "not in range(200)")
        (finding,) = report(prepared, "x.py", source)["findings"]
        self.assertEqual((finding["slip"], finding["confidence"], finding["marks_lost"]), ("craft", "shown", 1))
        self.assertEqual(
            finding["pointer"], "`heat` is not compared with `>=`. The brief asks for it: compares heat with >=."
        )
        self.assertIn("The heat jumps by 35", finding["note"])


class Lines(unittest.TestCase):
    def test_every_form(self) -> None:
        for line, (yes, no) in CASES.items():
            for script in yes:
                with self.subTest(line, script=script):
                    self.assertTrue(holds(line, script))
            for script in no:
                with self.subTest(line, script=script):
                    self.assertFalse(holds(line, script))

    def test_what_was_met_where_it_is_not_so(self) -> None:
        rule = read_craft(Craft(expect="compares score with >="), NAMES)
        self.assertEqual(
            rule.holds(accepted("score = 0\nif score < 4: pass"), {}),
            (False, "`score` is not compared with `>=`; it is compared with `<`, `<=`"),
        )

    def test_what_is_no_craft(self) -> None:
        for line in (
            "handles dancing",
            "uses goto",
            "compares score with <>",
            "no number five",
            "at most handlers for start",
        ):
            with self.subTest(line), self.assertRaises(ExpectationError):
                read_craft(Craft(expect=line), NAMES)
