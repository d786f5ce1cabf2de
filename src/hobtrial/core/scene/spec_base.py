"""What all tables of an exercise are made of: the frozen base, names, keys, lengths and points."""

from __future__ import annotations

import keyword
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from ..words import KEYS


class Spec(BaseModel):
    """Base of all tables: frozen, and an unknown key is an error."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def python_name(text: str) -> str:
    """The text, if it is a name. Raises `ValueError`."""
    if not text.isidentifier() or keyword.iskeyword(text) or text.startswith("_"):
        raise ValueError("must be a Python name: letters, digits and _, not beginning with a digit or _")
    return text


def _key_name(text: str) -> str:
    if text not in KEYS:
        raise ValueError("must be a key: left, right, up, down, space, enter, a to z or 0 to 9")
    return text


Name = Annotated[str, AfterValidator(python_name)]
KeyName = Annotated[str, AfterValidator(_key_name)]
Coordinate = Annotated[float, Field(ge=-1e6, le=1e6)]
Length = Annotated[float, Field(gt=0, le=1e4)]
Point = tuple[Coordinate, Coordinate]
Size = tuple[Length, Length]
Seconds = Annotated[float, Field(gt=0, le=1e6)]
Value = bool | int | float | str
"""What a variable, a fact or a piece's own variable can begin with."""
