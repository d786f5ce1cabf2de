"""Whether one name is a near miss of another."""

from __future__ import annotations

import functools
import re
from typing import Final

LONGEST: Final = 80
"""Letters: longer names are not held against each other, which takes the square of their length."""
SHORTEST: Final = 3
"""Letters: shorter names are too alike by nature."""


@functools.lru_cache(maxsize=4096)
def near(a: str, b: str) -> bool:
    """Whether two different names are so alike that one may be the other misspelt.

    Capitals and `_` aside, names of up to five letters may differ by one step, longer ones by
    two; a step is a letter added, left out, exchanged, or two swapped. Names that differ only in
    their digits are meant to differ, and very long ones are near to none.
    """
    if a == b or max(len(a), len(b)) > LONGEST or re.sub(r"\d+", "#", a) == re.sub(r"\d+", "#", b):
        return False
    left, right = a.casefold().replace("_", ""), b.casefold().replace("_", "")
    if min(len(left), len(right)) < SHORTEST:
        return left == right
    most = 1 if min(len(left), len(right)) <= 5 else 2
    return _steps(left, right, most) <= most or (len(left) == len(right) and _swapped(left, right))


def _swapped(a: str, b: str) -> bool:
    """Whether two letters next to each other changed places."""
    odd = [index for index, (x, y) in enumerate(zip(a, b, strict=True)) if x != y]
    return len(odd) == 2 and odd[1] == odd[0] + 1 and a[odd[0]] == b[odd[1]] and a[odd[1]] == b[odd[0]]


def _steps(a: str, b: str, most: int) -> int:
    """Levenshtein's distance of two words, where it is at most `most`; else something larger."""
    if abs(len(a) - len(b)) > most:
        return most + 1
    row = list(range(len(b) + 1))
    for i, x in enumerate(a, 1):
        previous, row[0] = row[0], i
        for j, y in enumerate(b, 1):
            previous, row[j] = row[j], min(row[j] + 1, row[j - 1] + 1, previous + (x != y))
    return row[-1]
