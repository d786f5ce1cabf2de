"""Where something of an exercise stands: the row of a table, or the line of a file. Faults and notices stand there."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Literal

from ..exercise import SETTINGS, Fault, Lines
from .changes import TABLES


@dataclass(frozen=True, slots=True)
class Place:
    """A row of a table (in a scenario, where it stands in one), or a line of a file."""

    file: str = SETTINGS
    line: int = 0
    table: str | None = None
    index: int | None = None
    scenario: int | None = None


@dataclass(frozen=True, slots=True)
class Notice:
    """Something that the author should know, and where.

    A `fault` stops everything before it is mended, `lost` is a mark that the reference itself does not earn, and all
    else is only `odd`.
    """

    text: str
    place: Place
    kind: Literal["fault", "lost", "odd"] = "odd"

    def as_json(self) -> dict[str, Any]:
        """The notice as the workshop shows it."""
        return {"text": self.text, "kind": self.kind, **asdict(self.place)}


def place_of(path: tuple[str | int, ...]) -> Place:
    """The row that a path of `exercise.toml` leads into."""
    scenario = None
    if path[:1] == ("scenario",) and len(path) > 3 and isinstance(path[1], int):
        scenario, inner = path[1], path[2:]
        for table in ("input", "check", "case"):
            if inner[0] == TABLES[table][0] and isinstance(inner[1], int):
                return Place(table=table, index=inner[1], scenario=scenario)
    for table, where in TABLES.items():
        index = path[len(where)] if len(path) > len(where) and path[: len(where)] == where else None
        if isinstance(index, int):
            return Place(table=table, index=index)
    return Place()


def notice_of(fault: Fault, toml: str) -> Notice:
    """A fault of loading where it belongs."""
    place = Place(fault.file, fault.line)
    if fault.file == SETTINGS and fault.line:
        found = place_of(Lines(toml).path_at(fault.line))
        place = Place(SETTINGS, fault.line, found.table, found.index, found.scenario)
    begins = fault.message.split(" ", 1)[0]
    text = f"{fault.file} {fault.message}" if begins in ("is", "has") else fault.message[:1].upper() + fault.message[1:]
    return Notice(text, place, "fault")
