"""Reports as values, each read once: one that was made never changes, so it is kept by its number and its moment."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Iterable
from typing import Any, Final

from ..core.reporting import Report, from_json
from .store import Connection, Row, queries

_SQL: Final = queries("reports")
MOST_KEPT: Final = 1_000
"""Reports that are kept: those of forty classes, some 30 KB each."""

_kept: OrderedDict[tuple[Any, ...], Report] = OrderedDict()
_lock: Final = threading.Lock()


def with_reports(connection: Connection, rows: Iterable[Row]) -> list[Row]:
    """Rows whose `report` is a `Report`, or None.

    A row says which by `report_id` and `report_made_at`; what could not be marked stands in its `report` as JSON.
    """
    found = list(rows)
    of = connection.info.dbname
    keys = {key for row in found if (key := _key(of, row)) is not None}
    reports = _read(connection, of, keys)
    return [{**row, "report": _one(row, reports.get(_key(of, row)))} for row in found]


def with_report(connection: Connection, row: Row) -> Row:
    """The same for one row."""
    return with_reports(connection, [row])[0]


def _key(of: str, row: Row) -> tuple[Any, ...] | None:
    # the moment tells reports of one number apart after a backup was brought back
    return None if row["report_id"] is None else (of, row["report_id"], row["report_made_at"])


def _one(row: Row, report: Report | None) -> Report | None:
    if report is not None or row["report"] is None:
        return report
    return from_json(row["report"])


def _read(connection: Connection, of: str, keys: set[tuple[Any, ...]]) -> dict[Any, Report]:
    with _lock:
        known = {key: _kept[key] for key in keys if key in _kept}
        for key in known:
            _kept.move_to_end(key)
    missing = [key[1] for key in keys if key not in known]
    if not missing:
        return known
    read = {
        (of, row["id"], row["made_at"]): from_json(row["whole"]) for row in _SQL.wholes(connection, report_ids=missing)
    }
    with _lock:
        _kept.update(read)
        while len(_kept) > MOST_KEPT:
            _kept.popitem(last=False)
    return known | read
