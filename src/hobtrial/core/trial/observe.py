"""What can be sampled at the end of each frame, as values that say what and not how.

A check names what it needs; the trial samples just that. The words here are those of a check:
`score`, `hob.x`, `count(bun)`, `board("Buns")`, `told("text")`, `times(EVENT)`, `outcome`, `clock`.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..words import Event


@dataclass(frozen=True, slots=True)
class Observable:
    """One thing to sample. `name` is a variable, piece, kind, label or text, by `what`."""

    what: Literal["variable", "property", "count", "board", "told", "times", "outcome", "clock"]
    name: str = ""
    attribute: str = ""
    event: Event | None = None

    def __str__(self) -> str:
        match self.what:
            case "variable":
                return self.name
            case "property":
                return f"{self.name}.{self.attribute}"
            case "count":
                return f"count({self.name})"
            case "board" | "told":
                return f'{self.what}("{self.name}")'
            case "times":
                return f"times({self.event})"
            case _:
                return self.what


def variable(name: str) -> Observable:
    """The variable that an exercise or a check calls by this name."""
    return Observable("variable", name)


OUTCOME = Observable("outcome")
CLOCK = Observable("clock")


def same_words(text: str) -> str:
    """A text as `told` compares it: capitals and spacing do not matter."""
    return " ".join(text.casefold().split())
