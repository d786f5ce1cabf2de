"""The description of the application: what FastAPI tells of it, and what the guard, the table of access and the
handlers of errors answer besides.
"""

from __future__ import annotations

from typing import Any, Final

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from .access import EVERYBODY, TABLE, Rule
from .cookies import PLAIN, SECURE
from .views import Sorry

WHY: Final = {
    400: "What was sent cannot be taken apart.",
    401: "Nobody is signed in.",
    403: "This is not for whoever asks, or was not sent by a page of ours.",
    404: "There is no such thing, or it is somebody else's.",
    413: "This is too large.",
    422: "What was sent cannot be read, or cannot be so.",
    503: "The records cannot be reached just now.",
}


SORRY: Final = {"application/json": {"schema": {"$ref": "#/components/schemas/Sorry"}}}


def described(app: FastAPI) -> dict[str, Any]:
    """The description in OpenAPI's form."""
    whole = get_openapi(title=app.title, version=app.version, routes=app.routes)
    schemas = whole["components"]["schemas"]
    schemas["Sorry"] = Sorry.model_json_schema()
    for name in ("HTTPValidationError", "ValidationError"):
        schemas.pop(name, None)
    whole["components"]["securitySchemes"] = {
        name: {"type": "apiKey", "in": "cookie", "name": name} for name in (PLAIN, SECURE)
    }
    for path, operations in whole["paths"].items():
        for method, operation in operations.items():
            rule = TABLE.get((method.upper(), path))
            if rule is not None:
                _complete(operation, rule)
    return whole


def _complete(operation: dict[str, Any], rule: Rule) -> None:
    """Adds what can be answered besides."""
    responses = operation["responses"]
    if "HTTPValidationError" in str(responses.get("422")):
        del responses["422"]
    for status in _besides(operation, rule):
        responses.setdefault(str(status), {"description": WHY[status], "content": SORRY})
    for response in responses.values():
        if "schemas/Sorry" in str(response.get("content")):  # whatever else an address answers, this is JSON
            response["content"] = SORRY
    if rule.roles != EVERYBODY:
        operation["security"] = [{PLAIN: []}, {SECURE: []}]


def _besides(operation: dict[str, Any], rule: Rule) -> list[int]:
    sends = "requestBody" in operation
    found = [403]
    if rule.roles != EVERYBODY:
        found.append(401)
    if rule.things:
        found.append(404)
    if sends:
        found += [400, 413]
    if sends or "parameters" in operation:
        found.append(422)
    if rule.asks:
        found.append(503)
    return found
