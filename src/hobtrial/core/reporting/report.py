"""The report of one script as frozen values: marks, verdicts, findings with their sentences, advice.

Made in `making.py` and nowhere else. `to_json` and `from_json` are the two edges: what goes over a
pipe, into the database and into a file is JSON; everything else works with these values.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass, field, fields, is_dataclass
from typing import Any, Final, Literal

from pydantic import TypeAdapter

from ..exercise import CheckKind
from ..explaining import CheckRef, Confidence
from ..judging import Answer
from ..script.tree import ChangedLine
from ..words import Outcome

EDITION: Final = 11
"""Of marking and explaining. Raise it when a report of the same script would come out differently."""

Marks = int | float
"""Whole or half numbers; whole ones are ints."""
Status = Literal["marked", "unreadable", "stopped", "unmarked"]


@dataclass(frozen=True, slots=True)
class Fault:
    """Why a script could not be marked, or its marks not be explained, through no doing of its own.

    `whose` is `machine` (a worker was ended, memory was gone) or `ours` (an internal error; the log has
    its traceback under `id`).
    """

    whose: Literal["machine", "ours"]
    message: str
    id: str | None = None


@dataclass(frozen=True, slots=True)
class PartMarks:
    """Marks for one concept or task."""

    marks: Marks
    out_of: Marks


@dataclass(frozen=True, slots=True)
class ProblemReport:
    """A place of a text that cannot be accepted."""

    line: int
    column: int
    kind: str
    message: str
    instead: str


@dataclass(frozen=True, slots=True)
class StopReport:
    """Why a trial ended early; `kind` is the name of the exception or limit."""

    frame: int
    line: int
    handler: str | None
    kind: str
    message: str


@dataclass(frozen=True, slots=True)
class Shortest:
    """The shortest inputs of a wild scenario that still break a check: in words, and as a scenario's table."""

    words: str
    scenario: dict[str, Any]


@dataclass(frozen=True, slots=True)
class CheckReport:
    """What became of one check. `values` are those of every part at `frame`, as JSON."""

    expect: str
    kind: CheckKind
    verdict: Answer
    marks: Marks
    out_of: Marks
    frame: int | None
    values: dict[str, Any]
    reason: str | None
    concept: str | None
    because: str
    span: tuple[int, int]
    trial: int | None = None
    """The trial that settled it, where the scenario has several."""
    shortest: Shortest | None = None


@dataclass(frozen=True, slots=True)
class CraftReport:
    """What became of one craft line."""

    expect: str
    verdict: Answer
    marks: Marks
    out_of: Marks
    reason: str | None
    concept: str | None
    because: str
    task: str | None = None


@dataclass(frozen=True, slots=True)
class Predictable:
    """What the names to be predicted were in this run, as text, in the frame that was asked for."""

    frame: int
    values: dict[str, str]
    marks: Marks = 0
    """What foretelling all of them is worth; it stands beside what the script earns."""


@dataclass(frozen=True, slots=True)
class ScenarioReport:
    """One scenario, all its trials; `outcome`, `final` and `stopped` are of the trial to look at."""

    name: str
    outcome: Outcome
    final: dict[str, Any]
    stopped: StopReport | None
    frames: int
    trials: int
    checks: tuple[CheckReport, ...]
    trial: int | None = None
    """The trial to look at, where there are several."""
    predict: Predictable | None = None

    @property
    def look_at(self) -> int:
        """The trial to look at: the first in which a check is broken."""
        return self.trial or 0

    @property
    def shortest(self) -> Shortest | None:
        """The shortest inputs that a wild scenario found, if it found any."""
        return next((check.shortest for check in self.checks if check.shortest is not None), None)

    @property
    def marks(self) -> Marks:
        """The marks of all its checks."""
        return sum(check.marks for check in self.checks)


@dataclass(frozen=True, slots=True)
class FixReport:
    """A fix that was tried; `line`, `before` and `after` are those of its first change."""

    line: int
    before: str
    after: str
    mends: int
    breaks: int
    on_top: bool
    """Whether it mends these only once the findings before it are mended too."""
    shows_reference: bool
    """Whether its lines are the reference's: the teacher's to allow."""
    changes: tuple[ChangedLine, ...]


@dataclass(frozen=True, slots=True)
class FindingReport:
    """One explained mistake, with its sentences."""

    slip: str
    title: str
    for_class: str
    confidence: Confidence
    about: str
    lines: tuple[int, ...]
    scenarios: tuple[str, ...]
    checks: tuple[CheckRef, ...]
    marks_lost: Marks
    scenario: int | None
    """The scenario in which the replay opens, and its frame."""
    frame: int | None
    happened: tuple[str, ...]
    nudge: str
    quiet: str
    """The nudge where only a hidden scenario shows it: without its inputs and values."""
    pointer: str
    fix: FixReport | None
    note: str
    excerpt: str = ""
    """The first of the lines that it is about."""

    @property
    def key(self) -> str:
        """What two findings must share to be the same mistake: slip, what it is about, and the checks."""
        checks = ",".join(f"{scenario}.{index}" for scenario, index in sorted(self.checks))
        return f"{self.slip}|{self.about}|{checks}"

    @property
    def idea(self) -> str:
        """What two findings must share for a teacher to speak of both at once: the slip."""
        return idea_of(self.key)


def idea_of(key: str) -> str:
    """The idea of a finding by its key. What stays open, or cannot be read, has no idea in common but its kind."""
    slip, _, rest = key.partition("|")
    if slip == "unsettled" or not rest:
        return key
    return "|".join(key.split("|")[:2]) if slip == "unreadable" else slip


@dataclass(frozen=True, slots=True)
class AdviceReport:
    """What costs no marks and is worth a word."""

    kind: str
    lines: tuple[int, ...]
    text: str


@dataclass(frozen=True, slots=True)
class Report:
    """All that is said of one script. `marks` is None where it could not be marked: `fault` says why."""

    script: str
    status: Status
    marks: Marks | None
    out_of: Marks
    problems: tuple[ProblemReport, ...] = ()
    by_concept: dict[str, PartMarks] = field(default_factory=dict)
    by_task: dict[str, PartMarks] = field(default_factory=dict)
    craft: tuple[CraftReport, ...] = ()
    scenarios: tuple[ScenarioReport, ...] = ()
    findings: tuple[FindingReport, ...] = ()
    advice: tuple[AdviceReport, ...] = ()
    cut_short: bool = False
    fault: Fault | None = None
    unexplained: Fault | None = None
    """Why the marks, which are right, could not be explained."""

    def as_json(self) -> dict[str, Any]:
        """The report as JSON."""
        made: dict[str, Any] = to_json(self)
        return made


def to_json(value: Any) -> Any:
    """A value of this file as JSON: fields by name, tuples as lists; what is None unless it is said is left out."""
    if is_dataclass(value):
        held = [(each, getattr(value, each.name)) for each in fields(value)]
        return {each.name: to_json(of) for each, of in held if of is not None or each.default is not None}
    if isinstance(value, (tuple, list)):
        return [to_json(each) for each in value]
    if isinstance(value, dict):
        return {name: to_json(each) for name, each in value.items()}
    return value


@functools.cache
def _adapter() -> TypeAdapter[Report]:
    return TypeAdapter(Report)


def from_json(data: Any) -> Report:
    """The report that was written as JSON. Raises pydantic's `ValidationError` for anything else."""
    return _adapter().validate_python(data)
