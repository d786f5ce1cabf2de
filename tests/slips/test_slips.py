"""Honesty, measured: the right first finding in scripts that have a slip, and none in scripts that look alike.

Missed and false findings are printed per slip. No script of the collection is made by an edit of
the product; each is a few changed lines of a solution.
"""

import os
import sys
import unittest
from collections import Counter
from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor
from typing import Any

from hobtrial.core.explaining.wording import SLIPS
from tests.slips.support import Case, collection, explained, prepared
from tests.support import report

GOAL = 0.9
"""Of each slip's scripts, those whose first finding is the right one."""
FILES = ("variables", "events", "conditions", "ends")
NOT_A_MISTAKE = {"craft", "unsettled"}


def all_explained(cases: list[Case]) -> list[dict[str, Any]]:
    """The reports of cases, made side by side."""
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        return list(pool.map(explained, cases, chunksize=2))


def table(title: str, rows: Iterable[tuple[str, int, int]]) -> None:
    """Prints a row a slip: how many scripts, how many right."""
    out = sys.__stdout__
    assert out is not None
    missed = [f"{slip} {right}/{of}" for slip, of, right in rows if right < of]
    print(f"{title}: missed {', '.join(missed) or 'none'}", file=out)


class OneSlip(unittest.TestCase):
    cases: list[Case]
    reports: list[dict[str, Any]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.cases = [case for name in FILES for case in collection(name)]
        cls.reports = all_explained(cls.cases)

    def test_every_slip_has_scripts_in_several_shapes_one_of_them_in_a_helper(self) -> None:
        there = Counter(case.slip for case in self.cases)
        self.assertEqual(set(there), set(SLIPS) - NOT_A_MISTAKE)
        for slip, number in there.items():
            bases = {case.base for case in self.cases if case.slip == slip}
            self.assertGreaterEqual(number, 3, slip)
            self.assertGreaterEqual(len(bases), 2, slip)
            self.assertTrue(any(base.endswith(("+", "~")) for base in bases), slip)

    def test_the_first_finding_is_the_right_one(self) -> None:
        of = Counter(case.slip for case in self.cases)
        right: Counter[str] = Counter()
        for case, found in zip(self.cases, self.reports, strict=True):
            self.assertTrue(found["findings"], f"{case.where}: nothing is found, or nothing is lost")
            right[case.slip] += found["findings"][0]["slip"] == case.slip
        table(f"{len(self.cases)} scripts with one slip", ((slip, of[slip], right[slip]) for slip in of))
        for slip, number in of.items():
            with self.subTest(slip):
                self.assertGreaterEqual(right[slip], GOAL * number)

    def test_a_fix_that_is_shown_mends_what_it_says(self) -> None:
        for case, found in zip(self.cases, self.reports, strict=True):
            with self.subTest(case.where):
                mends_what_it_says(self, case, found)


class TwoSlips(unittest.TestCase):
    def test_both_come_out(self) -> None:
        cases = collection("two")
        self.assertGreaterEqual(len(cases), 20)
        reports = all_explained(cases)
        right = 0
        for case, found in zip(cases, reports, strict=True):
            slips = {finding["slip"] for finding in found["findings"]}
            right += slips >= set(case.slip.split(" & "))
            with self.subTest(case.where):
                mends_what_it_says(self, case, found)
        table("two slips", [("both named", len(cases), right)])
        self.assertGreaterEqual(right, GOAL * len(cases))


class NoSlip(unittest.TestCase):
    def test_right_scripts_that_look_alike_hear_nothing(self) -> None:
        cases = collection("right")
        there = Counter(case.slip for case in cases)
        for slip in set(SLIPS) - NOT_A_MISTAKE:
            self.assertGreaterEqual(there[slip], 2, slip)
        false: Counter[str] = Counter()
        for case, found in zip(cases, all_explained(cases), strict=True):
            with self.subTest(case.where):
                verdicts = {check["verdict"] for each in found["scenarios"] for check in each["checks"]}
                told = [
                    each for each in found["findings"] if each["slip"] != "craft"
                ]  # how it is built is another matter
                self.assertEqual((verdicts, told), ({"held"}, []))
            false[case.slip] += bool(told)
        table(f"{len(cases)} right scripts", ((slip, there[slip], there[slip] - false[slip]) for slip in there))


def mends_what_it_says(test: unittest.TestCase, case: Case, found: dict[str, Any]) -> None:
    """Applies each fix that is shown, alone or on top of the one before it, and marks again."""
    shown = [each for each in found["findings"] if each["confidence"] == "shown" and each["fix"]]
    first = [each["fix"]["changes"] for each in shown if not each["fix"]["on_top"]]
    for finding in shown:
        fix = finding["fix"]
        below: list[dict[str, Any]] = first[0] if fix["on_top"] and len(first) == 1 and len(shown) == 2 else []
        if finding["slip"] == "unreadable" or (fix["on_top"] and not below):
            continue  # of longer chains a report does not say the order
        before = failed(marked(case, below)) if below else failed(found)
        after = failed(marked(case, [*below, *fix["changes"]]))
        test.assertEqual((len(before - after), len(after - before)), (fix["mends"], fix["breaks"]), finding["slip"])


def marked(case: Case, changes: list[dict[str, Any]]) -> dict[str, Any]:
    """The report of a case with some lines changed."""
    return report(prepared(case.exercise), "again", with_fix(case.source, changes), findings=False)


def with_fix(source: str, changes: list[dict[str, Any]]) -> str:
    """A script with the changed lines of a fix in place of its own."""
    lines = source.split("\n")
    for change in changes:
        line = lines[change["line"] - 1]
        lead = len(line) - len(line.lstrip()) - (len(change["before"]) - len(change["before"].lstrip()))
        lines[change["line"] - 1] = line[:lead] + change["after"] if change["before"] else change["after"] + line
    return "\n".join(lines)


def failed(found: dict[str, Any]) -> set[tuple[str, int]]:
    """The checks that do not hold."""
    return {
        (scenario["name"], index)
        for scenario in found["scenarios"]
        for index, check in enumerate(scenario["checks"])
        if check["verdict"] != "held"
    }
