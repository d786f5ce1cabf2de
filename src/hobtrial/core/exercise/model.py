"""The Exercise and its parts, as `exercise.toml` spells them. Frozen; unknown keys are errors.

Times are in seconds from the beginning of a trial, lengths in squares. This is the one model: the
files, the database and the workshop all hold it.
"""

from __future__ import annotations

from dataclasses import asdict
from functools import cached_property
from typing import Annotated, Any, Final, Literal, Self

from pydantic import AfterValidator, Field, field_validator, model_validator

from ..scene import Fact, KeyName, Name, Point, SceneSpec, Spec, Value
from ..script import DEFAULT_LIMITS
from ..script.vocabulary import CONSTRUCTS
from ..trial import InputKind

LONGEST_TRIAL = 600
"""Seconds of one trial; a lesson has 2,700 and a class 24 scripts."""


def _half_marks(value: float) -> float:
    if value * 2 != int(value * 2):
        raise ValueError("must be a whole or a half number, such as 2 or 0.5")
    return value


Marks = Annotated[float, Field(ge=0, le=1000), AfterValidator(_half_marks)]
Seconds = Annotated[float, Field(ge=0, le=LONGEST_TRIAL)]
AfterAnswer = Annotated[str, Field(pattern=r"^answer [1-9][0-9]{0,2}$")]
Text = Annotated[str, Field(min_length=1, max_length=200)]
Concept = str
DEEDS: Final[tuple[InputKind, ...]] = ("press", "hold", "click", "pick", "answer", "type", "set")
CheckKind = Literal["at", "by", "always", "never", "end"]


def _construct(text: str) -> str:
    if text not in CONSTRUCTS:
        raise ValueError(f"must be one of: {', '.join(CONSTRUCTS)}")
    return text


Construct = Annotated[str, AfterValidator(_construct)]


class Variable(Spec):
    """A variable that the exercise is about; `also` are other names that it may have."""

    name: Name
    meaning: str = ""
    start: Value | None = None
    type: Literal["int", "float", "str", "bool"] | None = None
    label: str | None = None
    also: tuple[Name, ...] = ()


class Input(Spec):
    """What the player does, at a time or (`"answer 2"`, in a straight script) when an answer was taken.

    One of a `press`, a `hold` `for` some seconds and / or `until` an event, a `click` on a piece or
    a place, a choice to `pick`, an `answer`, words to `type`, and facts to `set`.
    """

    at: Seconds | AfterAnswer
    press: KeyName | None = None
    hold: KeyName | None = None
    for_: Annotated[float, Field(gt=0, le=LONGEST_TRIAL)] | None = Field(default=None, alias="for")
    until: str | None = None
    click: Name | Point | None = None
    pick: Text | None = None
    answer: Annotated[str, Field(max_length=200)] | None = None
    type: Text | None = None
    set: dict[Name, Value] | None = Field(default=None, min_length=1)

    @model_validator(mode="after")
    def _one_deed(self) -> Self:
        met = [deed for deed in DEEDS if getattr(self, deed) is not None]
        if len(met) != 1:
            known = ", ".join(f"`{deed}`" for deed in DEEDS)
            what = f"has {' and '.join(f'`{deed}`' for deed in met)}" if met else "has none"
            raise ValueError(f"needs one of {known}; it {what}")
        if self.hold is not None and self.for_ is None and self.until is None:
            raise ValueError("`hold` needs `for`, the seconds that the key stays down, or `until`, an event")
        if self.hold is None and (self.for_ is not None or self.until is not None):
            raise ValueError("`for` and `until` go with `hold`; a `press` is down for one frame")
        if isinstance(self.at, str) and self.answer is None:
            raise ValueError('`at = "answer …"` goes with an `answer`')
        return self

    @property
    def deed(self) -> InputKind:
        """Which of the deeds it is."""
        return next(deed for deed in DEEDS if getattr(self, deed) is not None)


