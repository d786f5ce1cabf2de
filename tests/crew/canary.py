"""Runs plain Python behind the worker's wall: `python -m tests.crew.canary` with a program on its input.

The language is switched off here: whatever Python can do is tried. Prints what came of it.
"""

import builtins
import ctypes
import encodings.idna  # noqa: F401
import os
import signal
import socket
import subprocess
import sys
import traceback  # noqa: F401

from hobtrial.crew.walls import limit_memory, raise_walls, renew_limits

if __name__ == "__main__":
    program = sys.stdin.read()
    code = compile(program, "<canary>", "exec")
    limit_memory()
    missing = raise_walls()
    renew_limits()
    try:
        exec(
            code,
            {
                "__builtins__": builtins,
                "os": os,
                "sys": sys,
                "socket": socket,
                "signal": signal,
                "subprocess": subprocess,
                "ctypes": ctypes,
            },
        )
        result = "got through"
    except BaseException as error:
        result = type(error).__name__
    os.write(1, f"{result} {missing}\n".encode())
    os._exit(0)
