"""In which line of a TOML text a key stands. Python's reader does not tell.

It follows headers and keys at the beginning of lines, which is how exercises are written; a key
inside an inline table is answered with the line on which that table begins.
"""

from __future__ import annotations

import re
from typing import Final

Path = tuple[str | int, ...]

_HEADER: Final = re.compile(r"\s*(\[\[?)\s*([^\[\]]+?)\s*\]\]?\s*(#.*)?$")
_KEY: Final = re.compile(r"""\s*(?:"([^"]+)"|'([^']+)'|([A-Za-z0-9_-]+))\s*=""")


class Lines:
    """The lines of all keys and tables of one text, by their path."""

    def __init__(self, text: str) -> None:
        self._lines: dict[Path, int] = {(): 1}
        counts: dict[Path, int] = {}
        table: Path = ()
        for number, line in enumerate(text.split("\n"), 1):
            header = _HEADER.match(line)
            if header is not None:
                table = self._table(header.group(2), counts, is_list=header.group(1) == "[[")
                self._lines.setdefault(table, number)
                continue
            key = _KEY.match(line)
            if key is not None:
                name = next(group for group in key.groups() if group)
                self._lines.setdefault((*table, name), number)

    @staticmethod
    def _table(dotted: str, counts: dict[Path, int], *, is_list: bool) -> Path:
        path: Path = ()
        names = [part.strip().strip("\"'") for part in dotted.split(".")]
        for position, name in enumerate(names):
            path = (*path, name)
            if position == len(names) - 1 and is_list:
                counts[path] = counts.get(path, -1) + 1
                path = (*path, counts[path])
            elif path in counts:
                path = (*path, counts[path])
        return path

    def of(self, path: Path) -> int:
        """The line of a path, or of the nearest table round it."""
        while path not in self._lines and path:
            path = path[:-1]
        return self._lines[path]

    def path_at(self, line: int) -> Path:
        """The path of the key or table that stands in a line, or last before it."""
        return max(self._lines.items(), key=lambda each: (each[1] <= line, each[1] if each[1] <= line else 0))[0]
