"""What a student may see of a report, and that nothing else is in it."""

import json
import unittest
from typing import Any

from hobtrial.core.exercise import Help
from hobtrial.core.reporting import Fault, for_student, from_json, to_json, unmarked
from hobtrial.core.script.tree import ChangedLine, with_changes
from tests.slips.support import prepared, solution
from tests.support import report

HELP = Help()


def seen(exercise: str, old: str, new: str, *, tries: int = 3, help_: Help = HELP) -> dict[str, Any]:
    """What the student of a changed reference sees."""
    source = solution(exercise)
    assert old in source, old
    opened = prepared(exercise)
    visible = [scenario.spec.visible for scenario in opened.scenarios]
    made = from_json(report(opened, "x.py", source.replace(old, new)))
    seen_: dict[str, Any] = to_json(for_student(made, help_, tries, visible))
    return seen_


class Levels(unittest.TestCase):
    def test_each_try_brings_one_more_step(self) -> None:
        for tries, there in ((1, [True, False, False]), (2, [True, True, False]), (3, [True, True, True])):
            (finding,) = seen("bakehouse-rush", "score >= 5", "score > 5", tries=tries)["findings"]
            self.assertEqual([bool(finding[name]) for name in ("nudge", "pointer", "fix")], there)

    def test_the_exercise_sets_how_far(self) -> None:
        for help_, there in ((Help(upto="nudge"), [True, False, False]), (Help(upto="pointer"), [True, True, False])):
            (finding,) = seen("bakehouse-rush", "score >= 5", "score > 5", help_=help_)["findings"]
            self.assertEqual([bool(finding[name]) for name in ("nudge", "pointer", "fix")], there)
        self.assertEqual(seen("bakehouse-rush", "score >= 5", "score > 5", help_=Help(upto="none"))["findings"], [])

    def test_no_report_yet(self) -> None:
        self.assertEqual(for_student(None, HELP, 1, []).findings, ())

    def test_what_could_not_be_marked_is_said_without_marks(self) -> None:
        seen_ = for_student(unmarked("x.py", 20, Fault("machine", "The machine ended it.")), HELP, 1, [])
        self.assertEqual((seen_.marks, seen_.findings, seen_.unmarked), (None, (), "The machine ended it."))


class Hidden(unittest.TestCase):
    def test_of_a_hidden_scenario_there_is_the_question_without_its_values(self) -> None:
        """Only the hidden cases of 165 and 166 can tell `>` from `>=` here."""
        found = seen("at-least", "heat >= 200", "heat > 200")
        (finding,) = found["findings"]
        self.assertEqual(
            finding["nudge"], "What should happen when `heat` is just at its boundary, neither below nor above?"
        )
        self.assertEqual((finding["pointer"], finding["fix"], finding["happened"]), (None, None, []))
        self.assertEqual(finding["scenarios"], ["A hidden scenario"])
        text = json.dumps(found)
        for secret in ("165", "164", "One below, just at, one above"):
            self.assertNotIn(secret, text)

    def test_a_hidden_scenario_has_its_marks_and_no_name_nor_checks(self) -> None:
        found = seen("first-count", "sacks += 1", "sacks += 2")
        hidden = [each for each in found["scenarios"] if each["name"] == "A hidden scenario"]
        self.assertEqual([(each["out_of"], each["checks"]) for each in hidden], [(1, [])])
        self.assertNotIn("Another key", json.dumps(found))

    def test_what_the_reference_shows_stays_the_teachers(self) -> None:
        (finding,) = seen("three-lives", "    if lives > 0:\n        lives -= 1", "    lives -= 1")["findings"]
        self.assertTrue(finding["nudge"])
        self.assertEqual((finding["title"], finding["pointer"], finding["fix"]), (None, None, None))
        self.assertNotIn("lives > 0", json.dumps(finding))


class WithChanges(unittest.TestCase):
    def test_lines_are_put_in_place_with_their_indentation(self) -> None:
        text = "a = 1\nif a:\n    a = 2\n"
        self.assertEqual(with_changes(text, [ChangedLine(3, "a = 2", "a = 3\n    b = 1")]),
                         "a = 1\nif a:\n    a = 3\n    b = 1\n")  # fmt: skip
        self.assertIsNone(with_changes(text, [ChangedLine(1, "a = 2", "x")]))
        self.assertIsNone(with_changes(text, [ChangedLine(9, "", "x")]))
