"""The inputs of a scenario → what the player does in a trial, in frames."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from ..exercise import Input, Settings
from ..trial import PlayerInput, click, done, held_key, pressed_key
from ..words import frame_of
from .names import ExpectationError, Surroundings, read_event_text

Complain = Callable[..., None]
"""Takes a message and the path of the place inside the scenario."""


def read_inputs(
    inputs: Iterable[Input], settings: Settings, names: Surroundings, length: float, complain: Complain
) -> tuple[PlayerInput, ...]:
    """The inputs in written order; what is wrong with them goes to `complain`."""
    found: list[PlayerInput] = []
    for index, given in enumerate(inputs):
        try:
            found += _read(given, settings, names, length)
        except ExpectationError as error:
            complain(f"{error}.", "input", index, *error.where)
    return tuple(found)


def _read(given: Input, settings: Settings, names: Surroundings, length: float) -> Iterator[PlayerInput]:
    straight = settings.style == "straight"
    if isinstance(given.at, str):
        if not straight:
            raise ExpectationError(f'`at = "{given.at}"` goes with scripts of the style straight', "at")
        yield PlayerInput("answer", 0, given.answer or "")
        return
    at = given.at
    if at > length:
        raise ExpectationError(f"`at` is {at:g} s, but this trial ends after {length:g} s", "at")
    match given.deed:
        case "press":
            yield pressed_key(given.press or "", at)
        case "hold":
            until = read_event_text(given.until, "until", names) if given.until is not None else None
            yield held_key(given.hold or "", at, given.for_ if given.for_ is not None else length, until)
        case "click":
            if isinstance(given.click, str):
                if given.click not in names.pieces:
                    raise ExpectationError(f"`click` is {given.click!r}, which is not a piece of the scene", "click")
                yield click(at, given.click)
            else:
                yield click(at, place=given.click)
        case "set":
            for name, value in (given.set or {}).items():
                fact = next((each for each in settings.full_scene.fact if each.name == name), None)
                if fact is None:
                    raise ExpectationError(f"`set` is about `{name}`, which is not a fact of the scene", "set")
                try:
                    fact.accept(value)
                except ValueError as error:
                    raise ExpectationError(f"`set`: `{name}` {error}", "set") from None
                yield PlayerInput("set", frame_of(at), name, value)
        case kind:
            yield done(kind, at, getattr(given, kind))
