"""The records, against the real PostgreSQL."""

import hashlib
import unittest

from hobtrial.core.explaining import report
from hobtrial.store import Exercises, Reports, Rounds, Store, migrate
from tests.support import bakehouse, database, sample_class

FACTS = {"title": "Small", "out_of": 20, "seconds": 3.0, "scenarios": []}
WREN = sample_class()["wren"].encode()
DIGEST = hashlib.sha256(WREN).hexdigest()


class Records(unittest.TestCase):
    def setUp(self) -> None:
        self.dsn = database("records")
        self.store = Store(self.dsn)
        self.addCleanup(self.store.close)

    def round(self) -> tuple[int, int]:
        """A version of an exercise and a round at it."""
        with self.store.transaction() as link:
            version = Exercises.add(link, "small", "abc", {"exercise.toml": b"x"}, FACTS)
            return version, Rounds.open(link, "7 Larch", version)

    def test_the_same_files_are_the_same_version_and_others_a_new_one(self) -> None:
        with self.store.transaction() as link:
            first = Exercises.add(link, "small", "abc", {"exercise.toml": b"x"}, FACTS)
            self.assertEqual(Exercises.add(link, "small", "abc", {"exercise.toml": b"x"}, FACTS), first)
            second = Exercises.add(link, "small", "def", {"exercise.toml": b"\x00y"}, FACTS)
            self.assertNotEqual(first, second)
            self.assertEqual(Exercises.files(link, first), {"exercise.toml": b"x"})
            self.assertEqual(Exercises.files(link, second), {"exercise.toml": b"\x00y"})

    def test_the_last_try_counts_and_the_same_text_is_kept_once(self) -> None:
        _, round_id = self.round()
        with self.store.transaction() as link:
            first = Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", b"a = 1")
            self.assertEqual(Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", b"a = 1"), first)
            second = Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", b"\x00\xff")
            (row,) = Rounds.tries(link, round_id)
            self.assertEqual((row["id"], row["number"], row["student"], row["report"]), (second, 2, "Wren", None))
            one = Rounds.one_try(link, second)
            assert one is not None
            self.assertEqual(bytes(one["source"]), b"\x00\xff")

    def test_a_report_is_kept_once_with_rows_for_marks_and_findings(self) -> None:
        version, round_id = self.round()
        made = report(bakehouse(), "wren.py", WREN)
        with self.store.transaction() as link:
            for student in ("Wren", "Clover"):
                Rounds.hand_in(link, "7 Larch", round_id, student, "wren.py", WREN)
            self.assertEqual(Rounds.unmarked(link, round_id), [DIGEST])
            self.assertTrue(Reports.add(link, version, DIGEST, made))
            self.assertFalse(Reports.add(link, version, DIGEST, made))
            self.assertEqual(Rounds.unmarked(link, round_id), [])
            self.assertEqual([row["report"]["marks"] for row in Rounds.tries(link, round_id)], [15, 15])
            marks = link.execute("SELECT sum(marks) AS earned, sum(out_of) AS possible FROM report_check").fetchone()
            self.assertEqual(marks, {"earned": 15, "possible": 20})
            slips = link.execute("SELECT slip, about, lines FROM report_finding").fetchall()
            self.assertEqual(slips, [{"slip": "boundary", "about": "score", "lines": [15]}])
            (summary,) = Rounds.all(link)
            self.assertEqual((summary["scripts"], summary["marked"], summary["spread"]), (2, 2, [15, 15]))

    def test_marking_again_forgets_the_reports_of_that_round_only(self) -> None:
        version, round_id = self.round()
        made = report(bakehouse(), "wren.py", WREN)
        with self.store.transaction() as link:
            Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", WREN)
            Reports.add(link, version, DIGEST, made)
            Reports.add(link, version, "another", made)
            Rounds.mark_again(link, round_id)
            self.assertFalse(Reports.has(link, version, DIGEST))
            self.assertTrue(Reports.has(link, version, "another"))

    def test_reports_of_an_older_edition_are_made_anew(self) -> None:
        version, round_id = self.round()
        with self.store.transaction() as link:
            Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", WREN)
            Reports.add(link, version, DIGEST, report(bakehouse(), "wren.py", WREN), edition=1)
            Reports.forget_older(link, 1)
            self.assertEqual(Rounds.all_unmarked(link), [])
            Reports.forget_older(link, 2)
            self.assertEqual(Rounds.all_unmarked(link), [(version, DIGEST)])

    def test_what_fails_half_way_leaves_nothing(self) -> None:
        _, round_id = self.round()
        with self.assertRaises(ZeroDivisionError), self.store.transaction() as link:
            Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", WREN)
            raise ZeroDivisionError
        with self.store.transaction() as link:
            self.assertEqual(Rounds.tries(link, round_id), [])

    def test_a_deleted_student_takes_all_tries_along(self) -> None:
        _, round_id = self.round()
        with self.store.transaction() as link:
            Rounds.hand_in(link, "7 Larch", round_id, "Wren", "wren.py", WREN)
            link.execute("DELETE FROM student WHERE name = 'Wren'")
            self.assertEqual(link.execute("SELECT count(*) AS n FROM try").fetchone(), {"n": 0})

    def test_migrating_again_changes_nothing(self) -> None:
        _, round_id = self.round()
        migrate(self.dsn)
        with self.store.transaction() as link:
            self.assertIsNotNone(Rounds.one(link, round_id))
            self.assertIsNone(Rounds.one(link, round_id + 99))
