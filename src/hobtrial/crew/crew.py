"""The crew: a number of workers, each doing one task at a time; one that dies or hangs is replaced.

The other end of the wire is `worker.py`.
"""

from __future__ import annotations

import asyncio
import base64
import contextlib
import hashlib
import os
import sys
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from types import TracebackType
from typing import Any, Final, Self

import structlog

from ..core.exercise import ExerciseError, Fault
from ..core.explaining import halted
from ..core.words import HobError
from .wire import HEAD, LONGEST_ANSWER, LONGEST_TASK, WireError, pack, unpack

WALL_SECONDS: Final = 60
"""Seconds after which a silent worker counts as hanging: twice its processor time."""
SOURCE: Final = Path(__file__).resolve().parents[2]

log = structlog.get_logger()


class WorkerGoneError(HobError):
    """A worker died or hung over a task; `ended` are the scenarios that it had played until then."""

    ended: Sequence[dict[str, Any]] = ()


@dataclass(frozen=True)
class OpenedExercise:
    """An exercise as the crew knows it: its files by content, and what a worker said of it."""

    key: str
    files: dict[str, str]
    title: str
    out_of: float
    seconds: float
    scenarios: list[dict[str, Any]]


class _Hand:
    """One worker process and its pipes."""

    def __init__(self, process: asyncio.subprocess.Process) -> None:
        self.process = process
        self.missing: list[str] = []

    @classmethod
    async def start(cls) -> _Hand:
        environment = {"PATH": os.defpath, "PYTHONPATH": str(SOURCE), "PYTHONHASHSEED": "0", "LANG": "C.UTF-8"}
        process = await asyncio.create_subprocess_exec(
            sys.executable, "-m", "hobtrial.crew.worker",
            stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE, stderr=asyncio.subprocess.DEVNULL,
            env=environment, cwd="/", start_new_session=True,
        )  # fmt: skip
        hand = cls(process)
        hand.missing = (await hand._hear())["missing"]
        return hand

    async def ask(self, task: dict[str, Any]) -> dict[str, Any]:
        assert self.process.stdin is not None
        try:
            self.process.stdin.write(pack(task, LONGEST_TASK))
            await self.process.stdin.drain()
        except ConnectionError as error:
            raise WorkerGoneError("the worker was ended by the limits of the machine") from error
        ended: list[dict[str, Any]] = []
        try:
            while "ended" in (answer := await self._hear()):
                ended.append(answer["ended"])
                log.debug("trial", scenario=answer["ended"]["name"], **answer["used"])
        except WorkerGoneError as error:
            error.ended = ended
            raise
        return answer

    async def _hear(self) -> dict[str, Any]:
        """The next message of the worker."""
        assert self.process.stdout is not None
        try:
            async with asyncio.timeout(WALL_SECONDS):
                (length,) = HEAD.unpack(await self.process.stdout.readexactly(HEAD.size))
                if length > LONGEST_ANSWER:
                    raise WireError(f"an answer of {length:,} bytes")
                return unpack(await self.process.stdout.readexactly(length))
        except (asyncio.IncompleteReadError, TimeoutError, ConnectionError, WireError) as error:
            raise WorkerGoneError("the worker was ended by the limits of the machine") from error

    async def end(self) -> None:
        with contextlib.suppress(ProcessLookupError):
            self.process.kill()
        await self.process.wait()


class Crew:
    """Some workers behind one queue. Use as `async with Crew(2) as crew`."""

    def __init__(self, size: int) -> None:
        self.size = size
        self.missing: list[str] = []
        """Parts of the operating system's wall that could not be raised here."""
        self._free: asyncio.Queue[_Hand | None] = asyncio.Queue()
        self._hands: set[_Hand] = set()

    async def __aenter__(self) -> Self:
        for _ in range(self.size):
            self._free.put_nowait(None)  # a place; its worker is started with its first task
        return self

    async def __aexit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        await asyncio.gather(*(hand.end() for hand in list(self._hands)))

    async def open(self, files: Mapping[str, bytes]) -> OpenedExercise:
        """Reads an exercise in a worker. Raises `ExerciseError` with its faults."""
        digest = hashlib.sha256()
        for name in sorted(files):
            digest.update(name.encode("utf-8", "replace") + b"\0" + files[name] + b"\0")
        packed = {name: base64.b64encode(data).decode() for name, data in files.items()}
        answer = await self._ask({"do": "open", "exercise": digest.hexdigest(), "files": packed})
        facts = {key: answer[key] for key in ("title", "out_of", "seconds", "scenarios")}
        return OpenedExercise(digest.hexdigest(), packed, **facts)

    async def mark(
        self, exercise: OpenedExercise, name: str, source: bytes, *, explained: bool = True
    ) -> dict[str, Any]:
        """The report of one script; of one that took its worker with it, that this happened."""
        try:
            packed = base64.b64encode(source).decode()
            answer = await self._ask(self._task("mark", exercise, name=name, source=packed, explained=explained))
        except WorkerGoneError as error:
            message = "The script used more time or memory than a script may, and was ended from outside."
            return halted(name, exercise.out_of, message, error.ended)
        report: dict[str, Any] = answer["report"]
        return report

    async def replay(self, exercise: OpenedExercise, source: bytes, number: int) -> dict[str, Any]:
        """One trial with its whole trace. Raises `WorkerGoneError`."""
        task = self._task("replay", exercise, source=base64.b64encode(source).decode(), number=number)
        replay: dict[str, Any] = (await self._ask(task))["replay"]
        return replay

    @staticmethod
    def _task(do: str, exercise: OpenedExercise, **more: Any) -> dict[str, Any]:
        return {"do": do, "exercise": exercise.key, "files": exercise.files, **more}

    async def _ask(self, task: dict[str, Any]) -> dict[str, Any]:
        hand = await self._free.get()
        try:
            if hand is None:
                hand = await _Hand.start()
                self._hands.add(hand)
                self.missing = hand.missing
            answer = await hand.ask(task)
        except BaseException:
            if hand is not None:
                self._hands.discard(hand)
                await asyncio.shield(hand.end())
            self._free.put_nowait(None)
            raise
        self._free.put_nowait(hand)
        if "faults" in answer:
            raise ExerciseError([Fault(*fault) for fault in answer["faults"]])
        if "error" in answer:
            raise HobError(answer["error"])
        return answer
