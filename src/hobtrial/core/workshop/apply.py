"""draft + change → draft: one pure function. A draft is the files of an exercise, whatever is wrong with them."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any, Final

from tomlkit.exceptions import TOMLKitError

from ..exercise import BRIEF, REFERENCE, SETTINGS, STARTER
from ..words import UsageError
from .changes import (
    TABLES,
    AddRow,
    Change,
    ChangeRow,
    CopyPiece,
    DropFile,
    RemoveRow,
    ReplaceRow,
    SetInputs,
    SetKeys,
    Several,
    WriteText,
)
from .toml_rows import Toml

Files = Mapping[str, bytes]
WRITTEN: Final = (SETTINGS, REFERENCE, STARTER, BRIEF)
ODD: Final = (TOMLKitError, TypeError, ValueError, KeyError, IndexError, AttributeError, RecursionError)
"""What a value that TOML cannot hold leads to, or a text that has something else where a table belongs."""
IN_SCENARIO: Final = frozenset(("input", "check", "case"))


def apply(files: Files, change: Change) -> dict[str, bytes]:
    """The files after a change; equal ones where it changes nothing.

    Raises `UsageError` for a change of what is not there, or of an `exercise.toml` that cannot be read.
    """
    match change:
        case Several():
            for each in change.changes:
                files = apply(files, each)
            return dict(files)
        case WriteText():
            if change.file not in WRITTEN:
                raise UsageError(f"{change.file} is not a text of an exercise.")
            return {**files, change.file: change.text.replace("\r\n", "\n").encode("utf-8", "replace")}
        case DropFile():
            if change.file in (SETTINGS, REFERENCE) or change.file not in files:
                raise UsageError(f"{change.file} cannot be taken away.")
            return {name: data for name, data in files.items() if name != change.file}
    toml = Toml(files.get(SETTINGS, b"").decode("utf-8-sig", "replace").replace("\r\n", "\n"))
    try:
        _in_toml(toml, change)
        return {**files, SETTINGS: toml.text().encode()}
    except ODD as error:
        raise UsageError(f"exercise.toml cannot be changed like that: {error}.") from None


def _in_toml(toml: Toml, change: Any) -> None:
    match change:
        case SetKeys():
            path: tuple[str | int, ...] = () if change.of == "exercise" else (change.of,)
            for key, value in change.keys.items():
                toml.set(path, key, value)
        case AddRow():
            toml.add(*_list(toml, change.table, change.scenario), change.row, change.before)
        case ChangeRow():
            row = _row(toml, change.table, change.scenario, change.index)
            for key, value in change.keys.items():
                toml.set(row, key, value)
        case ReplaceRow():
            toml.replace(_row(toml, change.table, change.scenario, change.index), change.row)
        case RemoveRow():
            _row(toml, change.table, change.scenario, change.index)
            toml.remove(*_list(toml, change.table, change.scenario), change.index)
        case SetInputs():
            _inputs(toml, change)
        case CopyPiece():
            _copies(toml, change)


def _list(toml: Toml, table: str, scenario: int | None) -> tuple[tuple[str | int, ...], str]:
    """Where the rows of a table stand: the table round them and their key."""
    *path, key = TABLES[table]
    if (table in IN_SCENARIO) != (scenario is not None):
        raise UsageError(f"A {table} {'stands in a scenario' if scenario is None else 'does not stand in a scenario'}.")
    if scenario is None:
        return tuple(path), key
    if scenario >= len(toml.rows((), "scenario")):
        raise UsageError("That scenario is not there any more.")
    return ("scenario", scenario, *path), key


def _row(toml: Toml, table: str, scenario: int | None, index: int) -> tuple[str | int, ...]:
    path, key = _list(toml, table, scenario)
    if index >= len(toml.rows(path, key)):
        raise UsageError(f"That {table} is not there any more.")
    return (*path, key, index)


def _inputs(toml: Toml, change: SetInputs) -> None:
    """Rows that are equal at the beginning and at the end stay as they are; those between are written."""
    path, key = _list(toml, "input", change.scenario)
    old, new = list(toml.rows(path, key)), list(change.inputs)
    first = 0
    while first < min(len(old), len(new)) and old[first] == new[first]:
        first += 1
    last = 0
    while last < min(len(old), len(new)) - first and old[-1 - last] == new[-1 - last]:
        last += 1
    shared = min(len(old), len(new)) - first - last
    for index in range(first, first + shared):
        toml.replace((*path, key, index), new[index])
    for index in reversed(range(first + shared, len(old) - last)):
        toml.remove(path, key, index)
    for index in range(first + shared, len(new) - last):
        toml.add(path, key, new[index], index)
    if change.seconds is not None:
        toml.set(path, "seconds", change.seconds)


def _copies(toml: Toml, change: CopyPiece) -> None:
    _row(toml, "piece", None, change.index)
    path, key = _list(toml, "piece", None)
    rows = toml.rows(path, key)
    row = rows[change.index]
    name, at = str(row.get("name", "")), row.get("at")
    if not name or not (isinstance(at, list) and len(at) == 2):
        raise UsageError("A piece can be copied once it has a name and a place.")
    kind = str(row.get("kind", re.sub(r"_?\d+$", "", name)))
    taken = {str(each.get("name")) for each in rows}
    if kind == name:  # a piece that was alone becomes one of several
        name = f"{kind}_1"
        toml.set((*path, key, change.index), "name", name)
    if "kind" not in row:
        toml.set((*path, key, change.index), "kind", kind)
    row = dict(toml.rows(path, key)[change.index])
    number = 1
    for turn in range(1, change.times + 1):
        while f"{kind}_{number}" in taken | {name}:
            number += 1
        taken.add(f"{kind}_{number}")
        place = [_tidy(at[0] + turn * change.by[0]), _tidy(at[1] + turn * change.by[1])]
        toml.add(path, key, {**row, "name": f"{kind}_{number}", "at": place}, change.index + turn)


def _tidy(number: float) -> int | float:
    rounded = round(number, 3)
    return int(rounded) if rounded == int(rounded) else rounded
