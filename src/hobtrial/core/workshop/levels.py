"""An exercise with levels → the exercise that a student of one level has.

The scenarios that apply are the same at every level, so that marks by concept can be compared.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..exercise import AT_LEVEL, BRIEF, SETTINGS, STARTER, LevelName, load
from .apply import apply
from .changes import CHANGE
from .toml_rows import Toml

OWN_FILES = {"starter": STARTER, "brief": BRIEF}


def levels_of(files: Mapping[str, bytes]) -> tuple[LevelName, ...]:
    """The levels that an exercise has. Raises `ExerciseError`."""
    return tuple(load(files).settings.levels)


def at_level(files: Mapping[str, bytes], level: LevelName) -> dict[str, bytes]:
    """The files of an exercise as a level has it: its tasks, help, starter and brief. Raises `ExerciseError`."""
    settings = load(files).settings
    found = without_levels(files)
    for name, data in files.items():
        met = AT_LEVEL.fullmatch(name)
        if met is not None and met[1] == level:
            found[OWN_FILES[name.split(".")[0]]] = data
    changes: list[dict[str, Any]] = []
    tasks = {"scenario": [row.task for row in settings.scenario], "craft": [row.task for row in settings.craft]}
    for table, of_rows in tasks.items():
        gone = [index for index, task in enumerate(of_rows) if not settings.is_at(task, level)]
        changes += [{"do": "remove", "table": table, "index": index} for index in reversed(gone)]
    gone = [index for index, task in enumerate(settings.tasks) if not settings.is_at(task.id, level)]
    changes += [{"do": "remove", "table": "task", "index": index} for index in reversed(gone)]
    own = settings.levels[level].help
    if own is not None:
        changes.append({"do": "set", "keys": {"help": {"upto": own.upto, "after": list(own.after)}}})
    return apply(found, CHANGE.validate_python({"do": "several", "changes": changes})) if changes else found


def without_levels(files: Mapping[str, bytes]) -> dict[str, bytes]:
    """The files of an exercise that has no levels any more, but for its own starter and brief."""
    found = {name: data for name, data in files.items() if AT_LEVEL.fullmatch(name) is None}
    toml = Toml(files[SETTINGS].decode("utf-8-sig"))
    if "levels" in toml.plain:
        toml.set((), "levels", None)
        found[SETTINGS] = toml.text().encode()
    return found
