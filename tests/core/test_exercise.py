"""Exercise folders: read, or turned down with file, line, what was met and what would be right."""

import unittest

from hobtrial.core.exercise import ExerciseError
from hobtrial.core.judging import HELD, open_exercise, play_all
from hobtrial.core.script import Script
from tests.support import BAKEHOUSE, bakehouse, text

SMALL = """
    format = 1
    title = "Small"
    seconds = 2

    [scene]
    width = 32

    [[scene.piece]]
    name = "hob"
    at = [5, 1]
    motion = {steered = {speed = 6}}

    [[variable]]
    name = "score"

    [[scenario]]
    name = "One"
    [[scenario.input]]
    at = 0.5
    press = "space"
    [[scenario.check]]
    at = 1.0
    expect = "score == 0"
"""


def faults(toml: str, **files: bytes) -> list[str]:
    """The faults of a small exercise."""
    try:
        open_exercise({"exercise.toml": text(toml).encode(), "reference.py": b"score = 0\n", **files})
    except ExerciseError as error:
        return [str(fault) for fault in error.faults]
    return []


def changed(old: str, new: str) -> list[str]:
    """The faults after one change of the small exercise."""
    assert old in SMALL, old
    return faults(SMALL.replace(old, new))


class Faults(unittest.TestCase):
    def test_a_right_one_has_none(self) -> None:
        self.assertEqual(faults(SMALL), [])

    def test_each_with_its_line(self) -> None:
        cases = {
            (
                "format = 1",
                "format = 2",
            ): "line 1: `format` this file has format 2; this version of the program reads format 1.",
            ("seconds = 2", 'seconds = "long"'): "line 3: `seconds` is 'long'; it should be a valid number",
            (
                "width = 32",
                "width = 32\n    colour = 3",
            ): "line 7: `colour` is not a key here; known are: width, height",
            ("width = 32", "with = 32"): "line 6: `with` is not a key here; did you mean `width`?",
            ('name = "hob"', ""): "`name` is missing here.",
            ('name = "hob"', 'name = "my hob"'): "must be a Python name",
            (
                "{steered = {speed = 6}}",
                "{flying = {}}",
            ): "line 11: `flying` is not a key here; did you mean `falling`?",
            ("{steered = {speed = 6}}", "{still = {}, falling = {}}"): "needs exactly one motion of",
            ('press = "space"', 'press = "spcae"'): "line 20: `press` must be a key",
            ('press = "space"', 'hold = "a"'): "`hold` needs `for`",
            (
                'press = "space"',
                "",
            ): "needs one of `press`, `hold`, `click`, `pick`, `answer`, `type`, `set`; it has none",
            ("at = 0.5", "at = 2.5"): "line 19: `at` is 2.5 s, but this trial ends after 2 s.",
            ("at = 1.0", "at = 9.0"): "line 22: `at` is 9 s, but this trial ends after 2 s.",
            (
                "at = 1.0",
                "at = 1.0\n    end = true",
            ): "needs exactly one of `at`, `after`, `by`, `always`, `never`, `each`, `same`, `unchanged`, `end`, `apart`; it has `at` and",
            ("at = 1.0", "marks = 1"): "it has none",
            ("at = 1.0", "at = 1.0\n    marks = 0.3"): "must be a whole or a half number",
            (
                "at = 1.0",
                'at = 1.0\n    concept = "loops"',
            ): "`concept` is 'loops'; it must be one of variables, events, conditionals.",
            ('"score == 0"', '"scoer == 0"'): "line 23: `expect` 'scoer == 0' uses `scoer`, which is not a variable",
            ('name = "One"', 'name = "One"\n    arrange = ["lives = 1"]'): "`arrange` 'lives = 1' arranges `lives`",
            ("seconds = 2", "seconds = 2\n    narrow = ['goto']"): "`narrow` must be one of: if, while, for",
            (
                "seconds = 2",
                "seconds = 2\n    limits = {stories = 3}",
            ): "`limits` has `stories`, which is not a limit; there are: passes_a_handler",
            (
                "seconds = 2",
                "seconds = 2\n    limits = {story = 9999}",
            ): "`story` is 9,999; an exercise can only narrow it below 2,000",
            ('press = "space"', 'press = "space"\n    for = 2'): "`for` and `until` go with `hold`",
            (
                'press = "space"',
                'hold = "a"\n    until = "meets(hob)"',
            ): "`until` 'meets(hob)' has `meets` with 1 names; it takes 2",
            ('press = "space"', 'hold = "a"\n    until = "score =="'): "`until` is 'score =='; write an event",
            ('press = "space"', 'click = "oven"'): "`click` is 'oven', which is not a piece of the scene.",
            ('press = "space"', "set = {draught = 3}"): "`set` is about `draught`, which is not a fact of the scene.",
            ('name = "hob"', 'name = "win"'): "line 9: `win` is a name of the language already; take another one.",
            ('name = "score"', 'name = "hob"'): "a listed variable has the name of a thing of the scene",
            ("title =", "title"): "line 2: is not TOML here",
        }
        for (old, new), words in cases.items():
            with self.subTest(new):
                found = changed(old, new)
                self.assertTrue(any(words in line for line in found), found)
                self.assertTrue(all(line.startswith("exercise.toml, line ") for line in found), found)

    def test_an_exercise_narrows_the_language_and_the_limits(self) -> None:
        toml = SMALL.replace(
            "seconds = 2", "seconds = 2\n    narrow = ['while']\n    limits = {story = 3, passes_a_handler = 50}"
        )
        prepared = open_exercise({"exercise.toml": text(toml).encode(), "reference.py": b"score = 0\n"})
        self.assertNotIsInstance(prepared.read("while True:\n    pass"), Script)
        for source, words in (
            ("for i in range(4):\n    tell(i)", "beyond 3 lines"),
            ("for i in range(60):\n    pass", "more than 50 numbers"),
        ):
            reading = prepared.read(source)
            assert isinstance(reading, Script)
            stop = prepared.play(prepared.weave(reading), prepared.scenarios[0]).stopped
            assert stop is not None
            self.assertIn(words, stop.message)

    def test_all_at_once(self) -> None:
        found = faults(SMALL.replace("width = 32", "wdth = 32").replace('press = "space"', 'press = "x y"'))
        self.assertEqual(len(found), 2)

    def test_missing_files(self) -> None:
        with self.assertRaises(ExerciseError) as caught:
            open_exercise({})
        self.assertEqual(
            [str(fault) for fault in caught.exception.faults],
            [
                "exercise.toml: this file is missing; it says what the exercise is.",
                "reference.py: this file is missing; it is the solution that must earn every mark.",
            ],
        )

    def test_a_reference_that_cannot_be_read(self) -> None:
        found = faults(SMALL, **{"reference.py": b"score = 0\nif score = 1:\n    pass\n"})
        self.assertIn("reference.py, line 2: This `if` has a single `=`", found[0])

    def test_two_things_of_one_name(self) -> None:
        twice = '\n    [[scene.piece]]\n    name = "hob"\n    at = [9, 1]\n\n    [[variable]]'
        self.assertIn("`hob` names two things", changed("\n    [[variable]]", twice)[0])

    def test_an_encoding_that_is_not_utf_8(self) -> None:
        self.assertEqual(
            faults(SMALL, **{"brief.md": b"k\xfchl"}),
            ["brief.md, line 1: is not saved as UTF-8; save it again with that encoding."],
        )


