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
    with parts.store.transaction() as connection:
        rows, exercises, classes = Rounds.all(connection), Exercises.newest(connection), Rounds.classes(connection)
    return BenchView(
        rounds=[RoundSummary(class_name=row.pop("class"), **row) for row in rows],
        exercises=[ExerciseHead(**row) for row in exercises],
        classes=classes,
    )
