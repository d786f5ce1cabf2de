"""The Bench: what waits."""

from __future__ import annotations

from fastapi import APIRouter

from ..store import Rounds
from .deps import Parts
from .views import BenchView, RoundSummary

router = APIRouter(prefix="/api", tags=["bench"])


@router.get("/bench")
def bench(parts: Parts) -> BenchView:
    """All rounds, the newest first."""
    with parts.store.transaction() as link:
        rows = Rounds.all(link)
    return BenchView(rounds=[RoundSummary(class_name=row.pop("class"), **row) for row in rows])
