"""How a crew and its workers speak: a length of four bytes, then so much JSON. Never pickle.

The crew writes a task and reads one answer. Both sides turn down what is longer than the limits
here, so that neither can fill the other's memory.
"""

from __future__ import annotations

import json
import struct
from typing import Any, BinaryIO, Final

from ..core.words import HobError

LONGEST_TASK: Final = 16 * 2**20
"""Bytes of a task: an exercise and a script of 64 KB."""
LONGEST_ANSWER: Final = 64 * 2**20
"""Bytes of an answer: a whole trace of ten minutes has about 20 MB."""
HEAD: Final = struct.Struct(">I")


class WireError(HobError):
    """The other side sent something that is not a message."""


def pack(message: dict[str, Any], most: int) -> bytes:
    """A message as bytes. Raises `WireError` when it is too long."""
    body = json.dumps(message, ensure_ascii=False, separators=(",", ":")).encode("utf-8", "replace")
    if len(body) > most:
        raise WireError(f"a message of {len(body):,} bytes; at most {most:,} are sent")
    return HEAD.pack(len(body)) + body


def unpack(body: bytes) -> dict[str, Any]:
    """The message in some bytes. Raises `WireError` for anything but a JSON object."""
    try:
        message = json.loads(body)
    except ValueError as error:
        raise WireError("a message that is not JSON") from error
    if not isinstance(message, dict):
        raise WireError("a message that is not an object")
    return message


def read_message(stream: BinaryIO, most: int) -> dict[str, Any] | None:
    """The next message of a stream, or nothing at its end."""
    head = stream.read(HEAD.size)
    if len(head) < HEAD.size:
        return None
    (length,) = HEAD.unpack(head)
    if length > most:
        raise WireError(f"a message of {length:,} bytes; at most {most:,} are taken")
    return unpack(stream.read(length))
