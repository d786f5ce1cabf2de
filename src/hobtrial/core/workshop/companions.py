"""Companions: scripts beside the reference that say whether an exercise is fair. A right one must earn every mark; a
wrong one must lose some, and its first finding must name the slip that its first line says.
"""

from __future__ import annotations

import re
from dataclasses import asdict, dataclass
from typing import Any, Final

from ..judging import Prepared
from ..reporting import explained, mark

SLIP: Final = re.compile(r"#\s*([a-z]+(?:-[a-z]+)*)\s*$")
"""The first line of a wrong script: `# boundary`."""


@dataclass(frozen=True, slots=True)
class Companion:
    """What became of a companion; `trouble` is nothing where all is as it must be."""

    file: str
    marks: float
    out_of: float
    slip: str | None
    """The slip that a wrong one has."""
    named: str | None
    """The slip of its first finding."""
    trouble: str | None

    def as_json(self) -> dict[str, Any]:
        """The companion as the proof shows it."""
        return asdict(self)


def companions(prepared: Prepared) -> list[str]:
    """The files of all companions, the right ones first."""
    return sorted(prepared.exercise.companions)


def try_companion(prepared: Prepared, file: str) -> Companion:
    """Marks a companion and, where it is a wrong one, looks what is said of it first."""
    text = prepared.exercise.companions[file]
    wrong = file.startswith("wrong/")
    marked = mark(prepared, file, text)
    report = explained(marked) if wrong else marked.report
    marks = report.marks or 0
    lost = marks < report.out_of
    named = report.findings[0].slip if wrong and report.findings else None
    said = SLIP.match(text.split("\n", 1)[0]) if wrong else None
    slip = said[1] if said else None
    trouble = None
    if not wrong and lost:
        checks = [
            f"`{check.expect}` in {scenario.name}"
            for scenario in report.scenarios
            for check in scenario.checks
            if check.verdict != "held"
        ]
        checks += [f"`{line.expect}`" for line in report.craft if line.verdict != "held"]
        where = f" It loses {checks[0]}." if checks else ""
        trouble = f"{file} is right and earns {marks:g} of {report.out_of:g} marks.{where}"
    elif wrong and slip is None:
        trouble = f"{file} does not say in its first line which slip it has; write it as in `# boundary`."
    elif wrong and not lost:
        trouble = f"{file} is wrong and earns every mark: no check sees its {slip}."
    elif wrong and named != slip:
        trouble = f"{file} has {slip}, and the first thing said of it is {named or 'nothing'}."
    return Companion(file, marks, report.out_of, slip, named, trouble)
