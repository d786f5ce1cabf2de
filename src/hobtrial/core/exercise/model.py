"""The Exercise and its parts, as `exercise.toml` spells them. Frozen; unknown keys are errors.

Times are in seconds from the beginning of a trial, lengths in squares. This is the one model: the
files, the database and the workshop all hold it.
"""

from __future__ import annotations

import math
from dataclasses import asdict
from functools import cached_property
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, Field, field_validator, model_validator

from ..scene import Fact, Name, SceneSpec, Spec, Value
from ..script import DEFAULT_LIMITS
from ..script.vocabulary import CONSTRUCTS
from .checks import Case, Check, Craft, Input, Luck, Predict, Wild
from .parts import Concept, Seconds, Span, Text, VariableName

MOST_ORDERS = 24
"""Orders of `steps`, one trial each: all of four steps."""


def _construct(text: str) -> str:
    if text not in CONSTRUCTS:
        raise ValueError(f"must be one of: {', '.join(CONSTRUCTS)}")
    return text


Construct = Annotated[str, AfterValidator(_construct)]


class Variable(Spec):
    """A variable that the exercise is about, of the script or of a piece; `also` are other names for it."""

    name: VariableName
    meaning: str = ""
    start: Value | None = None
    type: Literal["int", "float", "str", "bool"] | None = None
    label: str | None = None
    also: tuple[Name, ...] = ()


class Task(Spec):
    """A part of the exercise that has marks of its own."""

    id: Name
    text: str


class Scenario(Spec):
    """Scripted inputs, what is put in place before them, and the checks."""

    name: str = Field(min_length=1, max_length=80)
    visible: bool = True
    seed: int = 1
    luck: Luck | None = None
    seconds: Span | None = None
    arrange: tuple[str, ...] = ()
    task: str | None = None
    all_or_nothing: bool = False
    predict: Predict | None = None
    cases: Annotated[tuple[Case, ...], Field(min_length=1, max_length=50)] | None = None
    case_at: Seconds | None = None
    steps: Annotated[dict[Text, tuple[Input, ...]], Field(min_length=2, max_length=12)] | None = None
    orders: Literal["all"] | Annotated[tuple[tuple[Text, ...], ...], Field(min_length=1)] | None = None
    wild: Wild | None = None
    input: tuple[Input, ...] = ()
    check: tuple[Check, ...] = ()

    @model_validator(mode="after")
    def _one_way_of_many(self) -> Self:
        ways = [name for name in ("cases", "steps", "wild") if getattr(self, name) is not None]
        if len(ways) > 1:
            raise ValueError(f"has {' and '.join(f'`{way}`' for way in ways)}; only one of them is possible")
        if self.case_at is not None and self.cases is None:
            raise ValueError("`case_at` goes with `cases`")
        if (self.orders is None) != (self.steps is None):
            raise ValueError("`steps` and `orders` go together")
        if self.steps is not None:
            self._possible_orders(self.steps)
        if self.wild is not None:
            if self.input:
                raise ValueError("a wild scenario draws its inputs; it has no [[scenario.input]]")
            wrong = [check.kind for check in self.check if check.kind not in ("always", "never", "each", "same")]
            if wrong:
                raise ValueError(f"a wild scenario has checks of always, never, each and same, not `{wrong[0]}`")
        return self

    def _possible_orders(self, steps: dict[str, tuple[Input, ...]]) -> None:
        number = math.factorial(len(steps)) if self.orders == "all" else len(self.orders or ())
        if number > MOST_ORDERS:
            raise ValueError(
                f"{len(steps)} steps have {number:,} orders; at most {MOST_ORDERS} are possible, so list some"
            )
        for order in self.orders if isinstance(self.orders, tuple) else ():
            if sorted(order) != sorted(steps):
                raise ValueError(f"the order {', '.join(order)} must name each of {', '.join(steps)} once")


class Help(Spec):
    """How far students see help, and after how many tries each step of it."""

    upto: Literal["none", "nudge", "pointer", "fix"] = "fix"
    after: tuple[int, int, int] = (1, 2, 3)


LevelName = Literal["supported", "core", "stretch"]
LEVELS: tuple[LevelName, ...] = ("supported", "core", "stretch")


class Level(Spec):
    """What is different at a level: which tasks it has (all, where none are named), and how far help goes.

    Its starter and brief are files of their own, `starter.supported.py` and `brief.supported.md`.
    """

    tasks: Annotated[tuple[Name, ...], Field(min_length=1)] | None = None
    help: Help | None = None


