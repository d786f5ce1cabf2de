"""One line in the log for every request: ids, no names, no scripts, nothing that was sent."""

from __future__ import annotations

import secrets
import time
from typing import Any, Final

import structlog
from starlette.types import ASGIApp, Message, Receive, Scope, Send

HEADER: Final = b"x-request-id"
log = structlog.get_logger()


class Logbook:
    """Gives every request an id, which the answer and every line of the log about it have."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Passes on one request, and writes it down."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        id_ = secrets.token_hex(6)
        begin = time.monotonic()
        status = 0

        async def sending(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                message["headers"] = [*message["headers"], (HEADER, id_.encode())]
            await send(message)

        with structlog.contextvars.bound_contextvars(request=id_):
            try:
                await self._app(scope, receive, sending)
            finally:
                log.info("asked", **_facts(scope), status=status, ms=round((time.monotonic() - begin) * 1000))


def _facts(scope: Scope) -> dict[str, Any]:
    """What is written down of a request: its address without what stands after the question mark, and whose it was."""
    person = scope.get("state", {}).get("person")
    route = scope.get("route")
    facts = {
        "method": scope.get("method", "SOCKET"),
        "path": scope["path"][:120] if route is not None and route.path != "/{path:path}" else "a page",
    }
    if person is not None:
        facts["teacher" if person.teacher_id is not None else "student"] = person.teacher_id or person.student_id
    return facts
