"""The Round: a class and an exercise, students down, scenarios across, and the groups of findings."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, HTTPException

from ..core.explaining import Group, groups, key_of
from ..store import Rounds
from ..store.store import Row
from .deps import Parts
from .views import GroupView, RoundView, StudentRow, Typical

router = APIRouter(prefix="/api/rounds", tags=["round"])

NO_ROUND = "There is no such round. Choose one on the bench."


@router.get("/{round_id}")
def one_round(round_id: int, parts: Parts) -> RoundView:
    """A round as far as it is marked."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        tries = Rounds.tries(link, round_id)
    reports = [(each["id"], each["report"]) for each in tries if each["report"] is not None]
    made = [each["made_at"] for each in tries if each["made_at"] is not None]
    took = (max(made) - row["marking_since"]).total_seconds() if len(made) == len(tries) and made else None
    return RoundView(
        id=row["id"],
        title=row["title"],
        version=row["version"],
        class_name=row["class"],
        out_of=row["out_of"],
        opened_at=row["opened_at"],
        trials=len(tries) * len(row["scenarios"]),
        game_seconds=len(tries) * row["seconds"],
        done=len(reports),
        seconds=took if took is not None and took > 0 else None,
        scenarios=row["scenarios"],
        students=[_student(each) for each in tries],
        groups=[_group(group) for group in groups(reports)],
    )


@router.post("/{round_id}/mark", status_code=202)
def mark_again(round_id: int, parts: Parts) -> dict[str, int]:
    """Marks a round again: its reports are made anew."""
    with parts.store.transaction() as link:
        row = Rounds.one(link, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        Rounds.mark_again(link, round_id)
        waiting = Rounds.unmarked(link, round_id)
        parts.queue.defer(link, row["version_id"], waiting)
    return {"waiting": len(waiting)}


def verdicts_of(report: dict[str, Any] | None) -> list[list[Any]]:
    """The verdicts of a report, a list a scenario."""
    return [[check["verdict"] for check in scenario["checks"]] for scenario in report["scenarios"]] if report else []


def _student(row: Row) -> StudentRow:
    report = row["report"]
    return StudentRow(
        try_id=row["id"],
        student=row["student"],
        number=row["number"],
        status=report["status"] if report else "waiting",
        marks=report["marks"] if report else None,
        verdicts=verdicts_of(report),
        first=report["findings"][0]["title"] if report and report["findings"] else None,
        groups=list(dict.fromkeys(key_of(finding) for finding in report["findings"])) if report else [],
    )


def _group(group: Group[int]) -> GroupView:
    finding = group.finding
    typical = None
    if finding["scenario"] is not None:
        typical = Typical(try_id=group.typical, scenario=finding["scenario"], frame=finding["frame"])
    elif finding["slip"] == "unreadable":
        typical = Typical(try_id=group.typical, scenario=0, frame=None)
    return GroupView(
        key=group.key,
        slip=group.slip,
        title=group.title,
        confidence=group.confidence,
        tries=list(group.owners),
        marks_lost=group.marks_lost,
        excerpt=finding["fix"]["before"] if finding["fix"] else None,
        pointer=finding["pointer"],
        typical=typical,
    )
