"""Who may ask: the Host of every request and the Origin of every write must be ours.

Another page in the same browser can post to 127.0.0.1, and a name that resolves to it can be used
to read from it; both are turned down here, for WebSockets too. Written as plain ASGI so that
nothing passes it by.
"""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Final
from urllib.parse import urlsplit

from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

READING: Final = frozenset({"GET", "HEAD", "OPTIONS"})
LOOPBACK: Final = frozenset({"127.0.0.1", "localhost", "[::1]"})
POLICY: Final = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; frame-ancestors 'none'; "
    "form-action 'self'"
)
"""No inline script. Inline styles are needed by the editor, which writes its own sheet."""
HEADERS: Final = [
    (b"content-security-policy", POLICY.encode()),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"same-origin"),
    (b"cross-origin-opener-policy", b"same-origin"),
]


LARGEST_BODY: Final = 40 * 2**20
"""Bytes of a request: what a class hands in, and what goes round it."""
LONGEST_ADDRESS: Final = 4000
"""Bytes of an address, with what stands after its question mark."""
TOO_LARGE: Final = f"This is more than {LARGEST_BODY // 2**20} MB, which is too much at once. Send it in parts."


class Guard:
    """Turns down foreign hosts, foreign writes and what is too large, and adds the headers of every answer."""

    def __init__(self, app: ASGIApp, hosts: Iterable[str] = ()) -> None:
        self._app = app
        self._hosts = LOOPBACK | {host.casefold() for host in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answers or passes on one request."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        headers = {name.decode("latin-1").lower(): value.decode("latin-1") for name, value in scope["headers"]}
        host = headers.get("host", "")
        refusal = self._refusal(scope, host, headers.get("origin"))
        if refusal is None:
            await self._app(scope, _limited(receive), _with_headers(send))
        elif scope["type"] == "websocket":
            await send({"type": "websocket.close", "code": 1008, "reason": refusal})
        else:
            await _refuse(send, refusal)

    def _refusal(self, scope: Scope, host: str, origin: str | None) -> str | None:
        if len(scope["path"].encode("utf-8", "replace")) + len(scope["query_string"]) > LONGEST_ADDRESS:
            return "This address is too long to be one of ours."
        if _name(host).casefold() not in self._hosts:
            return f"This server does not answer to the name {host[:80]!r}. Open it at the address that it printed."
        writes = scope["type"] == "websocket" or scope["method"] not in READING
        if writes and (origin is None or urlsplit(origin).netloc != host):
            return "This request was sent by another page, so nothing was changed. Send it from the application itself."
        return None


def _limited(receive: Receive) -> Receive:
    """What comes in, up to a limit; beyond it whoever reads gets 413."""
    left = LARGEST_BODY

    async def receiving() -> Message:
        nonlocal left
        message = await receive()
        if message["type"] == "http.request":
            left -= len(message.get("body", b""))
            if left < 0:
                raise HTTPException(413, TOO_LARGE)
        return message

    return receiving


def _name(host: str) -> str:
    """A host without its port."""
    return host.rsplit(":", 1)[0] if host.rpartition(":")[2].isdigit() else host


def _with_headers(send: Send) -> Send:
    async def sending(message: Message) -> None:
        if message["type"] == "http.response.start":
            message["headers"] = [*message["headers"], *HEADERS]
        await send(message)

    return sending


async def _refuse(send: Send, why: str) -> None:
    body = json.dumps({"detail": why}).encode()
    start = {
        "type": "http.response.start",
        "status": 403,
        "headers": [(b"content-type", b"application/json"), *HEADERS],
    }
    await send(start)
    await send({"type": "http.response.body", "body": body})
