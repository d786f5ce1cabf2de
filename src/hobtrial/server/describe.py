"""`python -m hobtrial.server.describe`: the OpenAPI description, from which the front end's types are made."""

from __future__ import annotations

import json

from .app import create_app


def description() -> str:
    """The description as it is kept in `web/openapi.json`."""
    return json.dumps(create_app().openapi(), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(description(), end="")
