"""The Bench: what waits."""

from __future__ import annotations

from fastapi import APIRouter

from ..store import Exercises, Rounds
from .deps import Parts
from .views import BenchView, ExerciseHead, RoundSummary

router = APIRouter(prefix="/api", tags=["bench"])


@router.get("/bench")
def bench(parts: Parts) -> BenchView:
    """All rounds, the newest first, and all exercises."""
    with parts.store.transaction() as link:
        rows, exercises, classes = Rounds.all(link), Exercises.newest(link), Rounds.classes(link)
    return BenchView(
        rounds=[RoundSummary(class_name=row.pop("class"), **row) for row in rows],
        exercises=[ExerciseHead(**row) for row in exercises],
        classes=classes,
    )
