"""A class list as CSV, and whose a file is by its name. Computes only; whoever reads files hands them in."""

from __future__ import annotations

import csv
import difflib
import io
import re
import unicodedata
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from .words import UsageError, clean

LONGEST_NAME = 60
"""Characters of a student's name."""
CLOSE = 0.75
"""How alike two names must be to be suggested for one another (difflib's ratio)."""
MOST_COMPARED = 40_000
"""Pairs of a file and a student that are compared letter by letter; for the files after that nobody is suggested."""
LONGEST_COMPARED = 80
"""Letters of a file's name that are compared."""
MOST_NAMES = 2_000
"""Names of one list."""


@dataclass(frozen=True, slots=True)
class Match:
    """Whose a file is: sure, or doubtful with the students that it may belong to."""

    file: str
    student: str | None
    candidates: tuple[str, ...] = ()
    why: str = ""


def match(files: Iterable[str], students: Iterable[str]) -> list[Match]:
    """Matches file names to students. Two files for one student are both doubtful."""
    files = list(files)
    by_name = {student: _words(student) for student in students}
    compared = max(MOST_COMPARED // max(len(by_name), 1), 1)
    found = []
    for file in files:
        each = _sure(file, by_name)
        if each is None:
            each = Match(file, None, _close(file, by_name) if compared > 0 else (), "no student has just that name")
            compared -= 1
        found.append(each)
    owners = Counter(each.student for each in found)
    return [
        Match(each.file, None, (each.student,), "another file seems to be the same student's")
        if each.student is not None and owners[each.student] > 1
        else each
        for each in found
    ]


def _sure(file: str, by_name: Mapping[str, list[str]]) -> Match | None:
    """Whose a file is where its name or its folder's says so; nothing where neither does."""
    for where in _places(file):
        sure = [student for student, name in by_name.items() if name and _within(name, where)]
        if len(sure) == 1:
            return Match(file, sure[0])
        if sure:
            return Match(file, None, tuple(sure), "several students have that name")
    return None


def _close(file: str, by_name: Mapping[str, list[str]]) -> tuple[str, ...]:
    """Up to three students whose names are much like a file's, the likest first."""
    text = "".join(_places(file)[0])[:LONGEST_COMPARED]
    ratios = []
    for student, name in by_name.items():
        matcher = difflib.SequenceMatcher(None, "".join(name), text)
        if matcher.real_quick_ratio() >= CLOSE and matcher.quick_ratio() >= CLOSE and matcher.ratio() >= CLOSE:
            ratios.append((matcher.ratio(), student))
    return tuple(student for _, student in sorted(ratios, reverse=True)[:3])


def _places(file: str) -> tuple[list[str], list[str]]:
    """The words of a file's name, and those of its folder's."""
    words = _words(file.rsplit("/", 1)[-1].removesuffix(".py"))
    return words, _words(file.rsplit("/", 2)[-2]) if "/" in file else []


def _within(name: list[str], words: list[str]) -> bool:
    """Whether the words of a name stand one after the other among other words."""
    return any(words[start : start + len(name)] == name for start in range(len(words) - len(name) + 1))


def _words(text: str) -> list[str]:
    """Letters only, small, without accents: `Réné_3a` and `rene` are alike."""
    plain = unicodedata.normalize("NFKD", text)
    plain = "".join(each for each in plain if not unicodedata.combining(each)).casefold()
    return re.findall(r"[^\W\d_]+", plain)


def name_from_file(file: str) -> str:
    """The name that a new student gets from their file: `wren_2.py` is Wren's."""
    words = re.findall(r"[^\W\d_]+", file.rsplit("/", 1)[-1].removesuffix(".py"))
    return " ".join(words)[:LONGEST_NAME].capitalize() or "Nameless"


def write_list(names: Iterable[str]) -> str:
    """A class list as CSV, which `read_list` reads again; no name is taken for a formula."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["name"])
    rows.writerows([f"'{name}" if name.startswith(("=", "+", "-", "@", "'")) else name] for name in names)
    return out.getvalue()


def read_list(text: str) -> list[str]:
    """The names of a class list: the column `name` or `student`, else the first one. Raises `UsageError`."""
    try:
        read = csv.reader(io.StringIO(text.removeprefix("\ufeff")))
        rows = [row for row in read if any(cell.strip() for cell in row)]
    except csv.Error as error:
        raise UsageError(f"this is not CSV: {error}") from error
    if not rows:
        raise UsageError("this list is empty; write one student's name a line")
    head = [cell.strip().casefold() for cell in rows[0]]
    column = next((head.index(name) for name in ("name", "student") if name in head), None)
    body = rows if column is None else rows[1:]
    if len(body) > MOST_NAMES:
        raise UsageError(f"this list has {len(body):,} names; at most {MOST_NAMES:,} are read")
    names = [clean(row[column or 0].strip().removeprefix("'")) if len(row) > (column or 0) else "" for row in body]
    there = Counter(names)
    for number, name in enumerate(names, 1 if column is None else 2):
        if not name or len(name) > LONGEST_NAME:
            raise UsageError(f"line {number}: a name has 1 to {LONGEST_NAME} characters")
        if there[name] > 1:
            raise UsageError(f"line {number}: {name} stands in the list twice; tell the two apart")
    return names
