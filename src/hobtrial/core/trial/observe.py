"""What can be sampled at the end of each frame, as values that say what and not how.

A check names what it needs; the trial samples just that. The words here are those of a check:
`score`, `hob.x`, `count(bun)`, `board("Buns")`, `told("text")`, `times(EVENT)`, `outcome`, `clock`.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from ..events import Event

ObservableKind = Literal[
    "variable", "property", "count", "fact", "board", "offers", "told", "said", "sounded", "sent", "asked", "times",
    "place", "outcome", "clock",
]  # fmt: skip
_NAMED: Final = ("variable", "fact")
_QUOTED: Final = ("board", "offers", "told", "sounded", "sent", "asked")


@dataclass(frozen=True, slots=True)
class Observable:
    """One thing to sample. `name` is a variable, piece, kind, fact, label or text, by `what`.

    `told`, `said`, `sounded`, `sent`, `asked` and `times` are numbers: how often so far. Who said it is the
    `attribute`; `told` has "exact" there where the whole line must be the text as it is written.
    """

    what: ObservableKind
    name: str = ""
    attribute: str = ""
    event: Event | None = None

    def __str__(self) -> str:
        if self.what in _NAMED:
            return self.name
        if self.what == "said":
            return f'said({self.attribute}, "{self.name}")'
        if self.what == "told" and self.attribute:
            return f'told("{self.name}", exact=True)'
        if self.what in _QUOTED:
            return f'{self.what}("{self.name}")'
        match self.what:
            case "property":
                return f"{self.name}.{self.attribute}"
            case "count":
                return f"count({self.name})"
            case "times":
                return f"times({self.event})"
            case _:
                return self.what


def variable(name: str) -> Observable:
    """The variable that an exercise or a check calls by this name; `hob.lives` is one of a piece."""
    owner, dot, attribute = name.partition(".")
    if dot:
        return Observable("property", owner, attribute)
    return Observable("variable", name)


OUTCOME = Observable("outcome")
CLOCK = Observable("clock")
PLACE = Observable("place")


def same_words(text: str) -> str:
    """A text as `told` compares it: capitals and spacing do not matter."""
    return " ".join(text.casefold().split())
