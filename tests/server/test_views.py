"""The views that the server describes are what the core gives: nothing is left out, nothing is made up."""

import json
import unittest
from typing import Any

from hobtrial.core.reporting import from_json, groups, replay
from hobtrial.demo import exercises
from hobtrial.server.building import group_view
from hobtrial.server.trial_views import TrialView
from tests import sample
from tests.slips.support import prepared
from tests.support import BAKEHOUSE, bakehouse, sample_class


def through_json(value: Any) -> Any:
    """A value as it comes out of JSON."""
    return json.loads(json.dumps(value))


class Reports(unittest.TestCase):
    def test_a_report_comes_back_from_its_json(self) -> None:
        for which, report in sample.reports().items():
            self.assertEqual(from_json(through_json(report.as_json())), report, which)

    def test_a_typical_trial_shows_its_finding(self) -> None:
        for which, report in sample.reports().items():
            for group in groups([(1, report)]):
                typical = group_view(group, report).typical
                if typical is None or not report.scenarios:
                    continue
                places = {place for number, place in group.finding.checks if number == typical.scenario}
                shown = report.scenarios[typical.scenario]
                broken = {n for n, check in enumerate(shown.checks) if check.verdict != "held"}
                self.assertTrue(not places or places & broken, (which, group.key))
                self.assertIn(typical.trial, range(shown.trials), which)


class Trials(unittest.TestCase):
    def assert_described(self, found: dict[str, Any]) -> None:
        given = through_json({**found, "version_id": 1})
        self.assertEqual(through_json(TrialView.model_validate(given).model_dump(mode="json")), given)

    def test_every_trial_of_the_class_is_described_whole(self) -> None:
        for name, source in sample_class().items():
            for scenario in bakehouse().scenarios:
                with self.subTest(name, scenario=scenario.spec.name):
                    self.assert_described(replay(bakehouse(), source, scenario))

    def test_one_trial_of_every_other_scenario_too(self) -> None:
        first = {exercise: source for exercise, _, source in reversed(list(sample.sources()))}
        for exercise in set(exercises()) - {BAKEHOUSE}:
            for scenario in prepared(exercise).scenarios:
                with self.subTest(exercise, scenario=scenario.spec.name):
                    last = len(scenario.plans) - 1
                    self.assert_described(replay(prepared(exercise), first[exercise], scenario, last))
