"""A hundred browsers that ask two hundred times a second: how long they wait, and what an answer costs.

Server and browsers are processes of their own on one machine.  python -m bench.serving
"""

from __future__ import annotations

import asyncio
import multiprocessing
import os
import socket
import time
from collections.abc import Iterable
from pathlib import Path

import uvicorn
from tests.support import BAKEHOUSE, database

from bench import short
from bench.browser import Browser
from hobtrial.cli.demo import load
from hobtrial.cli.serving import listen
from hobtrial.cli.siblings import siblings
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from hobtrial.store import Classes, Sessions, Store, Teachers

CLIENTS, SECONDS = (4, 2) if short() else (100, 10)
A_SECOND = 2
"""Requests that each of them makes in a second."""
WARM_SECONDS = 1 if short() else 4
GOAL = 0.1
"""Seconds at the 95th percentile."""
MARKED_SECONDS = 120
TEACHERS_ASK = ("/api/bench", "/api/rounds/1", "/api/submissions/1", "/")
STUDENTS_ASK = ("/api/desk", "/api/desk/rounds/1", "/", "/api/desk")
TICKS = os.sysconf("SC_CLK_TCK")


def serve(dsn: str, listener: socket.socket, processes: int) -> None:
    """The server's process, with further ones where there are to be several."""
    with siblings(processes - 1, dsn, Settings(), listener):
        uvicorn.Server(uvicorn.Config(create_app(dsn), log_level="error", access_log=False)).run([listener])


async def browse(port: int, tokens: list[str], paths: Iterable[tuple[str, ...]]) -> dict[str, list[float]]:
    """All browsers for some seconds. Gives how long each answer took, by address."""
    took: dict[str, list[float]] = {}
    start = time.perf_counter()

    async def one(number: int, token: str, asks: tuple[str, ...]) -> None:
        browser = Browser(port, token)
        await asyncio.sleep(WARM_SECONDS * number / CLIENTS)
        for path in asks:  # everybody has looked at everything once
            await browser.get(path)
        begin = start + WARM_SECONDS + 1 + number / CLIENTS / A_SECOND
        for turn in range(SECONDS * A_SECOND):
            await asyncio.sleep(max(begin + turn / A_SECOND - time.perf_counter(), 0))
            path, asked = asks[turn % len(asks)], time.perf_counter()
            status, _ = await browser.get(path)
            assert status in (200, 304), (path, status)
            took.setdefault(path, []).append(time.perf_counter() - asked)

    await asyncio.gather(*(one(number, *each) for number, each in enumerate(zip(tokens, paths, strict=True))))
    return took


def busy(pid: int) -> float:
    """Seconds of processor time of a server's processes; those that mark are not among them."""
    children = Path(f"/proc/{pid}/task/{pid}/children").read_text(encoding="ascii").split()
    serving = [each for each in children if b"cli.siblings" in Path(f"/proc/{each}/cmdline").read_bytes()]
    spent = 0
    for each in (str(pid), *serving):
        fields = Path(f"/proc/{each}/stat").read_text(encoding="ascii").rpartition(")")[2].split()
        spent += int(fields[11]) + int(fields[12])
    return spent / TICKS


def main() -> None:
    """Fills a database, and has it served by one process and by two."""
    dsn = database("bench_serving")
    load(dsn, [BAKEHOUSE])
    store = Store(dsn)
    with store.transaction() as connection:
        students = Classes.students(connection, 1)
        teacher = Teachers.named(connection, "Linden")
        assert teacher is not None
        tokens = [
            Sessions.begin(connection, teacher_id=teacher["id"])
            if number % 2
            else Sessions.begin(connection, student_id=students[number % len(students)]["id"])
            for number in range(CLIENTS)
        ]
    store.close()
    for processes in (1, 2):
        asked(dsn, tokens, processes)


def asked(dsn: str, tokens: list[str], processes: int) -> None:
    """Serves with so many processes, asks, prints."""
    listener = listen(0)
    port = listener.getsockname()[1]
    server = multiprocessing.get_context("spawn").Process(target=serve, args=(dsn, listener, processes))
    server.start()
    listener.close()
    paths = [TEACHERS_ASK if number % 2 else STUDENTS_ASK for number in range(CLIENTS)]

    async def marked() -> None:
        browser, end = Browser(port, tokens[1]), time.monotonic() + MARKED_SECONDS
        while time.monotonic() < end:
            status, page = await browser.get("/api/rounds/1")
            if status == 200 and b'"waiting"' not in page:
                return
            await asyncio.sleep(0.5)
        raise SystemExit("the round was not marked")

    asyncio.run(marked())
    assert server.pid is not None
    before = busy(server.pid)
    took = asyncio.run(browse(port, tokens, paths))
    spent = busy(server.pid) - before
    every = sorted(each for some in took.values() for each in some)
    who = f"{processes} process{'es' if processes > 1 else ''}"
    print(f"{who}: {len(every) / SECONDS:.0f} requests a second take {spent / SECONDS:.0%} of a core")
    for path, some in [("all", every), *sorted(took.items())]:
        ordered = sorted(some)
        middle, late = ordered[len(ordered) // 2], ordered[int(len(ordered) * 0.95)]
        print(f"  {path:28} p50 {middle / GOAL:5.0%} of {GOAL:g} s, p95 {late / GOAL:5.0%}")
    server.terminate()
    server.join(15)


if __name__ == "__main__":
    main()
