"""A lesson in one room: a hundred at their desks, thirty of them playing live, thirty checking in the same ten seconds.

Server and class are processes of their own on one machine.  python -m bench.desks
"""

from __future__ import annotations

import asyncio
import json
import multiprocessing
import socket
import time
from typing import Any

import httpx2
import uvicorn
import websockets
from tests.support import BAKEHOUSE, database

from bench import short
from hobtrial.cli.demo import load
from hobtrial.demo import hand_ins
from hobtrial.server import create_app
from hobtrial.store import Classes, Sessions, Store

AT_DESKS, PLAYING, CHECKING = (6, 2, 3) if short() else (100, 30, 30)
SECONDS = 3 if short() else 10
PAGE_EVERY, KEEP_EVERY = 5, 3
"""Seconds between looks at the page and between texts that are kept, for everybody at a desk."""
LOOK = 0.4
"""Seconds between looks at what is found, as the page does it."""
FRAME = 1 / 30
GOALS = {"page data": 0.1, "text kept": 0.1, "marks": 0.5, "findings": 3.0}
"""Seconds at the 95th percentile."""


def serve(dsn: str, listener: socket.socket) -> None:
    """The server's process."""
    uvicorn.Server(uvicorn.Config(create_app(dsn), log_level="error", access_log=False)).run([listener])


class Room:
    """The class: everybody's session, and how long each thing took."""

    def __init__(self, url: str, tokens: list[str]) -> None:
        self.url, self.tokens = url, tokens
        self.took: dict[str, list[float]] = {name: [] for name in GOALS}
        self.frames = self.late = 0
        self.texts = [source.decode() for source in hand_ins(BAKEHOUSE).values()]

    def client(self, number: int) -> httpx2.AsyncClient:
        """A student's browser."""
        return httpx2.AsyncClient(
            base_url=self.url,
            headers={"origin": self.url},
            cookies={"hob": self.tokens[number]},
            timeout=60,
            verify=False,
        )

    async def timed(self, what: str, asking: Any) -> Any:
        """Asks, and notes how long the answer took."""
        begin = time.perf_counter()
        answer = await asking
        self.took[what].append(time.perf_counter() - begin)
        answer.raise_for_status()
        return answer.json()

    async def write(self, number: int) -> None:
        """Somebody who writes: the page now and then, and a text every few seconds."""
        async with self.client(number) as client:
            desk = (await client.get("/api/desk/rounds/1")).json()
            at, end = desk["text"]["at"], time.monotonic() + SECONDS
            await asyncio.sleep(KEEP_EVERY * number / AT_DESKS)
            while time.monotonic() < end:
                await self.timed("page data", client.get("/api/desk"))
                text = f"{self.texts[number % len(self.texts)]}\n# {time.monotonic()}"
                kept = client.put("/api/desk/rounds/1/text", json={"source": text, "at": at})
                at = (await self.timed("text kept", kept))["at"]
                await asyncio.sleep(KEEP_EVERY)

    async def check(self, number: int) -> None:
        """Somebody who checks once, at a time of their own, and waits for what is found."""
        async with self.client(number) as client:
            await client.get("/api/desk/rounds/1")
            await asyncio.sleep(SECONDS * number / CHECKING)
            begin = time.perf_counter()
            text = f"{self.texts[number % len(self.texts)]}\n# {number}"
            found = await self.timed("marks", client.post("/api/desk/rounds/1/check", json={"source": text}))
            while found["findings"] is None and not found["unmarked"]:
                await asyncio.sleep(LOOK)
                found = (await client.get(f"/api/desk/checked/{found['id']}")).json()
            self.took["findings"].append(time.perf_counter() - begin)

    async def play(self, number: int) -> None:
        """Somebody who plays: counts the frames that come more than one frame late."""
        address = f"{self.url.replace('http', 'ws')}/api/desk/rounds/1/live"
        headers = {"Origin": self.url, "Cookie": f"hob={self.tokens[number]}"}
        async with websockets.connect(address, additional_headers=headers, open_timeout=120) as game:
            await game.send(json.dumps({"say": "begin", "source": self.texts[number % len(self.texts)]}))
            if json.loads(await game.recv())["say"] != "began":
                return  # one of the class's texts cannot be read
            last, end = time.monotonic(), time.monotonic() + SECONDS
            while time.monotonic() < end:
                said = json.loads(await asyncio.wait_for(game.recv(), 30))
                now = time.monotonic()
                if said["say"] == "frame":
                    self.frames += 1
                    self.late += now - last > 2 * FRAME + 0.005
                    last = now
                    if said["news"].get("over"):
                        break


async def lesson(url: str, tokens: list[str]) -> None:
    """The room three times: writing alone, then with games, then with checks, too; what gives first is seen so."""
    room = Room(url, tokens)
    async with room.client(0) as client:  # the first check warms workers up
        found = (await client.post("/api/desk/rounds/1/check", json={"source": "score = 0"})).json()
        while found["findings"] is None:
            await asyncio.sleep(0.2)
            found = (await client.get(f"/api/desk/checked/{found['id']}")).json()
    parts: list[tuple[str, list[Any]]] = [
        ("writing", []),
        ("and playing", [room.play]),
        ("and checking", [room.play, room.check]),
    ]
    for words, more in parts:
        room.took = {name: [] for name in GOALS}
        room.frames = room.late = 0
        doing = [room.write(number) for number in range(AT_DESKS)]
        for each in more:
            doing += [each(number) for number in range(PLAYING if each == room.play else CHECKING)]
        await asyncio.gather(*doing)
        print(f"{AT_DESKS} at desks, {words}:")
        for name, goal in GOALS.items():
            took = sorted(room.took[name])
            if took:
                share = 100 * took[max(int(len(took) * 0.95) - 1, 0)] / goal
                middle = 100 * took[len(took) // 2] / goal
                print(
                    f"  {name}: p95 {share:.0f} % of {goal} s, p50 {middle:.0f} %, {len(took)} answers   (goal ≤ 100 %)"
                )
        if room.frames:
            print(
                f"  frames late by more than one: {100 * room.late / room.frames:.1f} % of {room.frames}   (goal 0 %)"
            )


def main() -> None:
    """Makes a class of a hundred, serves it and lets the lesson begin."""
    dsn = database("desks")
    load(dsn, [BAKEHOUSE])
    store = Store(dsn)
    with store.transaction() as connection:
        ids = Classes.add_students(connection, 1, [f"Student {number}" for number in range(AT_DESKS)])
        tokens = [Sessions.begin(connection, student_id=id_) for id_ in ids.values()]
    store.close()
    listener = socket.socket()
    listener.bind(("127.0.0.1", 0))
    server = multiprocessing.get_context("spawn").Process(target=serve, args=(dsn, listener), daemon=True)
    server.start()
    try:
        asyncio.run(when_up(f"http://127.0.0.1:{listener.getsockname()[1]}", tokens))
    finally:
        server.terminate()
        server.join(20)


async def when_up(url: str, tokens: list[str]) -> None:
    """Waits until the sample class is marked: a lesson begins on a quiet server."""
    async with httpx2.AsyncClient(base_url=url, cookies={"hob": tokens[0]}, timeout=60) as client:
        while True:
            try:
                if (await client.get("/readyz")).status_code == 200:
                    break
            except httpx2.TransportError:
                pass
            await asyncio.sleep(0.3)
    if not short():
        await asyncio.sleep(30)  # the demo's own scripts are marked meanwhile
    await lesson(url, tokens)


if __name__ == "__main__":
    main()
