"""Reports: the whole as JSON, findings also as rows that can be counted; and what could not be marked."""

from __future__ import annotations

from typing import Final

from psycopg.types.json import Jsonb

from ..core.reporting import EDITION, Report
from .store import Link, queries

_SQL: Final = queries("reports")


class Reports:
    """What is kept of reports. Every call joins the transaction of the link it is given."""

    @staticmethod
    def source(link: Link, digest: str) -> tuple[str, bytes] | None:
        """File name and bytes of a text that was handed in."""
        row = _SQL.source_by_digest(link, digest=digest)
        return None if row is None else (row["file_name"], bytes(row["source"]))

    @staticmethod
    def has(link: Link, version: int, digest: str) -> bool:
        """Whether a text was marked with a version."""
        return _SQL.has_report(link, version_id=version, digest=digest) is not None

    @staticmethod
    def forget_older(link: Link) -> None:
        """Takes away what an older edition of the marking made, and what could not be marked, to be tried again."""
        _SQL.forget_older(link, made_by=EDITION)
        _SQL.forget_all_unmarked(link)

    @staticmethod
    def forget(link: Link, version: int, digest: str) -> None:
        """Takes away what is known of a text, so that it is marked again."""
        _SQL.forget_one(link, version_id=version, digest=digest)
        _SQL.forget_unmarked(link, version_id=version, digest=digest)

    @staticmethod
    def add(link: Link, version: int, digest: str, report: Report) -> bool:
        """Keeps a report, unless there is one already. Whether it was kept.

        Of a text that could not be marked, only that is kept, and no marks.
        """
        if report.status == "unmarked":
            _SQL.add_unmarked(link, version_id=version, digest=digest, report=Jsonb(report.as_json()))
            return False
        _SQL.forget_unmarked(link, version_id=version, digest=digest)
        made = _SQL.add_report(
            link,
            version_id=version,
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
                "place": place,
                "slip": finding.slip,
                "key": finding.key,
                "marks_lost": finding.marks_lost,
            }
            for place, finding in enumerate(report.findings)
        ]
        if findings:
            _SQL.add_finding(link, findings)
        return True
