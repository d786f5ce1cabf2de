"""`hob play … --live`: the Play screen for an exercise and a script on disk, until Ctrl-C."""

from __future__ import annotations

import asyncio
from pathlib import Path

from ..core.words import UsageError
from ..crew import Crew
from ..server import create_disk_app
from ..server.plays import DISK
from .inputs import exercise_files, one_script
from .marking import complain
from .serving import listen, serve_until_stopped


def live(exercise: Path, paths: list[Path], port: int) -> int:
    """Serves one script; the file is read again whenever it changes. Gives the exit status."""
    try:
        files = exercise_files(exercise)
        script = one_script(paths)
        asyncio.run(_look_at(files))
    except UsageError as error:
        complain(f"{exercise}: {line}" if str(exercise) not in line else line for line in str(error).split("\n"))
        return 1
    app = create_disk_app(files, script.read_bytes)
    serve_until_stopped(app, listen(port), asked=port, page=f"/exercises/{DISK}/play")
    return 0


async def _look_at(files: dict[str, bytes]) -> None:
    """Raises `ExerciseError` where the exercise cannot be used."""
    async with Crew(1) as crew:
        await crew.open(files)
