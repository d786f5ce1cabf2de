"""Which line of the script is running, read off Python's own stack."""

from __future__ import annotations

import sys

from ..script import SCRIPT_FILE


def script_line() -> int:
    """The line of the script that is running; 0 where none is."""
    frame = sys._getframe(1)
    while frame is not None:
        if frame.f_code.co_filename == SCRIPT_FILE:
            return frame.f_lineno
        frame = frame.f_back  # type: ignore[assignment]
    return 0


def line_of(error: BaseException) -> int:
    """The last line of the script in an exception's traceback."""
    line, trace = 0, error.__traceback__
    while trace is not None:
        if trace.tb_frame.f_code.co_filename == SCRIPT_FILE:
            line = trace.tb_lineno
        trace = trace.tb_next
    return line
