"""A script over all scenarios of an exercise: verdicts and marks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Any, Final

from ..script import Script, Woven
from ..trial import Trace
from ..words import plural
from .craft import Alias, CraftRule
from .prepare import Prepared
from .scenarios import PreparedScenario
from .verdict import BROKEN, HELD, NOT_REACHED, Answer, Verdict, judge, over, tidy
from .wild import Deeds, shortest, wild_plan

MUCH: Final = 6_000_000
"""Passes of all trials of a script: thirty times what a large game of a beginner spends."""
AFTER_THAT: Final = 300_000
"""Passes of each further trial, once a script has spent so much: a thousand in each frame of ten seconds."""
TRIALS_OF_AN_EDIT: Final = 6
"""Trials of a wild scenario that are played first for an edited script; the first broken one is among them."""


@dataclass(frozen=True, eq=False)
class Played:
    """One scenario played by a script, with the verdict of each of its checks over all its trials."""

    number: int
    name: str
    trace: Trace
    """The trial to look at: the first in which a check is broken, else the first."""
    verdicts: tuple[Verdict, ...]
    trial: int = 0
    """Which of the scenario's trials `trace` is."""
    trials: int = 1
    passes: int = 0
    """The work of all trials together."""
    frames: int = 0
    """The frames of all trials that were played."""
    granted: int | None = None
    """How many passes each trial might spend, where that was less than the limits allow."""

    @property
    def broken(self) -> bool:
        """Whether any check is broken or was not reached."""
        return any(verdict.verdict != HELD for verdict in self.verdicts)


def play_scenario(
    prepared: Prepared,
    woven: Woven,
    number: int,
    *,
    record: bool = False,
    like: Played | None = None,
    few: bool = False,
    granted: int | None = None,
) -> Played:
    """Plays one scenario, all its trials, and judges it.

    With `like`, the trial that was looked at there is looked at again. With `few`, only some of a wild
    scenario's trials are played, that one among them: enough to drop an edit, not to accept it. `granted` are the
    passes that each trial may spend, where that is less than the limits allow.
    """
    scenario = prepared.scenarios[number]
    several = len(scenario.plans) > 1
    chosen = range(len(scenario.plans))
    if few and like is not None and len(chosen) > TRIALS_OF_AN_EDIT and scenario.spec.wild is not None:
        chosen = sorted({*range(TRIALS_OF_AN_EDIT - 1), like.trial})  # type: ignore[assignment]
    traces = {
        trial: prepared.play(woven, scenario, trial, record=record and not several, passes=granted) for trial in chosen
    }
    verdicts = tuple(_over_trials(prepared, scenario, index, traces) for index, _ in enumerate(scenario.checks))
    look = like.trial if like is not None else _first_broken(verdicts, traces)
    if record and several:
        traces[look] = prepared.play(woven, scenario, look, record=True, passes=granted)
    if scenario.spec.all_or_nothing and any(verdict.verdict != HELD for verdict in verdicts):
        verdicts = tuple(replace(verdict, marks=0) for verdict in verdicts)
    passes = sum(trace.passes for trace in traces.values())
    frames = sum(trace.last_frame + 1 for trace in traces.values())
    return Played(
        number, scenario.spec.name, traces[look], verdicts, look, len(scenario.plans), passes, frames, granted
    )


def _over_trials(prepared: Prepared, scenario: PreparedScenario, index: int, traces: dict[int, Trace]) -> Verdict:
    check = scenario.checks[index]

    def one(trial: int) -> Verdict:
        return judge(check, traces[trial], lambda: prepared.reference_trace(scenario, trial))

    if check.trial is not None:
        return replace(one(check.trial), trial=check.trial)
    if len(traces) == 1:
        return one(next(iter(traces)))
    return over([(trial, one(trial)) for trial in traces])


def _first_broken(verdicts: Iterable[Verdict], traces: dict[int, Trace]) -> int:
    broken = [verdict.trial for verdict in verdicts if verdict.verdict == BROKEN and verdict.trial is not None]
    stopped = [trial for trial, trace in traces.items() if trace.stopped is not None]
    return min(broken or stopped or traces)


def reference_of(prepared: Prepared, run: Played) -> Trace:
    """The reference's full trace of the trial that is looked at."""
    return prepared.reference_trace(prepared.scenarios[run.number], run.trial)


def play_all(prepared: Prepared, woven: Woven, ended: Callable[[Played], None] | None = None) -> list[Played]:
    """Plays all scenarios for verdicts only; `ended` hears of each as it ends.

    A script that has spent very much, or was stopped by the limit of a trial, gets less for each further one.
    """
    played: list[Played] = []
    for number, _ in enumerate(prepared.scenarios):
        burns = any(_spent_it_all(prepared, run) for run in played) or sum(run.passes for run in played) > MUCH
        played.append(play_scenario(prepared, woven, number, granted=AFTER_THAT if burns else None))
        if ended is not None:
            ended(played[-1])
    return played


