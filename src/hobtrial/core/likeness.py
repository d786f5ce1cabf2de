"""Scripts of a round that share unusual lines: a question for the teacher's eyes, never a verdict.

Method: names, numbers, texts and comments are taken out of each script; the rest is cut into runs of tokens whose
hashes are thinned by winnowing (Schleimer, Wilkerson and Aiken, *Winnowing: Local Algorithms for Document
Fingerprinting*, SIGMOD 2003). What the starter, the brief and the exercise's own solutions give away counts for
nothing, nor what many in the class wrote the same way. Order of functions does not matter: fingerprints are a set.
"""

from __future__ import annotations

import hashlib
import io
import math
import re
import tokenize
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Final, TypeVar

RUN: Final = 9
"""Tokens of one fingerprint: shorter runs are the language, not the author."""
WINDOW: Final = 4
"""Fingerprints of which at least one is kept, so that a shared run of RUN + WINDOW - 1 tokens is always seen."""
COMMON: Final = 0.2
"""The share of a class above which a run is what the exercise asks for."""
FEWEST: Final = 6
"""Rare fingerprints that two scripts must share before anybody is asked about them."""
ALIKE: Final = 0.55
"""The share of the rarer script's weight that must be shared."""
KEPT: Final = frozenset(
    "and or not in is if elif else for while def return global nonlocal lambda try except raise match case break "
    "continue pass import from class on".split()
)
"""Words that stay as they are; every other name is only a name."""

Owner = TypeVar("Owner")


@dataclass(frozen=True, slots=True)
class Likeness:
    """Two scripts with unusual runs in common: how much, from 0 to 1, and the lines of each where they stand."""

    first: object
    second: object
    share: float
    runs: int
    lines: tuple[tuple[int, ...], tuple[int, ...]]


@dataclass(frozen=True, slots=True)
class _Print:
    hash: int
    line: int


def tokens(source: str) -> list[tuple[str, int]]:
    """The tokens of a script without names, numbers, texts and comments, each with its line. A text that cannot be cut
    into tokens gives as many as can be.
    """
    found: list[tuple[str, int]] = []
    reading = tokenize.generate_tokens(io.StringIO(source).readline)
    try:
        for kind, text, (line, _), _, _ in reading:
            if kind == tokenize.NAME:
                found.append((text if text in KEPT else "name", line))
            elif kind == tokenize.NUMBER:
                found.append(("number", line))
            elif kind in (tokenize.STRING, tokenize.OP):
                found.append(("text" if kind == tokenize.STRING else text, line))
            elif kind in (tokenize.INDENT, tokenize.DEDENT):
                found.append((tokenize.tok_name[kind], line))
    except (tokenize.TokenError, SyntaxError):
        pass
    return found


def fingerprints(source: str) -> list[_Print]:
    """The fingerprints of a script, winnowed: of each window the rightmost smallest hash."""
    cut = tokens(source)
    hashes = [
        _Print(_hash(" ".join(text for text, _ in cut[start : start + RUN])), cut[start][1])
        for start in range(len(cut) - RUN + 1)
    ]
    kept: dict[int, _Print] = {}
    for start in range(max(len(hashes) - WINDOW + 1, 1 if hashes else 0)):
        window = hashes[start : start + WINDOW]
        at = min(range(len(window)), key=lambda index: (window[index].hash, -index))
        kept[start + at] = window[at]
    return list(kept.values())


def alike(scripts: Mapping[Owner, str], given: Iterable[str] = ()) -> list[Likeness]:
    """Pairs of scripts to ask about, the likest first. `given` is what nobody need copy: the starter, code of the
    brief, solutions of the exercise's own.
    """
    prints = {owner: fingerprints(source) for owner, source in scripts.items()}
    everywhere = {each.hash for text in given for each in _all_runs(text)}
    often = Counter(value for found in prints.values() for value in {each.hash for each in found})
    most = max(2, math.floor(COMMON * len(scripts)))
    rare = {
        owner: {each.hash: each.line for each in found if each.hash not in everywhere and often[each.hash] <= most}
        for owner, found in prints.items()
    }
    owners = list(scripts)
    pairs = []
    for index, first in enumerate(owners):
        for second in owners[index + 1 :]:
            pair = _pair(first, second, rare[first], rare[second], len(prints[first]), len(prints[second]))
            if pair is not None:
                pairs.append(pair)
    return sorted(pairs, key=lambda pair: -pair.share)


def _pair(
    first: object, second: object, mine: Mapping[int, int], theirs: Mapping[int, int], of_mine: int, of_theirs: int
) -> Likeness | None:
    shared = mine.keys() & theirs.keys()
    if len(shared) < FEWEST:
        return None
    share = len(shared) / max(min(of_mine, of_theirs), 1)
    if share < ALIKE:
        return None
    return Likeness(
        first,
        second,
        share,
        len(shared),
        (_lines(mine[each] for each in shared), _lines(theirs[each] for each in shared)),
    )


def _lines(numbers: Iterable[int]) -> tuple[int, ...]:
    return tuple(sorted(set(numbers)))


def _all_runs(text: str) -> Sequence[_Print]:
    """Every run of what was given, not only the winnowed ones; of a brief, its code."""
    blocks = re.findall(r"```\w*\n(.*?)```", text, re.DOTALL) or [text]
    found: list[_Print] = []
    for block in blocks:
        cut = [each for each, _ in tokens(block)]
        found += [_Print(_hash(" ".join(cut[start : start + RUN])), 0) for start in range(len(cut) - RUN + 1)]
    return found


def _hash(text: str) -> int:
    return int.from_bytes(hashlib.blake2b(text.encode(), digest_size=8).digest(), "big")
