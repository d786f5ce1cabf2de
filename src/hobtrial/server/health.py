"""For whoever looks after the server: whether it is up, and whether it can work."""

from __future__ import annotations

from fastapi import Response
from pydantic import BaseModel

from .answering import Router
from .deps import Parts

router = Router(tags=["health"])


class Up(BaseModel):
    """The server answers."""

    up: bool


class Ready(BaseModel):
    """What the server needs: the database, and workers that mark."""

    database: bool
    marking: bool
    why_not: str | None
    """Why marking is not running."""


@router.get("/healthz")
def healthz() -> Up:
    """Whether the server is up."""
    return Up(up=True)


@router.get("/readyz", responses={503: {"model": Ready}})
def readyz(response: Response, parts: Parts) -> Ready:
    """Whether the database and the crew are there."""
    found = Ready(database=parts.store.there(), marking=parts.marking.runs, why_not=parts.marking.trouble)
    if not (found.database and found.marking):
        response.status_code = 503
    return found
