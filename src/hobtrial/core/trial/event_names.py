"""The names for events that a script has: `pressed("a")`, `meets(hob, bun)`, `every(2)`, `replied`."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, Final

from ..events import KEY_EVENTS, PAIR_EVENTS, PIECE_EVENTS, PLAIN_EVENTS, TEXT_EVENTS, TIME_EVENTS, Event, EventKind
from ..words import KEYS, GameError, short_text
from .handles import name_of
from .observe import same_words

SHORTEST_TIMER: Final = 0.01
"""Seconds: three times a frame is more often than anything can be seen."""
LONGEST_TIMER: Final = 1e6
"""Seconds: longer than any trial."""


def key_name(key: Any, what: str) -> str:
    """A key's name, checked."""
    if not isinstance(key, str) or key not in KEYS:
        raise GameError(
            f'`{what}` takes the name of a key in quotes, such as "left", "space" or "a", not {short_text(key)}.'
        )
    return key


def seconds(value: Any, what: str, least: float) -> float:
    """A number of seconds, checked."""
    plain = isinstance(value, (int, float)) and not isinstance(value, bool)
    if not plain or not math.isfinite(value) or not least <= value <= LONGEST_TIMER:
        raise GameError(f"`{what}` takes a number of seconds from {least:g} to 1,000,000, not {short_text(value)}.")
    return float(value)


def _of_key(kind: EventKind) -> Callable[[Any], Event]:
    return lambda key: Event(kind, (key_name(key, kind),))


def _of_pair(kind: EventKind) -> Callable[[Any, Any], Event]:
    return lambda first, second: Event(kind, (name_of(first, kind), name_of(second, kind)))


def _of_piece(kind: EventKind) -> Callable[..., Event]:
    def make(*thing: Any) -> Event:
        if len(thing) > 1 or (not thing and kind != "clicked"):
            raise GameError(f"`{kind}` takes one piece or kind of the scene.")
        return Event(kind, (name_of(thing[0], kind),) if thing else ())

    return make


def _of_text(kind: EventKind) -> Callable[[Any], Event]:
    def make(text: Any) -> Event:
        if not isinstance(text, str) or not text.strip():
            raise GameError(f"`{kind}` takes a text in quotes, not {short_text(text)}.")
        return Event(kind, (same_words(text) if kind == "typed" else text,))

    return make


def _of_time(kind: EventKind) -> Callable[[Any], Event]:
    least = SHORTEST_TIMER if kind == "every" else 0
    return lambda time: Event(kind, (seconds(time, kind, least),))


def _named(kind: EventKind, make: Callable[..., Event]) -> Callable[..., Event]:
    make.__name__ = make.__qualname__ = kind
    return make


EVENT_NAMES: Final[dict[str, Any]] = {
    **{kind: Event(kind) for kind in PLAIN_EVENTS},
    **{
        kind: _named(kind, maker(kind))
        for kinds, maker in (
            (KEY_EVENTS, _of_key),
            (PAIR_EVENTS, _of_pair),
            (PIECE_EVENTS, _of_piece),
            (TEXT_EVENTS, _of_text),
            (TIME_EVENTS, _of_time),
        )
        for kind in kinds
    },
}
PARAMETERS: Final[dict[str, int]] = {
    **dict.fromkeys(PAIR_EVENTS, 2),
    **dict.fromkeys((*PIECE_EVENTS, "replied"), 1),
}
"""How many values an event gives to its handlers, where it gives any."""
