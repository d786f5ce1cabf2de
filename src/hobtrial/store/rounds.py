"""Rounds and tries."""

from __future__ import annotations

import hashlib
from typing import Final

from psycopg.types.json import Jsonb

from ..core.reporting import Report
from .read_reports import with_report, with_reports
from .store import Connection, Row, queries

_SQL: Final = queries("rounds")


class Rounds:
    """What is kept of rounds. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def open(connection: Connection, class_id: int, version_id: int) -> int:
        """The round of a class at a version, made if it is not there yet."""
        return int(_SQL.add_round(connection, class_id=class_id, version_id=version_id)["id"])

    @staticmethod
    def date_back(connection: Connection, round_id: int, days: int) -> None:
        """Lets a round have been opened so many days earlier."""
        _SQL.date_back(connection, round_id=round_id, days=days)

    @staticmethod
    def hand_in(connection: Connection, round_id: int, student_id: int, file_name: str, source: bytes) -> int:
        """Keeps a try; the same text as a student's last try is not kept twice. Gives its id."""
        digest = hashlib.sha256(source).hexdigest()
        last = _SQL.last_submission(connection, round_id=round_id, student_id=student_id)
        if last is not None and last["digest"] == digest:
            return int(last["id"])
        made = _SQL.add_submission(
            connection, round_id=round_id, student_id=student_id, file_name=file_name, source=source, digest=digest
        )
        return int(made["id"])

    @staticmethod
    def all(connection: Connection, teacher_id: int) -> list[Row]:
        """All rounds of a teacher's classes, the newest first; not of those that are put away."""
        return list(_SQL.all_rounds(connection, teacher_id=teacher_id))

    @staticmethod
    def of_class(connection: Connection, class_id: int) -> list[Row]:
        """The rounds of a class, the oldest first."""
        return list(_SQL.rounds_of_class(connection, class_id=class_id))

    @staticmethod
    def of_student(connection: Connection, student_id: int) -> tuple[list[Row], list[Row]]:
        """The rounds of a student's class, the newest first, and all tries of the student."""
        tries = Rounds.tries(connection, student_id)
        return list(_SQL.rounds_of_student(connection, student_id=student_id)), tries

    @staticmethod
    def tries(connection: Connection, student_id: int, round_id: int | None = None) -> list[Row]:
        """The tries of a student, in one round or in all; `report` as in `submissions`."""
        return with_reports(connection, _SQL.tries_of_student(connection, student_id=student_id, round_id=round_id))

    @staticmethod
    def one(connection: Connection, round_id: int) -> Row | None:
        """One round with its exercise."""
        row: Row | None = _SQL.one_round(connection, round_id=round_id)
        return row

    @staticmethod
    def state(connection: Connection, round_id: int) -> str:
        """What tells one state of a round's page from any other; nothing where there is no such round."""
        row = _SQL.state(connection, round_id=round_id)
        return "" if row is None else str(row["state"])

    @staticmethod
    def submissions(connection: Connection, round_id: int) -> list[Row]:
        """The last try of each student, by name; `report` is a `Report`, or None for one that waits."""
        return with_reports(connection, _SQL.latest_submissions(connection, round_id=round_id))

    @staticmethod
    def one_submission(connection: Connection, submission_id: int) -> Row | None:
        """One try with its text and its report."""
        row: Row | None = _SQL.one_submission(connection, submission_id=submission_id)
        return None if row is None else with_report(connection, row)

    @staticmethod
    def others_with(connection: Connection, round_id: int, submission_id: int) -> dict[str, int]:
        """For each key of a finding how many other students of the round have it in their last try."""
        return {
            row["key"]: row["others"]
            for row in _SQL.others_with(connection, round_id=round_id, submission_id=submission_id)
        }

    @staticmethod
    def neighbours(connection: Connection, round_id: int) -> list[Row]:
        """The last try of each student, by name: ids and names only."""
        return list(_SQL.neighbours(connection, round_id=round_id))

    @staticmethod
    def newest(connection: Connection, version_id: int) -> Row:
        """Id and number of the newest version of the same exercise."""
        row: Row = _SQL.newest_version(connection, version_id=version_id)
        return row

    @staticmethod
    def renew(connection: Connection, round_id: int, version_id: int) -> bool:
        """Lets a round go on with a newer version; not where the class has a round of that version already."""
        if _SQL.other_round(connection, round_id=round_id, version_id=version_id) is not None:
            return False
        _SQL.renew_round(connection, round_id=round_id, version_id=version_id)
        return True

    @staticmethod
    def reports_before(connection: Connection, round_id: int) -> dict[int, Report]:
        """The reports of the last tries with the version before, by try."""
        rows = with_reports(connection, _SQL.reports_before(connection, round_id=round_id))
        return {row["id"]: row["report"] for row in rows}

    @staticmethod
    def set_own(connection: Connection, submission_id: int, marks: float | None, comment: str, by: str) -> None:
        """Keeps a teacher's own mark and comment on a try, with who and when; neither of them takes them back."""
        if marks is None and not comment:
            _SQL.forget_own(connection, submission_id=submission_id)
        else:
            _SQL.set_own(connection, submission_id=submission_id, marks=marks, comment=comment, by=by)

    @staticmethod
    def withdrawn(connection: Connection, round_id: int) -> set[tuple[str, str | None]]:
        """Keys of withdrawn findings, each with the student, or none for everybody."""
        return {(row["key"], row["student"]) for row in _SQL.withdrawn(connection, round_id=round_id)}

    @staticmethod
    def set_withdrawn(
        connection: Connection, round_id: int, key: str, submission_id: int | None, withdrawn: bool, by: str
    ) -> None:
        """Withdraws a finding, or puts it back: for the student of a try, or for everybody."""
        if withdrawn:
            _SQL.withdraw(connection, round_id=round_id, submission_id=submission_id, key=key, by=by)
        else:
            _SQL.put_back(connection, round_id=round_id, submission_id=submission_id, key=key)

    @staticmethod
    def predict(connection: Connection, submission_id: int, scenario: int, guesses: dict[str, str], by: str) -> None:
        """Keeps what was predicted for a scenario of a try, before the run was seen."""
        _SQL.set_prediction(connection, submission_id=submission_id, scenario=scenario, guesses=Jsonb(guesses), by=by)

    @staticmethod
    def predictions(connection: Connection, round_id: int) -> dict[int, dict[int, dict[str, str]]]:
        """What was predicted in a round: for each try, for each scenario, the values by name."""
        found: dict[int, dict[int, dict[str, str]]] = {}
        for row in _SQL.predictions(connection, round_id=round_id):
            found.setdefault(row["submission_id"], {})[row["scenario"]] = row["guesses"]
        return found

    @staticmethod
    def submission_before(connection: Connection, submission_id: int) -> Row | None:
        """The same student's try before a try, with its text and report."""
        row: Row | None = _SQL.submission_before(connection, submission_id=submission_id)
        return None if row is None else with_report(connection, row)

    @staticmethod
    def unmarked(connection: Connection, round_id: int) -> list[tuple[int, str]]:
        """Version and digest of the texts of a round that wait to be marked."""
        return [(row["version_id"], row["digest"]) for row in _SQL.unmarked(connection, round_id=round_id)]

    @staticmethod
    def version_for(connection: Connection, round_id: int, student_id: int) -> int | None:
        """The version that a student has in a round; nothing where there is no such round."""
        row = _SQL.version_for(connection, round_id=round_id, student_id=student_id)
        return None if row is None else int(row["version_id"])

    @staticmethod
    def set_level(connection: Connection, round_id: int, student_id: int, level: str | None) -> None:
        """Gives a student a level for a round; nothing: the one that they have in the class."""
        _SQL.set_level(connection, round_id=round_id, student_id=student_id, level=level)

    @staticmethod
    def levels(connection: Connection, round_id: int) -> list[Row]:
        """The level of each student of a round: in it, and in the class."""
        return list(_SQL.levels_of_everybody(connection, round_id=round_id))

    @staticmethod
    def all_unmarked(connection: Connection) -> list[tuple[int, str]]:
        """Version and digest of everything that waits to be marked."""
        return [(row["version_id"], row["digest"]) for row in _SQL.all_unmarked(connection)]

    @staticmethod
    def mark_again(connection: Connection, round_id: int) -> None:
        """Forgets the reports of a round, and what could not be marked in it, and notes that its marking begins."""
        _SQL.forget_reports(connection, round_id=round_id)
        _SQL.forget_unmarked_of(connection, round_id=round_id)
        _SQL.marking_begins(connection, round_id=round_id)
