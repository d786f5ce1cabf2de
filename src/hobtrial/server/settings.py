"""What can be set from the environment, each as HOB_ and its name; `docs/running.md` has the list."""

from __future__ import annotations

import os
from typing import Annotated, Any, Final, Literal

from pydantic import BeforeValidator, Field, ValidationError
from pydantic_settings import BaseSettings, NoDecode, SettingsConfigDict

from ..core.words import UsageError

PREFIX: Final = "HOB_"
MOST_BY_ITSELF: Final = 4
"""Processes that answer requests where nobody says how many."""


def _listed(value: Any) -> Any:
    return tuple(part.strip() for part in value.split(",") if part.strip()) if isinstance(value, str) else value


Names = Annotated[tuple[str, ...], NoDecode, BeforeValidator(_listed)]
"""Several words, with commas between them."""


class Settings(BaseSettings):
    """The settings of a server."""

    model_config = SettingsConfigDict(env_prefix=PREFIX, extra="ignore", frozen=True)

    database: str = ""
    """Which PostgreSQL database keeps the records, as an address."""
    address: str = "127.0.0.1"
    """The network address to listen on."""
    port: int = Field(default=8765, ge=1, le=65535)
    """The port to listen on."""
    hosts: Names = ()
    """Names that the server answers to besides those of its own machine: hob.school.example"""
    trusted_proxy: Names = ()
    """Addresses of the reverse proxy whose word is taken for who asks, and whether they came by TLS."""
    workers: int = Field(default=2, ge=0, le=64)
    """Processes that mark what was handed in."""
    processes: int = Field(default_factory=lambda: min(os.cpu_count() or 1, MOST_BY_ITSELF), ge=1, le=32)
    """Processes that answer requests, behind one port."""
    log: Literal["auto", "words", "json"] = "auto"
    """How the log is written: for people, for programs, or (auto) by whether a person reads it."""
    retention_months: int | None = Field(default=None, ge=1, le=600)
    """What was handed in longer ago is deleted, and classes that were put away as long ago."""


def read_settings() -> Settings:
    """The settings of the environment. Raises `UsageError` with the name of the variable that is wrong."""
    try:
        return Settings()
    except ValidationError as error:
        first = error.errors()[0]
        name = f"{PREFIX}{'_'.join(str(part) for part in first['loc'][:1]).upper()}"
        raise UsageError(f"{name} is {first['input']!r}, and that cannot be used: {first['msg']}.") from None
