"""Explanations on scripts beside the sample class: recognised, and just as important, not claimed."""

import ast
import unittest
from typing import Any

from hobtrial.core.explaining.catalogue import UNREADABLE, sentence
from hobtrial.core.explaining.near import near
from hobtrial.core.explaining.trying import only_asks
from hobtrial.core.explaining.why import why
from hobtrial.core.judging import open_exercise, play_scenario, reference_of
from hobtrial.core.reporting import explained, from_json, groups, idea_of, mark, replay
from hobtrial.core.script import Script
from hobtrial.demo import exercise_folder
from tests.core.test_reading import SYNTAX
from tests.support import bakehouse, report, sample_class

REFERENCE = bakehouse().exercise.reference


def changed(*changes: tuple[str, str]) -> dict[str, Any]:
    """The report of the reference with some texts changed."""
    source = REFERENCE
    for old, new in changes:
        assert old in source, old
        source = source.replace(old, new)
    return report(bakehouse(), "x.py", source)


def slips(*changes: tuple[str, str]) -> list[tuple[str, list[int]]]:
    """Slip and lines of each finding."""
    return [(finding["slip"], finding["lines"]) for finding in changed(*changes)["findings"]]


class Recognised(unittest.TestCase):
    def test_boundary_in_other_shapes(self) -> None:
        self.assertEqual(slips(("score >= 5", "not score <= 5")), [("boundary", [15])])
        self.assertEqual(slips(("score >= 5", "score > 5 and True")), [("boundary", [15])])
        self.assertEqual(slips(("lives <= 0", "0 > lives")), [("boundary", [27])])
        self.assertEqual(slips(("    if score >= 5:", "    full = score > 5\n    if full:")), [("boundary", [15])])

    def test_boundary_that_comes_too_early(self) -> None:
        self.assertEqual(slips(("score >= 5", "score + 1 >= 5")), [("boundary", [15])])

    def test_every_frame(self) -> None:
        changes = (
            ("meets(hob, soot)", "overlaps(hob, soot)"),
            ('    which.remove()\n    board("Lives"', '    board("Lives"'),
        )
        self.assertEqual(slips(*changes), [("every-frame", [19])])

    def test_every_frame_by_a_held_key(self) -> None:
        long_press = ('@on(pressed("space"))', '@on(held("space"))')
        self.assertEqual(slips(long_press), [("every-frame", [31])])
        said = changed(long_press)["findings"][0]["pointer"]
        self.assertEqual(said, 'Line 31 waits for `held("space")`. It told "Ding" 15 times, one right after the other.')

    def test_misspelt_names(self) -> None:
        self.assertEqual(slips(("    lives -= 1", "    live -= 1"))[0], ("misspelt-name", [24]))
        self.assertEqual(slips(('"Buns"', '"buns"'))[0], ("misspelt-name", [3, 14]))
        self.assertEqual(slips(("score", "Score"))[0][0], "misspelt-name")
        self.assertEqual(slips(("    lose(", "    loose("))[0], ("misspelt-name", [28]))
        self.assertEqual(
            slips(('which.remove()\n    board("Buns"', 'which.remov()\n    board("Buns"'))[0], ("misspelt-name", [13])
        )

    def test_set_for_change(self) -> None:
        self.assertEqual(slips(("score += 1", "score =+ 1")), [("set-for-change", [12])])
        self.assertEqual(slips(("lives -= 1", "lives = -1")), [("set-for-change", [24])])
        self.assertEqual(slips(("lives -= 1", "lives = 2")), [("set-for-change", [24])])

    def test_several_mistakes_come_one_after_the_other(self) -> None:
        found = slips(("score >= 5", "score > 5"), ("lives -= 1", "lives =- 1"))
        self.assertEqual({slip for slip, _ in found}, {"boundary", "set-for-change"})
        found = slips(("score += 1", "Score += 1"), ("score >= 5", "score > 5"))
        self.assertEqual({slip for slip, _ in found}, {"misspelt-name", "boundary"})

    def test_a_refusal_and_its_fix(self) -> None:
        finding = changed(("if score >= 5:", "if 5:("))["findings"][0]
        self.assertEqual((finding["slip"], finding["fix"]), ("unreadable", None))
        finding = changed(("if score >= 5:", "if score => 5:"))["findings"][0]
        self.assertEqual((finding["fix"]["after"], finding["fix"]["mends"]), ("if score >= 5:", 20))
        finding = changed(("    if score >= 5:", "    If score >= 5:"))["findings"][0]
        self.assertEqual((finding["fix"]["after"], finding["fix"]["mends"]), ("if score >= 5:", 20))


