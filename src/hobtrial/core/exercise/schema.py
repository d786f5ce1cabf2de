"""The JSON Schema of `exercise.toml`, for editors that complete and check while one writes."""

from __future__ import annotations

from typing import Any

from .model import Settings


def schema() -> dict[str, Any]:
    """The schema as it is published in `docs/exercise.schema.json` and by the server."""
    made = Settings.model_json_schema(by_alias=True)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **made, "title": "exercise.toml of Hob Trial"}
