"""{name: bytes} → Exercise. Whoever reads the disk or a zip hands the bytes in.

Everything that is wrong is told at once, each with file, line, what was met and what would be
right.
"""

from __future__ import annotations

import difflib
import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final, get_args

from pydantic import BaseModel, ValidationError

from ..words import UsageError
from .locate import Lines, Path
from .model import Exercise, Settings

SETTINGS: Final = "exercise.toml"
REFERENCE: Final = "reference.py"
STARTER: Final = "starter.py"
BRIEF: Final = "brief.md"
FILES: Final = (SETTINGS, BRIEF, STARTER, REFERENCE)
LOOK: Final = re.compile(r"looks/([A-Za-z0-9_-]{1,60})\.svg")
"""A picture of an exercise's own, for the look of that name."""
COMPANION: Final = re.compile(r"(also|wrong)/[A-Za-z0-9_-]{1,60}\.py")
"""A script beside the reference: a right one built otherwise, or a wrong one with its slip in the first line."""
AT_LEVEL: Final = re.compile(r"(?:starter|brief)\.(supported|core|stretch)\.(?:py|md)")
"""The starter or the brief of a level."""
MOST_COMPANIONS: Final = 100
LARGEST_LOOK: Final = 256 * 1024
"""Bytes of one picture: a drawing that is seen in a square has 2 KB."""
MOST_LOOKS: Final = 100


@dataclass(frozen=True, slots=True, order=True)
class Fault:
    """One thing that is wrong with an exercise."""

    file: str
    line: int
    message: str

    def __str__(self) -> str:
        return f"{self.file}, line {self.line}: {self.message}" if self.line else f"{self.file}: {self.message}"


class ExerciseError(UsageError):
    """An exercise that cannot be used, with every fault."""

    def __init__(self, faults: list[Fault]) -> None:
        super().__init__("\n".join(str(fault) for fault in faults))
        self.faults = faults


def load(files: Mapping[str, bytes]) -> Exercise:
    """Reads an exercise from its files.

    Raises `ExerciseError` with all faults of `exercise.toml`, of missing files and of encodings.
    """
    faults: list[Fault] = []
    looks = {found[1]: files[name] for name in sorted(files) if (found := LOOK.fullmatch(name))}
    if len(looks) > MOST_LOOKS:
        faults.append(Fault("looks", 0, f"has {len(looks)} pictures; at most {MOST_LOOKS} are possible."))
    for name, picture in looks.items():
        if len(picture) > LARGEST_LOOK or b"<svg" not in picture[:4096]:
            what = f"has {len(picture):,} bytes" if len(picture) > LARGEST_LOOK else "is not an SVG picture"
            faults.append(Fault(f"looks/{name}.svg", 0, f"{what}; it must be SVG of at most {LARGEST_LOOK:,} bytes."))
    texts = {name: _text(name, files, faults) for name in FILES}
    companions = {name: _text(name, files, faults) for name in sorted(files) if COMPANION.fullmatch(name)}
    if len(companions) > MOST_COMPANIONS:
        faults.append(Fault("also", 0, f"has {len(companions)} companions; at most {MOST_COMPANIONS} are possible."))
    at_levels = {name: _text(name, files, faults) for name in sorted(files) if AT_LEVEL.fullmatch(name)}
    settings = _settings(texts[SETTINGS], faults) if SETTINGS in files else None
    for name in at_levels:
        level = name.split(".")[1]
        if settings is not None and level not in settings.levels:
            faults.append(Fault(name, 0, f"is there, but exercise.toml has no [levels.{level}]."))
    if faults or settings is None:
        raise ExerciseError(sorted(faults))
    return Exercise(
        settings=settings,
        brief=texts[BRIEF],
        starter=texts[STARTER],
        reference=texts[REFERENCE],
        toml=texts[SETTINGS],
        looks=looks,
        companions=companions,
        at_levels=at_levels,
    )


def is_part(name: str) -> bool:
    """Whether a file of that name belongs to an exercise."""
    return (
        name in FILES
        or AT_LEVEL.fullmatch(name) is not None
        or LOOK.fullmatch(name) is not None
        or COMPANION.fullmatch(name) is not None
    )


