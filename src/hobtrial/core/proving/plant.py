"""Planted slips: for each slip that fits the reference, variants of it with that one slip.

These are mutants (DeMillo, Lipton and Sayward, 1978), one small mistake each, as beginners make
them. They are no part of how slips are recognised.
"""

from __future__ import annotations

import ast
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Final

from ..explaining import Edit
from ..judging import Prepared
from ..script import Script
from ..script.tree import apply, changes_of, spans
from .plant_rules import RULES
from .plant_values import VALUES

MOST_OF_A_SLIP: Final = 12
"""Variants of one slip: more of the same tell nothing new."""

Planter = Callable[[Script], Iterator[Edit]]
PLANTERS: Final[dict[str, Planter]] = {**VALUES, **RULES}


@dataclass(frozen=True, eq=False)
class Planted:
    """A variant of the reference with one slip."""

    slip: str
    line: int
    text: str
    changes: tuple[dict[str, Any], ...]

    def as_json(self) -> dict[str, Any]:
        """The variant as the proof shows it."""
        return {"slip": self.slip, "line": self.line, "changes": list(self.changes)}


def planted(prepared: Prepared) -> list[Planted]:
    """All variants that can be read, each text once, slip by slip."""
    script = prepared.reference.script
    numbers = range(1, len(script.lines) + 1)
    tree = ast.dump(script.tree)
    known: set[str] = set()
    found: list[Planted] = []
    for slip, planter in PLANTERS.items():
        count = 0
        for edit in planter(script):
            text = apply(script.text, spans(*edit.spans))
            reading = prepared.read(text)
            if text in known or not isinstance(reading, Script) or ast.dump(reading.tree) == tree:
                continue
            if count == MOST_OF_A_SLIP:
                break
            known.add(text)
            count += 1
            changes = tuple(each.as_json() for each in changes_of(script.text, edit.spans, numbers))
            found.append(Planted(slip, edit.line, text, changes))
    return found
