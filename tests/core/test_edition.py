"""Reports are kept and made again only by a newer edition, so one edition makes one report of a script.

editions.json has, for each edition, a digest of the reports of the sample class and one of the inputs that wild
scenarios draw. Where a test here fails, reports come out differently than they did: raise `EDITION` and add its
digests, which the failure shows, below the older ones. Never change those of an edition that is there.
"""

import json
import unittest
from hashlib import sha256
from pathlib import Path
from typing import Any

from hobtrial.core.exercise.checks import Wild
from hobtrial.core.judging.wild import drawn
from hobtrial.core.reporting import EDITION
from hobtrial.demo import exercises
from tests import sample
from tests.slips.support import prepared

EDITIONS: dict[str, dict[str, str]] = json.loads(Path(__file__).with_name("editions.json").read_text("utf-8"))


EVERYTHING = Wild(runs=100, keys=("space", "left"), clicks=("bell",), picks=("Ring", "Wait"))


def digest(value: Any) -> str:
    """A digest of a value as JSON."""
    return sha256(json.dumps(value, ensure_ascii=False, default=str).encode()).hexdigest()


class Edition(unittest.TestCase):
    def test_there_are_digests_of_this_edition_and_of_no_later_one(self) -> None:
        self.assertEqual(max(int(edition) for edition in EDITIONS), EDITION)

    def test_the_same_reports(self) -> None:
        found = digest([report.as_json() for report in sample.reports().values()])
        self.assertEqual(found, EDITIONS[str(EDITION)]["reports"])

    def test_the_same_wild_inputs(self) -> None:
        of_the_class = [
            scenario.spec.wild
            for name in exercises()
            for scenario in prepared(name).scenarios
            if scenario.spec.wild is not None
        ]
        self.assertTrue(of_the_class)
        runs = [[str(deed) for run in drawn(wild, 8) for deed in run] for wild in (*of_the_class, EVERYTHING)]
        self.assertEqual(digest(runs), EDITIONS[str(EDITION)]["wild"])
