"""What can be foretold of a run: values, the outcome, a look, the scoreboard, and the last line that was told."""

import unittest
from typing import Any

from hobtrial.core.exercise import ExerciseError
from hobtrial.core.judging import open_exercise
from hobtrial.core.reporting import Guess, foretold, mark, must_foretell

SETTINGS = """
format = 1
title = "Foretold"
seconds = 3
[scene]
[[scene.piece]]
name = "hob"
at = [5, 1]
looks = ["usual", "sooty"]
[[variable]]
name = "score"
[[scenario]]
name = "One"
predict = {{names = [{names}], at = 2}}
[[scenario.check]]
end = true
expect = "score == 1"
marks = 1
"""
SCRIPT = """
score = 0
board("Buns", score)
@on(after(1))
def go():
    global score
    score = 1
    hob.look = "sooty"
    board("Buns", 1)
    tell("first")
    tell("then")
    win("done")
@on(after(2.5))
def late():
    tell("too late")
"""


def exercise(*names: str) -> Any:
    settings = SETTINGS.format(names=", ".join(f"'{name}'" for name in names))
    return open_exercise({"exercise.toml": settings.encode(), "reference.py": SCRIPT.encode()})


class Predicting(unittest.TestCase):
    def test_marks_for_it_are_a_share_in_halves_and_none_unless_the_exercise_says_so(self) -> None:
        names = "names = ['score', 'outcome', 'told'], at = 2"
        settings = (
            SETTINGS.replace("names = [{names}], at = 2", f"{names}, marks = 2").replace("{{", "{").replace("}}", "}")
        )
        prepared = open_exercise({"exercise.toml": settings.encode(), "reference.py": SCRIPT.encode()})
        report = mark(prepared, "x", SCRIPT).report
        for right, marks in ((3, 2), (2, 1), (1, 0.5), (0, 0)):
            said = dict(list({"score": "1", "outcome": "won", "told": "done"}.items())[:right]) | {"more": "?"}
            [found] = foretold(report, {0: said})
            self.assertEqual((found.marks, found.out_of), (marks, 2))
        plain = mark(exercise("score"), "x", SCRIPT).report
        [found] = foretold(plain, {0: {"score": "1"}})
        self.assertEqual((found.marks, found.out_of, plain.out_of), (0, 0, report.out_of))

    def test_values_outcome_look_board_and_text(self) -> None:
        names = ("score", "outcome", "hob.look", 'board("Buns")', "told")
        report = mark(exercise(*names), "x", SCRIPT).report
        asked = report.scenarios[0].predict
        assert asked is not None
        self.assertEqual((asked.values["score"], asked.values["outcome"], asked.values["told"]), ("1", "won", "done"))
        guesses = {"score": "1", "outcome": "won", "hob.look": "sooty", 'board("Buns")': "1", "told": "done"}
        [found] = foretold(report, {0: guesses})
        self.assertEqual((found.right, found.of), (dict.fromkeys(names, True), 5))
        [wrong] = foretold(report, {0: {**guesses, "outcome": "lost", "told": "too late"}})
        self.assertEqual([name for name, right in wrong.right.items() if not right], ["outcome", "told"])

    def test_what_is_none_of_these_is_said(self) -> None:
        for name in ("nobody", "score + 1", "told('x')", "clock", "hob"):
            with self.subTest(name), self.assertRaises(ExerciseError) as caught:
                exercise(name.replace("'", '"'))
            self.assertIn("`predict` names", caught.exception.faults[0].message)

    def test_who_foretold_a_run_is_not_asked_again(self) -> None:
        reports = {"a": mark(exercise("score"), "x", SCRIPT).report}
        right, wrong = Guess(0, "a", {"score": "1"}), Guess(0, "a", {"score": "2"})
        cases: tuple[tuple[str, list[Guess], str, bool], ...] = (
            ("nothing said yet", [], "a", True),
            ("said of this text", [wrong], "a", False),
            ("right the last time", [wrong, right], "b", False),
            ("wrong the last time", [right, wrong], "b", True),
            ("of another scenario", [Guess(1, "a", {"score": "1"})], "a", True),
            ("the run is not known", [Guess(0, "c", {"score": "1"})], "b", True),
            ("nothing was written", [Guess(0, "a", {})], "b", True),
        )
        for words, guesses, digest, asked in cases:
            with self.subTest(words):
                self.assertEqual(must_foretell(0, guesses, digest, reports), asked)
