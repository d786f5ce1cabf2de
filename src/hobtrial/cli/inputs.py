"""What the command is given: exercises and scripts as files, folders and zips."""

from __future__ import annotations

import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from ..core.exercise import is_part
from ..core.words import UsageError
from ..crew.parcels import LARGEST_FILE, zip_entries


@dataclass(frozen=True)
class Given:
    """A script as it was given: the name it is reported under, and its bytes."""

    name: str
    source: bytes


def exercise_files(path: Path) -> dict[str, bytes]:
    """The files of an exercise folder, or of that folder zipped. Raises `UsageError`."""
    if path.is_dir():
        names = [
            file.relative_to(path).as_posix()
            for file in (*path.glob("*"), *path.glob("looks/*.svg"), *path.glob("also/*.py"), *path.glob("wrong/*.py"))
        ]
        return {name: _bytes(path / name) for name in sorted(names) if is_part(name)}
    if path.is_file() and zipfile.is_zipfile(path):
        entries = dict(_entries(path))
        heads = [name.removesuffix("exercise.toml") for name in entries if name.endswith("exercise.toml")]
        head = min(heads, key=len, default="")
        inside = {name.removeprefix(head): content for name, content in entries.items() if name.startswith(head)}
        return {name: content for name, content in inside.items() if is_part(name)}
    if not path.exists():
        raise UsageError(
            f"{path}: there is no such exercise; give a folder with an exercise.toml, or that folder zipped"
        )
    raise UsageError(f"{path} is not an exercise; give a folder with an exercise.toml, or that folder zipped")


def scripts(path: Path) -> list[Given]:
    """The scripts of a path: a file, the .py files of a folder, or those of a zip. Raises `UsageError`."""
    if path.is_dir():
        found = [Given(str(file), _bytes(file)) for file in sorted(path.rglob("*.py")) if file.is_file()]
        if not found:
            raise UsageError(f"{path}: this folder has no .py files")
        return found
    if path.is_file():
        if path.suffix == ".zip":
            if not zipfile.is_zipfile(path):
                raise UsageError(f"{path} is called .zip and is not a zip")
            return [Given(f"{path}/{name}", source) for name, source in _entries(path) if name.endswith(".py")]
        return [Given(str(path), _bytes(path))]
    raise UsageError(f"{path}: there is no such file or folder")


def one_script(paths: list[Path]) -> Path:
    """The one file that is given. Raises `UsageError` for several, and for what is not a file."""
    if len(paths) != 1 or not paths[0].is_file():
        raise UsageError(f"{', '.join(map(str, paths))}: give one script, as a file, to play it live")
    _bytes(paths[0])
    return paths[0]


def _bytes(path: Path) -> bytes:
    try:
        if path.stat().st_size > LARGEST_FILE:
            raise UsageError(f"{path} has {path.stat().st_size:,} bytes; at most {LARGEST_FILE:,} are read")
        return path.read_bytes()
    except OSError as error:
        raise UsageError(f"{path} cannot be read: {error.strerror}") from error


def _entries(path: Path) -> Iterator[tuple[str, bytes]]:
    """Names and contents of a zip's files."""
    return zip_entries(str(path), _bytes(path))
