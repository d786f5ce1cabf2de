"""The records, against the real PostgreSQL."""

import hashlib
import unittest
from unittest import mock

from hobtrial.core.reporting import EDITION, Fault, report, unmarked
from hobtrial.store import (
    Classes,
    Drafts,
    Exercises,
    Reports,
    Rounds,
    StaleDraftError,
    Store,
    Teachers,
    migrate,
    reports,
)
from hobtrial.store.store import Connection
from tests.support import bakehouse, database, sample_class

FACTS = {"title": "Small", "out_of": 20, "seconds": 3.0, "scenarios": []}
WREN = sample_class()["wren"].encode()
A = {"exercise.toml": b"title = 1", "reference.py": b"\x00\xff"}
B = A | {"reference.py": b"score = 0"}
"""The files of a draft before and after a change."""
DIGEST = hashlib.sha256(WREN).hexdigest()


class Records(unittest.TestCase):
    def setUp(self) -> None:
        self.dsn = database("records")
        self.store = Store(self.dsn)
        self.addCleanup(self.store.close)

    def round(self) -> tuple[int, int]:
        """A version of an exercise and a round at it."""
        with self.store.transaction() as connection:
            version = Exercises.add(connection, "small", "abc", {"exercise.toml": b"x"}, FACTS)
            return version, Rounds.open(connection, Classes.named(connection, "7 Larch", None), version)

    def hand_in(self, connection: Connection, round_id: int, student: str, source: bytes) -> int:
        """A try of a student, who is in the class from then on."""
        class_id = Classes.named(connection, "7 Larch", None)
        ids = Classes.add_students(connection, class_id, [student])
        return Rounds.hand_in(connection, round_id, ids[student], "wren.py", source)

    def test_the_same_files_are_the_same_version_and_others_a_new_one(self) -> None:
        with self.store.transaction() as connection:
            first = Exercises.add(connection, "small", "abc", {"exercise.toml": b"x"}, FACTS)
            self.assertEqual(Exercises.add(connection, "small", "abc", {"exercise.toml": b"x"}, FACTS), first)
            second = Exercises.add(connection, "small", "def", {"exercise.toml": b"\x00y"}, FACTS)
            self.assertNotEqual(first, second)
            self.assertEqual(Exercises.files(connection, first), {"exercise.toml": b"x"})
            self.assertEqual(Exercises.files(connection, second), {"exercise.toml": b"\x00y"})

    def test_the_last_submission_counts_and_the_same_text_is_kept_once(self) -> None:
        _, round_id = self.round()
        with self.store.transaction() as connection:
            first = self.hand_in(connection, round_id, "Wren", b"a = 1")
            self.assertEqual(self.hand_in(connection, round_id, "Wren", b"a = 1"), first)
            second = self.hand_in(connection, round_id, "Wren", b"\x00\xff")
            (row,) = Rounds.submissions(connection, round_id)
            self.assertEqual((row["id"], row["number"], row["student"], row["report"]), (second, 2, "Wren", None))
            one = Rounds.one_submission(connection, second)
            assert one is not None
            self.assertEqual(bytes(one["source"]), b"\x00\xff")

    def test_a_report_is_kept_once_with_rows_for_findings(self) -> None:
        version, round_id = self.round()
        made = report(bakehouse(), "wren.py", WREN)
        with self.store.transaction() as connection:
            for student in ("Wren", "Clover"):
                self.hand_in(connection, round_id, student, WREN)
            self.assertEqual(Rounds.unmarked(connection, round_id), [(version, DIGEST)])
            self.assertTrue(Reports.add(connection, version, DIGEST, made))
            self.assertFalse(Reports.add(connection, version, DIGEST, made))
            self.assertEqual(Rounds.unmarked(connection, round_id), [])
            rows = Rounds.submissions(connection, round_id)
            self.assertEqual([row["report"] for row in rows], [made, made])
            self.assertEqual(Rounds.others_with(connection, round_id, rows[0]["id"]), {made.findings[0].key: 1})
            slips = connection.execute("SELECT slip, marks_lost FROM report_finding").fetchall()
            self.assertEqual(slips, [{"slip": "boundary", "marks_lost": 5}])
            (summary,) = Rounds.all(connection, Teachers.add(connection, "Alder", "under the alders"))
            self.assertEqual((summary["scripts"], summary["marked"], summary["spread"]), (2, 2, [15, 15]))

    def test_marking_again_forgets_the_reports_of_that_round_only(self) -> None:
        version, round_id = self.round()
        made = report(bakehouse(), "wren.py", WREN)
        with self.store.transaction() as connection:
            self.hand_in(connection, round_id, "Wren", WREN)
            Reports.add(connection, version, DIGEST, made)
            Reports.add(connection, version, "another", made)
            Rounds.mark_again(connection, round_id)
            self.assertFalse(Reports.has(connection, version, DIGEST))
            self.assertTrue(Reports.has(connection, version, "another"))

    def test_reports_of_an_older_edition_are_made_anew(self) -> None:
        version, round_id = self.round()
        with self.store.transaction() as connection:
            self.hand_in(connection, round_id, "Wren", WREN)
            Reports.add(connection, version, DIGEST, report(bakehouse(), "wren.py", WREN))
            Reports.forget_older(connection)
            self.assertEqual(Rounds.all_unmarked(connection), [])
            with mock.patch.object(reports, "EDITION", EDITION + 1):
                Reports.forget_older(connection)
            self.assertEqual(Rounds.all_unmarked(connection), [(version, DIGEST)])

    def test_what_could_not_be_marked_is_kept_apart_until_it_is_asked_for_again(self) -> None:
        version, round_id = self.round()
        sorry = unmarked("wren.py", 20, Fault("ours", "This is a fault of Hob Trial.", "abc123"))
        with self.store.transaction() as connection:
            submission_id = self.hand_in(connection, round_id, "Wren", WREN)
            self.assertFalse(Reports.add(connection, version, DIGEST, sorry))
            row = Rounds.one_submission(connection, submission_id)
            assert row is not None
            self.assertEqual((row["report"], Rounds.submissions(connection, round_id)[0]["report"]), (sorry, sorry))
            self.assertEqual((Rounds.unmarked(connection, round_id), Rounds.all_unmarked(connection)), ([], []))
            self.assertFalse(Reports.has(connection, version, DIGEST))
            Reports.forget(connection, version, DIGEST)
            self.assertEqual(Rounds.unmarked(connection, round_id), [(version, DIGEST)])
            Reports.add(connection, version, DIGEST, sorry)
            Rounds.mark_again(connection, round_id)
            self.assertEqual(Rounds.unmarked(connection, round_id), [(version, DIGEST)])
            Reports.add(connection, version, DIGEST, sorry)
            Reports.forget_older(connection)
            self.assertEqual(Rounds.unmarked(connection, round_id), [(version, DIGEST)])
            Reports.add(connection, version, DIGEST, sorry)
            Reports.add(connection, version, DIGEST, report(bakehouse(), "wren.py", WREN))
            row = Rounds.one_submission(connection, submission_id)
            assert row is not None
            self.assertEqual(row["report"].marks, 15)

    def test_what_fails_half_way_leaves_nothing(self) -> None:
        _, round_id = self.round()
        with self.assertRaises(ZeroDivisionError), self.store.transaction() as connection:
            self.hand_in(connection, round_id, "Wren", WREN)
            raise ZeroDivisionError
        with self.store.transaction() as connection:
            self.assertEqual(Rounds.submissions(connection, round_id), [])

    def test_a_deleted_student_takes_all_tries_along(self) -> None:
        _, round_id = self.round()
        with self.store.transaction() as connection:
            self.hand_in(connection, round_id, "Wren", WREN)
            connection.execute("DELETE FROM student WHERE name = 'Wren'")
            self.assertEqual(connection.execute("SELECT count(*) AS n FROM submission").fetchone(), {"n": 0})

    def test_migrating_again_changes_nothing(self) -> None:
        _, round_id = self.round()
        migrate(self.dsn)
        with self.store.transaction() as connection:
            self.assertIsNotNone(Rounds.one(connection, round_id))
            self.assertIsNone(Rounds.one(connection, round_id + 99))


