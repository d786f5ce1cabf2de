"""A scenario made ready: its trials, its checks, and what every trial must look at."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..events import Event
from ..exercise import Case, Check, Fault, Input, Lines, Scenario, Settings, Wild
from ..exercise.files import SETTINGS
from ..trial import Arrangement, Observable, Plan, variable
from ..words import frame_of
from .checks import PreparedCheck, read_case, read_check
from .expectation import read_predicted
from .inputs import read_inputs
from .names import ExpectationError, Surroundings, read_arrangement
from .wild import drawn, wild_plan

Complain = Callable[..., None]


@dataclass(frozen=True, eq=False)
class PreparedScenario:
    """A scenario made ready. It has one trial, or several: a case, an order or a wild run each."""

    spec: Scenario
    plans: tuple[Plan, ...]
    labels: tuple[str, ...]
    """What tells the trials of one scenario apart: `score = 4`, or `oven, bell`; empty where there is one."""
    checks: tuple[PreparedCheck, ...]
    observe: tuple[Observable, ...]
    each: Mapping[Event, tuple[Observable, ...]]

    @property
    def plan(self) -> Plan:
        """The first trial."""
        return self.plans[0]


def prepare_scenario(
    settings: Settings, number: int, names: Surroundings, lines: Lines, faults: list[Fault]
) -> PreparedScenario:
    """Makes a scenario ready; what is wrong with it goes to `faults`."""
    scenario = settings.scenario[number]

    def complain(message: str, *where: str | int) -> None:
        faults.append(Fault(SETTINGS, lines.of(("scenario", number, *where)), message))

    if settings.style == "straight" and scenario.arrange:
        complain("`arrange` does not go with a straight script: it runs from the first frame on.", "arrange")
    predicted: list[Observable | None] = []
    if scenario.predict is not None:
        for name in scenario.predict.names:
            try:
                predicted.append(read_predicted(name, names))
            except ExpectationError as error:
                complain(f"`predict` names `{name}`, which {error}.", "predict")
        if scenario.predict.at > settings.length(scenario):
            complain(f"`predict` is at {scenario.predict.at:g} s, after the end of the trial.", "predict")
    checks = _checks(settings, scenario, names, complain)
    base = _plan(settings, scenario, scenario.input, names, complain)
    plans, labels = [base], [""]
    if scenario.cases is not None:
        plans, labels = _cases(settings, scenario, base, names, complain)
        checks += _case_checks(settings, scenario, names, complain)
    elif scenario.steps is not None:
        plans, labels = _orders(settings, scenario, base, names, complain)
    elif scenario.wild is not None:
        plans, labels = _wild(settings, scenario, scenario.wild, base, names, complain)
    listed = [variable(each.name) for each in settings.variable]
    needs = [what for check in checks for what in check.needs]
    needs += [what for what in predicted if what is not None]
    each: dict[Event, tuple[Observable, ...]] = {}
    for check in checks:
        if check.kind in ("each", "apart") and check.event is not None:
            each[check.event] = tuple(dict.fromkeys((*each.get(check.event, ()), *check.about)))
    observe = tuple(dict.fromkeys((*listed, *needs)))
    return PreparedScenario(scenario, tuple(plans), tuple(labels), tuple(checks), observe, each)


def _plan(
    settings: Settings, scenario: Scenario, inputs: Iterable[Input], names: Surroundings, complain: Complain
) -> Plan:
    length = settings.length(scenario)
    given = read_inputs(inputs, settings, names, length, complain)
    straight = settings.style == "straight"
    return Plan(
        frame_of(length),
        scenario.seed,
        tuple(_arranged(scenario.arrange, names, complain, "arrange")),
        tuple(each for each in given if not (straight and each.kind == "answer")),
        tuple((each.frame, each.what) for each in given if straight and each.kind == "answer"),
        freeze_at_end=settings.at_end == "freeze",
        log_prints=settings.prints == "log",
        luck=scenario.luck,
    )


def _arranged(texts: Iterable[str], names: Surroundings, complain: Complain, *where: str | int) -> list[Arrangement]:
    found: list[Arrangement] = []
    for text in texts:
        try:
            found.append(read_arrangement(text, names))
        except ExpectationError as error:
            complain(f"`arrange` {text!r} {error}.", *where)
    return found


def unknown_concept(concept: str, settings: Settings) -> str:
    """The complaint about a concept that the exercise does not list."""
    return f"`concept` is {concept!r}; it must be one of {', '.join(settings.concepts)}."


def _checks(settings: Settings, scenario: Scenario, names: Surroundings, complain: Complain) -> list[PreparedCheck]:
    length = settings.length(scenario)
    checks: list[PreparedCheck] = []
    for index, check in enumerate(scenario.check):
        for key, time in (("at", check.at), ("by", check.by), ("from", check.from_), ("until", check.until)):
            if time is not None and time > length:
                complain(f"`{key}` is {time:g} s, but this trial ends after {length:g} s.", "check", index, key)
        if check.concept is not None and check.concept not in settings.concepts:
            complain(unknown_concept(check.concept, settings), "check", index, "concept")
        try:
            checks.append(read_check(check, names))
        except ExpectationError as error:
            complain(f"{error}.", "check", index, *error.where)
    return checks


# ---- several trials


def _cases(
    settings: Settings, scenario: Scenario, base: Plan, names: Surroundings, complain: Complain
) -> tuple[list[Plan], list[str]]:
    rows = scenario.cases or ()
    return [_case(settings, scenario, base, row, names, complain) for row in rows], [_label(row) for row in rows]


def _case(
    settings: Settings, scenario: Scenario, base: Plan, row: Case, names: Surroundings, complain: Complain
) -> Plan:
    """The trial of one row: the scenario's, with what the row has of its own."""
    if row.answers and settings.style != "straight":
        complain("`answers` of a row go with a straight script; give the row `inputs` with their times.", "cases")
    if row.arrange and settings.style == "straight":
        complain("`arrange` does not go with a straight script: it runs from the first frame on.", "cases")
    answers = tuple(Input(at=0, answer=each) for each in row.answers)
    arranged = (*base.arrange, *_arranged(row.arrange, names, complain, "cases"))
    luck, seed = row.luck or base.luck, base.seed if row.seed is None else row.seed
    if not (row.inputs or answers):
        return replace(base, arrange=arranged, luck=luck, seed=seed)

    def at_the_row(message: str, *_: str | int) -> None:
        complain(message, "cases")

    played = _plan(settings, scenario, (*scenario.input, *row.inputs, *answers), names, at_the_row)
    return replace(played, arrange=arranged, luck=luck, seed=seed)


