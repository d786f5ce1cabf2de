"""Records → what a student sees of a text that was checked.

Of a scenario that waits for a prediction there is its name only.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from ..core.exercise import Help
from ..core.judging import tidy
from ..core.reporting import (
    Foretold,
    Guess,
    Report,
    SeenFinding,
    SmallStrip,
    for_student,
    foretold,
    must_foretell,
    tries_until,
)
from ..core.script import Unreadable
from ..core.script.read import decode
from ..crew import OpenedExercise
from ..store import Desks
from ..store.store import Connection, Row
from .deps import Services
from .desk_views import CheckedTry, DeskCheck, DeskChecked, DeskFinding, DeskRow, DeskScenarioName, DeskTry
from .trial_views import PredictView


@dataclass(frozen=True)
class KnownOfDesk:
    """What a student expected and asked for in a round, and the reports of what they checked, by digest."""

    guesses: Sequence[Guess]
    steps: Mapping[str, int]
    reports: Mapping[str, Report]


def text_of(source: bytes) -> str:
    """A text as far as it can be read."""
    text = decode(bytes(source))
    return text.text if isinstance(text, Unreadable) else text


def known_of_desk(parts: Services, exercise: OpenedExercise, round_id: int, student_id: int) -> KnownOfDesk:
    """What is known of a desk. Reports are many and long: they are read only where an exercise asks for predictions."""
    asks = any(each.get("predict") for each in exercise.scenarios)
    with parts.store.transaction() as connection:
        checked = Desks.all_checked(connection, round_id, student_id) if asks else []
        return _known(connection, round_id, student_id, checked)


def _known(connection: Connection, round_id: int, student_id: int, checked: Sequence[Row]) -> KnownOfDesk:
    return KnownOfDesk(
        guesses=[
            Guess(each["scenario"], each["digest"], each["guesses"])
            for each in Desks.guesses(connection, round_id, student_id)
        ],
        steps=Desks.steps(connection, round_id, student_id),
        reports={each["digest"]: found for each in checked if (found := each["report"] or each["first"]) is not None},
    )


def waiting(exercise: OpenedExercise, number: int, digest: str, known: KnownOfDesk) -> bool:
    """Whether a scenario waits for a prediction before its run is shown."""
    if not exercise.scenarios[number].get("predict"):
        return False
    return must_foretell(number, known.guesses, digest, known.reports)


def seen_of_desk(connection: Connection, exercise: OpenedExercise, round_id: int, student_id: int) -> list[CheckedTry]:
    """The texts that a student checked, the oldest first, with the marks of the scenarios that are shown."""
    checked = Desks.all_checked(connection, round_id, student_id)
    known = _known(connection, round_id, student_id, checked)
    found = []
    for row in checked:
        rows = _rows(exercise, row, known)
        told = [each for each in rows if not each.waits]
        least = min(told, key=lambda each: each.marks - each.out_of, default=None)
        marked = row["report"] or row["first"]
        found.append(
            CheckedTry(
                id=row["id"],
                number=row["number"],
                made_at=row["made_at"],
                marks=tidy(sum(each.marks for each in told)) if marked is not None else None,
                out_of=tidy(sum(each.out_of for each in rows)),
                small=least.small if least is not None else None,
            )
        )
    return found


def checked_view(exercise: OpenedExercise, row: Row, known: KnownOfDesk) -> DeskChecked:
    """One text that was checked. `row` is that of `Desks.checked`, with `report` or `first` in it."""
    report: Report | None = row["report"]
    first: Report = report or row["first"]
    visible = [bool(each["visible"]) for each in exercise.scenarios]
    rows = _rows(exercise, row, known)
    waits = {each.number for each in rows if each.waits}
    seen = for_student(report, exercise.help, row["number"], visible, known.steps)
    fault = first.fault
    return DeskChecked(
        id=row["id"],
        number=row["number"],
        source=text_of(row["source"]),
        status=first.status,
        unmarked=fault.message if fault is not None else "",
        problems=list(first.problems),
        scenarios=rows,
        marks=tidy(sum(each.marks for each in rows if not each.waits)) if fault is None else None,
        out_of=tidy(sum(each.out_of for each in rows)),
        findings=_findings(report, seen.findings, waits) if report is not None else None,
        tries_until=list(tries_until(exercise.help, row["number"])),
        advice=[each.text for each in first.advice],
    )


def everything_of(
    exercise: OpenedExercise, source: bytes, report: Report, small: list[dict[str, Any]], *, explained: bool = True
) -> DeskChecked:
    """The same for a teacher: all scenarios, and all that was found."""
    shown = [{**each, "visible": True, "predict": None} for each in exercise.scenarios]
    steps = {found.key: 3 for found in report.findings}
    row = {"id": 0, "number": 1, "source": source, "digest": "", "first": report, "small": small}
    row["report"] = report if explained else None
    whole = replace(exercise, scenarios=shown, help=Help(after=(0, 0, 0)))
    return checked_view(whole, row, KnownOfDesk([], steps, {}))


def scenario_names(exercise: OpenedExercise, *, hidden_too: bool = False) -> list[DeskScenarioName]:
    """The scenarios that students see, or all of them."""
    return [
        DeskScenarioName(
            number=number,
            name=each["name"],
            predict=PredictView(**each["predict"]) if each.get("predict") and not hidden_too else None,
        )
        for number, each in enumerate(exercise.scenarios)
        if each["visible"] or hidden_too
    ]


def _rows(exercise: OpenedExercise, row: Row, known: KnownOfDesk) -> list[DeskRow]:
    report: Report | None = row["report"] or row["first"]
    scenarios = report.scenarios if report is not None else ()
    mine = {guess.scenario: guess.guesses for guess in known.guesses if guess.digest == row["digest"]}
    predicted = {each.scenario: each for each in foretold(report, mine)} if report is not None else {}
    found = []
    for number, given in enumerate(exercise.scenarios):
        if not given["visible"]:
            continue
        waits = waiting(exercise, number, row["digest"], known)
        told = scenarios[number] if number < len(scenarios) and not waits else None
        small = (row["small"] or [])[number : number + 1] if told is not None else []
        found.append(
            DeskRow(
                number=number,
                name=given["name"],
                waits=waits,
                predict=PredictView(**given["predict"]) if given.get("predict") else None,
                guesses=dict(mine.get(number, {})),
                came=dict(predicted[number].right) if told is not None and number in predicted else {},
                foretold=_marks_of(predicted.get(number)) if told is not None else (0, 0),
                marks=told.marks if told is not None else 0,
                out_of=tidy(sum(each["marks"] for each in given["checks"])),
                checks=[DeskCheck(verdict=each.verdict, because=each.because) for each in told.checks] if told else [],
                small=_small(small[0]) if small else None,
            )
        )
    return found


def _marks_of(predicted: Foretold | None) -> tuple[float, float]:
    return (predicted.marks, predicted.out_of) if predicted is not None else (0, 0)


def _small(data: dict[str, Any]) -> SmallStrip:
    return SmallStrip(
        data["name"], data["last"], tuple((f, v) for f, v in data["line"]), tuple((f, v) for f, v in data["pins"])
    )


def _findings(report: Report, seen: Sequence[SeenFinding], waits: set[int]) -> list[DeskFinding]:
    """Those that a visible scenario shows, but for scenarios that wait for a prediction."""
    return [
        DeskFinding(
            index=index,
            marks_lost=each.marks_lost,
            scenarios=list(each.scenarios),
            step=each.step,
            scenario=each.scenario,
            frame=each.frame,
            nudge=each.nudge,
            happened=list(each.happened),
            title=each.title,
            pointer=each.pointer,
            lines=list(report.findings[index].lines) if each.pointer is not None else [],
            fix=list(each.fix) if each.fix is not None else None,
            certain=each.certain,
        )
        for index, each in enumerate(seen)
        if each.seen and each.scenario not in waits
    ]


def handed_in_try(row: Row, times: Row) -> DeskTry:
    """A try as its student sees it; `times` are those of its round. Marks are told once they are given back."""
    report = row["report"] if times["given_back_at"] is not None else None
    return DeskTry(
        id=row["id"],
        number=row["number"],
        handed_in_at=row["handed_in_at"],
        late=times["due_at"] is not None and row["handed_in_at"] > times["due_at"],
        with_name=row["with_name"],
        marks=report.marks if isinstance(report, Report) else None,
        own_marks=row["own_marks"] if times["given_back_at"] is not None else None,
    )
