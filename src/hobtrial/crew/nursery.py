"""The nursery: one process that has imported everything and forks workers from itself, each in a few milliseconds.

Started as `python -m hobtrial.crew.nursery FD` with a clean environment; at the other end of the socket is
`process.py`. It never hears of a script: a worker raises its wall before it takes its first task.
"""

from __future__ import annotations

import contextlib
import os
import signal
import socket
import sys
from typing import Final

from .worker import Worker, calm_the_collector, serve

MOST_FILES: Final = 1024
PID_BYTES: Final = 4


def main() -> None:
    """Forks a worker for each message (how nice it is, and its two pipes), until the socket is closed."""
    control = socket.socket(fileno=int(sys.argv[-1]))
    sys.stdout = sys.stderr  # a stray print must not break the wire
    worker = Worker()
    worker.warm_up()
    calm_the_collector()
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # so that those who ended are gone
    control.send(b"+")
    while True:
        message, given, _, _ = socket.recv_fds(control, 16, 2)
        if not message:
            return
        pid = os.fork()
        if pid == 0:
            _become(worker, int(message), *given)
        for each in given:
            os.close(each)
        control.send(pid.to_bytes(PID_BYTES, "big"))


def _become(worker: Worker, nice: int, stream_in: int, stream_out: int) -> None:
    """Becomes a worker with these pipes, for good."""
    try:
        os.setsid()
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        os.nice(nice)
        with contextlib.suppress(OSError), open("/proc/self/autogroup", "w", encoding="ascii") as group:
            group.write(str(nice))  # where the kernel weighs sessions, it does not look at how nice their processes are
        os.dup2(stream_in, 0)
        os.dup2(stream_out, 1)
        os.closerange(3, MOST_FILES)
        with open(0, "rb", closefd=False) as heard, open(1, "wb", closefd=False) as said, contextlib.suppress(OSError):
            serve(worker, heard, said)
    finally:
        os._exit(0)


if __name__ == "__main__":
    main()
