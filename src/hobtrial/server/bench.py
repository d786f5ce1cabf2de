"""The Bench: what waits."""

from __future__ import annotations

from ..store import Classes, Exercises, Rounds
from .access import TeacherId
from .answering import Router
from .deps import Parts
from .views import BenchView, ExerciseHead, RoundSummary

router = Router(prefix="/api", tags=["bench"])


@router.get("/bench")
def bench(parts: Parts, teacher_id: TeacherId) -> BenchView:
    """The rounds of a teacher's classes, the newest first, and all exercises."""
    with parts.store.transaction() as connection:
        rows, exercises = Rounds.all(connection, teacher_id), Exercises.newest(connection)
        classes = [row["name"] for row in Classes.of(connection, teacher_id) if row["put_away_at"] is None]
    return BenchView(
        rounds=[RoundSummary(class_name=row.pop("class"), **row) for row in rows],
        exercises=[ExerciseHead(**row) for row in exercises],
        classes=classes,
        marking_trouble=parts.marking.trouble,
    )
