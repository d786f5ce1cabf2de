"""Exercise → Prepared: everything of an exercise that is worked out once and used for every script."""

from __future__ import annotations

import ast
import functools
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ..events import PAIR_EVENTS, Event
from ..exercise import Exercise, ExerciseError, Fault, Lines, Scenario, Settings, load
from ..exercise.files import REFERENCE, SETTINGS
from ..scene import SceneSpec
from ..script import BUILTINS, DEFAULT_LIMITS, Limits, Reading, Script, Unreadable, Woven, read, weave
from ..script.tree import imported_names, walk
from ..trial import GAME_NAMES, KNOWN_FUNCTIONS, Options, Plan, Trace, play
from .craft import CraftRule, read_craft
from .in_reference import not_in_reference
from .names import ExpectationError, Surroundings, read_event
from .scenarios import PreparedScenario, prepare_scenario, unknown_concept


@dataclass(frozen=True, eq=False)
class Prepared:
    """An exercise made ready. Traces of the reference are played when first check for, and kept."""

    exercise: Exercise
    scenarios: tuple[PreparedScenario, ...]
    craft: tuple[CraftRule, ...]
    reference: Woven
    names: Surroundings
    taken: frozenset[str]
    alias: Mapping[str, tuple[str, ...]]
    watch: tuple[Event, ...]
    """Pair events of the reference: looked at in full traces even where a script does not."""
    examining: list[tuple[Plan, Trace]] = field(default_factory=list, repr=False)
    """The drawn runs of cross-examination with the reference's traces (`examine.py`), once they were played."""
    _reference_traces: dict[tuple[PreparedScenario, int], Trace] = field(default_factory=dict, repr=False)

    @property
    def scene(self) -> SceneSpec:
        """The scene of all its trials."""
        return self.exercise.settings.full_scene

    @property
    def out_of(self) -> float:
        """All the marks that there are."""
        checks = sum(check.spec.marks for scenario in self.scenarios for check in scenario.checks)
        return checks + sum(rule.line.marks for rule in self.craft)

    def read(self, source: str | bytes) -> Reading:
        """Reads a script for this exercise."""
        settings = self.exercise.settings
        return read(source, self.taken, frozenset(settings.narrow), straight=settings.style == "straight")

    def weave(self, script: Script) -> Woven:
        """Weaves a script for this exercise."""
        return weave(script, KNOWN_FUNCTIONS)

    def play(
        self,
        woven: Woven,
        scenario: PreparedScenario,
        trial: int = 0,
        *,
        record: bool = False,
        passes: int | None = None,
    ) -> Trace:
        """Plays one trial of a scenario, by its number from 0; with `passes`, only so many may be spent in it."""
        return self.play_plan(woven, scenario, scenario.plans[trial], record=record, passes=passes)

    def play_plan(
        self,
        woven: Woven,
        scenario: PreparedScenario,
        plan: Plan,
        *,
        record: bool = False,
        passes: int | None = None,
    ) -> Trace:
        """Plays a scenario with other inputs."""
        watch = self.watch if record else ()
        options = Options(scenario.observe, self.alias, watch, scenario.each, record, self.narrowed(passes))
        return play(woven, self.scene, plan, options)

    def narrowed(self, passes: int | None) -> Limits:
        """The limits of a trial in which only so many passes may be spent."""
        if passes is None or passes >= self.limits.passes_a_trial:
            return self.limits
        return replace(self.limits, passes_a_trial=passes)

    @functools.cached_property
    def limits(self) -> Limits:
        """The limits of its trials."""
        return replace(DEFAULT_LIMITS, **self.exercise.settings.limits)

    def reference_trace(self, scenario: PreparedScenario, trial: int = 0) -> Trace:
        """The reference's full trace of a trial."""
        trace = self._reference_traces.get((scenario, trial))
        if trace is None:
            trace = self.play(self.reference, scenario, trial, record=True)
            if scenario in self.scenarios:
                self._reference_traces[scenario, trial] = trace
        return trace

    def scenario_of(self, spec: Scenario) -> PreparedScenario:
        """A further scenario, made ready. Raises `ExerciseError` with what is wrong with it."""
        settings = self.exercise.settings.model_copy(update={"scenario": (spec,)})
        faults: list[Fault] = []
        scenario = prepare_scenario(settings, 0, self.names, Lines(""), faults)
        if faults:
            raise ExerciseError(faults)
        return scenario


def open_exercise(files: Mapping[str, bytes]) -> Prepared:
    """Reads and prepares an exercise. Raises `ExerciseError` with every fault."""
    return prepare(load(files))


