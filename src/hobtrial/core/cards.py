"""What students sign in with: a card of three words and two digits, and the word of their class.

Computes only: whoever calls hands in how to choose. A card has 41 bits; it is kept as a hash and shown once.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Sequence
from typing import Final

from .card_words import WORDS

WORDS_OF_A_CARD: Final = 3
SHORTEST_CLASS_WORD: Final = 5
"""Letters of a class's word: it is read aloud, and must not be mistaken."""
LONGEST_CARD: Final = 60
"""Characters of a card as somebody types it."""

Choose = Callable[[Sequence[str]], str]
"""Chooses one of some words, each as likely as any other: `secrets.choice`."""

_DIGITS: Final = "0123456789"


def new_card(choose: Choose) -> str:
    """A card as it is printed: `linnet-cobble-marsh-47`."""
    words = [choose(WORDS) for _ in range(WORDS_OF_A_CARD)]
    return "-".join([*words, choose(_DIGITS) + choose(_DIGITS)])


def new_class_word(choose: Choose, taken: Collection[str]) -> str:
    """A word that no other class has; two words where most single ones are taken."""
    free = [word for word in WORDS if len(word) >= SHORTEST_CLASS_WORD and word not in taken]
    if len(free) > len(WORDS) // 4:
        return choose(free)
    while True:
        pair = f"{choose(WORDS)}-{choose(WORDS)}"
        if pair not in taken:
            return pair


def as_printed(typed: str) -> str:
    """A card or a class's word as it was printed, however it was typed: `Linnet cobble  marsh 47` is the same."""
    return "-".join(re.findall(r"[a-z]+|[0-9]+", typed.casefold()))