class Samples(unittest.TestCase):
    def test_the_sample_exercise_has_five_scenarios_of_its_kinds(self) -> None:
        names = [scenario.spec.name for scenario in bakehouse().scenarios]
        self.assertLessEqual(
            {"Three buns in a row", "Soot from above", "A full shelf", "The last life", "After the end"}, set(names)
        )

    def test_verdicts_and_traces_agree(self) -> None:
        prepared = bakehouse()
        for number, _ in enumerate(prepared.scenarios):
            quick, whole = (
                prepared.play(prepared.reference, prepared.scenarios[number]),
                prepared.reference_trace(prepared.scenarios[number]),
            )
            self.assertEqual((quick.samples, quick.story, quick.outcome), (whole.samples, whole.story, whole.outcome))

    def test_every_check_can_be_broken_or_missed(self) -> None:
        prepared = bakehouse()
        scripts = [
            "a = 1",
            'win("x")',
            "score = 9\nlives = -1\nlose()",
            'score = 3\nlives = 3\nboard("Buns", 3)\nboard("Lives", 2)\nwin()\nscore = 0\nlives = -2',
        ]
        failed = set()
        for script in scripts:
            reading = prepared.read(script)
            assert isinstance(reading, Script)
            for run in play_all(prepared, prepared.weave(reading)):
                failed |= {(run.name, v.expect) for v in run.verdicts if v.verdict != HELD}
        everything = {(c.spec.name, e.text) for c in prepared.scenarios for e in c.checks}
        self.assertEqual(everything - failed, set())
        self.assertEqual(BAKEHOUSE, "bakehouse-rush")
