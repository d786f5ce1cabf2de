"""What somebody predicted, held against the run. The one rule for when a prediction is right."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .report import Report


@dataclass(frozen=True, slots=True)
class Guess:
    """What somebody expected of a scenario, with which text."""

    scenario: int
    digest: str
    guesses: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Foretold:
    """What became of the predictions for one scenario: for each name whether it came out."""

    scenario: int
    right: dict[str, bool]
    of: int
    """How many values were to be predicted."""
    out_of: float = 0
    """The marks for all of them; most exercises give none."""

    @property
    def marks(self) -> float:
        """The marks for those that came out: a share of them, in halves, rounded down."""
        return math.floor(2 * self.out_of * sum(self.right.values()) / self.of) / 2 if self.of else 0


def foretold(report: Report, guesses: Mapping[int, Mapping[str, str]]) -> list[Foretold]:
    """What became of predictions, once the run is known; `guesses` has for each scenario the texts by name."""
    found = []
    for number, given in sorted(guesses.items()):
        if number < len(report.scenarios):
            asked = report.scenarios[number].predict
            values = asked.values if asked is not None else {}
            right = {name: is_right(text, values.get(name)) for name, text in given.items()}
            found.append(Foretold(number, right, len(values), asked.marks if asked is not None else 0))
    return found


def must_foretell(scenario: int, guesses: Sequence[Guess], digest: str, reports: Mapping[str, Report]) -> bool:
    """Whether a scenario that asks for a prediction still waits for one, for the text with a digest.

    `guesses` are all of the student's, the oldest first. Whoever foretold a run of theirs is not asked again.
    """
    mine = [guess for guess in guesses if guess.scenario == scenario]
    if any(guess.digest == digest for guess in mine):
        return False
    report = reports.get(mine[-1].digest) if mine else None
    found = foretold(report, {scenario: mine[-1].guesses}) if report is not None else []
    return not (found and len(found[0].right) >= found[0].of > 0 and all(found[0].right.values()))


def is_right(guess: str, value: str | None) -> bool:
    """Whether a guess is the value that a run had, both as text.

    Quotes round a text and spaces do not matter, nor how a number is written: 3 is 3.0. Capitals do.
    """
    if value is None:
        return False
    mine, theirs = _bare(guess), _bare(value)
    if mine == theirs:
        return True
    try:
        return float(mine) == float(theirs)
    except ValueError:
        return False


def _bare(text: str) -> str:
    text = " ".join(text.split())
    return text[1:-1].strip() if len(text) > 1 and text[0] == text[-1] and text[0] in "'\"" else text
