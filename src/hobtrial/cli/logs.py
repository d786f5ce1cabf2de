"""What is logged and how: one line an event, on stderr; words for a terminal, JSON for everything else."""

from __future__ import annotations

import logging
import sys
from typing import Any, Final, Literal

import structlog

LEVELS: Final = (logging.WARNING, logging.INFO, logging.DEBUG)
"""By how often `--verbose` is given: what went wrong; what was done; each scenario of each script too."""


def set_up(verbose: int, form: Literal["auto", "words", "json"] = "auto") -> None:
    """Lets the log begin. `verbose` is how often more was asked for; `form` is who it is written for."""
    on_terminal = sys.stderr.isatty() if form == "auto" else form == "words"
    last: Any = (
        structlog.dev.ConsoleRenderer() if on_terminal else structlog.processors.JSONRenderer(ensure_ascii=False)
    )
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            last,
        ],
        wrapper_class=structlog.make_filtering_bound_logger(LEVELS[min(verbose, len(LEVELS) - 1)]),
        logger_factory=lambda *_: structlog.PrintLogger(sys.stderr),  # whatever that is when something is logged
    )
