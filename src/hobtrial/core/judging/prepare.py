"""Exercise → Prepared: everything of an exercise that is worked out once and used for every script."""

from __future__ import annotations

import ast
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ..events import PAIR_EVENTS, Event
from ..exercise import Check, Exercise, ExerciseError, Fault, Lines, Scenario, Settings, load
from ..exercise.files import REFERENCE, SETTINGS
from ..scene import SceneSpec
from ..script import BUILTINS, DEFAULT_LIMITS, Limits, Reading, Script, Unreadable, Woven, read, weave
from ..trial import GAME_NAMES, KNOWN_FUNCTIONS, Arrangement, Observable, Plan, Trace, play, variable
from ..words import frame_of
from .expectation import Expectation, ExpectationError, Surroundings, read_arrangement, read_event, read_expectation
from .inputs import read_inputs


@dataclass(frozen=True, eq=False)
class Course:
    """A scenario made ready: its plan, and each check with its expectation."""

    scenario: Scenario
    plan: Plan
    checks: tuple[tuple[Check, Expectation], ...]
    observe: tuple[Observable, ...]


@dataclass(frozen=True, eq=False)
class Prepared:
    """An exercise made ready. Traces of the reference are played when first asked for, and kept."""

    exercise: Exercise
    courses: tuple[Course, ...]
    reference: Woven
    names: Surroundings
    taken: frozenset[str]
    alias: Mapping[str, tuple[str, ...]]
    watch: tuple[Event, ...]
    """Pair events of the reference: looked at in full traces even where a script does not."""
    _reference_traces: dict[Course, Trace] = field(default_factory=dict, repr=False)

    @property
    def scene(self) -> SceneSpec:
        """The scene of all its trials."""
        return self.exercise.settings.full_scene

    @property
    def out_of(self) -> float:
        """All the marks that there are."""
        return sum(check.marks for course in self.courses for check, _ in course.checks)

    def read(self, source: str | bytes) -> Reading:
        """Reads a script for this exercise."""
        settings = self.exercise.settings
        return read(source, self.taken, frozenset(settings.narrow), straight=settings.style == "straight")

    def weave(self, script: Script) -> Woven:
        """Weaves a script for this exercise."""
        return weave(script, KNOWN_FUNCTIONS)

    def play(self, woven: Woven, course: Course, *, record: bool = False) -> Trace:
        """Plays a scenario."""
        return play(
            woven,
            self.scene,
            course.plan,
            observe=course.observe,
            names=self.alias,
            watch=self.watch if record else (),
            record=record,
            limits=self.limits,
        )

    @property
    def limits(self) -> Limits:
        """The limits of its trials."""
        return replace(DEFAULT_LIMITS, **self.exercise.settings.limits)

    def reference_trace(self, course: Course) -> Trace:
        """The reference's full trace of a scenario."""
        trace = self._reference_traces.get(course)
        if trace is None:
            trace = self.play(self.reference, course, record=True)
            if course in self.courses:
                self._reference_traces[course] = trace
        return trace

    def course_of(self, scenario: Scenario) -> Course:
        """A further scenario, made ready. Raises `ExerciseError` with what is wrong with it."""
        settings = self.exercise.settings.model_copy(update={"scenario": (scenario,)})
        faults: list[Fault] = []
        course = _course(settings, 0, self.names, Lines(""), faults)
        if faults:
            raise ExerciseError(faults)
        return course


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
    courses = tuple(_course(settings, number, names, lines, faults) for number, _ in enumerate(settings.scenario))
    if faults or isinstance(reading, Unreadable):
        raise ExerciseError(sorted(faults))
    return Prepared(
        exercise=exercise,
        courses=courses,
        reference=weave(reading, KNOWN_FUNCTIONS),
        names=names,
        taken=taken,
        alias={variable.name: variable.also for variable in settings.variable},
        watch=pair_events(reading, names),
    )


def _taken_names(settings: Settings, lines: Lines) -> list[Fault]:
    """Things of the scene that have a name of the language."""
    language = GAME_NAMES | BUILTINS
    things = [("scene", kind, place, thing.name) for kind in ("piece", "spawner", "fact")
              for place, thing in enumerate(getattr(settings.scene, kind))]  # fmt: skip
    paths: list[tuple[tuple[str | int, ...], str]] = [(thing[:-1], thing[-1]) for thing in things]
    paths += [(("fact", place), fact.name) for place, fact in enumerate(settings.fact)]
    paths += [
        (("scene", group, place, "kind"), each.kind)
        for group in ("piece", "spawner")
        for place, each in enumerate(getattr(settings.scene, group))
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
        for node in ast.walk(script.tree)
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id == "game"
    }
    return script.globals | held


def pair_events(script: Script, names: Surroundings) -> tuple[Event, ...]:
    """The pair events that a script's handlers are written for, as far as they are written out."""
    events: list[Event] = []
    for node in ast.walk(script.tree):
        if isinstance(node, ast.FunctionDef):
            for decorator in node.decorator_list:
                for argument in decorator.args if isinstance(decorator, ast.Call) else ():
                    try:
                        events.append(read_event(argument, names))
                    except ExpectationError:
                        continue
    return tuple(dict.fromkeys(event for event in events if event.kind in PAIR_EVENTS))


def _course(settings: Settings, number: int, names: Surroundings, lines: Lines, faults: list[Fault]) -> Course:
    scenario = settings.scenario[number]
    length = settings.length(scenario)
    path = ("scenario", number)

    def fault(message: str, *where: str | int) -> None:
        faults.append(Fault(SETTINGS, lines.of((*path, *where)), message))

    arrange: list[Arrangement] = []
    for text in scenario.arrange:
        try:
            arrange.append(read_arrangement(text, names))
        except ExpectationError as error:
            fault(f"`arrange` {text!r} {error}.", "arrange")
    straight = settings.style == "straight"
    if straight and scenario.arrange:
        fault("`arrange` does not go with a straight script: it runs from the first frame on.", "arrange")
    inputs = read_inputs(settings, scenario, names, length, fault)
    checks: list[tuple[Check, Expectation]] = []
    for place, check in enumerate(scenario.check):
        for key, time in (("at", check.at), ("by", check.by), ("from", check.from_), ("until", check.until)):
            if time is not None and time > length:
                fault(f"`{key}` is {time:g} s, but this trial ends after {length:g} s.", "check", place, key)
        if check.concept is not None and check.concept not in settings.concepts:
            fault(
                f"`concept` is {check.concept!r}; it must be one of {', '.join(settings.concepts)}.",
                "check",
                place,
                "concept",
            )
        try:
            checks.append((check, read_expectation(check.expect, names)))
        except ExpectationError as error:
            fault(f"`expect` {check.expect!r} {error}.", "check", place, "expect")
    answers = tuple((given.frame, given.what) for given in inputs if straight and given.kind == "answer")
    rest = tuple(given for given in inputs if not (straight and given.kind == "answer"))
    plan = Plan(
        frame_of(length), scenario.seed, tuple(arrange), rest, answers, freeze_at_end=settings.at_end == "freeze"
    )
    needs = [what for _, expectation in checks for what in expectation.needs]
    listed = [variable(each.name) for each in settings.variable]
    return Course(scenario, plan, tuple(checks), tuple(dict.fromkeys((*listed, *needs))))