def _label(row: Case) -> str:
    """What tells a row from the others, in a line."""
    told = [*row.arrange, *(f'answer "{each}"' for each in row.answers)]
    told += [f"{each.deed} {_deed_of(each)} at {each.at:g} s" for each in row.inputs if not isinstance(each.at, str)]
    told += [f"luck {row.luck}"] if row.luck is not None else []
    told += [f"seed {row.seed}"] if row.seed is not None else []
    return "; ".join(told) or row.expect


def _deed_of(given: Input) -> str:
    done = getattr(given, given.deed)
    return ", ".join(f"{name} = {value}" for name, value in done.items()) if isinstance(done, dict) else str(done)


def _case_checks(
    settings: Settings, scenario: Scenario, names: Surroundings, complain: Complain
) -> list[PreparedCheck]:
    checks: list[PreparedCheck] = []
    when: dict[str, Any] = {"end": True} if scenario.case_at is None else {"at": scenario.case_at}
    if scenario.case_at is not None and scenario.case_at > settings.length(scenario):
        complain(
            f"`case_at` is {scenario.case_at:g} s, but this trial ends after {settings.length(scenario):g} s.",
            "case_at",
        )
    for number, row in enumerate(scenario.cases or ()):
        check = Check.model_validate({**when, "expect": row.expect, "marks": row.marks, "because": row.because})
        try:
            checks.append(read_case(check, number, names))
        except ExpectationError as error:
            complain(f"{error}.", "cases")
    return checks


def _orders(
    settings: Settings, scenario: Scenario, base: Plan, names: Surroundings, complain: Complain
) -> tuple[list[Plan], list[str]]:
    steps = scenario.steps or {}
    orders = list(itertools.permutations(steps)) if scenario.orders == "all" else list(scenario.orders or ())
    endless = next((name for name, step in steps.items() for each in step if each.hold and each.for_ is None), None)
    if endless is not None:
        complain(
            f"the step `{endless}` holds a key without `for`, so nobody can tell when the next one begins.", "steps"
        )
    plans: list[Plan] = []
    for order in orders:
        inputs: list[Input] = list(scenario.input)
        begin = 0.0
        for name in order:
            ends = [begin]
            for each in steps[name]:
                if isinstance(each.at, str):
                    inputs.append(each)  # it follows an answer, whenever that is
                    continue
                inputs.append(each.model_copy(update={"at": each.at + begin}))
                ends.append(each.at + begin + (each.for_ or 0))
            begin = max(ends)
        try:
            plans.append(_plan(settings, scenario, inputs, names, _raise))
        except ExpectationError as error:
            complain(f"in the order {', '.join(order)}: {error}", "steps")
            plans.append(base)
    return plans, [", ".join(order) for order in orders]


def _raise(message: str, *_: str | int) -> None:
    raise ExpectationError(message)


def _wild(
    settings: Settings, scenario: Scenario, wild: Wild, base: Plan, names: Surroundings, complain: Complain
) -> tuple[list[Plan], list[str]]:
    unknown = [piece for piece in wild.clicks if piece not in names.pieces]
    if unknown:
        complain(f"`clicks` has `{unknown[0]}`, which is not a piece of the scene.", "wild")
        return [base], [""]
    runs = drawn(wild, settings.length(scenario))
    return [wild_plan(base, run) for run in runs], [f"run {number}" for number, _ in enumerate(runs, 1)]
