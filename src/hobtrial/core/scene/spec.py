"""What a teacher sets up: the scene, its pieces, their motions and the spawners.

These are the tables of an `exercise.toml` as frozen values; `state.py` makes a running scene of
them. Lengths are in squares, times in seconds, speeds in squares a second, angles in degrees.
"""

from __future__ import annotations

import keyword
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from ..words import KEYS

MOST_PIECES = 500
"""Pieces in one scene, spawned ones included: more cannot be told apart on a screen."""


class Spec(BaseModel):
    """Base of all tables: frozen, and an unknown key is an error."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def _python_name(text: str) -> str:
    if not text.isidentifier() or keyword.iskeyword(text) or text.startswith("_"):
        raise ValueError("must be a Python name: letters, digits and _, not beginning with a digit or _")
    return text


def _key_name(text: str) -> str:
    if text not in KEYS:
        raise ValueError("must be a key: left, right, up, down, space, enter, a to z or 0 to 9")
    return text


Name = Annotated[str, AfterValidator(_python_name)]
KeyName = Annotated[str, AfterValidator(_key_name)]
Coordinate = Annotated[float, Field(ge=-1e6, le=1e6)]
Length = Annotated[float, Field(gt=0, le=1e4)]
Point = tuple[Coordinate, Coordinate]
Size = tuple[Length, Length]


class Still(Spec):
    """Does nothing."""


class Steered(Spec):
    """Moves by `speed` while its keys (left, right, up, down) are down."""

    speed: float = Field(default=6, ge=0, le=1000)
    axes: Literal["x", "y", "both"] = "both"
    keys: tuple[KeyName, KeyName, KeyName, KeyName] = ("left", "right", "up", "down")


class Falling(Spec):
    """Accelerates downwards by `gravity` squares/s², lands on solid pieces and the floor."""

    gravity: float = Field(default=10, ge=0, le=1000)


class MotionSpec(Spec):
    """Exactly one motion, as a table with one key: `{steered = {speed = 6}}`."""

    still: Still | None = None
    steered: Steered | None = None
    falling: Falling | None = None

    @model_validator(mode="before")
    @classmethod
    def _exactly_one(cls, data: Any) -> Any:
        if isinstance(data, dict) and len(data) != 1:
            known = ", ".join(cls.model_fields)
            raise ValueError(f"needs exactly one motion of: {known}")
        return data

    @property
    def name(self) -> str:
        """`still`, `steered` or `falling`."""
        return next(iter(self.model_fields_set), "still")


class PieceSpec(Spec):
    """One piece as it stands at the beginning; `at` is the middle of its box."""

    name: Name
    kind: Name = ""
    at: Point
    size: Size = (1.0, 1.0)
    look: str = ""
    facing: float = 0
    motion: MotionSpec = MotionSpec(still=Still())
    solid: bool = False
    hidden: bool = False
    vars: dict[Name, bool | int | float | str] = {}

    @model_validator(mode="before")
    @classmethod
    def _kind_is_name(cls, data: Any) -> Any:
        if isinstance(data, dict) and "name" in data:
            return {"kind": data["name"], **data}
        return data


class SpawnerSpec(Spec):
    """Adds a piece of a kind at set `times` or `every` n seconds, at listed places in turn."""

    name: Name
    kind: Name
    every: float | None = Field(default=None, gt=0)
    times: tuple[float, ...] | None = None
    at: tuple[Point, ...] = Field(min_length=1)
    pick: Literal["turn", "random"] = "turn"
    size: Size = (1.0, 1.0)
    look: str = ""
    motion: MotionSpec = MotionSpec(still=Still())
    solid: bool = False
    most: int = Field(default=100, ge=1, le=MOST_PIECES)

    @model_validator(mode="after")
    def _every_or_times(self) -> Self:
        if (self.every is None) == (self.times is None):
            raise ValueError("needs either `every` (seconds) or `times` (a list of seconds)")
        return self


class SceneSpec(Spec):
    """The sheet of squared paper and what stands on it; the origin is at the bottom left."""

    width: Length = 32
    height: Length = 18
    piece: tuple[PieceSpec, ...] = ()
    spawner: tuple[SpawnerSpec, ...] = ()

    @model_validator(mode="after")
    def _names_mean_one_thing(self) -> Self:
        pieces = [piece.name for piece in self.piece]
        taken = pieces + [spawner.name for spawner in self.spawner]
        twice = sorted({name for name in taken if taken.count(name) > 1})
        if twice:
            raise ValueError(f"`{twice[0]}` names two things; every piece and spawner needs a name of its own")
        shared = sorted(self.kinds & set(taken))
        if shared:
            raise ValueError(f"`{shared[0]}` names a kind and another thing")
        if len(pieces) > MOST_PIECES:
            raise ValueError(f"has {len(pieces)} pieces; at most {MOST_PIECES} are possible")
        return self

    @property
    def kinds(self) -> frozenset[str]:
        """Kinds that are names of their own, because no piece has that name."""
        names = {piece.name for piece in self.piece}
        kinds = {piece.kind for piece in self.piece} | {spawner.kind for spawner in self.spawner}
        return frozenset(kinds - names)
