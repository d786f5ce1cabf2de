"""Scripts an hour that one worker marks and explains, and how that grows with a second one beside it.

Each worker is a `hob worker` of its own, as on a machine of its own.  python -m bench.machines
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time

from tests.support import BAKEHOUSE, database

from bench import short
from hobtrial.cli.demo import load
from hobtrial.crew import Queue
from hobtrial.demo import exercises, hand_ins, tries
from hobtrial.store import Classes, Exercises, Rounds, Store

SCRIPTS = 6 if short() else 120
GOAL = 10_000
"""Scripts an hour and machine, of the sample term: two thirds of them wrong."""
PATIENCE = 600


def term() -> list[tuple[str, bytes]]:
    """What the sample class handed in over its whole term, as exercise and text, spread evenly over it."""
    texts = [(name, each.source.encode()) for name in exercises() for each in tries(name)]
    texts += [(BAKEHOUSE, source) for source in hand_ins(BAKEHOUSE).values()]
    return [texts[number * len(texts) // SCRIPTS] for number in range(SCRIPTS)]


def hand_in(store: Store, queue: Queue, turn: int) -> None:
    """Texts that nobody handed in yet: each has a comment of its own at its end."""
    with store.transaction() as connection:
        class_id = Classes.named(connection, f"Class {turn}", None)
        ids = list(
            Classes.add_students(connection, class_id, [f"Student {number}" for number in range(SCRIPTS)]).values()
        )
        rounds: dict[str, int] = {}
        versions = {
            name: row["version_id"] for name, row in zip(exercises(), Exercises.newest(connection), strict=True)
        }
        for number, (name, source) in enumerate(term()):
            if name not in rounds:
                rounds[name] = Rounds.open(connection, class_id, versions[name])
            text = source + f"\n# {turn} {number}\n".encode()
            Rounds.hand_in(connection, rounds[name], ids[number], "a.py", text)
        queue.defer(connection, Rounds.all_unmarked(connection))


def left(store: Store) -> int:
    """How many texts wait."""
    with store.transaction() as connection:
        return len(Rounds.all_unmarked(connection))


def main() -> None:
    """Marks the same number of scripts with one worker and with two."""
    dsn = database("bench_machines")
    load(dsn, [])
    store, queue = Store(dsn), Queue(dsn)
    hourly: list[float] = []
    for workers in (1, 2):
        command = [sys.executable, "-m", "hobtrial", "worker", "--workers", "1"]
        environment = {**os.environ, "HOB_DATABASE": dsn}
        running = [
            subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
            for _ in range(workers)
        ]
        hand_in(store, queue, 0 if workers == 1 else 1)
        begin, most = 0.0, left(store)
        end = time.monotonic() + PATIENCE
        while (waiting := left(store)) and time.monotonic() < end:
            if not begin and waiting < most:
                begin, most = time.monotonic(), waiting  # they are warm now
            time.sleep(0.05)
        hourly.append(most / max(time.monotonic() - begin, 0.001) * 3600)
        print(f"{workers} worker{'s' if workers > 1 else ''}: {hourly[-1] / GOAL:.0%} of {GOAL:,} scripts an hour")
        for each in running:
            each.send_signal(signal.SIGTERM)
        for each in running:
            each.wait(60)
    print(f"two beside each other do {hourly[1] / hourly[0]:.2f} × what one does")
    queue.close()
    store.close()


if __name__ == "__main__":
    main()
