"""Exercise → Prepared: everything of an exercise that is worked out once and used for every script."""

from __future__ import annotations

import ast
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ..events import PAIR_EVENTS, Event
from ..exercise import Check, Exercise, ExerciseError, Fault, Lines, Scenario, load
from ..exercise.files import REFERENCE, SETTINGS
from ..scene import SceneSpec
from ..script import DEFAULT_LIMITS, Reading, Script, Unreadable, Woven, read, weave
from ..trial import KNOWN_FUNCTIONS, Arrangement, Observable, Plan, Trace, held_key, play, pressed_key, variable
from ..words import frame_of
from .expectation import Expectation, ExpectationError, Surroundings, read_arrangement, read_event, read_expectation


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
    _reference_traces: dict[int, Trace] = field(default_factory=dict, repr=False)

    @property
    def scene(self) -> SceneSpec:
        """The scene of all its trials."""
        return self.exercise.settings.scene

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

    def play(self, woven: Woven, number: int, *, record: bool = False) -> Trace:
        """Plays a scenario, by its number from 0."""
        course = self.courses[number]
        return play(
            woven,
            self.scene,
            course.plan,
            observe=course.observe,
            names=self.alias,
            watch=self.watch if record else (),
            record=record,
            limits=replace(DEFAULT_LIMITS, **self.exercise.settings.limits),
        )

    def reference_trace(self, number: int) -> Trace:
        """The reference's full trace of a scenario."""
        if number not in self._reference_traces:
            self._reference_traces[number] = self.play(self.reference, number, record=True)
        return self._reference_traces[number]


def open_exercise(files: Mapping[str, bytes]) -> Prepared:
    """Reads and prepares an exercise. Raises `ExerciseError` with every fault."""
    return prepare(load(files))


def prepare(exercise: Exercise) -> Prepared:
    """Prepares an exercise. Raises `ExerciseError` for checks and scripts that cannot be read."""
    settings = exercise.settings
    scene = settings.scene
    pieces = frozenset(piece.name for piece in scene.piece)
    taken = scene.names
    faults: list[Fault] = []
    straight = settings.style == "straight"
    reading = read(exercise.reference, taken, frozenset(settings.narrow), straight=straight)
    if isinstance(reading, Unreadable):
        faults += [Fault(REFERENCE, problem.line, problem.message) for problem in reading.problems]
    own = _names_of(reading) if isinstance(reading, Script) else frozenset()
    listed = frozenset(variable.name for variable in settings.variable)
    names = Surroundings(listed | own, pieces, scene.kinds)
    lines = Lines(exercise.toml)
    courses = tuple(_course(exercise, number, names, lines, faults) for number, _ in enumerate(settings.scenario))
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


def _course(exercise: Exercise, number: int, names: Surroundings, lines: Lines, faults: list[Fault]) -> Course:
    settings = exercise.settings
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
    for place, given in enumerate(scenario.input):
        if given.at > length:
            fault(f"`at` is {given.at:g} s, but this trial ends after {length:g} s.", "input", place, "at")
    straight = settings.style == "straight"
    if straight and scenario.arrange:
        fault("`arrange` does not go with a straight script: it runs from the first frame on.", "arrange")
    for place, given in enumerate(scenario.input):
        if given.answer is not None and not straight:
            fault("`answer` goes with scripts of the style straight.", "input", place, "answer")
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
    inputs = tuple(
        pressed_key(given.press, given.at)
        if given.press is not None
        else held_key(given.hold or "", given.at, given.for_ or 0)
        for given in scenario.input
        if given.answer is None
    )
    answers = tuple((frame_of(given.at), given.answer) for given in scenario.input if given.answer is not None)
    plan = Plan(frame_of(length), scenario.seed, tuple(arrange), inputs, answers)
    needs = [what for _, expectation in checks for what in expectation.needs]
    listed = [variable(each.name) for each in settings.variable]
    return Course(scenario, plan, tuple(checks), tuple(dict.fromkeys((*listed, *needs))))
