"""30 players at 30 frames a second: how many frames come late, and how long a key takes to be seen; how soon those
who begin at once see their first frame, what each costs in memory, and what one who floods the server does to the rest.

python -m bench.live [players] [seconds]
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import statistics
import sys
import time
from pathlib import Path

import uvicorn
from websockets.asyncio.client import connect
from websockets.exceptions import ConnectionClosed

from bench import short
from hobtrial.cli.serving import listen
from hobtrial.core.words import FRAMES_PER_SECOND
from hobtrial.demo import exercise_folder
from hobtrial.server import create_disk_app

STEP = 1 / FRAMES_PER_SECOND
EXERCISE = "bakehouse-rush"
BETWEEN_KEYS = 0.7
"""Seconds: no multiple of a frame, so that keys fall everywhere between two."""


async def player(address: str, source: str, seconds: float, number: int) -> tuple[list[float], list[float]]:
    """One player: how late each frame came (in seconds), and the delay from each key to the frame that shows it."""
    host = address.removeprefix("ws://").split("/")[0]
    late: list[float] = []
    delays: list[float] = []
    async with connect(address, additional_headers={"origin": f"http://{host}"}) as socket:
        await socket.send(json.dumps({"say": "begin", "source": source, "seed": 1}))
        while json.loads(await socket.recv())["say"] != "began":
            pass
        first = None
        pressed = 0.0
        down, next_key = False, time.monotonic() + 0.5 + number * 0.013
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            news = json.loads(await socket.recv())["news"]
            now = time.monotonic()
            if first is None:
                first = now - news["frame"] * STEP
            late.append(now - (first + news["frame"] * STEP))
            first = min(first, now - news["frame"] * STEP)
            if pressed and "hob" in news.get("pieces", {}):
                delays.append(now - pressed)
                pressed = 0.0
            if now >= next_key:
                next_key = now + BETWEEN_KEYS
                down = not down
                await socket.send(
                    json.dumps({"say": "did", "inputs": [{"do": "down" if down else "up", "key": "right"}]})
                )
                if down:
                    pressed = now
    return late, delays


async def begins(address: str, source: str, playing: asyncio.Event) -> float:
    """Seconds until a player who begins with all the others sees a frame; plays on until it is told to end."""
    host = address.removeprefix("ws://").split("/")[0]
    begin = time.monotonic()
    async with connect(address, additional_headers={"origin": f"http://{host}"}) as socket:
        await socket.send(json.dumps({"say": "begin", "source": source, "seed": 1}))
        while "news" not in json.loads(await socket.recv()):
            pass
        took = time.monotonic() - begin
        while not playing.is_set():
            await socket.recv()
    return took


async def floods(address: str, source: str, seconds: float) -> int:
    """One who sends messages as fast as they are taken. Gives how many were sent."""
    host = address.removeprefix("ws://").split("/")[0]
    sent, end = 0, time.monotonic() + seconds
    message = json.dumps({"say": "did", "inputs": [{"do": "down", "key": "right"}, {"do": "up", "key": "right"}] * 4})
    with contextlib.suppress(ConnectionClosed):
        async with connect(address, additional_headers={"origin": f"http://{host}"}) as socket:
            await socket.send(json.dumps({"say": "begin", "source": source, "seed": 1}))
            while time.monotonic() < end:
                await socket.send(message)
                sent += 1
                await asyncio.sleep(0)
    return sent


def memory_each(players: int) -> float:
    """Megabytes of each player's process, what they share counted once."""
    whole = 0
    for status in Path("/proc").glob("[0-9]*/smaps_rollup"):
        with contextlib.suppress(OSError, IndexError):
            if b"hobtrial" in (status.parent / "cmdline").read_bytes():
                line = next(each for each in status.read_text().split("\n") if each.startswith("Pss:"))
                whole += int(line.split()[1])
    return whole / 1024 / players


async def at_once(address: str, source: str, players: int) -> None:
    """All begin in the same moment."""
    over = asyncio.Event()
    beginning = [asyncio.create_task(begins(address, source, over)) for _ in range(players)]
    await asyncio.sleep(6)
    each = memory_each(players)
    over.set()
    took = sorted(await asyncio.gather(*beginning))
    print(f"{players} players who begin at once")
    middle, last = took[len(took) // 2] / 2, took[-1] / 2
    print(f"  first frame after {middle:.0%} of 2 s in the middle, the last after {last:.0%}   (goal ≤ 100%)")
    print(f"  {each / 60:.0%} of 60 MB for each   (goal ≤ 100%)")


async def measure(players: int, seconds: float) -> None:
    """Runs a server and its players in one process and prints what they saw."""
    files = exercise_folder(EXERCISE)
    source = files["reference.py"].decode()
    listener = listen(0)
    server = uvicorn.Server(uvicorn.Config(create_disk_app(files, lambda: b""), log_level="warning"))
    serving = asyncio.create_task(server.serve(sockets=[listener]))
    address = f"ws://127.0.0.1:{listener.getsockname()[1]}/api/exercises/1/live"
    await at_once(address, source, players)
    ready = []
    for number in range(players):
        ready.append(asyncio.create_task(player(address, source, seconds + (players - number) * 1.5, number)))
        await asyncio.sleep(1.5)  # each process is started before the next: only playing is measured
    results = await asyncio.gather(*ready)
    calm = [asyncio.create_task(player(address, source, seconds / 2, number)) for number in range(5)]
    sent = await floods(address, source, seconds / 2)
    beside = [each for lates, _ in await asyncio.gather(*calm) for each in lates[len(lates) // 4 :]]
    server.should_exit = True
    await serving
    # the first frames of each player fall into the time in which others still begin
    late = [each for lates, _ in results for each in lates[-int(seconds * FRAMES_PER_SECOND) :]]
    delays = [each for _, found in results for each in found]
    over_one = sum(each > STEP for each in late) / len(late)
    over_two = sum(each > 2 * STEP for each in late) / len(late)
    print(f"{players} players at {FRAMES_PER_SECOND} frames a second, {len(late):,} frames")
    print(f"  late by more than one frame   {over_one:7.2%}   (goal: none)")
    print(f"  late by more than two frames  {over_two:7.2%}")
    print(
        f"  from a key to its frame       {statistics.median(delays) / STEP:5.2f} frames in the middle, "
        f"{sorted(delays)[int(len(delays) * 0.95)] / STEP:.2f} at 95 %"
    )
    slowed = sum(each > STEP for each in beside) / len(beside)
    print(f"5 players beside one who sent {sent:,} messages: {slowed:.2%} of their frames late by more than one")


if __name__ == "__main__":
    given = [float(each) for each in sys.argv[1:] if not each.startswith("--")] or ([2, 1] if short() else [])
    asyncio.run(measure(int(given[0]) if given else 30, given[1] if len(given) > 1 else 10))
