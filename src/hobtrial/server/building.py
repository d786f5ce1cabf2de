"""Values of the core → views: what several routers show alike."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import Final

from ..core.judging import Answer, tidy
from ..core.reporting import Group, PartMarks, Report, Withdrawn, foretold, without
from ..store.store import Row
from .views import FollowUpView, GroupView, Predicted, StudentRow, Typical, VariantView

NO_ROUND: Final = "There is no such round. Choose one on the bench."


def sentence(error: Exception) -> str:
    """What an error of the rooms below says, as a sentence."""
    words = str(error)
    first = words[:1] if "." in words.split(" ")[0] else words[:1].upper()  # a file keeps its name
    return f"{first}{words[1:]}{'' if words.endswith(('.', '?')) else '.'}"


def verdicts_of(report: Report | None, names: Sequence[str] | None = None) -> list[list[Answer]]:
    """The verdicts of a report, a list a scenario; with `names` in that order, and none for what a level leaves out."""
    if report is None:
        return []
    found = {scenario.name: [check.verdict for check in scenario.checks] for scenario in report.scenarios}
    return [found.get(name, []) for name in names] if names is not None and found else list(found.values())


def together(parts: Iterable[Mapping[str, PartMarks]]) -> dict[str, PartMarks]:
    """Marks of all scripts for each concept or task."""
    found: dict[str, tuple[float, float]] = {}
    for part in parts:
        for name, each in part.items():
            marks, out_of = found.get(name, (0, 0))
            found[name] = (marks + each.marks, out_of + each.out_of)
    return {name: PartMarks(tidy(marks), tidy(out_of)) for name, (marks, out_of) in found.items()}


def student_row(
    row: Row, withdrawn: Withdrawn, guesses: Mapping[int, Mapping[str, str]], standing: Row, exercise: Row
) -> StudentRow:
    """A student's last try as the Round shows it. `standing` is the student's own in it, `exercise` the round's row."""
    due_at: datetime | None = exercise["due_at"]
    names = [each["name"] for each in exercise["scenarios"]]
    due = max((each for each in (due_at, standing["due_at"]) if each is not None), default=None)
    report: Report | None = row["report"]
    findings = without(report, row["student"], withdrawn).findings if report else ()
    predicted = foretold(report, guesses) if report else []
    return StudentRow(
        submission_id=row["id"],
        student_id=row["student_id"],
        late=due is not None and row["handed_in_at"] > due,
        with_name=row["with_name"],
        given_back=standing["given_back_at"] is not None,
        reply=row["reply"],
        student=row["student"],
        number=row["number"],
        status=report.status if report else "waiting",
        marks=report.marks if report else None,
        fault=(report.fault or report.unexplained) if report else None,
        own_marks=row["own_marks"],
        verdicts=verdicts_of(report, names),
        out_of=report.out_of if report else exercise["out_of"],
        craft=list(report.craft) if report else [],
        first=findings[0].title if findings else None,
        groups=list(dict.fromkeys(finding.idea for finding in findings)),
        predicted=[
            Predicted(
                scenario=names.index(name),
                right=sum(each.right.values()),
                of=each.of,
                marks=each.marks,
                out_of=each.out_of,
            )
            for each in predicted
            if report is not None and (name := report.scenarios[each.scenario].name) in names
        ],
    )


def group_view(
    group: Group[int], report: Report, *, withdrawn: bool = False, follow_up: Row | None = None
) -> GroupView:
    """A group of findings; `report` is that of its typical script, whose trial opens."""
    finding = group.finding
    typical = None
    if finding.scenario is not None:
        trial = report.scenarios[finding.scenario].look_at
        typical = Typical(submission_id=group.typical, scenario=finding.scenario, trial=trial, frame=finding.frame)
    elif finding.slip == "unreadable":
        typical = Typical(submission_id=group.typical, scenario=0, trial=0, frame=None)
    return GroupView(
        key=group.key,
        slip=group.slip,
        title=group.title,
        confidence=group.confidence,
        submission_ids=list(group.owners),
        marks_lost=group.marks_lost,
        excerpt=finding.excerpt or None,
        variants=[VariantView(excerpt=each.excerpt, scripts=len(each.owners)) for each in group.variants],
        pointer=finding.pointer,
        typical=typical,
        withdrawn=withdrawn,
        follow_up=FollowUpView(
            round_id=follow_up["id"], **{key: follow_up[key] for key in ("students", "handed_in", "helped")}
        )
        if follow_up is not None
        else None,
    )
