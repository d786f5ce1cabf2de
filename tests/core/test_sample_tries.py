"""The tries of the sample class: all of them can be read back, every slip occurs, and tries get better."""

import unittest
from collections import Counter

from hobtrial.core.explaining.wording import SLIPS
from hobtrial.core.words import UsageError
from hobtrial.demo import exercises, hand_ins, tries
from hobtrial.demo.changes import changed, read_change
from tests import sample

ELSEWHERE = {"both-ends", "craft", "extra-condition", "no-once-guard", "unsettled"}
"""Slips that no sample exercise gives an occasion for; the collection of slips has exercises of its own for them."""


class SampleTries(unittest.TestCase):
    def test_24_students_at_every_exercise_with_several_tries(self) -> None:
        for name in exercises():
            students = {each.student for each in tries(name)} | {file[:-3].capitalize() for file in hand_ins(name)}
            self.assertEqual(len(students), 24, name)
            most = Counter(each.student for each in tries(name))
            self.assertGreaterEqual(max(most.values()), 2, name)

    def test_every_slip_occurs(self) -> None:
        there = {mistake for name in exercises() for each in tries(name) for mistake in each.mistakes}
        there |= {"unreadable", "acts-after-end"}  # in the scripts that stand as files
        self.assertEqual(set(SLIPS) - there, ELSEWHERE)

    def test_tries_get_better_and_the_last_ones_are_partly_right(self) -> None:
        for name in ("first-count", "three-lives"):
            marks: dict[str, float] = {}
            right = 0
            for number, each in enumerate(tries(name)):
                found = sample.reports()[name, f"{each.student} {number}"]
                assert found.marks is not None
                self.assertGreaterEqual(found.marks, marks.get(each.student, 0), (name, each.student))
                marks[each.student] = found.marks
                right += not each.mistakes
            self.assertGreaterEqual(right, 7)
            self.assertGreater(len(set(marks.values())), 4)

    def test_a_change_that_does_not_fit_is_told(self) -> None:
        with self.assertRaisesRegex(UsageError, "x.txt: these lines are there 0 times"):
            changed("a = 1\n", read_change("-b = 1\n+b = 2"), "x.txt")
        self.assertEqual(changed("a = 1\nb = 1\n", read_change(" a = 1\n-b = 1\n+b = 2"), ""), "a = 1\nb = 2\n")
