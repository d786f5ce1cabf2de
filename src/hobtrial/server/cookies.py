"""The one cookie: what a browser keeps of a session."""

from __future__ import annotations

from typing import Final

from fastapi import Request, Response
from starlette.requests import HTTPConnection

from ..store.sessions import SESSION_SECONDS

PLAIN: Final = "hob"
SECURE: Final = "__Host-hob"
"""Behind TLS: browsers take this name only with `Secure`, for this host alone and all its paths."""
LONGEST: Final = 100
"""Characters of a token."""


def by_tls(connection: HTTPConnection) -> bool:
    """Whether a request came by TLS, as the server or a proxy that it trusts says."""
    return connection.scope.get("scheme") in ("https", "wss")


def token_of(connection: HTTPConnection) -> str | None:
    """The token of a request's session, where it has one."""
    token = connection.cookies.get(SECURE if by_tls(connection) else PLAIN)
    return token if token and len(token) <= LONGEST else None


def keep(request: Request, response: Response, token: str) -> None:
    """Lets the browser keep a session."""
    tls = by_tls(request)
    response.set_cookie(
        SECURE if tls else PLAIN, token, max_age=SESSION_SECONDS, path="/", secure=tls, httponly=True, samesite="lax"
    )


def drop(request: Request, response: Response) -> None:
    """Lets the browser forget a session."""
    tls = by_tls(request)
    response.delete_cookie(SECURE if tls else PLAIN, path="/", secure=tls, httponly=True, samesite="lax")
