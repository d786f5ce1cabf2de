"""A free place to serve on, and serving until Ctrl-C."""

from __future__ import annotations

import contextlib
import os
import signal
import socket
import threading
from collections.abc import Iterable
from types import FrameType
from typing import Final

import uvicorn
from fastapi import FastAPI

from ..core.words import UsageError

LOOPBACK: Final = "127.0.0.1"
REQUESTS_SECONDS: Final = 4
"""How long requests may still take once the server is to stop."""
BACKLOG: Final = 128
"""Connections that may wait to be taken."""
STOP_SECONDS: Final = 9
"""After so long the program ends, whatever goes on."""


def listen(port: int, address: str = LOOPBACK) -> socket.socket:
    """A listening socket: at the port that was asked for, or a free one. Raises `UsageError` for a foreign address."""
    family = socket.AF_INET6 if ":" in address else socket.AF_INET
    for each in (port, 0):
        # another program may share the port as our own processes do, so it is asked for alone first
        with socket.socket(family) as alone:
            alone.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                alone.bind((address, each))
            except OSError as error:
                if each == 0:
                    raise UsageError(
                        f"{address} is not an address of this machine that can be listened on: {error}"
                    ) from None
                continue
            free = int(alone.getsockname()[1])
        return shared(free, address)
    raise AssertionError("a free port was asked for")


def shared(port: int, address: str) -> socket.socket:
    """A listening socket at a port that several processes of a server share: each gets its part of the connections."""
    listener = socket.socket(socket.AF_INET6 if ":" in address else socket.AF_INET)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    listener.bind((address, port))
    listener.listen(BACKLOG)
    return listener


def serve_until_stopped(
    app: FastAPI,
    listener: socket.socket,
    *,
    asked: int,
    page: str = "/",
    stays: str = "",
    links: Iterable[tuple[str, str]] = (),
    proxy: Iterable[str] = (),
) -> None:
    """Serves an application, says where, and comes back after Ctrl-C or a polite kill.

    `asked` is the port that somebody asked for; `stays` is what to say of data that stays; `links` are ways in, each
    with what it is; `proxy` are the addresses whose word is taken for who asks.
    """
    host, taken = listener.getsockname()[:2]
    shown = f"[{host}]" if ":" in host else host
    why = "" if taken == asked else f"Port {asked} is taken. "
    print(f"{why}Hob Trial is at http://{shown}:{taken}{page} (Ctrl-C stops it{stays})", flush=True)
    for what, end in links:
        print(f"{what}:\n  http://{shown}:{taken}{end}", flush=True)
    serve_quietly(app, listener, proxy)


def serve_quietly(app: FastAPI, listener: socket.socket, proxy: Iterable[str] = ()) -> None:
    """Serves an application until Ctrl-C or a polite kill, and says nothing."""
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    config = uvicorn.Config(
        app,
        log_level="warning",
        access_log=False,
        proxy_headers=bool(list(proxy)),
        forwarded_allow_ips=list(proxy),
        timeout_graceful_shutdown=REQUESTS_SECONDS,
        ws_per_message_deflate=False,  # the news of a frame is a few dozen bytes
    )
    # uvicorn raises the signal that ended it once more; as an exception it lets us clean up
    with contextlib.suppress(KeyboardInterrupt):
        _Server(config).run(sockets=[listener])


class _Server(uvicorn.Server):
    """A server that ends in time, also when a request or a thread does not."""

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Begins to stop."""
        watch = threading.Timer(STOP_SECONDS, os._exit, [1])
        watch.daemon = True
        watch.start()
        super().handle_exit(sig, frame)
