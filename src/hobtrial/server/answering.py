"""Routes whose views become JSON where they are made: once, and in the thread that made them.

FastAPI would check a view once more and carry it into a further thread for that.
"""

from __future__ import annotations

import functools
import inspect
from collections.abc import Callable
from typing import Any, get_type_hints

from fastapi import APIRouter
from fastapi.responses import Response
from fastapi.routing import APIRoute
from pydantic import BaseModel
from starlette.responses import Response as AnyResponse


class _Route(APIRoute):
    """A route whose function gives a view or a whole answer."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **more: Any) -> None:
        super().__init__(path, _answering(endpoint, more.get("status_code") or 200), **more)


class Router(APIRouter):
    """Routes of a screen."""

    def __init__(self, *given: Any, **more: Any) -> None:
        super().__init__(*given, route_class=_Route, **more)


def _answering(endpoint: Callable[..., Any], status: int) -> Callable[..., Any]:
    """A function that gives its view as JSON. One that sets headers of an answer itself is left to FastAPI."""
    if hasattr(endpoint, "answers"):
        return endpoint
    hints = get_type_hints(endpoint)
    if any(
        isinstance(each, type) and issubclass(each, AnyResponse) for name, each in hints.items() if name != "return"
    ):
        return endpoint

    def answer(found: Any) -> Any:
        if isinstance(found, BaseModel):
            return Response(found.model_dump_json(by_alias=True), status, media_type="application/json")
        return found

    if inspect.iscoroutinefunction(endpoint):

        @functools.wraps(endpoint)
        async def later(*given: Any, **named: Any) -> Any:
            return answer(await endpoint(*given, **named))

        later.answers = True  # type: ignore[attr-defined]
        return later

    @functools.wraps(endpoint)
    def now(*given: Any, **named: Any) -> Any:
        return answer(endpoint(*given, **named))

    now.answers = True  # type: ignore[attr-defined]
    return now
