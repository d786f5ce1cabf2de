"""Drafts of exercises: their files after every change, with undo and redo."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

from psycopg.types.json import Jsonb

from ..core.words import UsageError
from .store import Connection, Row, queries

_SQL: Final = queries("drafts")
MOST_DRAFTS: Final = 200
"""Drafts of one teacher."""


class StaleDraftError(Exception):
    """A draft was changed by somebody else since it was looked at."""


@dataclass(frozen=True)
class Draft:
    """A draft as it is now. `words` are those of the last change, `next_words` those of the one that was undone."""

    id: int
    slug: str
    at: int
    last: int
    words: str
    next_words: str | None
    changed_at: datetime
    files: dict[str, bytes]


class Drafts:
    """What is kept of drafts. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def begin(connection: Connection, teacher_id: int, slug: str, files: dict[str, bytes], words: str) -> int:
        """A new draft of a teacher with these files. Gives its id. Raises `UsageError` where there are too many."""
        held = _SQL.hold_teacher(connection, teacher_id=teacher_id)
        if held["drafts"] >= MOST_DRAFTS:
            raise UsageError(f"you have {MOST_DRAFTS} drafts already; take some away first")
        draft_id = int(_SQL.add_draft(connection, slug=slug, teacher_id=teacher_id)["id"])
        _keep(connection, draft_id, 0, files, words)
        return draft_id

    @staticmethod
    def one(connection: Connection, draft_id: int) -> Draft | None:
        """A draft as it is now."""
        row: Row | None = _SQL.one_draft(connection, draft_id=draft_id)
        if row is None:
            return None
        digests: dict[str, str] = row["files"]
        found = _SQL.blobs_of(connection, draft_id=draft_id, digests=list(digests.values()))
        blobs = {each["digest"]: bytes(each["content"]) for each in found}
        files = {name: blobs[digest] for name, digest in digests.items()}
        return Draft(
            row["id"], row["slug"], row["at"], row["last"], row["words"], row["next_words"], row["changed_at"], files
        )

    @staticmethod
    def change(connection: Connection, draft_id: int, at: int, files: dict[str, bytes], words: str) -> None:
        """Keeps a change that was made on step `at`; what was undone there is gone. Raises `StaleDraftError`."""
        _hold(connection, draft_id, at)
        _SQL.forget_later(connection, draft_id=draft_id, number=at)
        _keep(connection, draft_id, at + 1, files, words)
        _SQL.go_to(connection, draft_id=draft_id, at=at + 1)

    @staticmethod
    def step(connection: Connection, draft_id: int, at: int, by: int) -> None:
        """Undoes (-1) the change that led to step `at`, or makes the next one again (+1). Raises `StaleDraftError`."""
        _hold(connection, draft_id, at)
        row = _SQL.one_draft(connection, draft_id=draft_id)
        if 0 <= at + by <= row["last"]:
            _SQL.go_to(connection, draft_id=draft_id, at=at + by)

    @staticmethod
    def all(connection: Connection, teacher_id: int) -> list[Row]:
        """A teacher's drafts, the one that was changed last first: id, slug, when, and the bytes of the settings.

        `unfit` says why it cannot be set as it is now: empty where it can, nothing where nobody asked since.
        """
        return list(_SQL.all_drafts(connection, teacher_id=teacher_id))

    @staticmethod
    def say_unfit(connection: Connection, draft_id: int, at: int, unfit: str) -> None:
        """Keeps why a draft cannot be set as it is in one of its steps; empty where it can."""
        _SQL.say_unfit(connection, draft_id=draft_id, at=at, unfit=unfit)

    @staticmethod
    def remove(connection: Connection, draft_id: int) -> None:
        """Takes a draft away with its history."""
        _SQL.remove_draft(connection, draft_id=draft_id)

    @staticmethod
    def begin_proof(connection: Connection, draft_id: int, digest: str, state: str, whole: Any) -> None:
        """Notes that the proof of a draft with these files begins; one of other files ends."""
        _SQL.set_proof(connection, draft_id=draft_id, digest=digest, state=state, whole=Jsonb(whole))

    @staticmethod
    def prove_on(connection: Connection, draft_id: int, digest: str, state: str, whole: Any) -> bool:
        """Notes how far a proof has come. Whether it is still wanted."""
        row = _SQL.goes_on(connection, draft_id=draft_id, digest=digest, state=state, whole=Jsonb(whole))
        return row is not None

    @staticmethod
    def proof(connection: Connection, draft_id: int) -> Row | None:
        """How far the proof of a draft has come, and for how many seconds nobody has said so."""
        row: Row | None = _SQL.one_proof(connection, draft_id=draft_id)
        return row


def _hold(connection: Connection, draft_id: int, at: int) -> None:
    row = _SQL.hold_draft(connection, draft_id=draft_id)
    if row is None or row["at"] != at:
        raise StaleDraftError


def _keep(connection: Connection, draft_id: int, number: int, files: dict[str, bytes], words: str) -> None:
    digests = {name: hashlib.sha256(data).hexdigest() for name, data in files.items()}
    for name, data in files.items():
        _SQL.add_blob(connection, draft_id=draft_id, digest=digests[name], content=data)
    _SQL.add_step(connection, draft_id=draft_id, number=number, words=words[:200], files=Jsonb(digests))