class Settings(Spec):
    """All of `exercise.toml`."""

    format: Literal[1]
    title: str = Field(min_length=1, max_length=120)
    seconds: Span = 10
    style: Literal["handlers", "straight"] = "handlers"
    at_end: Literal["go on", "freeze"] = "go on"
    prints: Literal["story", "log"] = "story"
    narrow: tuple[Construct, ...] = ()
    concepts: tuple[Concept, ...] = ("variables", "events", "conditionals")
    help: Help = Help()
    levels: dict[LevelName, Level] = Field(default_factory=dict)
    limits: dict[str, Annotated[int, Field(ge=1)]] = Field(default_factory=dict)
    scene: SceneSpec
    variable: tuple[Variable, ...] = ()
    fact: tuple[Fact, ...] = ()
    tasks: tuple[Task, ...] = ()
    craft: tuple[Craft, ...] = ()
    scenario: tuple[Scenario, ...] = ()

    @field_validator("limits")
    @classmethod
    def _narrower(cls, value: dict[str, int]) -> dict[str, int]:
        most = asdict(DEFAULT_LIMITS)
        for name, limit in value.items():
            if name not in most:
                raise ValueError(f"has `{name}`, which is not a limit; there are: {', '.join(most)}")
            if limit > most[name]:
                raise ValueError(f"`{name}` is {limit:,}; an exercise can only narrow it below {most[name]:,}")
        return value

    @field_validator("format", mode="before")
    @classmethod
    def _known_format(cls, value: Any) -> Any:
        if isinstance(value, int) and value > 1:
            raise ValueError(f"this file has format {value}; this version of the program reads format 1")
        return value

    @model_validator(mode="after")
    def _consistent(self) -> Self:
        if not self.scenario:
            raise ValueError("this exercise has no [[scenario]]; at least one is needed to mark anything")
        names = [scenario.name for scenario in self.scenario]
        twice = next((name for name in names if names.count(name) > 1), None)
        if twice is not None:
            raise ValueError(f'two scenarios are called "{twice}"; every scenario needs a name of its own')
        tasks = [task.id for task in self.tasks]
        for task in (*(each.task for each in self.scenario), *(each.task for each in self.craft)):
            if task is not None and task not in tasks:
                known = ", ".join(tasks) or "none are listed"
                raise ValueError(f"a scenario or craft line has the task {task!r}; known tasks: {known}")
        for name, level in self.levels.items():
            unknown = [task for task in level.tasks or () if task not in tasks]
            if unknown:
                known = ", ".join(tasks) or "none are listed"
                raise ValueError(f"the level {name} has the task {unknown[0]!r}; known tasks: {known}")
            if not any(self.is_at(each.task, name) for each in self.scenario):
                raise ValueError(f"the level {name} has no scenario; at least one is needed to mark anything")
        if not self.full_scene.names.isdisjoint(variable.name for variable in self.variable):
            raise ValueError("a listed variable has the name of a thing of the scene; every name means one thing")
        pieces = [piece.name for piece in self.scene.piece]
        for variable in self.variable:
            owner, dot, _ = variable.name.partition(".")
            if dot and owner not in pieces:
                raise ValueError(
                    f"the variable `{variable.name}` belongs to `{owner}`, which is not a piece of the scene"
                )
        return self

    @cached_property
    def full_scene(self) -> SceneSpec:
        """The scene with its facts, which a file may list beside it or in it."""
        if not self.fact:
            return self.scene
        return SceneSpec.model_validate({**dict(self.scene), "fact": (*self.scene.fact, *self.fact)})

    def is_at(self, task: str | None, level: LevelName) -> bool:
        """Whether a scenario or craft line of a task belongs to a level; what has no task belongs to all."""
        wanted = self.levels[level].tasks if level in self.levels else None
        return task is None or wanted is None or task in wanted

    def length(self, scenario: Scenario) -> float:
        """The seconds of a scenario's trial."""
        if scenario.wild is not None and scenario.wild.seconds is not None:
            return scenario.wild.seconds
        return scenario.seconds if scenario.seconds is not None else self.seconds


class Exercise(Spec):
    """An exercise with all its files' texts. `reference` must earn every mark."""

    settings: Settings
    brief: str = ""
    starter: str = ""
    reference: str
    toml: str
    """The text of `exercise.toml`, with its comments; its lines are those of later complaints."""
    looks: dict[str, bytes] = Field(default_factory=dict)
    """Pictures of its own: for each look an SVG."""
    at_levels: dict[str, str] = Field(default_factory=dict)
    """Starters and briefs of the levels by file: `starter.supported.py`."""
    companions: dict[str, str] = Field(default_factory=dict)
    """Scripts beside the reference by file: `also/…` right ones, `wrong/…` with the slip in their first line."""

    @property
    def title(self) -> str:
        """The exercise's title."""
        return self.settings.title
