"""The findings of a class, grouped: what most scripts have in common is what to teach next."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Iterable
from dataclasses import dataclass
from typing import Generic, TypeVar

from ..explaining import Confidence, idea_words
from .report import FindingReport, Marks, Report

Owner = TypeVar("Owner", bound=Hashable)


@dataclass(frozen=True, slots=True)
class Variant(Generic[Owner]):
    """One way in which an idea went wrong: the same line, or the same words where there is none."""

    excerpt: str
    title: str
    owners: tuple[Owner, ...]


@dataclass(frozen=True, slots=True)
class Group(Generic[Owner]):
    """Findings with the same slip: what a teacher can say to all of them is the idea."""

    key: str
    slip: str
    title: str
    confidence: Confidence
    owners: tuple[Owner, ...]
    marks_lost: Marks
    variants: tuple[Variant[Owner], ...]
    """The ways in which it went wrong, the commonest first."""
    typical: Owner
    finding: FindingReport
    """The finding of the typical script, of the commonest variant: it stands for the group."""


def groups(reports: Iterable[tuple[Owner, Report]]) -> list[Group[Owner]]:
    """Groups of findings over the reports of a class: those that most have first, then those that cost most."""
    members: dict[str, list[tuple[Owner, FindingReport]]] = {}
    for owner, report in reports:
        for finding in report.findings:
            members.setdefault(finding.idea, []).append((owner, finding))
    found = [_group(key, entries) for key, entries in members.items()]
    return sorted(found, key=lambda group: (-len(group.owners), -group.marks_lost, group.key))


def _group(key: str, entries: list[tuple[Owner, FindingReport]]) -> Group[Owner]:
    """The typical script has the group's commonest line, else its commonest title."""
    ways = Counter(_excerpt(finding) for _, finding in entries)
    ordered = [way for way, _ in ways.most_common()]
    variants = [_variant(way, [entry for entry in entries if _excerpt(entry[1]) == way]) for way in ordered]
    typical, finding = next((owner, finding) for owner, finding in entries if _excerpt(finding) == ordered[0])
    titles = {each.for_class for _, each in entries}
    return Group(
        key=key,
        slip=finding.slip,
        title=finding.for_class if len(titles) == 1 else idea_words(finding.slip, finding.for_class),
        confidence=finding.confidence,
        owners=tuple(dict.fromkeys(owner for owner, _ in entries)),
        marks_lost=sum(finding.marks_lost for _, finding in entries),
        variants=tuple(variants),
        typical=typical,
        finding=finding,
    )


def _variant(way: str, entries: list[tuple[Owner, FindingReport]]) -> Variant[Owner]:
    return Variant(way, entries[0][1].title, tuple(dict.fromkeys(owner for owner, _ in entries)))


def _excerpt(finding: FindingReport) -> str:
    """The line that a finding is about, else its title."""
    return finding.excerpt or finding.title
