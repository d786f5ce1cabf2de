"""Games that were played by hand and kept."""

from __future__ import annotations

from typing import Any, Final

from psycopg.types.json import Jsonb

from .store import Connection, Row, queries

_SQL: Final = queries("plays")


class Plays:
    """What is kept of games by hand. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def keep(
        connection: Connection,
        version_id: int,
        source: bytes,
        scenario: dict[str, Any],
        put: list[list[Any]],
        teacher_id: int | None,
    ) -> int:
        """Keeps a game as a script, the scenario that plays it again, and what was put in place by hand."""
        made = _SQL.add_play(
            connection,
            version_id=version_id,
            source=source,
            scenario=Jsonb(scenario),
            put=Jsonb(put),
            teacher_id=teacher_id,
        )
        return int(made["id"])

    @staticmethod
    def one(connection: Connection, number: int) -> Row | None:
        """A game with its version, source, scenario and what was put in place."""
        row: Row | None = _SQL.one_play(connection, play_id=number)
        return row

    @staticmethod
    def script(connection: Connection, version_id: int, submission_id: int | None, teacher_id: int) -> bytes:
        """The text of a try of that version in a teacher's class, else the version's starter, else nothing."""
        row = (
            _SQL.script_of_submission(
                connection, version_id=version_id, submission_id=submission_id, teacher_id=teacher_id
            )
            if submission_id is not None
            else None
        )
        row = row or _SQL.starter_of_version(connection, version_id=version_id)
        return bytes(row["source"]) if row is not None else b""
