"""The names that a script is given besides Python's: events, calls into the game, the scene."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any, Final

from ..events import PLAIN_EVENTS, Event
from ..script import str_of
from ..words import GameError, plural, short_text
from .event_names import EVENT_NAMES, PARAMETERS, key_name
from .handles import KindHandle, PieceHandle, SpawnerHandle, number
from .recorder import keep
from .showing import LONGEST_LABEL
from .state import GameState

CALLS: Final = frozenset(
    (
        "on board tell print input wait stop_waits offer withdraw question send enter place win lose again "
        "sound spawn is_down clock outcome"
    ).split()
)
"""Functions of the game."""
GAME_NAMES: Final = CALLS | frozenset(EVENT_NAMES) | {"game"}
CALLED_DIRECTLY: Final = GAME_NAMES - {"game", *PLAIN_EVENTS}
"""Names of functions, which the weaving need not guard."""


def game_names(state: GameState) -> dict[str, Any]:
    """The names of one trial, bound to its state."""
    spec = state.scene.spec
    scene: dict[str, Any] = {
        **{kind: KindHandle(kind, state) for kind in spec.kinds},
        **{piece.name: state.handle(state.scene.by_name[piece.name]) for piece in spec.piece},
        **{spawner.name: SpawnerHandle(spawner.name, state) for spawner in spec.spawner},
    }
    calls = {**_telling(state), **_playing(state), **_asking(state)}
    return {**EVENT_NAMES, "gone": _gone(state), **calls, "game": state.game, **scene}


def _gone(state: GameState) -> Callable[..., Event]:
    """`gone(bun_1)`: an event to wait for, and also a question, true once that piece is removed."""
    make = EVENT_NAMES["gone"]

    def gone(*thing: Any) -> Event:
        event: Event = make(*thing)
        if not isinstance(thing[0], PieceHandle):
            return event
        body = state.scene.by_name[str(event.about[0])]
        return replace(event, answer=lambda: body.removed)

    return gone


def _telling(state: GameState) -> dict[str, Any]:
    """What the game shows, tells and asks."""
    showing, recorded = state.showing, state.recorder is not None

    def board(label: Any, value: Any, at: Any = None) -> None:
        showing.write(lambda: state.spot().line)
        text, kept = str_of(label)[:LONGEST_LABEL], keep(value)
        if not recorded and at is None and text in showing.board and showing.spots[text] is None:
            showing.board[text] = kept  # it stands there already, and nobody asks when it was put there
        else:
            showing.put_on_board(text, kept, _spot_on_scene(at), state.spot())

    def tell(text: Any) -> None:
        state.story.tell(str_of(text))

    def print_(*values: Any, sep: Any = " ", end: Any = "\n") -> None:
        for name, given in (("sep", sep), ("end", end)):
            if given is not None and not isinstance(given, str):
                raise TypeError(f"{name} must be None or a string, not {type(given).__name__}")
        state.story.print((" " if sep is None else sep).join(str_of(value) for value in values), end)

    def offer(label: Any) -> None:
        state.showing.offer(_label(label, "offer"), state.spot())

    def withdraw(label: Any) -> None:
        state.showing.withdraw(_label(label, "withdraw"), state.spot())

    def question(text: Any) -> None:
        state.showing.ask(_label(text, "question"), state.spot())

    def sound(name: Any) -> None:
        state.showing.sound(_label(name, "sound"), state.spot())

    return {
        "board": board,
        "tell": tell,
        "print": print_,
        "offer": offer,
        "withdraw": withdraw,
        "question": question,
        "sound": sound,
    }


def _playing(state: GameState) -> dict[str, Any]:
    """What goes on: handlers, messages, places, the end."""

    def on(*events: Any) -> Callable[[Any], Any]:
        return _register(state, events)

    def wait(seconds: Any) -> None:
        state.waits.wait(seconds)

    def stop_waits() -> None:
        state.waits.stop()

    def send(message: Any) -> None:
        state.cause("heard", text=_label(message, "send"))

    def enter(place: Any) -> None:
        state.enter(_label(place, "enter"))

    def win(text: Any = "") -> None:
        state.end_with("won", str_of(text))

    def lose(text: Any = "") -> None:
        state.end_with("lost", str_of(text))

    def again() -> None:
        state.play_again()

    def spawn(kind: Any, x: Any, y: Any) -> PieceHandle:
        return state.handle(state.spawn(_label(kind, "spawn"), (number("x", x), number("y", y))))

    return {
        "on": on,
        "wait": wait,
        "stop_waits": stop_waits,
        "send": send,
        "enter": enter,
        "win": win,
        "lose": lose,
        "again": again,
        "spawn": spawn,
    }


def _asking(state: GameState) -> dict[str, Any]:
    """What is so now."""

    def input_(text: Any = "") -> str:
        return state.ask(str_of(text))

    def is_down(key: Any) -> bool:
        return key_name(key, "is_down") in state.down

    def clock() -> float:
        return max(state.frame, 0) / 30

    def outcome() -> str:
        return state.outcome

    def place() -> str:
        return state.showing.place

    return {"input": input_, "is_down": is_down, "clock": clock, "outcome": outcome, "place": place}


def _label(text: Any, what: str) -> str:
    if not isinstance(text, str) or not text.strip():
        raise GameError(f"`{what}` takes a text in quotes, not {short_text(text)}.")
    if len(text) > LONGEST_LABEL:
        raise GameError(f"`{what}` takes a text of at most {LONGEST_LABEL} characters.")
    return text


def _spot_on_scene(at: Any) -> tuple[float, float] | None:
    if at is None:
        return None
    if not isinstance(at, (tuple, list)) or len(at) != 2:
        raise GameError(f"`at` of `board` takes a place such as (2, 17), not {short_text(at)}.")
    return number("at", at[0]), number("at", at[1])


def _register(state: GameState, events: tuple[Any, ...]) -> Callable[[Any], Any]:
    for event in events:
        if not isinstance(event, Event):
            named = f"`{event.__name__}`" if callable(event) and hasattr(event, "__name__") else repr(event)
            raise GameError(f'`@on` takes events, such as `pressed("space")` or `meets(hob, bun)`, not {named}.')
    events = tuple(replace(event, answer=None) if event.answer is not None else event for event in events)
    if not events:
        raise GameError("`@on()` waits for nothing. Put an event between the brackets.")

    def decorate(function: Any) -> Any:
        code = function.__code__
        needed = code.co_argcount - len(function.__defaults__ or ())
        fewest = min(events, key=lambda event: PARAMETERS.get(event.kind, 0))
        most = PARAMETERS.get(fewest.kind, 0)
        if needed > most:
            raise GameError(
                f"`{function.__name__}` asks for {plural(needed, 'value')}, but {fewest} gives at most {most}."
            )
        state.register(function, events, min(code.co_argcount, most))
        return function

    return decorate
