"""Faults planted into workers: killed by the machine, or broken by a mistake of ours."""

from __future__ import annotations

import contextlib
import os
import subprocess
import sys
from collections.abc import Iterator
from typing import Any
from unittest import mock

from hobtrial.crew import hand as hand_module


@contextlib.contextmanager
def killed_after(messages: int) -> Iterator[None]:
    """Workers are killed over a task once they have said so many things."""
    hear, ask = hand_module.Hand._hear, hand_module.Hand.ask
    to_hear: dict[hand_module.Hand, int] = {}

    async def hear_some(hand: hand_module.Hand, seconds: float) -> dict[str, Any]:
        left = to_hear.get(hand)
        if left == 0:
            hand.process.kill()
            await hand.process.wait()
        if left is not None:
            to_hear[hand] = left - 1
        return await hear(hand, seconds)

    async def ask_counted(hand: hand_module.Hand, task: dict[str, Any], seconds: float | None = None) -> dict[str, Any]:
        to_hear[hand] = messages
        return await ask(hand, task, seconds)

    patched = mock.patch.object(hand_module.Hand, "_hear", hear_some)
    with patched, mock.patch.object(hand_module.Hand, "ask", ask_counted):
        yield


@contextlib.contextmanager
def breaking(where: str, error: str) -> Iterator[None]:
    """Workers are started in which a function of ours raises."""
    module, _, name = where.rpartition(".")
    owner = ""
    if module.rpartition(".")[2][0].isupper():
        module, _, owner = module.rpartition(".")
    code = (
        f"import hobtrial.crew.worker as w, importlib\n"
        f"warm = w.Worker.warm_up\n"
        f"def broken(*values, **named): raise {error}('planted')\n"
        f"def warm_up(self):\n"
        f"    warm(self)\n"
        f"    module = importlib.import_module({module!r})\n"
        f"    setattr(getattr(module, {owner!r}) if {owner!r} else module, {name!r}, broken)\n"
        f"w.Worker.warm_up = warm_up\n"
        f"w.main()\n"
    )
    with mock.patch.object(hand_module, "COMMAND", ("-c", code)):
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
