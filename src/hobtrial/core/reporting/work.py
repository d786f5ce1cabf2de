"""A class at work: from the checks of a lesson, who is stuck, and what most have now. Nothing here is a mark."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Final, Literal

from .report import idea_of

SAME_TRIES: Final = 4
"""Checks in a row with the same first finding after which somebody counts as stuck."""
SAME_TIME: Final = timedelta(minutes=10)
"""Time with the same first finding after which somebody counts as stuck, whatever they checked."""
QUIET_TIME: Final = timedelta(minutes=15)
"""Time without a check after which somebody counts as quiet."""


@dataclass(frozen=True, slots=True)
class Checked:
    """One check: when, what it earned, and the findings by key with what a class is told of each."""

    at: datetime
    marks: float | None
    keys: tuple[str, ...]
    titles: tuple[str, ...]
    explained: bool = True
    """Whether its mistakes were looked for: where a newer check came first, they were not."""


@dataclass(frozen=True, slots=True)
class Stuck:
    """Why somebody counts as stuck: the same finding for so many tries, or nothing checked; and since when."""

    why: Literal["same", "quiet"]
    since: datetime
    tries: int
    title: str


@dataclass(frozen=True, slots=True)
class Idea:
    """A finding that students have now: how many, and how many had it and mended it."""

    key: str
    title: str
    students: tuple[int, ...]
    mended: int


def stuck(checks: Sequence[Checked], began: datetime | None, now: datetime) -> Stuck | None:
    """Whether somebody is stuck; `checks` are theirs, the oldest first, `began` is when they came to their desk."""
    last = checks[-1] if checks else None
    since = last.at if last is not None else began
    if since is not None and now - since >= QUIET_TIME:
        return Stuck("quiet", since, 0, "")
    known = [check for check in checks if check.explained]
    if not known or not known[-1].keys:
        return None
    last, first = known[-1], idea_of(known[-1].keys[0])
    run = 0
    for check in reversed(known):
        if not check.keys or idea_of(check.keys[0]) != first:
            break
        run += 1
    begun = known[-run].at
    if run >= SAME_TRIES or (run > 1 and now - begun >= SAME_TIME):
        return Stuck("same", begun, run, last.titles[0] if last.titles else "")
    return None


def ideas_now(checks: Mapping[int, Sequence[Checked]]) -> list[Idea]:
    """The findings of everybody's last check, by idea, those that most have first."""
    have: dict[str, dict[int, str]] = {}
    had: dict[str, set[int]] = {}
    for student, mine in checks.items():
        for check in mine:
            for key in check.keys:
                had.setdefault(idea_of(key), set()).add(student)
        known = [check for check in mine if check.explained]
        if known:
            for key, title in zip(known[-1].keys, known[-1].titles, strict=False):
                have.setdefault(idea_of(key), {}).setdefault(student, title)
    found = [
        Idea(key, _commonest(students.values()), tuple(students), len(had[key] - set(students)))
        for key, students in have.items()
    ]
    return sorted(found, key=lambda idea: (-len(idea.students), idea.key))


def _commonest(titles: Iterable[str]) -> str:
    all_ = list(titles)
    return max(dict.fromkeys(all_), key=all_.count, default="")
