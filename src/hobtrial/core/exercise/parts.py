"""What the tables of an exercise are made of: marks, times, texts."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, Field

from ..scene.spec_base import python_name

LONGEST_TRIAL = 600
"""Seconds of one trial; a lesson has 2,700 and a class 24 scripts."""


def _half_marks(value: float) -> float:
    if value * 2 != int(value * 2):
        raise ValueError("must be a whole or a half number, such as 2 or 0.5")
    return value


Marks = Annotated[float, Field(ge=0, le=1000), AfterValidator(_half_marks)]
Seconds = Annotated[float, Field(ge=0, le=LONGEST_TRIAL)]
Span = Annotated[float, Field(gt=0, le=LONGEST_TRIAL)]
Frames = Annotated[int, Field(ge=0, le=3000)]
Text = Annotated[str, Field(min_length=1, max_length=200)]
Expression = Annotated[str, Field(max_length=500)]
Concept = str


def _variable_name(text: str) -> str:
    for part in text.split(".", 1):
        python_name(part)
    return text


VariableName = Annotated[str, AfterValidator(_variable_name)]
"""A script's variable, or a piece's own: `score`, `hob.lives`."""
AfterAnswer = Annotated[str, Field(pattern=r"^answer [1-9][0-9]{0,2}$")]

LOOKS: frozenset[str] = frozenset(
    (
        "hob hob_busy hob_sooty bun bun_burnt dough loaf sack soot oven oven_lit bell bellows broom shelf tray bowl "
        "lamp lamp_lit crate chimney wall hatch floor"
    ).split()
)
"""The looks that come with the program, each with its drawing in the front end."""