class Unreadable(unittest.TestCase):
    def test_every_kind_of_problem_has_its_words(self) -> None:
        met = set()
        sources: list[str | bytes] = [each for each, *_ in SYNTAX.values()]
        sources += [
            "on(start)\ndef f(): pass",
            "import os",
            "",
            "x = 1\0",
            b"\xff",
            "a = 1\n" * 20_000,
            "a = " + "-" * 20_000 + "1",
        ]
        for source in sources:
            found = report(bakehouse(), "x.py", source)
            self.assertEqual((found["status"], found["marks"]), ("unreadable", 0))
            finding = found["findings"][0]
            self.assertEqual(finding["title"], f"The script cannot be read: {UNREADABLE[found['problems'][0]['kind']]}")
            met.add(found["problems"][0]["kind"])
        self.assertEqual(met, set(UNREADABLE))


class Named(unittest.TestCase):
    def test_other_mistakes_are_named_too(self) -> None:
        for changes, slip in (
            ([("score += 1", "score += 2")], "wrong-amount"),
            ([("lives -= 1", "lives += 1")], "wrong-sign"),
            ([("score = 0", "score = 1")], "wrong-start"),
            ([("score >= 5", "score >= 7")], "wrong-amount"),
            ([("score >= 5", "lives >= 5")], "wrong-variable"),
            ([('win("The shelf is full")', "win()")], "no-feedback"),
            ([('"Lives"', '"Hearts"')], "other-name"),
            ([("meets(hob, soot)", "meets(hob, oven)")], "wrong-event"),
            ([("    global score\n", "")], "missing-global"),
            ([("@on(meets(hob, bun))\n", "")], "not-registered"),
        ):
            with self.subTest(changes):
                found = changed(*changes)
                self.assertLess(found["marks"], 20)
                self.assertEqual([finding["slip"] for finding in found["findings"]], [slip])


RESTING = """
height = 1
rests = False
board("Height", height)
@on(every(1))
def rise():
    global height
    if not rests:
        height += 1
        board("Height", height)
@on(pressed("w"))
def water():
    global height
    height += 2
    board("Height", height)
@on(pressed("space"))
def knock():
    global height, rests
    rests = True
    height = 1
    board("Height", height)
"""


class PutBack(unittest.TestCase):
    def pointer(self, source: str) -> str:
        found = explained(mark(open_exercise(exercise_folder("set-or-change")), "", source)).findings
        self.assertEqual(found[0].slip, "extra-condition")
        return found[0].pointer

    def test_a_flag_that_is_never_put_back_is_told_with_the_line_that_set_it(self) -> None:
        said = self.pointer(RESTING)
        self.assertIn("Line 19 made `rests` True. Line 8 asks `not rests`, so nothing happened there.", said)

    def test_a_local_of_that_name_is_not_taken_for_it(self) -> None:
        local = "@on(start)\ndef other():\n    rests = 3\n    board('Other', rests)\n"
        self.assertNotIn("made `rests`", self.pointer(RESTING + local))


class NotClaimed(unittest.TestCase):
    def test_what_the_evidence_does_not_settle_stays_open(self) -> None:
        """A rule that nobody would guess."""
        for changes in ([("score += 1", "score = score * 2 + len(bun) % 3")],):
            with self.subTest(changes):
                found = changed(*changes)
                self.assertLess(found["marks"], 20)
                for finding in found["findings"]:
                    self.assertIn(finding["confidence"], ("open", "likely"))

    def test_right_scripts_that_look_alike_hear_nothing(self) -> None:
        for changes in (
            [("score >= 5", "score > 4")],
            [("score >= 5", "score == 5")],
            [("score >= 5", "5 <= score < 6")],
            [("lives <= 0", "lives < 1")],
            [("score += 1", "score = score + 1")],
            [("meets(hob, bun)", "overlaps(hob, bun)")],
            [("lives -= 1", "lives += -1")],
            [("score = 0", "scores = 0\nscore = 0")],
        ):
            with self.subTest(changes):
                self.assertEqual(changed(*changes)["findings"], [])


