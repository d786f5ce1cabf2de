"""A lesson in one room: a hundred at their desks, thirty of them playing live, thirty checking in the same ten seconds.
Whoever does not play writes; those who check are among them.

The server runs as `hob serve` runs it; those at the desks and those who play are processes of their own on the same
machine, which a class would not ask of it.  python -m bench.desks
"""

from __future__ import annotations

import asyncio
import json
import multiprocessing
import multiprocessing.connection
import socket
import time
from collections.abc import Awaitable
from typing import Any

import uvloop
from tests.support import BAKEHOUSE, database

from bench import short
from bench.browser import Browser, Socket
from hobtrial.cli.demo import load
from hobtrial.cli.serving import listen, serve_quietly
from hobtrial.cli.siblings import siblings
from hobtrial.demo import hand_ins
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from hobtrial.store import Classes, Rounds, Sessions, Store

AT_DESKS, PLAYING, CHECKING = (6, 2, 3) if short() else (100, 30, 30)
SECONDS = 3 if short() else 10
PATIENCE = 300
"""Seconds for the sample class to be marked."""
PAGE_EVERY, KEEP_EVERY = 5, 3
"""Seconds between looks at the page and between texts that are kept, for everybody at a desk."""
LOOK = 0.25
"""Seconds between looks at what is found, as the page does it."""
FRAME = 1 / 30
BEGINNING = 3
"""Seconds in which those who play begin, one after the other; `bench.live` has thirty who begin at once."""
GOALS = {"page data": 0.1, "text kept": 0.1, "marks": 0.5, "findings": 3.0}
"""Seconds at the 95th percentile."""

Took = dict[str, list[float]]
"""How long each thing took, in seconds; of frames, how long each came after the one before it."""


def texts() -> list[str]:
    """What the sample class handed in."""
    return [source.decode() for source in hand_ins(BAKEHOUSE).values()]


def serve(dsn: str, listener: socket.socket) -> None:
    """The server's first process; it begins the others."""
    settings = Settings()
    with siblings(settings.processes - 1, dsn, settings, listener):
        serve_quietly(create_app(dsn), listener)


async def timed(took: Took, what: str, asking: Awaitable[tuple[int, Any]]) -> Any:
    """Asks, and notes how long the answer took."""
    begin = time.perf_counter()
    status, answer = await asking
    took.setdefault(what, []).append(time.perf_counter() - begin)
    assert status == 200, (what, status, answer)
    return answer


async def write(port: int, token: str, number: int, took: Took) -> None:
    """Somebody who writes: the page now and then, and a text every few seconds."""
    browser = Browser(port, token)
    await asyncio.sleep(KEEP_EVERY * number / AT_DESKS)
    desk = json.loads((await browser.get("/api/desk/rounds/1"))[1])
    at, end, text = desk["text"]["at"], time.monotonic() + SECONDS, texts()[number % len(texts())]
    looked = 0.0
    while time.monotonic() < end:
        if time.monotonic() >= looked + PAGE_EVERY:
            looked = time.monotonic()
            await timed(took, "page data", _fresh(browser.get("/api/desk")))
        told = {"source": f"{text}\n# {time.monotonic()}", "at": at}
        at = (await timed(took, "text kept", browser.send("PUT", "/api/desk/rounds/1/text", told)))["at"]
        await asyncio.sleep(KEEP_EVERY)


async def check(port: int, token: str, number: int, took: Took) -> None:
    """Somebody who checks once, at a time of their own, and waits for what is found."""
    browser = Browser(port, token)
    await asyncio.sleep(SECONDS * number / CHECKING)
    begin = time.perf_counter()
    told = {"source": f"{texts()[number % len(texts())]}\n# {number}"}
    found = await timed(took, "marks", browser.send("POST", "/api/desk/rounds/1/check", told))
    while found["findings"] is None and not found["unmarked"]:
        await asyncio.sleep(LOOK)
        found = json.loads((await browser.get(f"/api/desk/checked/{found['id']}"))[1])
    took.setdefault("findings", []).append(time.perf_counter() - begin)


