"""`python -m hobtrial.server.describe`: the OpenAPI description, from which the front end's types are made.

What is said over a WebSocket is no part of OpenAPI; its schemas stand beside the others.
"""

from __future__ import annotations

import json

from .app import create_app
from .live_views import LiveMessages


def description() -> str:
    """The description as it is kept in `web/openapi.json`."""
    described = create_app().openapi()
    live = LiveMessages.model_json_schema(ref_template="#/components/schemas/{model}")
    schemas = described["components"]["schemas"]
    schemas.update({name: schema for name, schema in live.pop("$defs").items() if name not in schemas})
    schemas["LiveMessages"] = live
    return json.dumps(described, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(description(), end="")