class Bounds(unittest.TestCase):
    def test_a_heavy_script_is_explained_as_far_as_its_bound_goes_and_this_is_said(self) -> None:
        heavy = "\n\n@on(frame)\ndef busy():\n    for i in range(9_000):\n        pass\n"
        source = REFERENCE.replace("score >= 5", "score > 5 and lives > 0 and score < 99 and lives < 99") + heavy
        found = report(bakehouse(), "x.py", source)
        self.assertTrue(found["cut_short"])
        self.assertEqual(sum(finding["marks_lost"] for finding in found["findings"]), 20 - found["marks"])
        self.assertEqual(found, report(bakehouse(), "x.py", source))
        self.assertFalse(changed(("score >= 5", "score > 5"))["cut_short"])

    def test_the_work_of_a_trial_is_counted(self) -> None:
        reading = bakehouse().read(
            "for i in range(50):\n    pass\n\n\ndef f():\n    pass\n\n\nf()\nn = 0\nwhile True:\n    n = 1"
        )
        assert isinstance(reading, Script)
        self.assertEqual(bakehouse().play(bakehouse().weave(reading), bakehouse().scenarios[0]).passes, 100_000)
        reading = bakehouse().read("for i in range(50):\n    pass\n\n\ndef f():\n    pass\n\n\nf()")
        assert isinstance(reading, Script)
        self.assertEqual(bakehouse().play(bakehouse().weave(reading), bakehouse().scenarios[0]).passes, 51)


class WhyChain(unittest.TestCase):
    def pointer(self, *changes: tuple[str, str]) -> str:
        """The sentence of the cause of the first check that does not hold."""
        source = REFERENCE
        for old, new in changes:
            assert old in source, old
            source = source.replace(old, new)
        reading = bakehouse().read(source)
        assert isinstance(reading, Script)
        woven = bakehouse().weave(reading)
        for number, scenario in enumerate(bakehouse().scenarios):
            run = play_scenario(bakehouse(), woven, number, record=True)
            for verdict, asked in zip(run.verdicts, scenario.checks, strict=True):
                if verdict.verdict != "held":
                    cause = why(verdict, asked.about, reading, run.trace, reference_of(bakehouse(), run))
                    return sentence(cause)
        raise AssertionError("every check holds")

    def test_no_handler(self) -> None:
        self.assertEqual(
            self.pointer(('@on(pressed("space"))\n', "")),
            "At 0.50 s the space key was pressed. No handler waits for that.",
        )

    def test_turned_away_by_a_test(self) -> None:
        self.assertEqual(
            self.pointer(("score >= 5", "score >= 7")),
            "At 2.77 s `hob` met `bun_5`. Line 15 asked `score >= 7`. `score` was 5, so the answer was no.",
        )

    def test_a_test_that_let_it_pass_is_not_blamed(self) -> None:
        """The guard at the top answered no, which let the handler go on: it is not what kept the score."""
        said = self.pointer(("    score += 1\n", "    points = 1\n"))
        self.assertEqual(said, "At 0.97 s `shelve` ran. Afterwards `score` was 0. It should be 1.")

    def test_a_test_is_blamed_for_what_its_function_would_have_done(self) -> None:
        said = self.pointer(
            ('    if score >= 5:\n        win("The shelf is full")', "    if score >= 7:\n        full()"),
            ("@on(meets(hob, soot))", 'def full():\n    win("The shelf is full")\n\n\n@on(meets(hob, soot))'),
        )
        self.assertIn("Line 15 asked `score >= 7`. `score` was 5, so the answer was no.", said)

    def test_a_script_that_looks_at_every_frame_is_not_told_of_missing_handlers(self) -> None:
        said = self.pointer(
            ("@on(meets(hob, bun))\ndef shelve(which):", "@on(frame)\ndef shelve():"),
            (
                "    score += 1\n    which.remove()\n",
                "    for which in bun:\n        if hob.distance(which) < 0.1:\n            score += 1\n            which.remove()\n",
            ),
        )
        self.assertNotIn("No handler waits", said)
        self.assertNotIn("did not happen", said)

    def test_another_value(self) -> None:
        self.assertEqual(
            self.pointer(("score += 1", "score += 2")),
            "At 0.97 s line 12 made `score` 2, when `hob` met `bun_1`. It should be 1.",
        )

    def test_a_piece_that_was_gone(self) -> None:
        self.assertIn(
            "`hob` should have met `bun_2`. That did not happen: `hob` was removed at 0.97 s by line 13.",
            self.pointer(('which.remove()\n    board("Buns"', 'hob.remove()\n    board("Buns"')),
        )

    def test_an_exception_in_plain_words(self) -> None:
        self.assertIn("Line 12 divides by zero.", self.pointer(("score += 1", "score += 1 / 0")))
        self.assertIn(
            "Line 12 uses `points`, and nothing has that name.", self.pointer(("score += 1", "score += points"))
        )

    def test_a_stop_while_the_file_is_read(self) -> None:
        self.assertIn("While the file is read the script stopped.", self.pointer(("lives = 3", "lives = 3 / 0")))


