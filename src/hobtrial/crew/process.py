"""One worker process as the crew holds it: started, asked, ended. The other end is `worker.py`.

Workers are forked by a nursery (`nursery.py`), of which this process has one; it is started with the first worker.
"""

from __future__ import annotations

import asyncio
import atexit
import contextlib
import os
import signal
import socket
import subprocess
import sys
import threading
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

import structlog

from ..core.words import HobError
from .wire import HEAD, LONGEST_ANSWER, LONGEST_TASK, WireError, pack, unpack

SILENT_SECONDS: Final = 900
"""Seconds after which a silent worker counts as hanging. Its processor time ends it long before, unless the
machine is so busy that it hardly runs; then it must be waited for.
"""
COMMAND: Final = ("-m", "hobtrial.crew.nursery")
SOURCE: Final = Path(__file__).resolve().parents[2]
GONE: Final = "the worker was ended by the limits of the machine"

log = structlog.get_logger()


class WorkerGoneError(HobError):
    """A worker died, hung or had no more memory: the machine's doing. `marked` is the report without
    explanations, where it had come so far.
    """

    marked: dict[str, Any] | None = None


class Nursery:
    """The process that forks workers, seen from here. Its calls block; each is a few milliseconds after the first."""

    def __init__(self, command: tuple[str, ...]) -> None:
        ours, its = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        environment = {"PATH": os.defpath, "PYTHONPATH": str(SOURCE), "PYTHONHASHSEED": "0", "LANG": "C.UTF-8"}
        nothing = subprocess.DEVNULL
        with its:
            self._process = subprocess.Popen(
                [sys.executable, *command, str(its.fileno())],
                stdin=nothing, stdout=nothing, stderr=nothing,
                env=environment, cwd="/", start_new_session=True, pass_fds=(its.fileno(),),
            )  # fmt: skip
        self._control = ours
        self._lock = threading.Lock()
        if not ours.recv(1):
            raise WorkerGoneError("no worker can be started")

    def fork(self, nice: int) -> tuple[int, int, int]:
        """A new worker: its process, and our ends of the pipes to it and from it. Raises `OSError`."""
        its_in, to_it = os.pipe()
        from_it, its_out = os.pipe()
        try:
            with self._lock:
                socket.send_fds(self._control, [str(nice).encode()], [its_in, its_out])
                answer = self._control.recv(16)
        finally:
            os.close(its_in)
            os.close(its_out)
        if not answer:
            os.close(to_it)
            os.close(from_it)
            raise BrokenPipeError
        return int.from_bytes(answer, "big"), to_it, from_it

    def end(self) -> None:
        """Ends it; workers that are at work go on."""
        self._control.close()
        with contextlib.suppress(subprocess.TimeoutExpired):
            self._process.wait(5)


_nurseries: dict[tuple[str, ...], Nursery] = {}
_making = threading.Lock()


def _forked(nice: int) -> tuple[int, int, int]:
    """A worker from the nursery of this process, which is started where there is none, or no more."""
    with _making:
        nursery = _nurseries.get(COMMAND)
        if nursery is None:
            nursery = _nurseries[COMMAND] = Nursery(COMMAND)
    try:
        return nursery.fork(nice)
    except OSError:
        log.warning("the nursery of the workers is gone; starting another one")
        with _making:
            if _nurseries.get(COMMAND) is nursery:
                _nurseries[COMMAND] = Nursery(COMMAND)
        return _nurseries[COMMAND].fork(nice)


@atexit.register
def _end_nurseries() -> None:
    for nursery in _nurseries.values():
        nursery.end()


@dataclass(eq=False)
class Forked:
    """A process that somebody else forked, with pipes to it and from it."""

    pid: int
    stdin: asyncio.StreamWriter
    stdout: asyncio.StreamReader
    handle: int
    """The file that stands for the process; it can be read once the process has ended."""
    _ears: asyncio.ReadTransport
    returncode: int | None = None

    @classmethod
    async def start(cls, nice: int) -> Forked:
        """Forks a worker."""
        pid, to_it, from_it = await asyncio.to_thread(_forked, nice)
        handle = os.pidfd_open(pid)
        loop = asyncio.get_running_loop()
        reader = asyncio.StreamReader(limit=2**16)
        ears, _ = await loop.connect_read_pipe(
            lambda: asyncio.StreamReaderProtocol(reader), os.fdopen(from_it, "rb", 0)
        )
        mouth, protocol = await loop.connect_write_pipe(asyncio.streams.FlowControlMixin, os.fdopen(to_it, "wb", 0))
        return cls(pid, asyncio.StreamWriter(mouth, protocol, None, loop), reader, handle, ears)

    def kill(self) -> None:
        """Ends the process at once. Raises `ProcessLookupError` where it has ended."""
        if self.returncode is not None:
            raise ProcessLookupError
        signal.pidfd_send_signal(self.handle, signal.SIGKILL)

    async def wait(self) -> None:
        """Waits until the process has ended."""
        if self.returncode is not None:
            return
        loop = asyncio.get_running_loop()
        ended = asyncio.Event()
        loop.add_reader(self.handle, ended.set)
        try:
            await ended.wait()
        finally:
            loop.remove_reader(self.handle)
        if self.returncode is None:
            self.returncode = -signal.SIGKILL
            os.close(self.handle)
            self.stdin.close()
            self._ears.close()


class WorkerProcess:
    """One worker process and its pipes; `missing` are parts of its wall that could not be raised."""

    def __init__(self, process: Forked) -> None:
        self.process = process
        self.missing: list[str] = []

    @classmethod
    async def start(cls, nice: int = 0) -> WorkerProcess:
        """Starts a worker and waits until its wall is up. The higher `nice`, the more it lets others go first."""
        try:
            worker = cls(await Forked.start(nice))
        except OSError as error:
            raise WorkerGoneError("no worker can be started") from error
        worker.missing = (await worker._hear(SILENT_SECONDS))["missing"]
        return worker

    async def ask(self, task: dict[str, Any], seconds: float | None = None) -> dict[str, Any]:
        """The answer to a task. Raises `WorkerGoneError` when it died, had no more memory, or was silent for so
        long, usually `SILENT_SECONDS`.
        """
        try:
            self.process.stdin.write(pack(task, LONGEST_TASK))
            await self.process.stdin.drain()
        except ConnectionError as error:
            raise WorkerGoneError(GONE) from error
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
        stream = self.process.stdout
        try:
            async with asyncio.timeout(seconds):
                (length,) = HEAD.unpack(await stream.readexactly(HEAD.size))
                if length > LONGEST_ANSWER:
                    raise WireError(f"an answer of {length:,} bytes")
                return unpack(await stream.readexactly(length))
        except (asyncio.IncompleteReadError, TimeoutError, ConnectionError, WireError) as error:
            raise WorkerGoneError(GONE) from error

    async def end(self) -> None:
        """Ends the process at once."""
        with contextlib.suppress(ProcessLookupError):
            self.process.kill()
        await self.process.wait()
