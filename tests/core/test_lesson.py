"""A class at work, and what the checks of an exercise tell: on data whose answers are known."""

import random
import unittest
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from hobtrial.core.reporting import Checked, Report, ideas_now, point_biserial, stuck
from hobtrial.core.reporting.items import FEWEST, items
from hobtrial.core.reporting.report import CheckReport, ScenarioReport

NOW = datetime(2026, 11, 30, 10, 40, tzinfo=UTC)


def ago(minutes: float) -> datetime:
    return NOW - timedelta(minutes=minutes)


def check(minutes: float, *keys: str) -> Checked:
    return Checked(ago(minutes), 3, keys, tuple(f"about {key.split('|')[0]}" for key in keys))


def unexplained(minutes: float) -> Checked:
    return Checked(ago(minutes), 3, (), (), explained=False)


class AtWork(unittest.TestCase):
    def test_who_is_stuck_and_who_is_quiet(self) -> None:
        same = [check(minutes, "boundary|score|0.1") for minutes in (6, 5, 4, 3)]
        cases: tuple[tuple[str, list[Checked], datetime | None, str | None], ...] = (
            ("four tries with the same", same, ago(20), "same"),
            ("three tries with the same", same[:3], ago(20), None),
            ("the same at other lines is the same idea", [*same[:3], check(3, "boundary|lives|2.0")], ago(20), "same"),
            (
                "ten minutes with the same",
                [check(11, "boundary|score|0.1"), check(1, "boundary|score|0.1")],
                ago(20),
                "same",
            ),
            ("one long ago that was mended", [check(12, "boundary|score|0.1"), check(1)], ago(20), None),
            ("some that nobody looked at between", [*same[:3], unexplained(4), same[3]], ago(20), "same"),
            ("another one since", [*same[:3], check(2, "order|a|0.1")], ago(20), None),
            ("nothing for a while", [check(16)], ago(30), "quiet"),
            ("came a while ago and checked nothing", [], ago(18), "quiet"),
            ("came just now", [], ago(2), None),
            ("was not here", [], None, None),
            ("all well", [check(5), check(1)], ago(20), None),
        )
        for words, checks, began, why in cases:
            with self.subTest(words):
                found = stuck(checks, began, NOW)
                self.assertEqual(found.why if found else None, why)

    def test_since_when_and_for_how_many_tries(self) -> None:
        found = stuck([check(9, "order|a|0"), *(check(m, "boundary|score|0.1") for m in (8, 6, 4, 2))], ago(30), NOW)
        assert found is not None
        self.assertEqual((found.since, found.tries, found.title), (ago(8), 4, "about boundary"))

    def test_what_most_have_now_and_how_many_mended_it(self) -> None:
        boundary, order = "boundary|score|0.1", "order|a|0.1"
        found = ideas_now(
            {
                1: [check(9, boundary), check(3)],
                2: [check(9, boundary), check(3, boundary, order)],
                3: [check(5, boundary)],
                4: [check(5, order), check(1, order)],
                5: [],
            }
        )
        self.assertEqual(
            [(each.key, each.students, each.mended) for each in found], [("boundary", (2, 3), 1), ("order", (2, 4), 0)]
        )
        self.assertEqual(found[0].title, "about boundary")


def report(*held: bool) -> Report:
    """A report with a check for each answer, one mark each."""
    checks = tuple(
        CheckReport(f"c{number}", "end", "held" if each else "broken", int(each), 1, 0, {}, None, None, "", (0, 0))
        for number, each in enumerate(held)
    )
    scenario = ScenarioReport("One", "playing", {}, None, 1, 1, checks)
    return Report("x", "marked", sum(held), len(held), scenarios=(scenario,))


class Items(unittest.TestCase):
    def test_the_correlation_is_that_of_the_textbook(self) -> None:
        # Pearson's correlation of a yes or no with a number is the same number
        source = random.Random(4)
        for _ in range(20):
            held = [source.random() < 0.6 for _ in range(15)]
            rest = [source.gauss(5 + 2 * each, 2) for each in held]
            mean_h, mean_r = sum(held) / 15, sum(rest) / 15
            covariance = sum((h - mean_h) * (r - mean_r) for h, r in zip(held, rest, strict=True)) / 15
            spread = (sum((h - mean_h) ** 2 for h in held) / 15 * sum((r - mean_r) ** 2 for r in rest) / 15) ** 0.5
            found = point_biserial(held, rest)
            if spread:
                self.assertAlmostEqual(found or 0, covariance / spread)
        self.assertIsNone(point_biserial([True, True], [1, 2]))
        self.assertIsNone(point_biserial([True, False], [3, 3]))

    def test_checks_that_tell_nothing_are_named(self) -> None:
        good, poor = (True, True, True, True), (True, False, False, False)
        reports = [report(*good, number % 2 == 0) for number in range(6)] + [
            report(*poor, number % 2 == 0) for number in range(6)
        ]
        found = items(reports)
        self.assertEqual([each.held for each in found], [1.0, 0.5, 0.5, 0.5, 0.5])
        self.assertEqual([each.tells_nothing for each in found], [True, False, False, False, True])
        self.assertGreater(found[1].apart or 0, 0.85)  # it does not correlate with itself, and still with the others
        self.assertAlmostEqual(found[4].apart or 0, 0)

    def test_of_few_scripts_nothing_is_said(self) -> None:
        found = items([report(True, False)] * (FEWEST - 1))
        self.assertFalse(any(each.tells_nothing for each in found))
        self.assertEqual(items([]), [])
        self.assertEqual(items([replace(report(True), scenarios=())]), [])
