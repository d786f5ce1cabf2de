"""Further server processes behind one port: each listens there, and the system gives every connection to one of them.
The first process marks and looks after the others; what all must know stands in the records.
"""

from __future__ import annotations

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from dataclasses import asdict
from typing import Any, Final

from ..server import DemoLinks, create_app
from ..server.settings import Settings
from .logs import set_up
from .serving import serve_quietly, shared

AGAIN_SECONDS: Final = 1.0
"""After so long a process that ended is begun again."""
STOP_SECONDS: Final = 10.0


@contextlib.contextmanager
def siblings(
    number: int,
    dsn: str,
    settings: Settings,
    listener: socket.socket,
    *,
    demo: DemoLinks | None = None,
    says: int = 0,
) -> Iterator[None]:
    """Runs so many further processes as long as this goes on; one that ends is begun again.

    They listen where `listener` does, which must have come from `listen`; `says` is how much they log.
    """
    told = {
        "dsn": dsn,
        "settings": {**settings.model_dump(), "workers": 0},
        "demo": asdict(demo) if demo is not None else None,
        "place": listener.getsockname()[:2],
        "says": says,
    }
    running: list[subprocess.Popen[bytes]] = [_begin(told) for _ in range(number)]
    stopping = threading.Event()

    def look() -> None:
        while not stopping.wait(AGAIN_SECONDS):
            for index, each in enumerate(running):
                if each.poll() is not None and not stopping.is_set():
                    running[index] = _begin(told)

    watch = threading.Thread(target=look, daemon=True)
    watch.start()
    try:
        yield
    finally:
        stopping.set()
        watch.join()
        _end(running)


def _begin(told: dict[str, Any]) -> subprocess.Popen[bytes]:
    process = subprocess.Popen(
        [sys.executable, "-m", "hobtrial.cli.siblings"],
        stdin=subprocess.PIPE,
        start_new_session=True,  # Ctrl-C is for the first process, which ends the others
    )
    assert process.stdin is not None
    with contextlib.suppress(BrokenPipeError):
        process.stdin.write(json.dumps(told).encode() + b"\n")
        process.stdin.flush()
    return process


def _end(running: list[subprocess.Popen[bytes]]) -> None:
    """Closes what they listen to for their end, and waits."""
    for each in running:
        assert each.stdin is not None
        with contextlib.suppress(OSError):
            each.stdin.close()
    end = time.monotonic() + STOP_SECONDS
    for each in running:
        try:
            each.wait(max(end - time.monotonic(), 0.1))
        except subprocess.TimeoutExpired:
            each.kill()
            each.wait()


def main() -> None:
    """One of the further processes. It ends when its standard input does: then the first one has ended, somehow."""
    told = json.loads(sys.stdin.buffer.readline())
    settings = Settings(**told["settings"])
    set_up(told["says"], settings.log)

    def wait_for_the_end() -> None:
        while sys.stdin.buffer.read(1):
            pass
        os.kill(os.getpid(), signal.SIGTERM)

    threading.Thread(target=wait_for_the_end, daemon=True).start()
    demo = DemoLinks(**told["demo"]) if told["demo"] else None
    app = create_app(told["dsn"], settings, demo=demo)
    address, port = told["place"]
    serve_quietly(app, shared(port, address), settings.trusted_proxy)


if __name__ == "__main__":
    main()