def _spent_it_all(prepared: Prepared, run: Played) -> bool:
    """Whether a trial was stopped since it had spent all its passes."""
    stop = run.trace.stopped
    return stop is not None and stop.limit and run.trace.passes >= prepared.limits.passes_a_trial


@dataclass(frozen=True, slots=True)
class CraftVerdict:
    """What became of one craft line."""

    expect: str
    verdict: Answer
    marks: float
    out_of: float
    reason: str | None
    concept: str | None
    task: str | None
    because: str


Judged = Verdict | CraftVerdict


def judge_craft(rules: Iterable[CraftRule], script: Script, alias: Alias) -> list[CraftVerdict]:
    """The verdicts of all craft lines on a script."""
    return [_craft_verdict(rule, *rule.holds(script, alias)) for rule in rules]


def not_looked_at(rule: CraftRule) -> CraftVerdict:
    """The verdict on a text that cannot be read."""
    return replace(_craft_verdict(rule, False, "the script cannot be read"), verdict=NOT_REACHED)


def _craft_verdict(rule: CraftRule, holds: bool, reason: str | None) -> CraftVerdict:
    line = rule.line
    return CraftVerdict(
        line.expect,
        HELD if holds else BROKEN,
        line.marks if holds else 0,
        line.marks,
        None if holds else reason,
        line.concept,
        line.task,
        line.because,
    )


def by_task(
    prepared: Prepared, played: Iterable[Played], craft: Iterable[CraftVerdict]
) -> dict[str, dict[str, int | float]]:
    """Marks earned and possible for each task that the exercise lists."""
    groups: dict[str, list[Judged]] = {task.id: [] for task in prepared.exercise.settings.tasks}
    for run in played:
        task = prepared.scenarios[run.number].spec.task
        if task is not None:
            groups[task] += run.verdicts
    for verdict in craft:
        if verdict.task is not None:
            groups[verdict.task].append(verdict)
    return {
        task: {"marks": tidy(total(found)), "out_of": tidy(sum(each.out_of for each in found))}
        for task, found in groups.items()
    }


def shortest_break(prepared: Prepared, woven: Woven, run: Played) -> dict[int, dict[str, Any]]:
    """For the first check that a wild run breaks, by its place: the shortest inputs that still break it."""
    scenario = prepared.scenarios[run.number]
    wild = scenario.spec.wild
    index = next((n for n, verdict in enumerate(run.verdicts) if verdict.verdict == BROKEN), None)
    if wild is None or index is None:
        return {}
    check = scenario.checks[index]

    def breaks(inputs: Deeds) -> bool:
        plan = wild_plan(scenario.plan, inputs)
        trace = prepared.play_plan(woven, scenario, plan)
        return judge(check, trace, lambda: prepared.play_plan(prepared.reference, scenario, plan)).verdict == BROKEN

    seconds = prepared.exercise.settings.length(scenario.spec)
    found = shortest(wild, seconds, breaks)
    if found is None:
        return {}
    words = f"{plural(len(found), 'input is', 'inputs are')} enough: {', '.join(map(str, found))}"
    table = {
        "name": f"{scenario.spec.name}: the shortest"[:80],
        "seed": scenario.spec.seed,
        "seconds": seconds,
        "arrange": list(scenario.spec.arrange),
        "input": [deed.as_table() for deed in found],
        "check": [each.spec.model_dump(by_alias=True, exclude_none=True, mode="json") for each in scenario.checks],
    }
    return {index: {"words": words if found else "no input at all is enough", "scenario": table}}


def total(verdicts: Iterable[Judged]) -> float:
    """The marks earned."""
    return sum(verdict.marks for verdict in verdicts)


def by_concept(verdicts: Iterable[Judged]) -> dict[str, dict[str, int | float]]:
    """Marks earned and possible for each concept."""
    earned: dict[str, float] = defaultdict(float)
    possible: dict[str, float] = defaultdict(float)
    for verdict in verdicts:
        if verdict.concept is not None:
            earned[verdict.concept] += verdict.marks
            possible[verdict.concept] += verdict.out_of
    return {concept: {"marks": tidy(earned[concept]), "out_of": tidy(possible[concept])} for concept in possible}


def broken_checks(played: Iterable[Played]) -> set[tuple[int, int]]:
    """Scenario and check numbers of all checks that are broken (not: not reached)."""
    return {
        (run.number, index) for run in played for index, verdict in enumerate(run.verdicts) if verdict.verdict == BROKEN
    }


def failed_checks(played: Iterable[Played]) -> set[tuple[int, int]]:
    """Scenario and check numbers of all checks that did not hold."""
    return {
        (run.number, index) for run in played for index, verdict in enumerate(run.verdicts) if verdict.verdict != HELD
    }