class Replay(unittest.TestCase):
    def test_the_parting_is_where_the_runs_differ_first(self) -> None:
        number = [scenario.spec.name for scenario in bakehouse().scenarios].index("A full shelf")
        found = replay(bakehouse(), sample_class()["wren"], bakehouse().scenarios[number])
        self.assertEqual((found["parting"]["frame"], found["parting"]["what"]), (83, "outcome"))
        self.assertIsNone(replay(bakehouse(), REFERENCE, bakehouse().scenarios[number])["parting"])

    def test_a_stop_is_a_parting(self) -> None:
        self.assertEqual(
            replay(bakehouse(), sample_class()["yarrow"], bakehouse().scenarios[0])["parting"]["frame"], 29
        )

    def test_an_unreadable_script_has_no_trace(self) -> None:
        found = replay(bakehouse(), sample_class()["woad"], bakehouse().scenarios[0])
        self.assertEqual((found["trace"], found["checks"], found["parting"]), (None, [], None))


class Groups(unittest.TestCase):
    def test_the_same_slip_is_one_group_with_the_ways_in_which_it_went_wrong(self) -> None:
        reports = [(name, from_json(report(bakehouse(), name, source))) for name, source in sample_class().items()]
        found = groups(reports)
        (boundary,) = [group for group in found if group.slip == "boundary" and len(group.owners) > 1]
        self.assertEqual(
            (boundary.title, set(boundary.owners)),
            ("A test is off at its boundary", {"clover", "fennel", "tansy", "wren"}),
        )
        self.assertEqual(boundary.marks_lost, 18)
        self.assertIn(boundary.typical, boundary.owners)
        self.assertEqual([len(way.owners) for way in boundary.variants], [1, 1, 1, 1])
        self.assertEqual(len({way.excerpt for way in boundary.variants}), 4)
        self.assertEqual(boundary.finding.excerpt, boundary.variants[0].excerpt)
        ordered = [(-len(group.owners), -group.marks_lost) for group in found]
        self.assertEqual(sorted(ordered), ordered)

    def test_several_names_give_the_idea_and_one_name_gives_it_too(self) -> None:
        sources = {"a": ("score = 0", "score = 1"), "b": ("lives = 3", "lives = 4"), "c": ("lives = 3", "lives = 5")}
        reports = [(name, from_json(changed(change))) for name, change in sources.items()]
        (group,) = [group for group in groups(reports) if group.slip == "wrong-start"]
        self.assertEqual(group.title, "A variable begins with another value than the one asked for")
        self.assertEqual((group.owners, group.key), (("a", "b", "c"), "wrong-start"))
        (group,) = [group for group in groups(reports[1:]) if group.slip == "wrong-start"]
        self.assertEqual(group.title, "`lives` begins with another value than the one asked for")

    def test_what_stays_open_is_grouped_by_what_happened(self) -> None:
        self.assertEqual(idea_of("unsettled|score|1.2"), "unsettled|score|1.2")
        self.assertEqual(idea_of("unreadable|missing-colon|"), "unreadable|missing-colon")
        self.assertEqual(idea_of("boundary|score|1.2"), "boundary")

    def test_nobody_no_groups(self) -> None:
        self.assertEqual(groups([]), [])


class Near(unittest.TestCase):
    def test_near_misses(self) -> None:
        for a, b in (
            ("Score", "score"),
            ("socre", "score"),
            ("scor", "score"),
            ("live", "lives"),
            ("shelfFull", "shelf_full"),
            ("livse", "lives"),
        ):
            self.assertTrue(near(a, b), (a, b))

    def test_names_that_are_meant_to_differ(self) -> None:
        for a, b in (
            ("score", "score"),
            ("bun_1", "bun_2"),
            ("x", "y"),
            ("hob", "bun"),
            ("lives", "score"),
            ("up", "do"),
        ):
            self.assertFalse(near(a, b), (a, b))


class RuledOut(unittest.TestCase):
    def test_only_a_test_that_changes_nothing_is_answered_without_a_run(self) -> None:
        asks = {
            "len(shelf) == 5 and outcome() == 'playing'": True,
            "(stage := 0) == 0": False,
            "shelf.pop() == 1": False,
            "add_one() > 2 or lives == 0": False,
        }
        for test, expected in asks.items():
            self.assertEqual(only_asks(ast.parse(test, mode="eval").body), expected, test)
