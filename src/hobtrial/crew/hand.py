"""One worker process as the crew holds it: started, asked, ended. The other end is `worker.py`."""

from __future__ import annotations

import asyncio
import contextlib
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any, Final

import structlog

from ..core.words import HobError
from .wire import HEAD, LONGEST_ANSWER, LONGEST_TASK, WireError, pack, unpack

WALL_SECONDS: Final = 60
"""Seconds after which a silent worker counts as hanging: twice its processor time."""
SOURCE: Final = Path(__file__).resolve().parents[2]

log = structlog.get_logger()


class WorkerGoneError(HobError):
    """A worker died or hung over a task; `ended` are the scenarios that it had played until then."""

    ended: Sequence[dict[str, Any]] = ()


class Hand:
    """One worker process and its pipes; `missing` are parts of its wall that could not be raised."""

    def __init__(self, process: asyncio.subprocess.Process) -> None:
        self.process = process
        self.missing: list[str] = []

    @classmethod
    async def start(cls) -> Hand:
        """Starts a worker and waits until its wall is up."""
        environment = {"PATH": os.defpath, "PYTHONPATH": str(SOURCE), "PYTHONHASHSEED": "0", "LANG": "C.UTF-8"}
        process = await asyncio.create_subprocess_exec(
            sys.executable, "-m", "hobtrial.crew.worker",
            stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE, stderr=asyncio.subprocess.DEVNULL,
            env=environment, cwd="/", start_new_session=True,
        )  # fmt: skip
        hand = cls(process)
        hand.missing = (await hand._hear(WALL_SECONDS))["missing"]
        return hand

    async def ask(self, task: dict[str, Any], seconds: float | None = None) -> dict[str, Any]:
        """The answer to a task. Raises `WorkerGoneError` when it died or was silent for so long, usually
        `WALL_SECONDS`.
        """
        assert self.process.stdin is not None
        try:
            self.process.stdin.write(pack(task, LONGEST_TASK))
            await self.process.stdin.drain()
        except ConnectionError as error:
            raise WorkerGoneError("the worker was ended by the limits of the machine") from error
        ended: list[dict[str, Any]] = []
        try:
            while "ended" in (answer := await self._hear(seconds or WALL_SECONDS)):
                ended.append(answer["ended"])
                log.debug("trial", scenario=answer["ended"]["name"], **answer["used"])
        except WorkerGoneError as error:
            error.ended = ended
            raise
        return answer

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