async def play(port: int, token: str, number: int, took: Took) -> None:
    """Somebody who plays: notes how long each frame comes after the one before it."""
    await asyncio.sleep(BEGINNING * number / PLAYING)
    game = Socket(port, token)
    await game.open("/api/desk/rounds/1/live")
    await game.say({"say": "begin", "source": texts()[number % len(texts())]})
    if b'"began"' in await game.hear():  # one of the class's texts cannot be read
        last, end = time.monotonic(), time.monotonic() + SECONDS
        while time.monotonic() < end:
            said = await asyncio.wait_for(game.hear(), 30)
            now = time.monotonic()
            if said.startswith(b'{"say":"frame"'):
                took.setdefault("frames", []).append(now - last)
                last = now
                if b'"over":true' in said:
                    break
    game.close()


async def _fresh(asking: Awaitable[tuple[int, bytes]]) -> tuple[int, bytes]:
    """What has not changed since the last look is an answer like any other."""
    status, body = await asking
    return 200 if status == 304 else status, body


def room(port: int, tokens: list[str], what: str, back: multiprocessing.connection.Connection) -> None:
    """The process of some of the class, who all do the same, once everybody is there."""
    does = {"write": write, "check": check, "play": play}[what]
    took: Took = {}

    async def everybody() -> None:
        await asyncio.gather(*(does(port, token, number, took) for number, token in enumerate(tokens)))

    back.send("here")
    back.recv()
    uvloop.run(everybody())
    back.send(took)


def lesson(port: int, tokens: list[str]) -> None:
    """The room three times: writing alone, then with games, then with checks, too; what gives first is seen so."""
    spawn = multiprocessing.get_context("spawn")
    for words, parts in (
        ("writing", ("write",)),
        ("and playing", ("write", "play")),
        ("and checking", ("write", "play", "check")),
    ):
        writing = tokens[PLAYING:] if "play" in parts else tokens
        some = {"write": writing, "play": tokens[:PLAYING], "check": writing[:CHECKING]}
        took: Took = {}
        pipes = [(part, *spawn.Pipe()) for part in parts]
        print(f"{AT_DESKS} at desks, {words}:", flush=True)
        running = [spawn.Process(target=room, args=(port, some[part], part, end)) for part, _, end in pipes]
        for process in running:
            process.start()
        for _, here, _ in pipes:
            here.recv()
        for _, here, _ in pipes:
            here.send("go")
        for _, here, _ in pipes:
            took |= here.recv()
        for process in running:
            process.join()
        tell(took)


def tell(took: Took) -> None:
    """Prints what took how long."""
    for name, goal in GOALS.items():
        if name in took:
            found = sorted(took[name])
            share = 100 * found[max(int(len(found) * 0.95) - 1, 0)] / goal
            middle = 100 * found[len(found) // 2] / goal
            print(f"  {name}: p95 {share:.0f} % of {goal} s, p50 {middle:.0f} %, {len(found)} answers   (goal ≤ 100 %)")
    if "frames" in took:
        late = sum(each > 2 * FRAME + 0.005 for each in took["frames"])
        share, most = 100 * late / len(took["frames"]), max(took["frames"]) / FRAME
        print(
            f"  frames late by more than one: {share:.2f} % of {len(took['frames'])}, "
            f"the longest wait {most:.1f} frames   (goal 0 %)"
        )


def main() -> None:
    """Makes a class of a hundred, serves it and lets the lesson begin."""
    dsn = database("desks")
    load(dsn, [BAKEHOUSE])
    store = Store(dsn)
    with store.transaction() as connection:
        ids = Classes.add_students(connection, 1, [f"Student {number}" for number in range(AT_DESKS)])
        tokens = [Sessions.begin(connection, student_id=id_) for id_ in ids.values()]
    listener = listen(0)
    port = listener.getsockname()[1]
    server = multiprocessing.get_context("spawn").Process(target=serve, args=(dsn, listener))
    server.start()
    try:
        asyncio.run(when_quiet(store, port, tokens[0]))
        lesson(port, tokens)
    finally:
        store.close()
        server.terminate()
        server.join(20)


async def when_quiet(store: Store, port: int, token: str) -> None:
    """Waits until the sample class is marked and somebody has checked: a lesson begins on a quiet server."""
    end = time.monotonic() + (0 if short() else PATIENCE)
    while time.monotonic() < end:
        await asyncio.sleep(0.3)
        with store.transaction() as connection:
            if not Rounds.all_unmarked(connection):
                break
    browser = Browser(port, token)
    _, found = await browser.send("POST", "/api/desk/rounds/1/check", {"source": "score = 0"})
    while found["findings"] is None:
        await asyncio.sleep(0.2)
        found = json.loads((await browser.get(f"/api/desk/checked/{found['id']}"))[1])


if __name__ == "__main__":
    main()
