"""Reports that were read once are kept, and told apart by when they were made."""

import unittest
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest import mock

from hobtrial.core.reporting import Report
from hobtrial.store import read_reports

BEGIN = datetime(2026, 11, 2, 9, 0, tzinfo=UTC)


class Read(unittest.TestCase):
    def setUp(self) -> None:
        self.asked: list[list[int]] = []
        self.made_at = BEGIN
        self.marks = 3
        read_reports._kept.clear()
        self.addCleanup(read_reports._kept.clear)
        self.enterContext(mock.patch.object(read_reports._SQL, "wholes", self.wholes))
        self.connection: Any = mock.Mock()
        self.connection.info.dbname = "one"

    def wholes(self, connection: Any, report_ids: list[int]) -> list[dict[str, Any]]:
        self.asked.append(sorted(report_ids))
        whole = Report("wren.py", "marked", self.marks, 20).as_json()
        return [{"id": each, "made_at": self.made_at, "whole": whole} for each in report_ids]

    def row(self, number: int | None, report: Any = None) -> dict[str, Any]:
        return {"report_id": number, "report_made_at": self.made_at, "report": report}

    def marks_of(self, *rows: dict[str, Any]) -> list[Any]:
        found = read_reports.with_reports(self.connection, rows)
        return [each["report"].marks if each["report"] is not None else None for each in found]

    def test_each_is_read_once(self) -> None:
        self.assertEqual(self.marks_of(self.row(1), self.row(2), self.row(None)), [3, 3, None])
        self.marks = 9
        self.assertEqual(self.marks_of(self.row(2), self.row(3)), [3, 9])
        self.assertEqual(self.asked, [[1, 2], [3]])

    def test_one_of_another_moment_or_database_is_another_one(self) -> None:
        self.marks_of(self.row(1))
        self.marks, self.made_at = 5, BEGIN + timedelta(seconds=1)  # a backup was brought back
        self.assertEqual(self.marks_of(self.row(1)), [5])
        self.connection.info.dbname = "two"
        self.marks = 7
        self.assertEqual(self.marks_of(self.row(1)), [7])

    def test_what_could_not_be_marked_is_read_from_its_row(self) -> None:
        sorry = Report("wren.py", "unmarked", None, 20).as_json()
        [found] = read_reports.with_reports(self.connection, [self.row(None, sorry)])
        self.assertEqual((found["report"].status, self.asked), ("unmarked", []))

    def test_only_so_many_are_kept(self) -> None:
        self.enterContext(mock.patch.object(read_reports, "MOST_KEPT", 3))
        for number in range(5):
            self.marks_of(self.row(number))
        self.assertEqual([key[1] for key in read_reports._kept], [2, 3, 4])
        self.marks_of(self.row(2))
        self.marks_of(self.row(9))
        self.assertEqual([key[1] for key in read_reports._kept], [4, 2, 9])