class Check(Spec):
    """What must be true, and when: exactly one of `at`, `by`, `always`, `never`, `end`."""

    at: Seconds | None = None
    by: Seconds | None = None
    always: Literal[True] | None = None
    never: Literal[True] | None = None
    end: Literal[True] | None = None
    from_: Seconds | None = Field(default=None, alias="from")
    until: Seconds | None = None
    expect: str
    marks: Marks = 1
    concept: Concept | None = None
    because: str = ""

    @model_validator(mode="after")
    def _one_kind(self) -> Self:
        kinds = [kind for kind in ("at", "by", "always", "never", "end") if getattr(self, kind) is not None]
        if len(kinds) != 1:
            met = f"has {' and '.join(f'`{kind}`' for kind in kinds)}" if kinds else "has none"
            raise ValueError(f"needs exactly one of `at`, `by`, `always`, `never` and `end`; it {met}")
        if self.from_ is not None and self.kind in ("at", "end"):
            raise ValueError(f"`from` does not go with `{self.kind}`")
        if self.until is not None and self.kind not in ("always", "never"):
            raise ValueError(f"`until` does not go with `{self.kind}`")
        return self

    @property
    def kind(self) -> CheckKind:
        """Which of the kinds this check is."""
        kinds: tuple[CheckKind, ...] = ("at", "by", "always", "never", "end")
        return next(kind for kind in kinds if getattr(self, kind) is not None)


class Scenario(Spec):
    """Scripted inputs, what is put in place before them, and the checks."""

    name: str = Field(min_length=1, max_length=80)
    visible: bool = True
    seed: int = 1
    seconds: Annotated[float, Field(gt=0, le=LONGEST_TRIAL)] | None = None
    arrange: tuple[str, ...] = ()
    input: tuple[Input, ...] = ()
    check: tuple[Check, ...] = ()
    all_or_nothing: bool = False


class Help(Spec):
    """How far students see help, and after how many tries each step of it."""

    upto: Literal["none", "nudge", "pointer", "fix"] = "fix"
    after: tuple[int, int, int] = (1, 2, 3)


class Settings(Spec):
    """All of `exercise.toml`."""

    format: Literal[1]
    title: str = Field(min_length=1, max_length=120)
    seconds: Annotated[float, Field(gt=0, le=LONGEST_TRIAL)] = 10
    style: Literal["handlers", "straight"] = "handlers"
    at_end: Literal["go on", "freeze"] = "go on"
    narrow: tuple[Construct, ...] = ()
    concepts: tuple[Concept, ...] = ("variables", "events", "conditionals")
    help: Help = Help()
    limits: dict[str, Annotated[int, Field(ge=1)]] = Field(default_factory=dict)
    scene: SceneSpec
    variable: tuple[Variable, ...] = ()
    fact: tuple[Fact, ...] = ()
    scenario: tuple[Scenario, ...] = ()

    @field_validator("limits")
    @classmethod
    def _narrower(cls, value: dict[str, int]) -> dict[str, int]:
        most = asdict(DEFAULT_LIMITS)
        for name, limit in value.items():
            if name not in most:
                raise ValueError(f"has `{name}`, which is no limit; there are: {', '.join(most)}")
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
        if not self.full_scene.names.isdisjoint(variable.name for variable in self.variable):
            raise ValueError("a listed variable has the name of a thing of the scene; every name means one thing")
        return self

    @cached_property
    def full_scene(self) -> SceneSpec:
        """The scene with its facts, which a file may list beside it or in it."""
        if not self.fact:
            return self.scene
        return SceneSpec.model_validate({**dict(self.scene), "fact": (*self.scene.fact, *self.fact)})

    def length(self, scenario: Scenario) -> float:
        """The seconds of a scenario's trial."""
        return scenario.seconds if scenario.seconds is not None else self.seconds


class Exercise(Spec):
    """An exercise with all its files' texts. `reference` must earn every mark."""

    settings: Settings
    brief: str = ""
    starter: str = ""
    reference: str
    toml: str
    """The text of `exercise.toml`, for the lines of later complaints."""

    @property
    def title(self) -> str:
        """The exercise's title."""
        return self.settings.title
