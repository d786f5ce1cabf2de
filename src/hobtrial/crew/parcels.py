"""Scripts out of what people hand in: single files, or zips that are read without unpacking to disk."""

from __future__ import annotations

import io
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from itertools import chain, count
from typing import Final

from ..core.exercise import SETTINGS, is_part
from ..core.words import UsageError

LARGEST_FILE: Final = 8 * 2**20
"""Bytes of one file that is read at all; the script language's own limit is far below."""
MOST_ENTRIES: Final = 2_000
"""Entries of a zip: a class of 200 with ten files each."""
LARGEST_RATIO: Final = 200
"""How much larger than packed an entry may be: text packs to a tenth, a bomb to a thousandth."""
MOST_BYTES: Final = 32 * 2**20
"""Bytes of all files of one request together, unzipped."""
LOCAL_HEADER: Final = 30
"""Bytes before the name of an entry of a zip."""
LARGEST_EXERCISE: Final = 8 * 2**20
"""Bytes of all files of an exercise together."""
SMALL: Final = 64 * 1024
"""Bytes up to which the ratio does not matter."""


@dataclass(frozen=True, slots=True)
class Received:
    """Files that somebody hands in: the scripts by name, and what is left out of them, each with the reason."""

    scripts: dict[str, bytes]
    left_out: tuple[tuple[str, str], ...] = ()


def scripts_in(files: Iterable[tuple[str, bytes]]) -> Received:
    """The scripts of some files; zips give theirs. One that cannot be used keeps no other one out.

    Two of one name are told apart: by the zip that they came in, else by a number.
    """
    scripts: dict[str, bytes] = {}
    left_out: list[tuple[str, str]] = []
    room = _Room()
    for name, content in files:
        if _is_litter(name):
            continue
        try:
            found = list(_scripts_of(name, content, room))
        except UsageError as error:
            left_out.append((name, str(error)))
            continue
        for inner, source in found:
            if not inner.casefold().endswith(".py"):
                left_out.append((f"{name}/{inner}", f"{inner} is not a script; hand in .py files"))
            elif scripts.get(inner) != source:
                scripts[_free_name(inner, name, scripts)] = source
    return Received(scripts, tuple(left_out))


def _scripts_of(name: str, content: bytes, room: _Room) -> Iterator[tuple[str, bytes]]:
    if len(content) > LARGEST_FILE:
        raise UsageError(f"{name} has {len(content):,} bytes; at most {LARGEST_FILE:,} are read")
    if name.casefold().endswith(".zip"):
        found = list(zip_entries(name, content, room))
        if not any(inner.casefold().endswith(".py") for inner, _ in found):
            raise UsageError(f"{name}: there is no .py file in this zip")
        yield from found
    elif name.casefold().endswith(".py"):
        room.take(name, len(content))
        yield name, content
    else:
        raise UsageError(f"{name} is not a script; hand in .py files, or a zip of them")


def _free_name(name: str, parcel: str, taken: Mapping[str, bytes]) -> str:
    """A name that no other script has."""
    tries = [name, f"{parcel}/{name}" if parcel != name else name]
    stem = name.removesuffix(".py")
    return next(each for each in chain(tries, (f"{stem} ({number}).py" for number in count(2))) if each not in taken)


def _is_litter(name: str) -> bool:
    """Whether a file is what systems leave in folders of their own accord."""
    parts = name.split("/")
    return parts[0] == "__MACOSX" or parts[-1].startswith(".") or parts[-1] in ("Thumbs.db", "desktop.ini")


def exercise_in(files: Iterable[tuple[str, bytes]]) -> dict[str, bytes]:
    """The files of an exercise: a folder of them, or that folder zipped. What is no part of one is left out.

    Raises `UsageError` where there is no exercise in it.
    """
    entries: dict[str, bytes] = {}
    room = _Room()
    for name, content in files:
        if len(content) > LARGEST_FILE:
            raise UsageError(f"{name} has {len(content):,} bytes; at most {LARGEST_FILE:,} are read")
        if name.casefold().endswith(".zip"):
            entries |= dict(zip_entries(name, content, room))
        else:
            entries[name] = content
    heads = [name.removesuffix(SETTINGS) for name in entries if name.endswith(SETTINGS)]
    if not heads:
        raise UsageError(f"there is no {SETTINGS} in it; give the folder of an exercise, or that folder zipped")
    head = min(heads, key=len)
    inside = {name.removeprefix(head): content for name, content in entries.items() if name.startswith(head)}
    found = {name: content for name, content in inside.items() if is_part(name)}
    size = sum(map(len, found.values()))
    if size > LARGEST_EXERCISE:
        raise UsageError(f"this exercise has {size:,} bytes; at most {LARGEST_EXERCISE:,} are read")
    return found


@dataclass(slots=True)
class _Room:
    """How many bytes may still come: of all the files of one request together, however they are packed."""

    left: int = MOST_BYTES

    def take(self, name: str, size: int) -> None:
        """Takes the room of a file. Raises `UsageError` where there is not enough."""
        if size > self.left:
            raise UsageError(f"{name} has more than {MOST_BYTES:,} bytes with everything before it; it is not read")
        self.left -= size


def zip_entries(path: str, content: bytes, room: _Room | None = None) -> Iterator[tuple[str, bytes]]:
    """Names and contents of a zip's files, read without unpacking to disk. Raises `UsageError`."""
    room = room or _Room()
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            files = sorted((info for info in archive.infolist() if not info.is_dir()), key=lambda info: info.filename)
            if len(files) > MOST_ENTRIES:
                raise UsageError(f"{path} has {len(files):,} entries; at most {MOST_ENTRIES:,} are read")
            room.take(path, sum(info.file_size for info in files if not _is_litter(info.filename)))
            _check(path, files)
            for info in files:
                if not _is_litter(info.filename):
                    yield info.filename, archive.read(info)
    except _BAD_ZIP as error:
        raise UsageError(f"{path} cannot be unzipped: {error}") from error


_BAD_ZIP: Final = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    struct.error,
    EOFError,
    OSError,
    RuntimeError,
    NotImplementedError,
    UnicodeError,
    ValueError,
    OverflowError,
)
"""What reading a damaged, locked or odd zip can raise."""


def _check(path: str, files: list[zipfile.ZipInfo]) -> None:
    """Raises `UsageError` for a zip that is larger than it may be, or whose entries share bytes."""
    for info in files:
        if info.file_size > SMALL and info.file_size > info.compress_size * LARGEST_RATIO:
            raise UsageError(
                f"{path}/{info.filename} is packed far tighter than a script can be; nothing of it is read"
            )
        if info.file_size > LARGEST_FILE:
            raise UsageError(f"{path}/{info.filename} has {info.file_size:,} bytes; at most {LARGEST_FILE:,} are read")
    end = 0
    for info in sorted(files, key=lambda info: info.header_offset):
        if info.header_offset < end:
            raise UsageError(f"{path} has entries that lie over one another; nothing of it is read")
        end = info.header_offset + LOCAL_HEADER + info.compress_size
