"""Reports: the whole as JSON, marks and findings also as rows."""

from __future__ import annotations

from typing import Any, Final

from psycopg.types.json import Jsonb

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
    def forget_older(link: Link, edition: int) -> None:
        """Takes away what an older edition of the marking made, so that it is made anew."""
        _SQL.forget_older(link, made_by=edition)

    @staticmethod
    def add(link: Link, version: int, digest: str, report: dict[str, Any], edition: int = 1) -> bool:
        """Keeps a report, unless there is one already. Whether it was kept."""
        made = _SQL.add_report(
            link,
            version_id=version,
            digest=digest,
            status=report["status"],
            marks=report["marks"],
            out_of=report["out_of"],
            whole=Jsonb(report),
            made_by=edition,
        )
        if made is None:
            return False
        checks = [
            {
                "report_id": made["id"],
                "scenario": number,
                "place": place,
                **{key: check[key] for key in ("verdict", "marks", "out_of")},
            }
            for number, scenario in enumerate(report["scenarios"])
            for place, check in enumerate(scenario["checks"])
        ]
        findings = [
            {
                "report_id": made["id"],
                "place": place,
                "checks": Jsonb(finding["checks"]),
                **{key: finding[key] for key in ("slip", "about", "confidence", "lines", "marks_lost")},
            }
            for place, finding in enumerate(report["findings"])
        ]
        if checks:
            _SQL.add_check(link, checks)
        if findings:
            _SQL.add_finding(link, findings)
        return True
