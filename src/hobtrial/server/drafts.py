"""A draft as what is read of it, and as something to play."""

from __future__ import annotations

import asyncio
from typing import Any, Final

from fastapi import HTTPException

from ..core.exercise import ExerciseError
from ..store import Draft, Drafts
from .deps import Services
from .plays import Playable

NO_DRAFT: Final = "There is no such draft. Choose one on the bench."
NOT_PLAYABLE: Final = "This draft cannot be played yet; mend what is said of it first."


class DraftPlayable(Playable):
    """A draft that its author plays: what is played goes back to the page, which makes it the inputs of a scenario."""

    shows_what_is_kept = True

    async def keep(self, source: bytes, scenario: dict[str, Any], put: list[list[Any]]) -> int:
        """Nothing is kept here."""
        return 0


def read_draft(parts: Services, draft_id: int) -> Draft:
    """A draft as it is now. Raises `HTTPException` where there is none."""
    with parts.store.transaction() as connection:
        found = Drafts.one(connection, draft_id) if 0 <= draft_id < 2**31 else None
    if found is None:
        raise HTTPException(404, NO_DRAFT)
    return found


async def playable_draft(parts: Services, draft_id: int) -> Playable:
    """A draft as it is now, to be played. Raises `HTTPException` where it cannot."""
    draft = await asyncio.to_thread(read_draft, parts, draft_id)
    try:
        return DraftPlayable(await parts.crew.open(draft.files), 0)
    except ExerciseError:
        raise HTTPException(409, NOT_PLAYABLE) from None
