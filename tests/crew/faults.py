"""Faults planted into workers: killed by the machine, or broken by a mistake of ours."""

from __future__ import annotations

import contextlib
import os
import subprocess
import sys
from collections.abc import Iterator
from typing import Any
from unittest import mock

from hobtrial.crew import process as process_module


@contextlib.contextmanager
def killed_after(messages: int) -> Iterator[None]:
    """Workers are killed over a task once they have said so many things."""
    hear, ask = process_module.WorkerProcess._hear, process_module.WorkerProcess.ask
    to_hear: dict[process_module.WorkerProcess, int] = {}

    async def hear_some(worker: process_module.WorkerProcess, seconds: float) -> dict[str, Any]:
        left = to_hear.get(worker)
        if left == 0:
            worker.process.kill()
            await worker.process.wait()
            raise process_module.WorkerGoneError(process_module.GONE)  # what it said before may still be in the pipe
        if left is not None:
            to_hear[worker] = left - 1
        return await hear(worker, seconds)

    async def ask_counted(
        worker: process_module.WorkerProcess, task: dict[str, Any], seconds: float | None = None
    ) -> dict[str, Any]:
        to_hear[worker] = messages
        return await ask(worker, task, seconds)

    patched = mock.patch.object(process_module.WorkerProcess, "_hear", hear_some)
    with patched, mock.patch.object(process_module.WorkerProcess, "ask", ask_counted):
        yield


@contextlib.contextmanager
def breaking(where: str, error: str) -> Iterator[None]:
    """Workers are started in which a function of ours raises."""
    module, _, name = where.rpartition(".")
    owner = ""
    if module.rpartition(".")[2][0].isupper():
        module, _, owner = module.rpartition(".")
    code = (
        f"import hobtrial.crew.worker as w, hobtrial.crew.nursery as n, importlib\n"
        f"warm = w.Worker.warm_up\n"
        f"def broken(*values, **named): raise {error}('planted')\n"
        f"def warm_up(self):\n"
        f"    warm(self)\n"
        f"    module = importlib.import_module({module!r})\n"
        f"    setattr(getattr(module, {owner!r}) if {owner!r} else module, {name!r}, broken)\n"
        f"w.Worker.warm_up = warm_up\n"
        f"n.main()\n"
    )
    with mock.patch.object(process_module, "COMMAND", ("-c", code)):
        yield


@contextlib.contextmanager
def busy_cores() -> Iterator[None]:
    """Two busy loops on each core of the machine."""
    loops = [subprocess.Popen([sys.executable, "-c", "while True: pass"]) for _ in range(2 * (os.cpu_count() or 1))]
    try:
        yield
    finally:
        for loop in loops:
            loop.kill()
            loop.wait()