def prepare(exercise: Exercise) -> Prepared:
    """Prepares an exercise. Raises `ExerciseError` for checks and scripts that cannot be read."""
    settings = exercise.settings
    scene = settings.full_scene
    pieces = frozenset(piece.name for piece in scene.piece)
    taken = scene.names
    faults: list[Fault] = []
    straight = settings.style == "straight"
    reading = read(exercise.reference, taken, frozenset(settings.narrow), straight=straight)
    if isinstance(reading, Unreadable):
        faults += [Fault(REFERENCE, problem.line, problem.message) for problem in reading.problems]
    own = _names_of(reading) if isinstance(reading, Script) else frozenset()
    listed = frozenset(variable.name for variable in settings.variable)
    facts = {fact.name: fact for fact in scene.fact}
    names = Surroundings(listed | own, pieces, scene.kinds, frozenset(facts))
    lines = Lines(exercise.toml)
    faults += _taken_names(settings, lines)
    scenarios = tuple(
        prepare_scenario(settings, number, names, lines, faults) for number, _ in enumerate(settings.scenario)
    )
    craft = _craft(settings, names, lines, faults)
    if isinstance(reading, Script):
        faults += not_in_reference(settings, reading, own, lines)
    if isinstance(reading, Script) and draws(reading):
        faults += _without_luck(settings, lines)
    if faults or isinstance(reading, Unreadable):
        raise ExerciseError(sorted(faults))
    return Prepared(
        exercise=exercise,
        scenarios=scenarios,
        craft=craft,
        reference=weave(reading, KNOWN_FUNCTIONS),
        names=names,
        taken=taken,
        alias={variable.name: variable.also for variable in settings.variable},
        watch=pair_events(reading, names),
    )


def _craft(settings: Settings, names: Surroundings, lines: Lines, faults: list[Fault]) -> tuple[CraftRule, ...]:
    rules: list[CraftRule] = []
    for index, line in enumerate(settings.craft):
        path = ("craft", index)
        if line.concept is not None and line.concept not in settings.concepts:
            faults.append(Fault(SETTINGS, lines.of((*path, "concept")), unknown_concept(line.concept, settings)))
        try:
            rules.append(read_craft(line, names))
        except ExpectationError as error:
            faults.append(Fault(SETTINGS, lines.of((*path, "expect")), f"`expect` {line.expect!r} {error}."))
    return tuple(rules)


def draws(script: Script) -> bool:
    """Whether a script asks for random numbers."""
    return any(module == "random" for module, _ in imported_names(script.tree).values())


def _without_luck(settings: Settings, lines: Lines) -> list[Fault]:
    """`same` needs `luck` where scripts draw random numbers: theirs are others than the reference's."""
    return [
        Fault(
            SETTINGS,
            lines.of(("scenario", number, "check", index, "same")),
            "`same` compares with the reference, which draws random numbers; give the scenario a `luck`.",
        )
        for number, scenario in enumerate(settings.scenario)
        for index, check in enumerate(scenario.check)
        if check.same is not None and scenario.luck is None
    ]


def _taken_names(settings: Settings, lines: Lines) -> list[Fault]:
    """Things of the scene that have a name of the language."""
    language = GAME_NAMES | BUILTINS
    things = [("scene", kind, index, thing.name) for kind in ("piece", "spawner", "fact")
              for index, thing in enumerate(getattr(settings.scene, kind))]  # fmt: skip
    paths: list[tuple[tuple[str | int, ...], str]] = [(thing[:-1], thing[-1]) for thing in things]
    paths += [(("fact", index), fact.name) for index, fact in enumerate(settings.fact)]
    paths += [
        (("scene", group, index, "kind"), each.kind)
        for group in ("piece", "spawner")
        for index, each in enumerate(getattr(settings.scene, group))
        if each.kind != each.name
    ]
    return [
        Fault(SETTINGS, lines.of((*path, "name")), f"`{name}` is a name of the language already; take another one.")
        for path, name in paths
        if name in language
    ]


def _names_of(script: Script) -> frozenset[str]:
    held = {
        node.attr
        for node in walk(script.tree)
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id == "game"
    }
    return script.globals | held


def pair_events(script: Script, names: Surroundings) -> tuple[Event, ...]:
    """The pair events that a script's handlers are written for, as far as they are written out."""
    events: list[Event] = []
    for node in walk(script.tree):
        if isinstance(node, ast.FunctionDef):
            for decorator in node.decorator_list:
                for argument in decorator.args if isinstance(decorator, ast.Call) else ():
                    try:
                        events.append(read_event(argument, names))
                    except ExpectationError:
                        continue
    return tuple(dict.fromkeys(event for event in events if event.kind in PAIR_EVENTS))
