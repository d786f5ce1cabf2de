"""The findings of a class, grouped: what most scripts have in common is what to teach next."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Iterable
from dataclasses import dataclass
from typing import Generic, TypeVar

from ..explaining import Confidence
from .report import FindingReport, Marks, Report

Owner = TypeVar("Owner", bound=Hashable)


@dataclass(frozen=True, slots=True)
class Group(Generic[Owner]):
    """Findings with the same slip, about the same thing, that explain the same checks."""

    key: str
    slip: str
    title: str
    confidence: Confidence
    owners: tuple[Owner, ...]
    marks_lost: Marks
    typical: Owner
    finding: FindingReport
    """The finding of the typical script: its excerpt stands for the group."""


def groups(reports: Iterable[tuple[Owner, Report]]) -> list[Group[Owner]]:
    """Groups of findings over the reports of a class, those with most marks at stake first."""
    members: dict[str, list[tuple[Owner, FindingReport]]] = {}
    for owner, report in reports:
        for finding in report.findings:
            members.setdefault(finding.key, []).append((owner, finding))
    found = [_group(key, entries) for key, entries in members.items()]
    return sorted(found, key=lambda group: (-group.marks_lost, -len(group.owners), group.key))


def _group(key: str, entries: list[tuple[Owner, FindingReport]]) -> Group[Owner]:
    """The typical script has the group's commonest changed line, else its commonest title."""
    excerpts = Counter(_excerpt(finding) for _, finding in entries)
    commonest = excerpts.most_common(1)[0][0]
    typical, finding = next((owner, finding) for owner, finding in entries if _excerpt(finding) == commonest)
    return Group(
        key=key,
        slip=finding.slip,
        title=finding.for_class,
        confidence=finding.confidence,
        owners=tuple(dict.fromkeys(owner for owner, _ in entries)),
        marks_lost=sum(finding.marks_lost for _, finding in entries),
        typical=typical,
        finding=finding,
    )


def _excerpt(finding: FindingReport) -> str:
    """The line that a finding is about, else its title."""
    return finding.excerpt or finding.title
