"""Rows of an `exercise.toml`: added, changed and taken away, while all else stays as its author wrote it.

tomlkit keeps comments, order and layout. What comes out is read again and compared with what was meant, so that no
layout, however odd, can turn one change into two.
"""

from __future__ import annotations

import copy
import tomllib
from collections.abc import Callable
from typing import Any, Final

import tomlkit
from tomlkit.exceptions import TOMLKitError
from tomlkit.items import AoT

from ..words import UsageError

Rows = list[dict[str, Any]]
INLINE: Final = frozenset(("cases", "steps", "motion", "wild", "predict", "vars", "set", "limits"))
"""Keys whose tables are written in one line."""


class Toml:
    """The text of an `exercise.toml` while it is changed."""

    def __init__(self, text: str) -> None:
        try:
            self.plain: dict[str, Any] = tomllib.loads(text)
            self._document = tomlkit.parse(text)
        except (tomllib.TOMLDecodeError, TOMLKitError) as error:
            raise UsageError(f"exercise.toml is not TOML as it stands ({error}); mend its text first.") from None
        except RecursionError:
            raise UsageError("exercise.toml is nested too deep; mend its text first.") from None

    def text(self) -> str:
        """The text as it is now. Raises `UsageError` where it would not say what was meant."""
        text = tomlkit.dumps(self._document)
        if tomllib.loads(text) != self.plain:
            raise UsageError("exercise.toml cannot be changed there without a change of something else.")
        return text

    def set(self, path: tuple[str | int, ...], key: str, value: Any) -> None:
        """Sets a key of a table, or takes it away where the value is nothing."""
        for root, made in ((self.plain, _as_is), (self._document, _as_item)):
            table = self._at(root, path)
            if value is None:
                table.pop(key, None)
            else:
                table[key] = made(key, value)

    def replace(self, path: tuple[str | int, ...], row: dict[str, Any]) -> None:
        """Other keys in the place of all that a table has; equal ones stay as they are."""
        before = self._at(self.plain, path)
        for key in [key for key in before if key not in row]:
            self.set(path, key, None)
        for key, value in row.items():
            if key not in before or before[key] != value:
                self.set(path, key, value)

    def add(self, path: tuple[str | int, ...], key: str, row: dict[str, Any], before: int | None) -> None:
        """Adds a row to a list of tables, which is made where it is not there."""
        plain = self._at(self.plain, path)
        rows = plain.setdefault(key, [])
        place = len(rows) if before is None else min(before, len(rows))
        table = self._at(self._document, path)
        if key not in table:
            table[key] = tomlkit.array() if key in INLINE else tomlkit.aot()
        listed = table[key]
        rows.insert(place, copy.deepcopy(row))
        made = _table(row) if isinstance(listed, AoT) else _as_item("set", row)
        if place == len(rows) - 1:
            listed.append(made)
        else:
            listed.insert(place, made)

    def remove(self, path: tuple[str | int, ...], key: str, index: int) -> None:
        """Takes a row out of a list of tables, and the list with its last one."""
        for root in (self.plain, self._document):
            table = self._at(root, path)
            del table[key][index]
            if not len(table[key]):
                del table[key]

    def rows(self, path: tuple[str | int, ...], key: str) -> Rows:
        """The rows of a list of tables, as they are now."""
        found: Any = self._at(self.plain, path).get(key, [])
        return found if isinstance(found, list) else []

    def _at(self, root: Any, path: tuple[str | int, ...]) -> Any:
        for part in path:
            if isinstance(root, dict) and isinstance(part, str) and part not in root:
                root[part] = {} if root is self.plain else tomlkit.table()
            root = root[part]
        return root


def _as_is(key: str, value: Any) -> Any:
    return copy.deepcopy(value)


def _as_item(key: str, value: Any) -> Any:
    """A value as tomlkit writes it: tables and lists of tables in one line."""
    if isinstance(value, dict):
        inline = tomlkit.inline_table()
        for name, part in value.items():
            inline.append(name, _as_item(name, part))
        return inline
    if isinstance(value, (list, tuple)):
        array = tomlkit.array()
        for part in value:
            array.append(_as_item(key, part))
        return array
    return tomlkit.item(value)


def _table(row: dict[str, Any]) -> Any:
    """A row as a table of its own; inputs and checks are tables in it, all else stands in a line."""
    table = tomlkit.table()
    later: list[tuple[str, Callable[[], Any]]] = []
    for key, value in row.items():
        if key in ("input", "check") and isinstance(value, list):
            later.append((key, lambda rows=value: _aot(rows)))  # type: ignore[misc]
        else:
            table.append(key, _as_item(key, value))
    for key, make in later:
        table.append(key, make())
    return table


def _aot(rows: Rows) -> AoT:
    found = tomlkit.aot()
    for row in rows:
        found.append(_table(row))
    return found
