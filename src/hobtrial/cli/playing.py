"""`hob play`: plays one scenario with some scripts and writes their whole traces."""

from __future__ import annotations

import asyncio
import json
from pathlib import Path
from typing import Any

from rich.console import Console

from ..core.words import UsageError, seconds_of
from ..crew import Crew, InternalError, OpenedExercise, WorkerGoneError
from .inputs import Given, exercise_files
from .marking import NOT_OURS_TO_JUDGE, NOT_USED, collect, complain


def play(exercise: Path, paths: list[Path], scenario: str | None, folder: Path | None) -> int:
    """Plays a scenario, the first where none is named. Gives the exit status, as `mark` does."""
    given, status = collect(paths)
    try:
        return max(status, asyncio.run(_play_all(exercise_files(exercise), given, scenario, folder)))
    except UsageError as error:
        complain(f"{exercise}: {line}" if str(exercise) not in line else line for line in str(error).split("\n"))
        return NOT_USED
    except InternalError as error:
        complain([str(error)])
        return NOT_OURS_TO_JUDGE


async def _play_all(files: dict[str, bytes], given: list[Given], scenario: str | None, folder: Path | None) -> int:
    status = 0
    async with Crew(1) as crew:
        exercise = await crew.open(files)
        number = _number(exercise, scenario)
        for script in given:
            try:
                replay = await crew.replay(exercise, script.source, number)
            except (WorkerGoneError, InternalError) as error:
                complain([f"{script.name}: could not be played: {error}"])
                status = NOT_OURS_TO_JUDGE
                continue
            trace = replay["trace"]
            if trace is not None and not trace["log"]:
                del trace["log"]  # only where the exercise keeps what is printed out of the story
            if trace is None:
                problems = (await crew.mark(exercise, script.name, script.source)).problems
                complain(f"{script.name}, line {problem.line}: {problem.message}" for problem in problems)
                status = max(status, NOT_USED)
                continue
            if folder is not None:
                folder.mkdir(parents=True, exist_ok=True)
                file = folder / f"{script.name.replace('/', '__')}.json"
                file.write_text(json.dumps(trace, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
            _print(script.name, replay["scenario"], trace)
    return status


def _number(exercise: OpenedExercise, scenario: str | None) -> int:
    names = [each["name"] for each in exercise.scenarios]
    if scenario is None:
        return 0
    if scenario not in names:
        raise UsageError(f'there is no scenario "{scenario}"; there are: {", ".join(names)}')
    return names.index(scenario)


def _print(name: str, scenario: str, trace: dict[str, Any]) -> None:
    console = Console(highlight=False, markup=False)
    console.print(f"{name}: {scenario}, {trace['frames']} frames, outcome {trace['outcome']}")
    for line in trace["story"]:
        console.print(f"  {seconds_of(max(line['frame'], 0)):6.2f} s  {line['text']}")
    if trace["stopped"]:
        stop = trace["stopped"]
        console.print(f"  stopped in line {stop['line']}: {stop['kind']}: {stop['message']}")
