"""The tries of the sample class: solutions with mistakes in them, which tries get rid of one after the other.

`class/<exercise>.txt` has two kinds of blocks. `= NAME of SOLUTION` names a change: a mistake in the
reference (`reference`), or in one of the right scripts beside it (`helpers`, `otherwise` in `also/`).
`Student, SOLUTION: A, B / A / right` lists a student's tries, each with the mistakes that are still in it.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Final

from ..core.words import UsageError
from .changes import Change, changed, read_change

HERE: Final = Path(__file__).parent
RIGHT: Final = "right"


@dataclass(frozen=True, slots=True)
class Try:
    """One try of a student, with the names of the mistakes that are in it."""

    student: str
    number: int
    source: str
    mistakes: tuple[str, ...]


def tries(exercise: str) -> list[Try]:
    """All tries of the class at an exercise, student by student. Raises `UsageError` where the file is wrong."""
    path = HERE / "class" / f"{exercise}.txt"
    if not path.is_file():
        return []
    changes: dict[tuple[str, str], Change] = {}
    found: list[Try] = []
    for block in path.read_text(encoding="utf-8").split("\n\n"):
        head, _, body = block.strip("\n").partition("\n")
        if head.startswith("= "):
            name, solution = head[2:].split(" of ")
            changes[name, solution] = read_change(body)
        elif head and not head.startswith("#"):
            for line in block.strip("\n").split("\n"):
                found += _tries(exercise, line, changes)
    return found


def _tries(exercise: str, line: str, changes: dict[tuple[str, str], Change]) -> list[Try]:
    who, _, rest = line.partition(": ")
    student, solution = who.split(", ")
    found = []
    for number, part in enumerate(rest.split(" / "), 1):
        mistakes = () if part.strip() == RIGHT else tuple(part.strip().split(", "))
        source = solution_of(exercise, solution)
        for mistake in mistakes:
            if (mistake, solution) not in changes:
                raise UsageError(f"{exercise}.txt: {student} has {mistake!r}, which is not a change of {solution}.")
            source = changed(source, changes[mistake, solution], f"{exercise}.txt, {mistake}")
        found.append(Try(student, number, source, mistakes))
    return found


def solution_of(exercise: str, name: str) -> str:
    """A right script of a sample exercise: its reference, or one that is built otherwise."""
    if name == "reference":
        return (HERE / "exercises" / exercise / "reference.py").read_text(encoding="utf-8")
    return (HERE / "exercises" / exercise / "also" / f"{name}.py").read_text(encoding="utf-8")
