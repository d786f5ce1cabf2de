"""A free place to serve on."""

from __future__ import annotations

import socket


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
