"""`hob mark`: marks scripts in worker processes; a table for people, JSON for programs."""

from __future__ import annotations

import asyncio
import json
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

from rich.console import Console
from rich.progress import Progress
from rich.table import Table
from rich.text import Text

from ..core.judging import tidy
from ..core.reporting import Report
from ..core.words import UsageError
from ..crew import Crew, InternalError
from .inputs import Given, exercise_files, scripts
from .tables import as_csv, as_junit

NOT_USED: Final = 1
"""Exit status: the exercise or a path could not be used."""
NOT_OURS_TO_JUDGE: Final = 3
"""Exit status: something went wrong that is no script's fault, the machine's or this program's."""


@dataclass(frozen=True, slots=True)
class Result:
    """What was marked."""

    exercise: str
    out_of: int | float
    reports: tuple[Report, ...]
    lost: tuple[str, ...] = ()
    """What the reference loses itself: then the exercise is at fault."""

    def as_json(self) -> dict[str, Any]:
        """The result as `--json` writes it: whether any explanation was cut short stands above the scripts."""
        found = [report.as_json() for report in self.reports]
        cut_short = [report.pop("cut_short") for report in found]
        return {
            "format": 1,
            "exercise": self.exercise,
            "out_of": self.out_of,
            "cut_short": any(cut_short),
            "scripts": found,
        }


@dataclass(frozen=True)
class Files:
    """Where the report goes besides the screen."""

    json: Path | None = None
    csv: Path | None = None
    junit: Path | None = None

    def write(self, result: Result) -> int:
        """Writes the files that were asked for. Gives 1 if any could not be written."""
        made: list[tuple[Path | None, Callable[[], bytes]]] = [
            (self.json, lambda: (json.dumps(result.as_json(), indent=1, ensure_ascii=False) + "\n").encode()),
            (self.csv, lambda: as_csv(result.reports).encode("utf-8-sig")),  # so that spreadsheets know the encoding
            (self.junit, lambda: as_junit(result.exercise, result.reports)),
        ]
        status = 0
        for path, content in made:
            if path is None:
                continue
            try:
                path.write_bytes(content())
            except OSError as error:
                complain([f"{path} cannot be written: {error.strerror}"])
                status = 1
        return status


def mark(exercise: Path, paths: list[Path], files: Files, jobs: int) -> int:
    """Marks scripts on an exercise and prints a table.

    Gives the exit status: 0 marked, 1 when the exercise or a path could not be used, 3 when a script could not be
    marked or explained through no fault of its own. What could be used is marked and written all the same.
    """
    given, status = collect(paths)
    try:
        result = asyncio.run(_mark_all(exercise_files(exercise), given, jobs))
    except UsageError as error:
        complain(f"{exercise}: {line}" if str(exercise) not in line else line for line in str(error).split("\n"))
        return NOT_USED
    except InternalError as error:
        complain([str(error)])
        return NOT_OURS_TO_JUDGE
    status = max(status, files.write(result))
    _console().print(_table(result))
    if result.lost:
        complain(f"{exercise}: {line}" for line in result.lost)
        status = max(status, NOT_USED)
    for report in result.reports:
        fault = report.fault or report.unexplained
        if fault is not None:
            complain([f"{report.script}: {fault.message}"])
            status = NOT_OURS_TO_JUDGE
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


async def _mark_all(files: dict[str, bytes], given: list[Given], jobs: int) -> Result:
    async with Crew(max(1, min(jobs, len(given) or 1))) as crew:
        exercise = await crew.open(files)
        with Progress(console=Console(stderr=True), transient=True, disable=not sys.stderr.isatty()) as progress:
            bar = progress.add_task("marking", total=len(given))

            async def one(script: Given) -> Report:
                report = await crew.mark(exercise, script.name, script.source)
                progress.advance(bar)
                return report

            reports = await asyncio.gather(*(one(script) for script in given))
            lost = await reference_loses(crew, files)
    return Result(exercise.title, tidy(exercise.out_of), tuple(reports), tuple(lost))


async def reference_loses(crew: Crew, files: dict[str, bytes]) -> list[str]:
    """The checks and craft lines that the reference of an exercise loses itself, each in a sentence."""
    notices = (await crew.rehearse(files, 0))["rehearsal"]["notices"]
    return [notice["text"] for notice in notices if notice["kind"] == "lost"]


def _console() -> Console:
    return Console() if sys.stdout.isatty() else Console(width=140)


def _table(result: Result) -> Table:
    table = Table(title=f"{result.exercise}, out of {result.out_of}", title_justify="left", box=None, pad_edge=False)
    for heading, side in (
        ("Script", "left"),
        ("Marks", "right"),
        ("Checks", "left"),
        ("What went wrong first", "left"),
    ):
        table.add_column(heading, justify=side, overflow="fold")  # type: ignore[arg-type]
    for report in result.reports:
        marks = "?" if report.marks is None else str(report.marks)
        table.add_row(Text(report.script), marks, Text(_marks_line(report)), Text(_first(report)))
    return table


def _marks_line(report: Report) -> str:
    """A sign a check, a gap between scenarios: `.` held, `x` broken, `o` not reached."""
    signs = {"held": ".", "broken": "x", "not reached": "o"}
    groups = [
        *([check.verdict for check in scenario.checks] for scenario in report.scenarios),
        [line.verdict for line in report.craft],
    ]
    return " ".join("".join(signs[verdict] for verdict in group) for group in groups).rstrip()


def _first(report: Report) -> str:
    fault = report.fault or report.unexplained
    if fault is not None:
        return "Could not be marked." if report.fault is not None else "The mistakes could not be looked for."
    if not report.findings:
        return "Read and run. Nothing to report."
    more = len(report.findings) - 1
    return report.findings[0].pointer + (f" (and {more} more)" if more else "")
