"""A free place to serve on, and serving until Ctrl-C."""

from __future__ import annotations

import contextlib
import signal
import socket

import uvicorn
from fastapi import FastAPI


def listen(port: int) -> socket.socket:
    """A listening socket on loopback: the port that was asked for, or a free one."""
    listener = socket.socket()
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind(("127.0.0.1", port))
    except OSError:
        listener.bind(("127.0.0.1", 0))
    listener.listen(128)
    return listener


def serve_until_stopped(app: FastAPI, listener: socket.socket, *, asked: int, page: str = "/", stays: str = "") -> None:
    """Serves an application, says where, and comes back after Ctrl-C or a polite kill.

    `asked` is the port that somebody asked for; `stays` is what to say of data that stays.
    """
    taken = listener.getsockname()[1]
    why = "" if taken == asked else f"Port {asked} is taken. "
    print(f"{why}Hob Trial is at http://127.0.0.1:{taken}{page} (Ctrl-C stops it{stays})", flush=True)
    # uvicorn raises the signal that ended it once more; as an exception it lets us clean up
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    server = uvicorn.Server(uvicorn.Config(app, log_level="warning", access_log=False))
    with contextlib.suppress(KeyboardInterrupt):
        server.run(sockets=[listener])
