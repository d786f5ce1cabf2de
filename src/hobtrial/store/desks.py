"""The desks of students: their texts, what they checked, expected and asked for."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from typing import Any, Final

from psycopg.types.json import Jsonb

from ..core.reporting import EDITION, Report, from_json
from .read_reports import with_report, with_reports
from .rounds import Rounds
from .store import Connection, Row, queries

_SQL: Final = queries("desks")
SCRIPT: Final = "desk.py"
"""How a text of the desk is called once it is handed in."""


class StaleTextError(Exception):
    """A text was kept from another window since it was looked at. `row` is the desk as it is."""

    def __init__(self, row: Row) -> None:
        super().__init__()
        self.row = row


class Desks:
    """What is kept of desks. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def one(connection: Connection, round_id: int, student_id: int, starter: bytes) -> Row:
        """A student's desk, which begins with the starter."""
        row: Row | None = _SQL.one_desk(connection, round_id=round_id, student_id=student_id)
        if row is None:
            _SQL.begin_desk(connection, round_id=round_id, student_id=student_id, source=starter)
            row = _SQL.one_desk(connection, round_id=round_id, student_id=student_id)
        assert row is not None
        return row

    @staticmethod
    def keep(connection: Connection, round_id: int, student_id: int, at: int, source: bytes) -> int:
        """Keeps a text that was changed from how it was `at`. Gives what it is at now. Raises `StaleTextError`."""
        kept = _SQL.keep_text(connection, round_id=round_id, student_id=student_id, at=at, source=source)
        if kept is not None:
            return int(kept["at"])
        row = Desks.one(connection, round_id, student_id, source)
        if bytes(row["source"]) != source:
            raise StaleTextError(row)
        return int(row["at"])

    @staticmethod
    def check(connection: Connection, round_id: int, student_id: int, source: bytes) -> int:
        """Notes that a text is checked; the same text as the last is not noted twice. Gives its id."""
        digest = hashlib.sha256(source).hexdigest()
        _SQL.hold_student(connection, student_id=student_id)
        last = _SQL.last_checked(connection, round_id=round_id, student_id=student_id)
        if last is not None and last["digest"] == digest:
            return int(last["id"])
        made = _SQL.add_checked(connection, round_id=round_id, student_id=student_id, source=source, digest=digest)
        return int(made["id"])

    @staticmethod
    def set_first(connection: Connection, checked_id: int, report: Report, small: list[dict[str, Any]]) -> None:
        """Keeps the marks of a text that was checked, before they are explained."""
        _SQL.set_first(
            connection, checked_id=checked_id, first=Jsonb(report.as_json()), first_by=EDITION, small=Jsonb(small)
        )

    @staticmethod
    def checked(connection: Connection, checked_id: int) -> Row | None:
        """A text that was checked. `report` is its whole report, `first` the marks alone; each may be None."""
        row: Row | None = _SQL.one_checked(connection, checked_id=checked_id)
        return None if row is None else _with_first(with_report(connection, row))

    @staticmethod
    def state(connection: Connection, checked_id: int, patience: float) -> str:
        """What tells one state of a text that was checked from any other, with all that it is shown with.

        Nothing where there is no such text, where it is not marked yet, or not explained after `patience` seconds.
        """
        row = _SQL.state_of_checked(connection, checked_id=checked_id, patience=patience)
        return "" if row is None else f"{EDITION}-{row['state']}"

    @staticmethod
    def all_checked(connection: Connection, round_id: int, student_id: int) -> list[Row]:
        """What a student checked, the oldest first; `report` and `first` as in `checked`, without the texts."""
        found = _SQL.checked_of(connection, round_id=round_id, student_id=student_id)
        return [_with_first(row) for row in with_reports(connection, found)]

    @staticmethod
    def is_wanted(connection: Connection, version_id: int, digest: str) -> bool:
        """Whether somebody still waits for the report of a text."""
        return _SQL.is_wanted(connection, version_id=version_id, digest=digest) is not None

    @staticmethod
    def ask_step(connection: Connection, round_id: int, student_id: int, key: str, step: int) -> None:
        """Notes that a student asked for a step of help about a finding."""
        _SQL.add_step(connection, round_id=round_id, student_id=student_id, key=key, step=step)

    @staticmethod
    def steps(connection: Connection, round_id: int, student_id: int) -> dict[str, int]:
        """How many steps of help a student asked for, by the key of the finding."""
        return {row["key"]: row["step"] for row in _SQL.steps(connection, round_id=round_id, student_id=student_id)}

    @staticmethod
    def ask(connection: Connection, round_id: int, student_id: int, wants: bool) -> None:
        """Puts a student in the line of those who want the teacher's help, or takes them out of it."""
        if wants:
            _SQL.ask_for_help(connection, round_id=round_id, student_id=student_id)
        else:
            _SQL.take_back_asking(connection, round_id=round_id, student_id=student_id)

    @staticmethod
    def line(connection: Connection, round_id: int) -> list[Row]:
        """Who waits for the teacher's help, longest first."""
        return list(_SQL.line(connection, round_id=round_id))

    @staticmethod
    def guess(
        connection: Connection, round_id: int, student_id: int, scenario: int, digest: str, guesses: Mapping[str, str]
    ) -> None:
        """Keeps what a student expects of a scenario with a text; the first guess stands."""
        _SQL.set_guess(
            connection,
            round_id=round_id,
            student_id=student_id,
            scenario=scenario,
            digest=digest,
            guesses=Jsonb(dict(guesses)),
        )

    @staticmethod
    def guesses(connection: Connection, round_id: int, student_id: int) -> list[Row]:
        """What a student expected, the oldest first: scenario, digest of the text, values by name."""
        return list(_SQL.guesses(connection, round_id=round_id, student_id=student_id))

    @staticmethod
    def set_partner(connection: Connection, round_id: int, student_id: int, with_id: int | None) -> None:
        """Says who works at a desk besides its owner."""
        _SQL.set_partner(connection, round_id=round_id, student_id=student_id, with_id=with_id)

    @staticmethod
    def times(connection: Connection, round_id: int, student_id: int) -> Row:
        """When a round opens, is due and closes for a student, and whether it was given back to them."""
        row: Row = _SQL.times(connection, round_id=round_id, student_id=student_id)
        return row

    @staticmethod
    def date_back(
        connection: Connection,
        *,
        checked_id: int | None = None,
        submission_id: int | None = None,
        desk: tuple[int, int] | None = None,
        minutes: float,
        asked: float | None = None,
        doing: str = "writes",
    ) -> None:
        """Lets a check, a try or somebody's being at a desk (of a round and a student) have been so long ago."""
        if checked_id is not None:
            _SQL.date_checked_back(connection, checked_id=checked_id, minutes=minutes)
        if submission_id is not None:
            _SQL.date_submission_back(connection, submission_id=submission_id, minutes=minutes)
        if desk is not None:
            _SQL.date_desk_back(
                connection, round_id=desk[0], student_id=desk[1], minutes=minutes, asked=asked, doing=doing
            )

    @staticmethod
    def hand_in(connection: Connection, round_id: int, student_id: int, source: bytes) -> int:
        """Hands in a text for whoever sits at a desk, each with what they expected of it. Gives the owner's try."""
        row = Desks.one(connection, round_id, student_id, source)
        owners = [student_id, *([row["with_id"]] if row["with_id"] is not None else [])]
        made = [Rounds.hand_in(connection, round_id, owner, SCRIPT, source) for owner in owners]
        for number, submission_id in enumerate(made):
            _SQL.take_guesses_along(connection, submission_id=submission_id)
            if len(owners) > 1:
                _SQL.set_shared(connection, submission_id=submission_id, with_id=owners[1 - number])
        return made[0]


def _with_first(row: Row) -> Row:
    """A row whose `first` is what the present edition made, or nothing."""
    first = row["first"] if row["first_by"] == EDITION else None
    return {**row, "first": _report(first)}


def _report(data: Any) -> Report | None:
    return None if data is None else from_json(data)
