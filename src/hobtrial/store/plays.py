"""Games that were played by hand and kept."""

from __future__ import annotations

from typing import Any, Final

from psycopg.types.json import Jsonb

from .store import Link, Row, queries

_SQL: Final = queries("plays")


class Plays:
    """What is kept of games by hand. Every call joins the transaction of the link it is given."""

    @staticmethod
    def keep(link: Link, version: int, source: bytes, scenario: dict[str, Any]) -> int:
        """Keeps a game as a script and the scenario that plays it again."""
        return int(_SQL.add_play(link, version_id=version, source=source, scenario=Jsonb(scenario))["id"])

    @staticmethod
    def one(link: Link, number: int) -> Row | None:
        """A game with its version, source and scenario."""
        row: Row | None = _SQL.one_play(link, play_id=number)
        return row

    @staticmethod
    def script(link: Link, version: int, try_id: int | None) -> bytes:
        """The text of a try of that version, else the version's starter, else nothing."""
        row = _SQL.script_of_try(link, version_id=version, try_id=try_id) if try_id is not None else None
        row = row or _SQL.starter_of_version(link, version_id=version)
        return bytes(row["source"]) if row is not None else b""
