"""What marks: servers and workers on any machine, each with what it does just now."""

from __future__ import annotations

from typing import Final

from .store import Connection, Row, queries

_SQL: Final = queries("markers")
GONE_SECONDS: Final = 300.0
"""After so long without a word, one is not listed any more."""


class Markers:
    """What is kept of those that mark. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def begin(connection: Connection, name: str, processes: int) -> int:
        """One more that marks. Gives its number."""
        _SQL.forget_gone(connection, seconds=GONE_SECONDS)
        return int(_SQL.begin_marker(connection, name=name, processes=processes)["id"])

    @staticmethod
    def say(connection: Connection, marker_id: int, *, doing: int, done: int, last_error: str) -> bool | None:
        """Notes what one does. Whether it is to stop; nothing where it is not known any more."""
        row = _SQL.say(connection, marker_id=marker_id, doing=doing, done=done, last_error=last_error)
        return None if row is None else bool(row["stopped"])

    @staticmethod
    def end(connection: Connection, marker_id: int) -> None:
        """One has ended."""
        _SQL.end_marker(connection, marker_id=marker_id)

    @staticmethod
    def all(connection: Connection) -> list[Row]:
        """All that mark, the oldest first, each with for how many seconds it has said nothing."""
        return list(_SQL.all_markers(connection))

    @staticmethod
    def stop(connection: Connection, marker_id: int, *, stopped: bool) -> bool:
        """Stops one, or lets it go on. Whether it is there."""
        return _SQL.set_stopped(connection, marker_id=marker_id, stopped=stopped) is not None

    @staticmethod
    def waiting(connection: Connection) -> dict[int, int]:
        """How many texts wait, by their priority in the queue."""
        return {int(row["priority"]): int(row["texts"]) for row in _SQL.waiting(connection)}

    @staticmethod
    def last_minute(connection: Connection) -> int:
        """How many texts were marked in the last minute."""
        return int(_SQL.last_minute(connection)["texts"])
