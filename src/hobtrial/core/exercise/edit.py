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
        if value in ([], None):
            continue
        table.add(key, _tables(value) if key in ("input", "check") else value)
    scenarios = document.get("scenario")
    if isinstance(scenarios, AoT):
        scenarios.append(table)
    else:
        document.add("scenario", tomlkit.aot())
        document["scenario"].append(table)
    return tomlkit.dumps(document)


def scenario_text(scenario: dict[str, Any]) -> str:
    """A scenario as the lines that can be put into an `exercise.toml`."""
    return with_scenario("", scenario).strip() + "\n"


def _tables(rows: list[dict[str, Any]]) -> AoT:
    found = tomlkit.aot()
    for row in rows:
        table: Table = tomlkit.table()
        for key, value in row.items():
            table.add(key, value)
        found.append(table)
    return found
