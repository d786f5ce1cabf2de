"""Checks made from what is seen: each holds for the reference, and what is meant is among the first."""

import unittest

from hobtrial.core.exercise import Scenario
from hobtrial.core.judging import judge, open_exercise
from hobtrial.core.words import frame_of
from hobtrial.core.workshop import suggest
from hobtrial.demo import exercise_folder
from tests.core.test_workshop import COMMENTED, trace_again


class Suggestions(unittest.TestCase):
    def test_each_holds_for_the_reference_and_the_telling_ones_come_first(self) -> None:
        prepared = open_exercise(exercise_folder("bakehouse-rush"))
        for number, lane, frame in ((0, "score", 90), (1, "lives", 165), (2, "outcome", 120), (0, "came", 60)):
            with self.subTest(number, lane=lane):
                found = suggest(prepared, number, lane, frame, frame)
                self.assertGreater(len(found), 1)
                for kind in ("at", "end", "after", "each", "always"):
                    own = [each.breaks for each in found if kind in each.check and " and " in each.check["expect"]]
                    self.assertEqual(own, sorted(own, reverse=True))
                spec = prepared.exercise.settings.scenario[number].model_dump(by_alias=True, exclude_defaults=True)
                scenario = prepared.scenario_of(
                    Scenario.model_validate({**spec, "check": [each.check for each in found]})
                )
                trace = prepared.play(prepared.reference, scenario)
                verdicts = [judge(check, trace, trace_again(trace)).verdict for check in scenario.checks]
                self.assertEqual(set(verdicts), {"held"})

    def test_what_is_offered_is_not_pinned_already(self) -> None:
        offered = [each.check for each in suggest(open_exercise(COMMENTED), 0, "score", 90, 90)]
        self.assertNotIn({"at": 3.0, "expect": "score == 1"}, offered)
        self.assertIn({"always": True, "from": 3.0, "expect": "score == 1"}, offered)

    def test_what_fits_the_moment_comes_first_and_the_plainest_is_near(self) -> None:
        prepared = open_exercise(exercise_folder("all-three"))
        number = next(
            n for n, scenario in enumerate(prepared.scenarios) if scenario.spec.name == "To the hatch and back"
        )
        trace = prepared.reference_trace(prepared.scenarios[number])
        met = next(came.frame for came in trace.events if came.handlers and came.event.kind == "meets")
        for frame, kinds in ((45, {"at"}), (trace.last_frame, {"end"}), (met, {"after", "each"})):
            with self.subTest(frame):
                first = suggest(prepared, number, "closed", frame, frame)[:3]
                self.assertLessEqual({next(iter(each.check)) for each in first}, kinds)
        asked = [each.check["expect"] for each in suggest(prepared, number, "closed", 50, 50)[:3]]
        self.assertIn("closed", asked)

    def test_what_is_heard_and_seen_is_offered_beside_a_variable(self) -> None:
        prepared = open_exercise(exercise_folder("all-three"))
        asked = {str(each.check.get("expect")) for each in suggest(prepared, 0, "outcome", 60, 60)}
        asked |= {str(each.check.get("expect")) for each in suggest(prepared, 0, "lit", 60, 60)}
        self.assertTrue(any(".look == " in each for each in asked), asked)

    def test_not_all_of_one_kind(self) -> None:
        found = suggest(open_exercise(exercise_folder("bakehouse-rush")), 0, "score", 70, 70)
        kinds = [next(iter(each.check)) for each in found]
        self.assertLessEqual(max(map(kinds.count, kinds)), 3)
        self.assertGreaterEqual(len(set(kinds)), 4)

    def test_truth_values_are_written_as_a_beginner_would(self) -> None:
        prepared = open_exercise(exercise_folder("all-three"))
        expected = {str(each.check.get("expect")) for each in suggest(prepared, 0, "lit", 15, 15)}
        self.assertTrue(any("not lit" in each for each in expected), expected)
        self.assertFalse(any("== False" in each for each in expected), expected)

    def test_what_was_told_and_the_end_of_the_game(self) -> None:
        prepared = open_exercise(exercise_folder("three-lives"))
        number = next(
            n for n, scenario in enumerate(prepared.scenarios) if prepared.reference_trace(scenario).outcome == "lost"
        )
        last = prepared.reference_trace(prepared.scenarios[number]).last_frame
        expected = [str(each.check.get("expect")) for each in suggest(prepared, number, "outcome", last, last)]
        self.assertTrue(any("outcome == 'lost' and told(" in each for each in expected), expected)

    def test_times_mean_the_frame_that_was_clicked(self) -> None:
        prepared = open_exercise(COMMENTED)
        for frame in (1, 7, 44, 85, 100):
            times = [each.check["at"] for each in suggest(prepared, 0, "score", frame, frame) if "at" in each.check]
            self.assertEqual({frame_of(at) for at in times}, {frame})

    def test_along_a_span(self) -> None:
        prepared = open_exercise(COMMENTED)
        words = [each.words for each in suggest(prepared, 0, "score", 60, 150)]
        self.assertIn("score never goes down", words)
        self.assertIn("score is 1 all along", words)

    def test_nothing_is_offered_where_nothing_is_known(self) -> None:
        self.assertEqual(suggest(open_exercise(COMMENTED), 0, "elsewhere", 10, 10), [])
