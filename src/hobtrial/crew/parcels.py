"""Scripts out of what people hand in: single files, or zips that are read without unpacking to disk."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable, Iterator
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
"""Bytes that all entries of a zip have together: entries can overlap, so that a small zip is a very large one."""
LARGEST_EXERCISE: Final = 8 * 2**20
"""Bytes of all files of an exercise together."""
SMALL: Final = 64 * 1024
"""Bytes up to which the ratio does not matter."""


def scripts_in(files: Iterable[tuple[str, bytes]]) -> Iterator[tuple[str, bytes]]:
    """The scripts of some files by name; zips give theirs. Raises `UsageError` for what can hold none."""
    for name, content in files:
        if len(content) > LARGEST_FILE:
            raise UsageError(f"{name} has {len(content):,} bytes; at most {LARGEST_FILE:,} are read")
        if name.casefold().endswith(".zip"):
            found = [(inner, source) for inner, source in zip_entries(name, content) if inner.endswith(".py")]
            if not found:
                raise UsageError(f"{name}: there is no .py file in this zip")
            yield from found
        elif name.casefold().endswith(".py"):
            yield name, content
        else:
            raise UsageError(f"{name} is not a script; hand in .py files, or a zip of them")


def exercise_in(files: Iterable[tuple[str, bytes]]) -> dict[str, bytes]:
    """The files of an exercise: a folder of them, or that folder zipped. What is no part of one is left out.

    Raises `UsageError` where there is no exercise in it.
    """
    entries: dict[str, bytes] = {}
    for name, content in files:
        if len(content) > LARGEST_FILE:
            raise UsageError(f"{name} has {len(content):,} bytes; at most {LARGEST_FILE:,} are read")
        if name.casefold().endswith(".zip"):
            entries |= dict(zip_entries(name, content))
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


def zip_entries(path: str, content: bytes) -> Iterator[tuple[str, bytes]]:
    """Names and contents of a zip's files, read without unpacking to disk. Raises `UsageError`."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            files = sorted((info for info in archive.infolist() if not info.is_dir()), key=lambda info: info.filename)
            if len(files) > MOST_ENTRIES:
                raise UsageError(f"{path} has {len(files):,} entries; at most {MOST_ENTRIES:,} are read")
            if sum(info.file_size for info in files) > MOST_BYTES:
                raise UsageError(f"{path} has more than {MOST_BYTES:,} bytes when unzipped; nothing of it is read")
            for info in files:
                too_dense = info.file_size > SMALL and info.file_size > info.compress_size * LARGEST_RATIO
                if info.file_size > LARGEST_FILE or too_dense:
                    raise UsageError(
                        f"{path}/{info.filename} has {info.file_size:,} bytes; at most {LARGEST_FILE:,} are read"
                    )
                if not info.filename.startswith(("__MACOSX/", ".")):
                    yield info.filename, archive.read(info)
    except (zipfile.BadZipFile, RuntimeError, NotImplementedError) as error:
        raise UsageError(f"{path} cannot be unzipped: {error}") from error
