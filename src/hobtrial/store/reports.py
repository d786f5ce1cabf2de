"""Reports: the whole as JSON, findings also as rows that can be counted; and what could not be marked."""

from __future__ import annotations

from typing import Final

from psycopg.types.json import Jsonb

from ..core.reporting import EDITION, Report
from .store import Connection, queries

_SQL: Final = queries("reports")


class Reports:
    """What is kept of reports. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def source(connection: Connection, digest: str) -> tuple[str, bytes] | None:
        """File name and bytes of a text that was handed in."""
        row = _SQL.source_by_digest(connection, digest=digest)
        return None if row is None else (row["file_name"], bytes(row["source"]))

    @staticmethod
    def has(connection: Connection, version_id: int, digest: str) -> bool:
        """Whether a text was marked with a version."""
        return _SQL.has_report(connection, version_id=version_id, digest=digest) is not None

    @staticmethod
    def forget_older(connection: Connection) -> bool:
        """Takes away what an older edition of the marking made, and what could not be marked, to be tried again.

        Where a newer edition has worked on these records, nothing is done; then it is not for this one to mark.
        """
        if _SQL.raise_edition(connection, made_by=EDITION)["number"] > EDITION:
            return False
        _SQL.forget_older(connection, made_by=EDITION)
        _SQL.forget_all_unmarked(connection)
        return True

    @staticmethod
    def forget(connection: Connection, version_id: int, digest: str) -> None:
        """Takes away what is known of a text, so that it is marked again."""
        _SQL.forget_one(connection, version_id=version_id, digest=digest)
        _SQL.forget_unmarked(connection, version_id=version_id, digest=digest)

    @staticmethod
    def add(connection: Connection, version_id: int, digest: str, report: Report) -> bool:
        """Keeps a report, unless there is one already. Whether it was kept.

        Of a text that could not be marked, only that is kept, and no marks.
        """
        if report.status == "unmarked":
            _SQL.add_unmarked(connection, version_id=version_id, digest=digest, report=Jsonb(report.as_json()))
            return False
        _SQL.forget_unmarked(connection, version_id=version_id, digest=digest)
        made = _SQL.add_report(
            connection,
            version_id=version_id,
            digest=digest,
            status=report.status,
            marks=report.marks,
            out_of=report.out_of,
            whole=Jsonb(report.as_json()),
            made_by=EDITION,
        )
        if made is None:
            return False
        findings = [
            {
                "report_id": made["id"],
                "index": index,
                "slip": finding.slip,
                "key": finding.key,
                "marks_lost": finding.marks_lost,
            }
            for index, finding in enumerate(report.findings)
        ]
        if findings:
            _SQL.add_finding(connection, findings)
        return True
