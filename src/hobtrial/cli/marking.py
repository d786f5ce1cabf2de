"""`hob mark`: marks scripts in worker processes; a table for people, JSON for programs."""

from __future__ import annotations

import asyncio
import json
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from rich.console import Console
from rich.progress import Progress
from rich.table import Table
from rich.text import Text

from ..core.words import UsageError
from ..crew import Crew
from .inputs import Given, exercise_files, scripts
from .tables import as_csv, as_junit


@dataclass(frozen=True)
class Files:
    """Where the report goes besides the screen."""

    json: Path | None = None
    csv: Path | None = None
    junit: Path | None = None

    def write(self, result: dict[str, Any]) -> int:
        """Writes the files that were asked for. Gives 1 if any could not be written."""
        made: list[tuple[Path | None, Callable[[], bytes]]] = [
            (self.json, lambda: (json.dumps(result, indent=1, ensure_ascii=False) + "\n").encode()),
            (self.csv, lambda: as_csv(result).encode("utf-8-sig")),  # so that spreadsheets know the encoding
            (self.junit, lambda: as_junit(result)),
        ]
        status = 0
        for path, content in made:
            if path is None:
                continue
            try:
                path.write_bytes(content())
            except OSError as error:
                complain([f"{path}: cannot be written: {error.strerror}"])
                status = 1
        return status


def mark(exercise: Path, paths: list[Path], files: Files, jobs: int) -> int:
    """Marks scripts on an exercise and prints a table.

    Gives the exit status: 0 marked, 1 when the exercise or a path could not be used. What could
    be used is marked and written all the same.
    """
    given, status = collect(paths)
    try:
        result = asyncio.run(_mark_all(exercise_files(exercise), given, jobs))
    except UsageError as error:
        complain(f"{exercise}: {line}" if str(exercise) not in line else line for line in str(error).split("\n"))
        return 1
    status = max(status, files.write(result))
    _console().print(_table(result))
    return status


def collect(paths: list[Path]) -> tuple[list[Given], int]:
    """All scripts of some paths, and 1 if any path could not be used."""
    given: list[Given] = []
    status = 0
    for path in paths:
        try:
            given.extend(scripts(path))
        except UsageError as error:
            complain(str(error).split("\n"))
            status = 1
    return given, status


def complain(lines: Any) -> None:
    """Writes lines to stderr."""
    for line in lines:
        print(line, file=sys.stderr)


async def _mark_all(files: dict[str, bytes], given: list[Given], jobs: int) -> dict[str, Any]:
    async with Crew(max(1, min(jobs, len(given) or 1))) as crew:
        exercise = await crew.open(files)
        with Progress(console=Console(stderr=True), transient=True, disable=not sys.stderr.isatty()) as progress:
            bar = progress.add_task("marking", total=len(given))

            async def one(script: Given) -> dict[str, Any]:
                report = await crew.mark(exercise, script.name, script.source)
                progress.advance(bar)
                return report

            reports = await asyncio.gather(*(one(script) for script in given))
    cut_short = [report.pop("cut_short") for report in reports]
    return {
        "format": 1,
        "exercise": exercise.title,
        "out_of": int(exercise.out_of) if exercise.out_of == int(exercise.out_of) else exercise.out_of,
        "cut_short": any(cut_short),
        "scripts": reports,
    }


def _console() -> Console:
    return Console() if sys.stdout.isatty() else Console(width=140)


def _table(result: dict[str, Any]) -> Table:
    table = Table(
        title=f"{result['exercise']}, out of {result['out_of']}", title_justify="left", box=None, pad_edge=False
    )
    for heading, side in (
        ("Script", "left"),
        ("Marks", "right"),
        ("Checks", "left"),
        ("What went wrong first", "left"),
    ):
        table.add_column(heading, justify=side, overflow="fold")  # type: ignore[arg-type]
    for script in result["scripts"]:
        table.add_row(Text(script["script"]), str(script["marks"]), Text(_marks_line(script)), Text(_first(script)))
    return table


def _marks_line(script: dict[str, Any]) -> str:
    """A sign a check, a gap between scenarios: `.` held, `x` broken, `o` not reached."""
    signs = {"held": ".", "broken": "x", "not reached": "o"}
    groups = [scenario["checks"] for scenario in script["scenarios"]] + [script["craft"]]
    return " ".join("".join(signs[each["verdict"]] for each in group) for group in groups).rstrip()


def _first(script: dict[str, Any]) -> str:
    if not script["findings"]:
        return "Read and run. Nothing to report."
    finding = script["findings"][0]
    more = len(script["findings"]) - 1
    pointer: str = finding["pointer"]
    return pointer + (f" (and {more} more)" if more else "")
