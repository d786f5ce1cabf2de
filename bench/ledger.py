"""The ledger of a large class over a long term, and a class at work that three teachers watch.

python -m bench.ledger
"""

from __future__ import annotations

import asyncio
import time
from datetime import UTC, datetime
from typing import Any

from tests.support import database

from bench import short
from hobtrial.core.reporting import PartMarks, Report
from hobtrial.server import create_app
from hobtrial.server.classroom import Classroom
from hobtrial.server.ledger import _ledger
from hobtrial.server.lesson import work_view
from hobtrial.server.tables import as_csv, as_ods, as_xlsx
from hobtrial.store import Classes, Desks, Exercises, Reports, Rounds, Store

STUDENTS, ROUNDS = (20, 3) if short() else (200, 30)
AT_WORK, CHECKS = (5, 2) if short() else (30, 20)
GOAL = 1.0
"""Seconds to the first paint, of which the server may take half."""
FACTS: dict[str, Any] = {"title": "", "out_of": 20.0, "seconds": 6.0, "scenarios": []}


class Records:
    """As much of the services as a ledger needs."""

    def __init__(self, store: Store) -> None:
        self.store = store


def fill(store: Store) -> tuple[int, int]:
    """A class with a term behind it, and a round at which it works. Gives both numbers."""
    with store.transaction() as connection:
        class_id = Classes.named(connection, "Large", None)
        ids = list(
            Classes.add_students(connection, class_id, [f"Student {number}" for number in range(STUDENTS)]).values()
        )
    round_id = 0
    for number in range(ROUNDS):
        with store.transaction() as connection:
            version = Exercises.add(
                connection, f"e{number}", f"d{number}", {}, {**FACTS, "title": f"Exercise {number}"}
            )
            round_id = Rounds.open(connection, class_id, version)
            for index, student_id in enumerate(ids):
                source = b"score = %d" % (index % 17)
                Rounds.hand_in(connection, round_id, student_id, "a.py", source)
            for _, row in Rounds.unmarked(connection, round_id):
                concepts = {name: PartMarks(3, 7) for name in ("variables", "events", "conditionals")}
                Reports.add(connection, version, row, Report("a.py", "marked", 9, 20, by_concept=concepts))
    with store.transaction() as connection:
        for student_id in ids[:AT_WORK]:
            Desks.one(connection, round_id, student_id, b"")
            for check in range(CHECKS):
                Desks.check(connection, round_id, student_id, b"score = %d" % (check % 17))
    return class_id, round_id


async def watched(records: Any, round_id: int) -> tuple[float, float]:
    """Seconds of one look alone, and of three teachers who look at once."""
    room = Classroom()
    begin = time.perf_counter()
    await room.look(round_id, lambda: work_view(records, round_id, datetime.now(UTC)))
    alone, begin = time.perf_counter() - begin, time.perf_counter()
    room = Classroom()
    looks = (room.look(round_id, lambda: work_view(records, round_id, datetime.now(UTC))) for _ in range(3))
    await asyncio.gather(*looks)
    return alone, time.perf_counter() - begin


def main() -> None:
    """Fills a database, and asks it."""
    create_app()
    store = Store(database("ledger_bench"))
    class_id, round_id = fill(store)
    records: Any = Records(store)
    begin = time.perf_counter()
    view = _ledger(records, class_id)
    took = time.perf_counter() - begin
    print(f"ledger of {STUDENTS} students × {ROUNDS} exercises: {100 * took / GOAL:.0f} % of {GOAL} s   (goal ≤ 50 %)")
    for name, make in (("CSV", as_csv), ("XLSX", as_xlsx), ("ODS", as_ods)):
        begin = time.perf_counter()
        make(view)
        print(f"  as {name}: {(time.perf_counter() - begin) / took:.1f} × the ledger")
    alone, three = asyncio.run(watched(records, round_id))
    print(
        f"a class at work: {100 * alone / 2:.1f} % of one core, looked at every 2 s; "
        f"three who watch: {three / alone:.2f} ×"
    )
    store.close()


if __name__ == "__main__":
    main()
