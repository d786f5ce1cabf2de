"""Reads the collection: each case is a slip, a solution, and a few changed lines of it.

`slip @ exercise` names the reference, `exercise+` the solution with helpers and names of its own,
`exercise~` the twin that is built otherwise. Below it stand lines to find (` ` and `-`) and to put
there (` ` and `+`); `...` begins at the next place.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.demo import exercise_folder, solution_of
from hobtrial.demo.changes import Change, changed, read_change
from tests.support import report

HERE = Path(__file__).parent


@dataclass(frozen=True)
class Case:
    """A script with one slip (or several, joined by `&`), or a right one (`right`)."""

    slip: str
    base: str
    changes: Change
    where: str

    @property
    def exercise(self) -> str:
        """The exercise that it is a script of."""
        return self.base.rstrip("+~")

    @property
    def source(self) -> str:
        """The script. Raises where a line to find is not there, or there twice."""
        return changed(solution(self.base), self.changes, self.where)


def collection(name: str) -> list[Case]:
    """The cases of a file of the collection."""
    cases = []
    line = 1
    for block in (HERE / f"{name}.txt").read_text(encoding="utf-8").split("\n\n"):
        if "@" in block.split("\n")[0]:
            cases.append(_case(block.strip("\n"), f"{name}.txt:{line}"))
        line += block.count("\n") + 2
    return cases


def _case(block: str, where: str) -> Case:
    head, _, body = block.partition("\n")
    slip, base = head.split(" @ ")
    return Case(slip, base, read_change(body), where)


def solution(base: str) -> str:
    """A right script of an exercise."""
    name = base.rstrip("+~")
    kind = {"+": "helpers", "~": "otherwise"}.get(base[-1], "reference")
    own = HERE / "exercises" / name / f"{kind}.py"
    return own.read_text(encoding="utf-8") if own.is_file() else solution_of(name, kind)


def folder(name: str) -> dict[str, bytes]:
    """An exercise of the demo, or one of the two that are only for the collection."""
    own = HERE / "exercises" / name
    if own.is_dir():
        return {file.name: file.read_bytes() for file in own.iterdir() if file.name != "helpers.py"}
    return exercise_folder(name)


@functools.cache
def prepared(name: str) -> Prepared:
    """An exercise, made ready."""
    return open_exercise(folder(name))


def explained(case: Case) -> dict[str, Any]:
    """The report of a case."""
    return report(prepared(case.exercise), case.where, case.source)
