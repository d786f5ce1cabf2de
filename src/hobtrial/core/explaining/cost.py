"""What a change costs: how many tokens it changes or writes. Of those that mend the same the cheapest is likeliest.

A piece that only moves to another place costs two, one that goes away costs one, and the same change in several places
counts once. `global` costs nothing: only its names do.
"""

from __future__ import annotations

import re
from collections import Counter
from difflib import SequenceMatcher
from typing import Final

MOVED: Final = 2
MOST_TOKENS: Final = 400
"""Tokens that are held against each other, which takes the square of their number."""
TOKEN: Final = re.compile(r""""[^"\n]*"?|'[^'\n]*'?|[A-Za-z_]\w*|\d+(?:\.\d+)?|[-+*/%=<>!]=|//|\*\*|[^\w\s]""")


def cost(before: str, after: str) -> int:
    """The cost of turning one text of a script into another."""
    old, new = _changed(before.split("\n"), after.split("\n"))
    mine, theirs = _tokens(old), _tokens(new)
    if max(len(mine), len(theirs)) > MOST_TOKENS:
        mine, theirs = _changed(mine, theirs)
        if max(len(mine), len(theirs)) > MOST_TOKENS:
            return max(len(mine), len(theirs))
    removed: list[str] = []
    added: list[str] = []
    pieces: Counter[tuple[tuple[str, ...], tuple[str, ...]]] = Counter()
    for kind, a, b, c, d in SequenceMatcher(None, mine, theirs, autojunk=False).get_opcodes():
        if kind != "equal":
            removed += mine[a:b]
            added += theirs[c:d]
            pieces[tuple(mine[a:b]), tuple(theirs[c:d])] += 1
    if not pieces:
        return 1  # only the space at the beginning of lines
    if Counter(removed) == Counter(added):
        return MOVED
    return max(1, sum(len(other) for _, other in pieces))


def _changed(old: list[str], new: list[str]) -> tuple[list[str], list[str]]:
    """Both texts without the lines, or the tokens, that they share at the beginning and at the end."""
    first = 0
    while first < min(len(old), len(new)) and old[first] == new[first]:
        first += 1
    last = 0
    while last < min(len(old), len(new)) - first and old[-1 - last] == new[-1 - last]:
        last += 1
    return old[first : len(old) - last], new[first : len(new) - last]


def _tokens(lines: list[str]) -> list[str]:
    return [token for line in lines for token in TOKEN.findall(line) if token != "global"]