def save(exercise: Exercise) -> dict[str, bytes]:
    """The files of an exercise: what `load` made it from, to the letter but for line ends and a BOM."""
    texts = {
        SETTINGS: exercise.toml,
        BRIEF: exercise.brief,
        STARTER: exercise.starter,
        REFERENCE: exercise.reference,
    }
    files = {name: text.encode() for name, text in texts.items() if text or name in (SETTINGS, REFERENCE)}
    files |= {name: text.encode() for name, text in (exercise.companions | exercise.at_levels).items()}
    return files | {f"looks/{name}.svg": picture for name, picture in exercise.looks.items()}


def _text(name: str, files: Mapping[str, bytes], faults: list[Fault]) -> str:
    if name not in files:
        if name in (SETTINGS, REFERENCE):
            why = "says what the exercise is" if name == SETTINGS else "is the solution that must earn every mark"
            faults.append(Fault(name, 0, f"this file is missing; it {why}."))
        return ""
    try:
        return files[name].decode("utf-8-sig").replace("\r\n", "\n")
    except UnicodeDecodeError as error:
        line = files[name].count(b"\n", 0, error.start) + 1
        faults.append(Fault(name, line, "is not saved as UTF-8; save it again with that encoding."))
        return ""


def _settings(text: str, faults: list[Fault]) -> Settings | None:
    try:
        data = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        place = re.search(r"\(at (?:line (\d+), column \d+|end of document)\)", str(error))
        line = int(place.group(1)) if place and place.group(1) else text.count("\n") + 1
        words = re.sub(r" \(at .*", "", str(error))
        faults.append(Fault(SETTINGS, line, f"is not TOML here: {words}."))
        return None
    except RecursionError:
        faults.append(Fault(SETTINGS, 0, "is nested too deep to be read."))
        return None
    try:
        return Settings.model_validate(data)
    except ValidationError as error:
        lines = Lines(text)
        for found in error.errors():
            path = tuple(part for part in found["loc"] if not str(part).startswith("function-"))
            faults.append(Fault(SETTINGS, lines.of(_in_file(path, data)), _words(found, path)))
        return None


def _in_file(path: Path, data: Any) -> Path:
    """The part of a path that the file itself has: types of unions are not in it."""
    kept: list[str | int] = []
    for part in path:
        if isinstance(data, dict) and isinstance(part, str):
            kept.append(part)
            data = data.get(part)
        elif isinstance(data, list) and isinstance(part, int) and part < len(data):
            kept.append(part)
            data = data[part]
    return tuple(kept)


def _words(found: Any, path: Path) -> str:
    key = next((str(part) for part in reversed(path) if isinstance(part, str)), "")
    met = found.get("input")
    match found["type"]:
        case "extra_forbidden":
            known = _known_keys(path[:-1])
            near = difflib.get_close_matches(key, known, 1)
            right = f"did you mean `{near[0]}`?" if near else f"known are: {', '.join(known)}."
            return f"`{key}` is not a key here; {right}"
        case "missing":
            return f"`{key}` is missing here."
        case "value_error":
            return f"{_table(path)}{found['msg'].removeprefix('Value error, ')}."
        case "literal_error":
            return f"`{key}` is {met!r}; it must be {found['ctx']['expected']}."
        case kind:
            wanted = found["msg"][0].lower() + found["msg"][1:]
            shown = repr(met) if kind != "too_short" else "too short"
            return f"`{key}` is {shown[:80]}; {wanted.replace('input', 'it')}."


def _table(path: Path) -> str:
    name = next((str(part) for part in reversed(path) if isinstance(part, str)), "")
    return f"`{name}` " if name else ""


def _known_keys(path: Path) -> list[str]:
    """The keys that are possible in the table at a path."""
    model: Any = Settings
    for part in path:
        if not isinstance(part, str) or not (isinstance(model, type) and issubclass(model, BaseModel)):
            continue
        field = next((f for name, f in model.model_fields.items() if part in (name, f.alias)), None)
        if field is None:
            break
        model = _inner_model(field.annotation)
    if not (isinstance(model, type) and issubclass(model, BaseModel)):
        return []
    return [field.alias or name for name, field in model.model_fields.items()]


def _inner_model(annotation: Any) -> Any:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    for inner in get_args(annotation):
        found = _inner_model(inner)
        if found is not None:
            return found
    return None
