"""Inputs, checks and craft lines, as `exercise.toml` spells them. Times are in seconds."""

from __future__ import annotations

from typing import Annotated, Any, Final, Literal, Self

from pydantic import Field, model_validator

from ..scene import KeyName, Name, Point, Spec, Value
from ..trial import InputKind
from .parts import AfterAnswer, Concept, Expression, Frames, Marks, Seconds, Span, Text

DEEDS: Final[tuple[InputKind, ...]] = ("press", "hold", "click", "pick", "answer", "type", "set")
CheckKind = Literal["at", "after", "by", "always", "never", "each", "same", "unchanged", "end", "apart", "case"]
KINDS: Final[tuple[CheckKind, ...]] = (
    "at", "after", "by", "always", "never", "each", "same", "unchanged", "end", "apart",
)  # fmt: skip
"""The kinds that a check can be written as; `case` is what the rows of `cases` become."""
GOES_WITH: Final[dict[str, tuple[CheckKind, ...]]] = {
    "nth": ("after",),
    "later": ("after",),
    "within": ("each", "same"),
    "from": ("by", "always", "never", "unchanged"),
    "until": ("always", "never", "unchanged"),
}
"""The kinds that a further key belongs to."""
CLOSE_FRAMES: Final = 3
"""Frames by which a change may come earlier or later in a `same` check."""


class Input(Spec):
    """What the player does, at a time or (`"answer 2"`, in a straight script) when an answer was taken.

    One of a `press`, a `hold` `for` some seconds and / or `until` an event, a `click` on a piece or
    a place, a choice to `pick`, an `answer`, words to `type`, and facts to `set`.
    """

    at: Seconds | AfterAnswer
    press: KeyName | None = None
    hold: KeyName | None = None
    for_: Span | None = Field(default=None, alias="for")
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
    """What must be true, and when: exactly one of the kinds."""

    at: Seconds | None = None
    after: Expression | None = None
    by: Seconds | None = None
    always: Literal[True] | None = None
    never: Literal[True] | None = None
    each: Expression | None = None
    same: Annotated[tuple[str, ...], Field(min_length=1)] | None = None
    unchanged: Annotated[tuple[str, ...], Field(min_length=1)] | None = None
    end: Literal[True] | None = None
    apart: Span | None = None
    nth: Annotated[int, Field(ge=1, le=10_000)] | None = None
    later: Seconds | None = None
    within: Frames | None = None
    from_: Seconds | None = Field(default=None, alias="from")
    until: Seconds | None = None
    expect: Expression | None = None
    only_if: Expression | None = None
    marks: Marks = 1
    concept: Concept | None = None
    because: str = ""

    @model_validator(mode="after")
    def _one_kind(self) -> Self:
        met = [kind for kind in KINDS if getattr(self, kind) is not None]
        if self.apart is not None and "each" in met:
            met.remove("each")  # it says of which event
        elif self.apart is not None:
            raise ValueError("`apart` goes with `each`, the event that must not come again too soon")
        if len(met) != 1:
            what = f"has {' and '.join(f'`{kind}`' for kind in met)}" if met else "has none"
            known = ", ".join(f"`{kind}`" for kind in KINDS)
            raise ValueError(f"needs exactly one of {known}; it {what}")
        for key, kinds in GOES_WITH.items():
            if getattr(self, "from_" if key == "from" else key) is not None and self.kind not in kinds:
                known = " and ".join(f"`{kind}`" for kind in kinds)
                raise ValueError(f"`{key}` goes with {known}, not with `{self.kind}`")
        named = self.kind in ("same", "unchanged", "apart")
        if named and self.expect is not None:
            raise ValueError(f"`{self.kind}` names what it is about; it has no `expect`")
        if not named and not (self.expect or "").strip():
            raise ValueError("`expect` is missing; write what must be true, as in `score == 3`")
        return self

    @property
    def kind(self) -> CheckKind:
        """Which of the kinds this check is."""
        return next(kind for kind in reversed(KINDS) if getattr(self, kind) is not None)

    @property
    def text(self) -> str:
        """What it expects, in a line."""
        if self.expect is not None:
            return self.expect.strip()
        if self.apart is not None:
            return f"{self.each} at least {self.apart:g} s apart"
        names = self.same or self.unchanged or ()
        return f"{', '.join(names)} {'as in the reference' if self.same else 'unchanged'}"


Luck = Literal["lowest", "highest"] | Annotated[tuple[Any, ...], Field(min_length=1, max_length=1000)]
"""What `random` gives in a scenario: the lower or the upper end, or values in order."""


class Craft(Spec):
    """What must be so in the script's text, whatever it does: `handles meets(hob, bun)`."""

    expect: Expression
    marks: Marks = 1
    concept: Concept | None = None
    task: str | None = None
    because: str = ""


class Case(Spec):
    """One row of `cases`: what is put in place and played, and what must then be true.

    Its `inputs` and `answers` come besides those of the scenario; `luck` and `seed` stand for the scenario's.
    """

    arrange: tuple[str, ...] = ()
    inputs: Annotated[tuple[Input, ...], Field(max_length=200)] = ()
    answers: Annotated[tuple[Annotated[str, Field(max_length=200)], ...], Field(max_length=50)] = ()
    luck: Luck | None = None
    seed: int | None = None
    expect: Expression
    marks: Marks = 1
    because: str = ""


class Wild(Spec):
    """Random inputs in many trials, the same ones for every script."""

    runs: Annotated[int, Field(ge=1, le=500)] = 50
    seconds: Span | None = None
    keys: tuple[KeyName, ...] = ()
    clicks: tuple[Name, ...] = ()
    picks: tuple[Text, ...] = ()

    @model_validator(mode="after")
    def _something_to_do(self) -> Self:
        if not (self.keys or self.clicks or self.picks):
            raise ValueError("needs some `keys`, `clicks` or `picks` to draw from")
        return self


class Predict(Spec):
    """What is written down before the run is seen: variables, `outcome`, `hob.look`; or `told`, the last line."""

    names: Annotated[tuple[Text, ...], Field(min_length=1, max_length=12)]
    at: Seconds
    marks: Marks = 0
