"""Changes of an `exercise.toml` that keep everything else as its author wrote it, comments and order too."""

from __future__ import annotations

from typing import Any

import tomlkit
from tomlkit.items import AoT, Table


def with_scenario(toml: str, scenario: dict[str, Any]) -> str:
    """The text with one more scenario at its end; `scenario` has the keys of the file."""
    document = tomlkit.parse(toml)
    table = tomlkit.table()
    for key, value in scenario.items():
        if key in ("input", "check"):
            table.add(key, _tables(value))
        elif value not in ([], None):
            table.add(key, value)
    scenarios = document.get("scenario")
    if isinstance(scenarios, AoT):
        scenarios.append(table)
    else:
        document.add("scenario", tomlkit.aot())
        document["scenario"].append(table)
    return tomlkit.dumps(document)


def _tables(rows: list[dict[str, Any]]) -> AoT:
    found = tomlkit.aot()
    for row in rows:
        table: Table = tomlkit.table()
        for key, value in row.items():
            table.add(key, value)
        found.append(table)
    return found
