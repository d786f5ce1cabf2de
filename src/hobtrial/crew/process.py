"""One worker process as the crew holds it: started, asked, ended. The other end is `worker.py`."""

from __future__ import annotations

import asyncio
import contextlib
import os
import sys
from pathlib import Path
from typing import Any, Final

import structlog

from ..core.words import HobError
from .wire import HEAD, LONGEST_ANSWER, LONGEST_TASK, WireError, pack, unpack

SILENT_SECONDS: Final = 900
"""Seconds after which a silent worker counts as hanging. Its processor time ends it long before, unless the
machine is so busy that it hardly runs; then it must be waited for.
"""
COMMAND: Final = ("-m", "hobtrial.crew.worker")
SOURCE: Final = Path(__file__).resolve().parents[2]

log = structlog.get_logger()


class WorkerGoneError(HobError):
    """A worker died, hung or had no more memory: the machine's doing. `marked` is the report without
    explanations, where it had come so far.
    """

    marked: dict[str, Any] | None = None


class WorkerProcess:
    """One worker process and its pipes; `missing` are parts of its wall that could not be raised."""

    def __init__(self, process: asyncio.subprocess.Process) -> None:
        self.process = process
        self.missing: list[str] = []

    @classmethod
    async def start(cls, nice: int = 0) -> WorkerProcess:
        """Starts a worker and waits until its wall is up. The higher `nice`, the more it lets others go first."""
        environment = {"PATH": os.defpath, "PYTHONPATH": str(SOURCE), "PYTHONHASHSEED": "0", "LANG": "C.UTF-8"}
        process = await asyncio.create_subprocess_exec(
            sys.executable, *COMMAND, str(nice),
            stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE, stderr=asyncio.subprocess.DEVNULL,
            env=environment, cwd="/", start_new_session=True,
        )  # fmt: skip
        worker = cls(process)
        worker.missing = (await worker._hear(SILENT_SECONDS))["missing"]
        return worker

    async def ask(self, task: dict[str, Any], seconds: float | None = None) -> dict[str, Any]:
        """The answer to a task. Raises `WorkerGoneError` when it died, had no more memory, or was silent for so
        long, usually `SILENT_SECONDS`.
        """
        assert self.process.stdin is not None
        try:
            self.process.stdin.write(pack(task, LONGEST_TASK))
            await self.process.stdin.drain()
        except ConnectionError as error:
            raise WorkerGoneError("the worker was ended by the limits of the machine") from error
        marked: dict[str, Any] | None = None
        try:
            while True:
                answer = await self._hear(seconds or SILENT_SECONDS)
                if "ended" in answer:
                    log.debug("scenario", name=answer["ended"], **answer["used"])
                elif "marked" in answer:
                    marked = answer["marked"]
                elif "memory" in answer:
                    raise WorkerGoneError("the worker had no more memory")
                else:
                    return answer
        except WorkerGoneError as error:
            error.marked = marked
            raise

    async def _hear(self, seconds: float) -> dict[str, Any]:
        """The next message of the worker."""
        assert self.process.stdout is not None
        try:
            async with asyncio.timeout(seconds):
                (length,) = HEAD.unpack(await self.process.stdout.readexactly(HEAD.size))
                if length > LONGEST_ANSWER:
                    raise WireError(f"an answer of {length:,} bytes")
                return unpack(await self.process.stdout.readexactly(length))
        except (asyncio.IncompleteReadError, TimeoutError, ConnectionError, WireError) as error:
            raise WorkerGoneError("the worker was ended by the limits of the machine") from error

    async def end(self) -> None:
        """Ends the process at once."""
        with contextlib.suppress(ProcessLookupError):
            self.process.kill()
        await self.process.wait()
