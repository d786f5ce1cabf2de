"""The files of a draft that begins with nothing: an empty sheet, one scenario, and where the rules go."""

from __future__ import annotations

import tomllib
from typing import Final

TOML: Final = """\
format = 1
title = "A new exercise"
seconds = 6

[scene]
width = 32
height = 18

[[scenario]]
name = "Nothing is done"
"""


def new_files(title: str = "") -> dict[str, bytes]:
    """The files of an exercise that its author has not begun yet."""
    toml = TOML.replace("A new exercise", title.replace("\\", "").replace('"', "")) if title else TOML
    return {
        "exercise.toml": toml.encode(),
        "brief.md": b"",
        "starter.py": b"",
        "reference.py": b"# The rules of the game\n",
    }


def title_of(settings: bytes) -> str:
    """The title of a draft; something to call it by where it has none that can be read."""
    try:
        title = tomllib.loads(settings.decode("utf-8-sig", "replace")).get("title")
    except (tomllib.TOMLDecodeError, RecursionError):
        title = None
    return title if isinstance(title, str) and title.strip() else "An exercise without a title"
