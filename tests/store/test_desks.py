"""What is kept of desks goes with its student, its class and its time; and is all in what a student is given of theirs."""

import io
import json
import unittest
import zipfile
from datetime import timedelta
from typing import Any

from hobtrial.core.reporting import Fault, Report, unmarked
from hobtrial.server.student_data import student_zip
from hobtrial.store import (
    Classes,
    Desks,
    Exercises,
    Lessons,
    Reports,
    Rounds,
    StaleTextError,
    Store,
    Students,
    forget_older_than,
)
from hobtrial.store.store import Connection
from tests.support import database

FACTS: dict[str, Any] = {"title": "Count", "out_of": 4.0, "seconds": 2.0, "scenarios": []}
TABLES = ("desk", "checked", "guess", "help_step", "standing", "submission")


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        self.store = Store(database(f"desks_{self._testMethodName[5:30]}"))
        self.addCleanup(self.store.close)
        with self.store.transaction() as connection:
            self.version = Exercises.add(connection, "count", "digest", {"starter.py": b"score = 0"}, FACTS)
            self.class_id = Classes.named(connection, "7 Larch", None)
            self.ids = Classes.add_students(connection, self.class_id, ["Wren", "Sorrel"])
            self.round_id = Rounds.open(connection, self.class_id, self.version)
            for student_id in self.ids.values():
                self.sit_down(connection, student_id)

    def sit_down(self, connection: Connection, student_id: int) -> int:
        """Everything that somebody can leave at a desk."""
        Desks.one(connection, self.round_id, student_id, b"score = 0")
        checked = Desks.check(connection, self.round_id, student_id, b"score = %d" % student_id)
        Desks.guess(connection, self.round_id, student_id, 0, "d", {"score": "1"})
        Desks.ask_step(connection, self.round_id, student_id, "boundary|score|0.1", 1)
        Desks.ask(connection, self.round_id, student_id, True)
        Lessons.set_standing(connection, self.round_id, student_id, excused=True, due_at=None)
        Desks.hand_in(connection, self.round_id, student_id, b"score = %d" % student_id)
        return checked

    def rows(self, connection: Connection) -> dict[str, int]:
        found = {}
        for table in TABLES:
            row = connection.execute(f"SELECT count(*) AS rows FROM {table}").fetchone()
            assert row is not None
            found[table] = row["rows"]
        return found

    def report(self, connection: Connection, student_id: int) -> None:
        row = Desks.all_checked(connection, self.round_id, student_id)[-1]
        Reports.add(connection, self.version, row["digest"], Report("x", "marked", 1, 4))

    def test_a_student_who_is_deleted_leaves_nothing_and_others_keep_theirs(self) -> None:
        with self.store.transaction() as connection:
            for student_id in self.ids.values():
                self.report(connection, student_id)
            Students.remove(connection, self.ids["Wren"])
            self.assertEqual(self.rows(connection), dict.fromkeys(TABLES, 1))
            left = connection.execute("SELECT count(*) AS rows FROM report").fetchone()
            assert left is not None
            self.assertEqual(left["rows"], 1)

    def test_a_class_that_is_deleted_leaves_nothing(self) -> None:
        with self.store.transaction() as connection:
            for student_id in self.ids.values():
                self.report(connection, student_id)
            Classes.remove(connection, self.class_id)
            self.assertEqual(self.rows(connection), dict.fromkeys(TABLES, 0))
            left = connection.execute("SELECT count(*) AS rows FROM report").fetchone()
            assert left is not None
            self.assertEqual(left["rows"], 0)

    def test_what_is_old_is_forgotten_and_what_is_new_stays(self) -> None:
        with self.store.transaction() as connection:
            old = timedelta(days=400)
            for table, column in (("desk", "changed_at"), ("checked", "made_at"), ("guess", "made_at"),
                                  ("help_step", "asked_at"), ("submission", "handed_in_at")):  # fmt: skip
                connection.execute(
                    f"UPDATE {table} SET {column} = {column} - %s WHERE student_id = %s",
                    (old, self.ids["Wren"]),
                )
            forget_older_than(connection, 6)
            left = self.rows(connection)
        self.assertEqual(
            {name: left[name] for name in TABLES if name != "standing"}, dict.fromkeys(set(TABLES) - {"standing"}, 1)
        )

    def test_all_of_it_is_in_what_a_student_is_given(self) -> None:
        with self.store.transaction() as connection:
            student = Students.one(connection, self.ids["Wren"])
            assert student is not None
            packed = student_zip(student, Students.everything(connection, self.ids["Wren"]))
        archive = zipfile.ZipFile(io.BytesIO(packed))
        told = json.loads(archive.read("student.json"))
        self.assertEqual([each["what"] for each in told["desk"]], ["at the desk", "check 1"])
        self.assertEqual({each["what"] for each in told["asked"]}, {"scenario 1 expected", "step 1 of help"})
        texts = {archive.read(each["file"]) for each in told["desk"]}
        self.assertEqual(texts, {b"score = 0", b"score = %d" % self.ids["Wren"]})
        self.assertNotIn("Sorrel", json.dumps(told))

    def test_of_two_windows_the_later_is_told_and_the_same_text_is_no_clash(self) -> None:
        student_id = self.ids["Wren"]
        with self.store.transaction() as connection:
            at = Desks.one(connection, self.round_id, student_id, b"")["at"]
            self.assertEqual(Desks.keep(connection, self.round_id, student_id, at, b"a = 1"), at + 1)
            self.assertEqual(Desks.keep(connection, self.round_id, student_id, at, b"a = 1"), at + 1)
            with self.assertRaises(StaleTextError) as caught:
                Desks.keep(connection, self.round_id, student_id, at, b"a = 2")
            self.assertEqual(bytes(caught.exception.row["source"]), b"a = 1")

    def test_whose_report_is_still_waited_for(self) -> None:
        student_id = self.ids["Wren"]
        with self.store.transaction() as connection:
            Desks.check(connection, self.round_id, student_id, b"one")
            first = Desks.all_checked(connection, self.round_id, student_id)[-1]["digest"]
            self.assertTrue(Desks.is_wanted(connection, self.version, first))
            Desks.check(connection, self.round_id, student_id, b"two")
            self.assertFalse(Desks.is_wanted(connection, self.version, first))  # a newer one came
            Desks.hand_in(connection, self.round_id, student_id, b"one")
            self.assertTrue(Desks.is_wanted(connection, self.version, first))  # it was handed in all the same
            again = Desks.check(connection, self.round_id, student_id, b"two")
            self.assertEqual(again, Desks.all_checked(connection, self.round_id, student_id)[-1]["id"])

    def test_first_marks_of_an_older_edition_are_not_used(self) -> None:
        with self.store.transaction() as connection:
            row = Desks.all_checked(connection, self.round_id, self.ids["Wren"])[-1]
            Desks.set_first(connection, row["id"], unmarked("x", 4, Fault("machine", "gone")), [])
            found = Desks.checked(connection, row["id"])
            assert found is not None and found["first"] is not None
            connection.execute("UPDATE checked SET first_by = 0, first = '{\"nothing\": 1}'")
            older = Desks.checked(connection, row["id"])
            assert older is not None
            self.assertIsNone(older["first"])
