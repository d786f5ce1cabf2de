"""The lesson: times of a round, who is at what, giving back, and the ledger of a class."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime
from typing import Final

from .read_reports import with_reports
from .store import Connection, Row, queries

_SQL: Final = queries("lessons")


class Lessons:
    """What is kept for a lesson. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def set_times(
        connection: Connection,
        round_id: int,
        *,
        opens_at: datetime | None,
        due_at: datetime | None,
        closes_at: datetime | None,
        shows_hidden: bool,
        watches: bool,
    ) -> None:
        """When a round opens, is due and closes, whether hidden results are told, and whether drafts are watched."""
        _SQL.set_times(
            connection,
            round_id=round_id,
            opens_at=opens_at,
            due_at=due_at,
            closes_at=closes_at,
            shows_hidden=shows_hidden,
            watches=watches,
        )

    @staticmethod
    def set_standing(
        connection: Connection, round_id: int, student_id: int, *, excused: bool, due_at: datetime | None
    ) -> None:
        """Excuses a student from a round, or gives them a later date."""
        _SQL.set_standing(connection, round_id=round_id, student_id=student_id, excused=excused, due_at=due_at)

    @staticmethod
    def give_back(connection: Connection, round_id: int, student_id: int | None, *, back: bool) -> None:
        """Gives marks and findings back: to everybody or to one student; or takes them back from everybody."""
        if student_id is not None:
            _SQL.give_back_to(connection, round_id=round_id, student_id=student_id)
        elif back:
            _SQL.give_back(connection, round_id=round_id)
        else:
            _SQL.take_back(connection, round_id=round_id)
            _SQL.take_back_from_all(connection, round_id=round_id)

    @staticmethod
    def set_reply(connection: Connection, submission_id: int, reply: str) -> None:
        """Keeps the one line that a student answers."""
        _SQL.set_reply(connection, submission_id=submission_id, reply=reply)

    @staticmethod
    def copy(connection: Connection, round_id: int, class_id: int) -> int:
        """The same exercise for another class. Gives the round."""
        return int(_SQL.copy_round(connection, round_id=round_id, class_id=class_id)["id"])

    @staticmethod
    def follow(
        connection: Connection, round_id: int, *, follows_id: int, key: str, student_ids: Collection[int]
    ) -> None:
        """Lets a round be the follow-up of a group of findings in another round, for these students."""
        _SQL.follow(
            connection, round_id=round_id, follows_id=follows_id, follows_key=key, student_ids=list(student_ids)
        )

    @staticmethod
    def follow_ups(connection: Connection, round_id: int) -> dict[str, Row]:
        """The follow-ups of a round by the key of their group: for how many, handed in, and helped."""
        return {row["key"]: row for row in _SQL.follow_ups(connection, round_id=round_id)}

    @staticmethod
    def everybody(connection: Connection, round_id: int) -> list[Row]:
        """Everybody whom a round is for, by name, with how they stand and what they are at."""
        return list(_SQL.everybody(connection, round_id=round_id))

    @staticmethod
    def saw(connection: Connection, round_id: int, student_id: int, doing: str) -> None:
        """Notes that a student was seen at their desk, and at what."""
        _SQL.saw(connection, round_id=round_id, student_id=student_id, doing=doing)

    @staticmethod
    def checked_since(connection: Connection, round_id: int, since: datetime) -> list[Row]:
        """The checks of a round since a time, the oldest first: marks, keys of findings and their titles."""
        return list(_SQL.checked_since(connection, round_id=round_id, since=since))

    @staticmethod
    def latest_checked(connection: Connection, round_id: int) -> list[Row]:
        """What each student checked last: text and report."""
        return with_reports(connection, _SQL.latest_checked(connection, round_id=round_id))

    @staticmethod
    def desk_text(connection: Connection, round_id: int, student_id: int) -> Row | None:
        """What a student has at their desk now."""
        row: Row | None = _SQL.one_desk_text(connection, round_id=round_id, student_id=student_id)
        return row

    @staticmethod
    def sheets(connection: Connection, round_id: int) -> list[Row]:
        """The last try of each student, by name, with all that a feedback sheet has."""
        return with_reports(connection, _SQL.sheets(connection, round_id=round_id))

    @staticmethod
    def ledger(connection: Connection, class_id: int) -> tuple[list[Row], list[Row], set[tuple[int, int]], list[Row]]:
        """The rounds of a class, its cells (the last try of each student in each), who is excused of which round,
        and how many students had each finding.
        """
        excused = {(row["round_id"], row["student_id"]) for row in _SQL.ledger_excused(connection, class_id=class_id)}
        return (
            list(_SQL.ledger_rounds(connection, class_id=class_id)),
            list(_SQL.ledger_cells(connection, class_id=class_id)),
            excused,
            list(_SQL.ledger_findings(connection, class_id=class_id)),
        )
