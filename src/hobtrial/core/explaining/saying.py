"""What happened, in words: events, observed values, and what they should have been."""

from __future__ import annotations

import ast
from typing import Any

from ..events import Event
from ..trial import Observable
from ..words import LONGEST_SHOWN, UNSET, as_json_value, short_text

TOLD = {"told": ("", "told"), "sounded": ("the sound ", "heard"), "sent": ("the message ", "sent")}
"""For what is counted: what stands before its text, and what became of it."""


def value_text(value: Any) -> str:
    """A value as a sentence shows it."""
    if value is UNSET:
        return "not set"
    shown = as_json_value(value)
    if isinstance(shown, dict) and set(shown) == {"text"}:
        return str(shown["text"])
    if isinstance(shown, float):
        return f"{round(shown, 2):g}"
    if isinstance(shown, (list, dict)):
        return short_text(value)
    return f'"{shown}"' if isinstance(shown, str) else str(shown)


def _on_board(value: Any) -> str:
    """A value as it stands on the scoreboard: a text without quotes."""
    return value if isinstance(value, str) and len(value) <= LONGEST_SHOWN else short_text(value)


def capital(text: str) -> str:
    """A text that begins a sentence."""
    return text[0].upper() + text[1:]


def happened(event: Event) -> str:
    """An event that came, as the middle of a sentence: `hob` met `bun_1`."""
    return _happened(event.kind, [f"{each:g}" if isinstance(each, float) else str(each) for each in event.about])


def happened_in(node: ast.expr) -> str:
    """The same for an event as a script writes it."""
    match node:
        case ast.Call(func=ast.Name(id=kind), args=args):
            return _happened(kind, [str(getattr(each, "value", None) or ast.unparse(each)) for each in args])
        case ast.Name(id=kind):
            return _happened(kind, [])
    return f"`{ast.unparse(node)}` came"


def _happened(kind: str, about: list[str]) -> str:
    first = about[0] if about else ""
    second = about[1] if len(about) > 1 else ""
    match kind:
        case "start":
            return "the game began"
        case "frame":
            return "the game went on"
        case "every":
            return "a second had gone by" if first in ("1", "1.0") else f"{first} seconds had gone by"
        case "after":
            return f"{first} seconds had gone by"
        case "pressed":
            return f"the {first} key was pressed"
        case "released":
            return f"the {first} key came up"
        case "held":
            return f"the {first} key was down"
        case "clicked":
            return f"`{first}` was clicked" if first else "something was clicked"
        case "meets":
            return f"`{first}` met `{second}`"
        case "overlaps":
            return f"`{first}` and `{second}` touched"
        case "parts":
            return f"`{first}` left `{second}`"
        case "heard":
            return f'the message "{first}" was heard'
        case "picked":
            return f'"{first}" was chosen'
        case "typed":
            return f'"{first}" was typed'
        case "replied":
            return "an answer was given"
        case "entered":
            return f'the place "{first}" was entered'
        case "appeared":
            return f"`{first}` appeared"
        case "gone":
            return f"`{first}` was gone"
        case "finished":
            return "the game was over"
    return f"`{kind}` came"


def due(event: Event) -> str:
    """An event that did not come, as the beginning of a sentence: `hob` should have met `bun_1`."""
    about = [f"{each:g}" if isinstance(each, float) else str(each) for each in event.about]
    first, second = (*about, "", "")[:2]
    match event.kind:
        case "meets":
            return f"`{first}` should have met `{second}`"
        case "overlaps":
            return f"`{first}` and `{second}` should have touched"
        case "parts":
            return f"`{first}` should have left `{second}`"
        case "heard":
            return f'the message "{first}" should have been heard'
        case "picked":
            return f'"{first}" should have been there to choose'
        case "entered":
            return f'the place "{first}" should have been entered'
        case "replied":
            return "a question should have been asked"
        case "appeared":
            return f"`{first}` should have appeared"
        case "gone":
            return f"`{first}` should have been gone"
        case "finished":
            return "the game should have been over"
    return f"it should have come that {happened(event)}"


def times(number: Any) -> str:
    """How often: once, twice, 3 times."""
    return {1: "once", 2: "twice"}.get(number, f"{number} times")


