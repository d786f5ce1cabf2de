"""Scripts written down as a few changed lines of a solution, so that many of them stay short enough to read.

A change is lines to find (` ` and `-`) and to put there (` ` and `+`); `...` begins at the next place.
"""

from __future__ import annotations

from ..core.words import UsageError

Change = tuple[tuple[str, str], ...]
"""Texts to find, each with the text to put in its place."""


def read_change(body: str) -> Change:
    """The change that some lines write down."""
    found = []
    for part in body.split("\n...\n") if body else ():
        lines = part.split("\n")
        old = "".join(f"{line[1:]}\n" for line in lines if line[:1] in " -")
        new = "".join(f"{line[1:]}\n" for line in lines if line[:1] in " +")
        found.append((old, new))
    return tuple(found)


def changed(text: str, change: Change, where: str) -> str:
    """A text with a change made. Raises `UsageError` where a place is not there, or there twice."""
    for old, new in change:
        there = f"\n{text}".count(f"\n{old}")
        if there != 1:
            raise UsageError(f"{where}: these lines are there {there} times: {old!r}")
        text = f"\n{text}".replace(f"\n{old}", f"\n{new}", 1)[1:]
    return text
