"""The names that a script is given besides Python's: events, calls into the game, the scene."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Final

from ..script import str_of
from ..words import KEYS, Event, EventKind, GameError, plural
from .handles import KindHandle, PieceHandle, name_of
from .recorder import keep
from .trace import Shown

if TYPE_CHECKING:
    from .host import Host

GAME_NAMES: Final = frozenset(
    (
        "on start frame pressed released held meets overlaps parts board tell print input wait stop_waits "
        "win lose outcome clock is_down game"
    ).split()
)
CALLED_DIRECTLY: Final = GAME_NAMES - {"game", "start", "frame"}
"""Names of functions, which the weaving need not guard."""


def key_event(kind: EventKind) -> Callable[[Any], Event]:
    """`pressed`, `released` or `held`: takes the name of a key."""

    def make(key: Any) -> Event:
        return Event(kind, (key_name(key, kind),))

    make.__name__ = kind
    return make


def pair_event(kind: EventKind) -> Callable[[Any, Any], Event]:
    """`meets`, `overlaps` or `parts`: takes two pieces or kinds."""

    def make(first: Any, second: Any) -> Event:
        return Event(kind, (name_of(first, kind), name_of(second, kind)))

    make.__name__ = kind
    return make


def key_name(key: Any, what: str) -> str:
    """A key's name, checked."""
    if not isinstance(key, str) or key not in KEYS:
        raise GameError(f'`{what}` takes the name of a key in quotes, such as "left", "space" or "a", not {key!r}.')
    return key


EVENT_NAMES: Final[dict[str, Any]] = {
    "start": Event("start"),
    "frame": Event("frame"),
    **{kind: key_event(kind) for kind in ("pressed", "released", "held")},
    **{kind: pair_event(kind) for kind in ("meets", "overlaps", "parts")},
}


def game_names(run: Host) -> dict[str, Any]:
    """The calls of one trial, bound to its run."""

    def board(label: Any, value: Any, at: Any = None) -> None:
        shown = keep(value)
        run.board[str(label)] = shown
        run.shown.append(Shown(run.frame, str(label)[:200], shown, run.script_line()))

    def tell(text: Any) -> None:
        run.story.tell(str_of(text))

    def print_(*values: Any, sep: Any = " ", end: Any = "\n") -> None:
        for name, given in (("sep", sep), ("end", end)):
            if given is not None and not isinstance(given, str):
                raise TypeError(f"{name} must be None or a string, not {type(given).__name__}")
        run.story.print((" " if sep is None else sep).join(str_of(value) for value in values), end)

    def input_(text: Any = "") -> str:
        return run.ask(str_of(text))

    def wait(seconds: Any) -> None:
        run.waits.wait(seconds)

    def stop_waits() -> None:
        run.waits.stop()

    def win(text: Any = "") -> None:
        run.end_with("won", str_of(text))

    def lose(text: Any = "") -> None:
        run.end_with("lost", str_of(text))

    def outcome() -> str:
        return run.outcome

    def clock() -> float:
        return max(run.frame, 0) / 30

    def is_down(key: Any) -> bool:
        return key_name(key, "is_down") in run.down

    def on(*events: Any) -> Callable[[Any], Any]:
        return _register(run, events)

    calls: dict[str, Any] = {
        "on": on,
        "board": board,
        "tell": tell,
        "print": print_,
        "input": input_,
        "wait": wait,
        "stop_waits": stop_waits,
        "win": win,
        "lose": lose,
        "outcome": outcome,
        "clock": clock,
        "is_down": is_down,
        "game": run.game,
    }
    scene: dict[str, PieceHandle | KindHandle] = {
        **{kind: KindHandle(kind, run) for kind in run.scene.spec.kinds},
        **{piece.name: run.handle(run.scene.by_name[piece.name]) for piece in run.scene.spec.piece},
    }
    return {**EVENT_NAMES, **calls, **scene}


def _register(run: Host, events: tuple[Any, ...]) -> Callable[[Any], Any]:
    for event in events:
        if not isinstance(event, Event):
            named = f"`{event.__name__}`" if callable(event) and hasattr(event, "__name__") else repr(event)
            raise GameError(f'`@on` takes events, such as `pressed("space")` or `meets(hob, bun)`, not {named}.')
    if not events:
        raise GameError("`@on()` waits for nothing. Put an event between the brackets.")

    def decorate(function: Any) -> Any:
        code = function.__code__
        needed = code.co_argcount - len(function.__defaults__ or ())
        most = min(2 if event.kind in ("meets", "overlaps", "parts") else 0 for event in events)
        if needed > most:
            about = next(str(event) for event in events if (event.kind in ("meets", "overlaps", "parts")) == (most > 0))
            raise GameError(
                f"`{function.__name__}` asks for {plural(needed, 'value')}, but {about} gives at most {most}."
            )
        run.register(function, events, min(code.co_argcount, most))
        return function

    return decorate
