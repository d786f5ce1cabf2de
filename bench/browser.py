"""What stands for a browser in the benches: one connection that stays open, and as little work of its own as can be."""

from __future__ import annotations

import asyncio
import base64
import gzip
import json
import os
from typing import Any


class Browser:
    """One connection, as a browser keeps it, with what it saw last of each address."""

    def __init__(self, port: int, token: str) -> None:
        self._port, self._token = port, token
        self._seen: dict[str, tuple[str, bytes]] = {}
        self._streams: tuple[asyncio.StreamReader, asyncio.StreamWriter] | None = None

    async def get(self, path: str) -> tuple[int, bytes]:
        """Asks for an address, and says what it has of it already. Gives the status, and the body as it is now."""
        tag, seen = self._seen.get(path, ("", b""))
        status, body = await self._ask("GET", path, f"if-none-match: {tag}\r\n" if tag else "")
        return status, seen if status == 304 else body

    async def send(self, method: str, path: str, told: Any) -> tuple[int, Any]:
        """Sends JSON. Gives the status and what came back."""
        body = json.dumps(told).encode()
        head = f"content-type: application/json\r\ncontent-length: {len(body)}\r\n"
        status, answer = await self._ask(method, path, head, body)
        return status, json.loads(answer)

    async def _ask(self, method: str, path: str, fields: str, body: bytes = b"") -> tuple[int, bytes]:
        if self._streams is None:
            self._streams = await asyncio.open_connection("127.0.0.1", self._port)
        reader, writer = self._streams
        here = f"127.0.0.1:{self._port}"
        writer.write(
            f"{method} {path} HTTP/1.1\r\nhost: {here}\r\norigin: http://{here}\r\naccept-encoding: gzip\r\n"
            f"cookie: hob={self._token}\r\n{fields}\r\n".encode()
            + body
        )
        head = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1")
        status, *lines = head.strip().split("\r\n")
        known = {name.lower(): value.strip() for name, _, value in (line.partition(":") for line in lines)}
        answer = await reader.readexactly(int(known.get("content-length", "0")))
        answer = gzip.decompress(answer) if known.get("content-encoding") == "gzip" else answer
        number = int(status.split()[1])
        if "etag" in known and number == 200:
            self._seen[path] = (known["etag"], answer)
        return number, answer


class Socket:
    """A socket to a game, as far as a bench needs one: it says texts, and hears texts of the server as bytes."""

    def __init__(self, port: int, token: str) -> None:
        self._port, self._token = port, token

    async def open(self, path: str) -> None:
        """Connects. Raises `ConnectionError` where the server does not want that."""
        self._reader, self._writer = await asyncio.open_connection("127.0.0.1", self._port)
        here, key = f"127.0.0.1:{self._port}", base64.b64encode(os.urandom(16)).decode()
        self._writer.write(
            f"GET {path} HTTP/1.1\r\nhost: {here}\r\norigin: http://{here}\r\ncookie: hob={self._token}\r\n"
            f"upgrade: websocket\r\nconnection: Upgrade\r\nsec-websocket-key: {key}\r\n"
            "sec-websocket-version: 13\r\n\r\n".encode()
        )
        head = await self._reader.readuntil(b"\r\n\r\n")
        if b" 101 " not in head.split(b"\r\n")[0]:
            raise ConnectionError(head.decode("latin-1"))

    async def say(self, told: Any) -> None:
        """Sends JSON (RFC 6455, 5.2: one frame, masked with zeros)."""
        body = json.dumps(told).encode()
        size = len(body)
        length = bytes([0x80 | size]) if size < 126 else b"\xfe" + size.to_bytes(2, "big")
        self._writer.write(b"\x81" + length + bytes(4) + body)
        await self._writer.drain()

    async def hear(self) -> bytes:
        """The next text; nothing once the server has closed."""
        while True:
            kind, length = await self._reader.readexactly(2)
            size = length & 0x7F
            if size > 125:
                size = int.from_bytes(await self._reader.readexactly(2 if size == 126 else 8), "big")
            body = await self._reader.readexactly(size)
            if kind & 0x0F in (1, 8):
                return body if kind & 0x0F == 1 else b""

    def close(self) -> None:
        """Goes away."""
        self._writer.close()
