"""`hob prove`: is an exercise fit to be set? A table for people, JSON for programs."""

from __future__ import annotations

import asyncio
import json
import sys
from collections import Counter
from pathlib import Path
from typing import Any, Final

from rich.console import Console
from rich.markup import escape
from rich.progress import Progress
from rich.table import Table

from ..core.words import UsageError, plural
from ..crew import Crew, InternalError, WorkerGoneError
from .inputs import exercise_files
from .marking import NOT_OURS_TO_JUDGE, NOT_USED, complain, reference_loses

MOST_THROUGH: Final = 0.05
"""Of the planted slips, the part that may get through without a warning."""
SHOWN: Final = 3
"""Scenarios that are written out on the screen; the file has all."""


def prove(exercise: Path, json_file: Path | None, jobs: int) -> int:
    """Proves an exercise and prints what gets through.

    Gives the exit status: 0 proved, whatever gets through; 1 when the exercise or a path could not be used, or the
    reference itself loses a mark.
    """
    try:
        found = asyncio.run(_prove(exercise_files(exercise), jobs))
    except UsageError as error:
        complain(f"{exercise}: {line}" if str(exercise) not in line else line for line in str(error).split("\n"))
        return NOT_USED
    except (InternalError, WorkerGoneError) as error:
        complain([f"{exercise}: could not be proved: {error}"])
        return NOT_OURS_TO_JUDGE
    _print(found)
    complain(f"{exercise}: {line}" for line in found["lost"])
    if json_file is not None:
        try:
            json_file.write_text(json.dumps({"format": 1, **found}, indent=1, ensure_ascii=False) + "\n", "utf-8")
        except OSError as error:
            complain([f"{json_file} cannot be written: {error.strerror}"])
            return 1
    return NOT_USED if found["lost"] else 0


async def _prove(files: dict[str, bytes], jobs: int) -> dict[str, Any]:
    async with Crew(jobs) as crew:
        opened = await crew.open(files)
        with Progress(console=Console(stderr=True), transient=True, disable=not sys.stderr.isatty()) as progress:
            task = progress.add_task("Planted slips", total=None)
            found = await crew.prove(opened, lambda done, of: progress.update(task, completed=done, total=of))
        lost = await reference_loses(crew, files)
    return {"exercise": opened.title, "lost": lost, **found, "summary": summary(found["planted"])}


def summary(planted: list[dict[str, Any]]) -> dict[str, int]:
    """How many planted slips are caught, get through, or act like the reference."""
    counted = Counter(each["verdict"] for each in planted)
    return {verdict: counted[verdict] for verdict in ("caught", "through", "same")}


def _print(found: dict[str, Any]) -> None:
    console = Console()
    counted, total = found["summary"], len(found["planted"])
    console.print(
        f"{escape(found['exercise'])}: the reference earns {found['reference']} of {found['out_of']} marks, ", end=""
    )
    console.print(f"an empty script {found['empty']}, the starter {found['starter']}.")
    console.print(
        f"{plural(total, 'planted slip')}: {counted['caught']} caught, {counted['through']} get through, ", end=""
    )
    console.print(f"{counted['same']} act like the reference (perhaps no mistake).")
    if counted["through"] > MOST_THROUGH * total:
        console.print(f"More than {MOST_THROUGH:.0%} get through.")
    for warning in found["warnings"]:
        console.print(escape(warning))
    for each in found["companions"]:
        if each["trouble"]:
            console.print(escape(each["trouble"]))
    if found["companions"]:
        fair = sum(each["trouble"] is None for each in found["companions"])
        console.print(f"{fair} of {plural(len(found['companions']), 'companion')} come out as they must.")
    left = [each for each in found["planted"] if each["verdict"] != "caught"]
    if left:
        table = Table("Slip", "Line", "Before", "After", "What would catch it")
        for each in left:
            change = each["changes"][0]
            catches = each.get("expect") or f"the same in {each['runs']} drawn runs"
            table.add_row(
                *(
                    escape(str(cell))
                    for cell in (each["slip"], each["line"], change["before"], change["after"], catches)
                )
            )
        console.print(table)
    for each in [each for each in left if each["verdict"] == "through"][:SHOWN]:
        console.print(
            f"\n# a scenario that catches {each['slip']} in line {each['line']}:\n{escape(each['scenario'])}",
            highlight=False,
        )