class DraftsKept(unittest.TestCase):
    def setUp(self) -> None:
        store = Store(database("drafts"))
        self.addCleanup(store.close)
        self.connection = self.enterContext(store.transaction())
        self.teacher = Teachers.add(self.connection, "Alder", "under the alders")
        self.draft: int = Drafts.begin(self.connection, self.teacher, "", A, "begun")

    def now(self) -> tuple[int, int, str, str | None, dict[str, bytes]]:
        """Where the draft is, how far it goes, its words, and its files."""
        found = Drafts.one(self.connection, self.draft)
        assert found is not None
        return found.at, found.last, found.words, found.next_words, found.files

    def test_there_and_back(self) -> None:
        self.assertEqual(self.now(), (0, 0, "begun", None, A))
        Drafts.change(self.connection, self.draft, 0, B, "written")
        self.assertEqual(self.now(), (1, 1, "written", None, B))
        Drafts.step(self.connection, self.draft, 1, -1)
        self.assertEqual(self.now(), (0, 1, "begun", "written", A))
        Drafts.step(self.connection, self.draft, 0, -1)  # there is nothing before it
        self.assertEqual(self.now()[0], 0)
        Drafts.step(self.connection, self.draft, 0, 1)
        self.assertEqual(self.now()[4], B)

    def test_a_change_after_undoing_takes_the_place_of_what_was_undone(self) -> None:
        Drafts.change(self.connection, self.draft, 0, B, "written")
        Drafts.step(self.connection, self.draft, 1, -1)
        Drafts.change(self.connection, self.draft, 0, {"exercise.toml": b""}, "otherwise")
        self.assertEqual(self.now(), (1, 1, "otherwise", None, {"exercise.toml": b""}))

    def test_a_change_of_another_step_is_refused(self) -> None:
        Drafts.change(self.connection, self.draft, 0, B, "written")
        for at in (0, 2, -1):
            with self.subTest(at), self.assertRaises(StaleDraftError):
                Drafts.change(self.connection, self.draft, at, A, "late")
            with self.subTest(at), self.assertRaises(StaleDraftError):
                Drafts.step(self.connection, self.draft, at, -1)
        self.assertEqual(self.now()[4], B)

    def test_equal_bytes_are_kept_once_and_go_with_the_draft(self) -> None:
        for turn in range(4):
            Drafts.change(self.connection, self.draft, turn, B if turn % 2 else A, "again")
        count = "SELECT count(*) AS n FROM draft_blob"
        self.assertEqual(self.connection.execute(count).fetchone(), {"n": 3})
        self.assertEqual([row["id"] for row in Drafts.all(self.connection, self.teacher)], [self.draft])
        Drafts.remove(self.connection, self.draft)
        self.assertEqual(self.connection.execute(count).fetchone(), {"n": 0})
        self.assertIsNone(Drafts.one(self.connection, self.draft))
