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
from hobtrial.demo import tries
from hobtrial.store import Classes, Rounds, Store

SCRIPTS = 6 if short() else 120
GOAL = 10_000
"""Scripts an hour and machine, of the sample's kind: two thirds of them wrong."""
PATIENCE = 600


def hand_in(store: Store, queue: Queue, turn: int) -> None:
    """Texts that nobody handed in yet."""
    texts = [each.source for each in tries(BAKEHOUSE)]
    with store.transaction() as connection:
        class_id = Classes.named(connection, f"Class {turn}", None)
        ids = Classes.add_students(connection, class_id, [f"Student {number}" for number in range(SCRIPTS)])
        round_id = Rounds.open(connection, class_id, 1)
        for number, student_id in enumerate(ids.values()):
            source = f"{texts[number % len(texts)]}\n# {turn} {number}\n".encode()
            Rounds.hand_in(connection, round_id, student_id, "a.py", source)
        queue.defer(connection, Rounds.unmarked(connection, round_id))


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
            each.wait(30)
    print(f"two beside each other do {hourly[1] / hourly[0]:.2f} × what one does")
    queue.close()
    store.close()


if __name__ == "__main__":
    main()
