"""What a teacher sets up: the scene, its pieces, the spawners, facts and places.

These are the tables of an `exercise.toml` as frozen values; `state.py` makes a running scene of
them. Lengths are in squares, times in seconds, speeds in squares a second, angles in degrees.
"""

from __future__ import annotations

import functools
from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from .motion_spec import MotionSpec, Still
from .spec_base import Coordinate, Length, Name, Point, Seconds, Size, Spec, Value

MOST_PIECES = 500
"""Pieces in one scene, spawned ones included: more cannot be told apart on a screen."""

Label = Annotated[str, Field(min_length=1, max_length=60)]


class PieceSpec(Spec):
    """One piece as it stands at the beginning; `at` is the middle of its box."""

    name: Name
    kind: Name = ""
    at: Point
    size: Size = (1.0, 1.0)
    look: Label | None = None
    looks: Annotated[tuple[Label, ...], Field(min_length=1)] | None = None
    facing: Coordinate = 0
    motion: MotionSpec = MotionSpec(still=Still())
    solid: bool = False
    pushed: bool = False
    zone: bool = False
    hidden: bool = False
    frozen: bool = False
    vars: dict[Name, Value] = Field(default_factory=dict)

    @model_validator(mode="before")
    @classmethod
    def _kind_is_name(cls, data: Any) -> Any:
        if isinstance(data, dict) and "name" in data:
            return {"kind": data["name"], **data}
        return data

    @model_validator(mode="after")
    def _possible(self) -> Self:
        if self.look is not None and self.looks is not None:
            raise ValueError("has both `look` and `looks`; give one of them")
        if self.zone and (self.solid or self.pushed):
            raise ValueError("is a zone, which is only an area; it cannot be solid or pushed")
        own = {"x", "y", "look", "visible", "opacity", "size", "speed", "vx", "vy", "carrying", "name", "kind"}
        taken = sorted(own & set(self.vars))
        if taken:
            raise ValueError(f"has `{taken[0]}` in `vars`, which every piece has already; take another name")
        return self

    @property
    def all_looks(self) -> tuple[str, ...]:
        """Its looks, the first one first."""
        return self.looks or (self.look or self.kind,)


class SpawnerSpec(Spec):
    """Adds a piece of a kind at set `times` or `every` n seconds, at listed places, in turn or by chance."""

    name: Name
    kind: Name
    every: Seconds | None = None
    times: Annotated[tuple[Annotated[float, Field(ge=0, le=1e6)], ...], Field(max_length=MOST_PIECES)] | None = None
    at: tuple[Point, ...] = Field(min_length=1)
    pick: Literal["turn", "random"] = "turn"
    size: Size = (1.0, 1.0)
    look: Label | None = None
    motion: MotionSpec = MotionSpec(still=Still())
    solid: bool = False
    most: int = Field(default=100, ge=1, le=MOST_PIECES)

    @model_validator(mode="after")
    def _every_or_times(self) -> Self:
        if (self.every is None) == (self.times is None):
            raise ValueError("needs either `every` (seconds) or `times` (a list of seconds)")
        return self

    @functools.cached_property
    def mould(self) -> PieceSpec:
        """What each of its pieces is like."""
        return PieceSpec(
            name=self.kind,
            kind=self.kind,
            at=self.at[0],
            size=self.size,
            look=self.look,
            motion=self.motion,
            solid=self.solid,
        )


class Fact(Spec):
    """A value of the scene that a script reads and cannot set; in live play it is a dial."""

    name: Name
    start: Value
    range: tuple[float, float] | None = None
    choices: Annotated[tuple[Value, ...], Field(min_length=1)] | None = None

    @model_validator(mode="after")
    def _possible(self) -> Self:
        if self.range is not None and self.choices is not None:
            raise ValueError("has both `range` and `choices`; give one of them")
        if self.range is not None and self.range[0] >= self.range[1]:
            raise ValueError("has a `range` whose first number is not below its second")
        self.accept(self.start)
        return self

    def accept(self, value: Any) -> None:
        """Raises `ValueError` for a value that the fact cannot have."""
        number = isinstance(value, (int, float)) and not isinstance(value, bool)
        if self.choices is not None and value not in self.choices:
            raise ValueError(f"can be {', '.join(map(repr, self.choices))}, not {value!r}")
        if self.range is not None and not (number and self.range[0] <= value <= self.range[1]):
            raise ValueError(f"is a number from {self.range[0]:g} to {self.range[1]:g}, not {value!r}")
        if self.choices is None and _family(self.start) != _family(value):
            raise ValueError(f"begins with {self.start!r} and cannot become {value!r}")

    def accepts(self, value: Any) -> bool:
        """Whether the fact can have a value."""
        try:
            self.accept(value)
        except ValueError:
            return False
        return True


def _family(value: Any) -> str:
    """Truth values, numbers, texts, and what no fact can be."""
    if isinstance(value, bool):
        return "truth"
    return "number" if isinstance(value, (int, float)) else "text" if isinstance(value, str) else "other"


class SceneSpec(Spec):
    """The sheet of squared paper and what stands on it; the origin is at the bottom left."""

    width: Length = 32
    height: Length = 18
    background: Label | None = None
    places: tuple[Label, ...] = ()
    piece: tuple[PieceSpec, ...] = ()
    spawner: tuple[SpawnerSpec, ...] = ()
    fact: tuple[Fact, ...] = ()

    @model_validator(mode="after")
    def _names_mean_one_thing(self) -> Self:
        pieces = [piece.name for piece in self.piece]
        taken = pieces + [spawner.name for spawner in self.spawner] + [fact.name for fact in self.fact]
        twice = sorted({name for name in taken if taken.count(name) > 1})
        if twice:
            raise ValueError(f"`{twice[0]}` names two things; every piece, spawner and fact needs a name of its own")
        shared = sorted(self.kinds & set(taken))
        if shared:
            raise ValueError(f"`{shared[0]}` names a kind and another thing")
        if len(pieces) > MOST_PIECES:
            raise ValueError(f"has {len(pieces)} pieces; at most {MOST_PIECES} are possible")
        return self

    @model_validator(mode="after")
    def _others_are_there(self) -> Self:
        others = {piece.name: piece.motion.other for piece in self.piece}
        for name, other in (*others.items(), *((each.name, each.motion.other) for each in self.spawner)):
            if other is not None and other not in others:
                raise ValueError(f"`{name}` moves by `{other}`, and no piece has that name")
        attached = {piece.name: piece.motion.attached.to for piece in self.piece if piece.motion.attached is not None}
        for name in attached:
            seen, end = {name}, attached.get(name)
            while end is not None:
                if end in seen:
                    raise ValueError(f"`{name}` is attached in a circle")
                seen.add(end)
                end = attached.get(end)
        return self

    @property
    def kinds(self) -> frozenset[str]:
        """Kinds that are names of their own, because no piece has that name."""
        return self.all_kinds - {piece.name for piece in self.piece}

    @property
    def all_kinds(self) -> frozenset[str]:
        """Kinds of pieces and of what spawners add."""
        return frozenset({piece.kind for piece in self.piece} | {spawner.kind for spawner in self.spawner})

    @property
    def names(self) -> frozenset[str]:
        """All names that a script is given for things of the scene."""
        named = {*(each.name for each in self.piece), *(each.name for each in self.spawner)}
        return self.kinds | named | {fact.name for fact in self.fact}