def _often(value: Any) -> str:
    return f" {times(value)}" if isinstance(value, int) and value > 1 else ""


def was(what: Observable, value: Any) -> str:
    """What an observed thing was, as the middle of a sentence."""
    nothing = value is UNSET or value is None
    match what.what:
        case "board":
            label = f'under "{what.name}"'
            return (
                f"nothing stood on the scoreboard {label}"
                if nothing
                else f"the scoreboard showed {_on_board(value)} {label}"
            )
        case "said":
            return f"`{what.attribute}` " + (
                f'said "{what.name}"' + _often(value) if value else f'did not say "{what.name}"'
            )
        case "told" | "sounded" | "sent":
            before, done = TOLD[what.what]
            if what.attribute:
                before = "the line "
            if nothing or value == 0:
                return f'{before}"{what.name}" was not {done}'
            return f'{before}"{what.name}" was {done}' + ("" if value == 1 else f" {times(value)}")
        case "asked":
            return f'"{what.name}" was {"not " if not value else ""}asked'
        case "offers":
            return f'"{what.name}" was {"" if value is True else "not "}offered'
        case "count":
            return f"there {'was' if value == 1 else 'were'} {value_text(value)} of `{what.name}`"
        case "times":
            event = happened(what.event) if what.event is not None else "it happened"
            return f"it never came that {event}" if not value else f"it came {times(value)} that {event}"
        case "outcome":
            return _game(value, "the game was still going on", "the game was won", "the game was lost")
        case "place":
            return f"the place was {value_text(value)}" if value else "no place had been entered"
    return f"`{what}` had no value" if value is UNSET else f"`{what}` was {value_text(value)}"


def should(what: Observable, value: Any, *, stay: bool = False) -> str:
    """What it should have been, as a sentence. `stay` where it should not have changed."""
    nothing = value is UNSET or value is None
    verb = "stay" if stay else "be"
    match what.what:
        case "board":
            return "Nothing should stand there yet." if nothing else f"It should show {value}."
        case "said":
            return f"It should say so{_often(value) or ' once'}." if value else "It should not say so."
        case "told" | "sounded" | "sent":
            done = TOLD[what.what][1]
            return f"It should not be {done}." if nothing or value == 0 else f"It should be {done} {times(value)}."
        case "asked":
            return "It should be asked." if value else "It should not be asked."
        case "offers":
            return "It should be offered." if value is True else "It should not be offered."
        case "count":
            return f"There should {verb} {value_text(value)}."
        case "times":
            return f"It should come {times(value)}." if value else "It should not come."
        case "outcome":
            return _game(value, "It should still go on.", "It should be won.", "It should be lost.")
        case "place":
            return f"It should {verb} {value_text(value)}." if value else "None should be entered yet."
    return "It should have no value yet." if value is UNSET else f"It should {verb} {value_text(value)}."


def made(what: Observable, value: Any) -> str:
    """What a line did to it, after the words "line 8"."""
    match what.what:
        case "board":
            return f'showed {value_text(value)} under "{what.name}"'
        case "said":
            return f'let `{what.attribute}` say "{what.name}"'
        case "told" | "sounded" | "sent":
            before = TOLD[what.what][0].removeprefix("the ")
            verb = {"told": "told", "sounded": "played the", "sent": "sent the"}[what.what]
            again = "" if value == 1 else f": now it was {TOLD[what.what][1]} {times(value)}"
            return f'{verb} {before}"{what.name}"{again}'
        case "outcome":
            return _game(value, "began the game again", "won the game", "lost the game")
        case "place":
            return f"entered the place {value_text(value)}"
    return f"made `{what}` {value_text(value)}"


def thing(what: Observable) -> str:
    """What a title calls it."""
    match what.what:
        case "board":
            return f'"{what.name}" on the scoreboard'
        case "told" | "said" | "sounded" | "sent" | "asked" | "offers":
            return f'"{what.name}"'
        case "count":
            return f"the number of `{what.name}`"
        case "times":
            return "what comes how often"
        case "outcome":
            return "the end of the game"
        case "place":
            return "the place"
    return f"`{what}`"


def _game(value: Any, playing: str, won: str, lost: str) -> str:
    return {"won": won, "lost": lost}.get(value, playing)
