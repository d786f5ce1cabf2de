"""A change of a draft as a value. The browser sends these; `apply.py` puts them on the files of a draft."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

TABLES: dict[str, tuple[str, ...]] = {
    "piece": ("scene", "piece"),
    "spawner": ("scene", "spawner"),
    "fact": ("fact",),
    "variable": ("variable",),
    "task": ("tasks",),
    "craft": ("craft",),
    "scenario": ("scenario",),
    "input": ("input",),
    "check": ("check",),
    "case": ("cases",),
}
"""Where the rows of each table stand in `exercise.toml`; the last three stand in a scenario."""

Table = Literal["piece", "spawner", "fact", "variable", "task", "craft", "scenario", "input", "check", "case"]
Index = Annotated[int, Field(ge=0, lt=10_000)]
Key = Annotated[str, Field(pattern=r"^[A-Za-z_][A-Za-z0-9_-]{0,59}$")]
Row = Annotated[dict[Key, Any], Field(max_length=60)]
LONGEST_TEXT = 64 * 1024
"""Letters of one file that is written in the workshop."""


class _Change(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class SetKeys(_Change):
    """Sets keys of the exercise itself, or (`of = "scene"`) of its scene; nothing takes a key away."""

    do: Literal["set"]
    keys: Row
    of: Literal["exercise", "scene", "help"] = "exercise"


class AddRow(_Change):
    """Adds a row to a table: a piece, a check, a scenario. Without `before` it comes last."""

    do: Literal["add"]
    table: Table
    row: Row
    scenario: Index | None = None
    before: Index | None = None


class ChangeRow(_Change):
    """Sets keys of one row; nothing takes a key away."""

    do: Literal["change"]
    table: Table
    index: Index
    keys: Row
    scenario: Index | None = None


class RemoveRow(_Change):
    """Takes one row away."""

    do: Literal["remove"]
    table: Table
    index: Index
    scenario: Index | None = None


class ReplaceRow(_Change):
    """Puts other keys in the place of all that a row has: a check becomes one of another kind."""

    do: Literal["replace"]
    table: Table
    index: Index
    row: Row
    scenario: Index | None = None


class SetInputs(_Change):
    """What the player does in a scenario, all of it; what is left as it was keeps its layout."""

    do: Literal["inputs"]
    scenario: Index
    inputs: Annotated[list[Row], Field(max_length=2000)]
    seconds: float | None = None


class CopyPiece(_Change):
    """Copies of a piece in a row, each so far from the one before; named after its kind with the next number."""

    do: Literal["copy"]
    index: Index
    times: Annotated[int, Field(ge=1, le=50)]
    by: tuple[float, float]


class WriteText(_Change):
    """The text of a file: the reference, the starter, the brief, or a companion."""

    do: Literal["write"]
    file: Annotated[str, Field(max_length=80)]
    text: Annotated[str, Field(max_length=LONGEST_TEXT)]


class DropFile(_Change):
    """Takes a file away that an exercise can do without."""

    do: Literal["drop"]
    file: Annotated[str, Field(max_length=80)]


class Several(_Change):
    """Changes that belong together: undone with one step."""

    do: Literal["several"]
    changes: Annotated[list[OneChange], Field(min_length=1, max_length=200)]


OneChange = Annotated[
    SetKeys | AddRow | ChangeRow | RemoveRow | ReplaceRow | SetInputs | CopyPiece | WriteText | DropFile,
    Field(discriminator="do"),
]
Change = Annotated[
    SetKeys | AddRow | ChangeRow | RemoveRow | ReplaceRow | SetInputs | CopyPiece | WriteText | DropFile | Several,
    Field(discriminator="do"),
]
CHANGE: TypeAdapter[Change] = TypeAdapter(Change)
