"""The variables of a running script: where it keeps what an exercise or a check asks for."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Final

from ..scene import SceneState
from ..words import FRAMES_PER_SECOND, UNSET
from .observe import Observable, same_words
from .recorder import keep
from .state import GameState

QUICK: Final = frozenset((int, float, str, bool))
"""Types of values that need no copy."""


class Variables:
    """A script's globals and what `game` holds, looked up by the names of an exercise.

    A name means the global, else what `game` holds, else another name that the exercise allows.
    """

    def __init__(
        self, script_globals: dict[str, Any], held: dict[str, Any], alias: Mapping[str, tuple[str, ...]]
    ) -> None:
        self._globals = script_globals
        self._held = held
        self._alias = alias

    def bound(self, name: str) -> str | None:
        """The name under which the script keeps a variable: `score`, `game.score`, or nothing."""
        for other in (name, *self._alias.get(name, ())):
            if other in self._globals:
                return other
            if other in self._held:
                return f"game.{other}"
        return None

    def read(self, name: str) -> Any:
        """Its value now; unset where there is none, or where a function has that name."""
        value = self._globals.get(name, UNSET)
        if value is UNSET:
            bound = self.bound(name)
            if bound is None:
                return UNSET
            value = self._held[bound[5:]] if bound.startswith("game.") else self._globals[bound]
        if isinstance(value, (int, float, str)) or value is None:
            return value
        return UNSET if callable(value) else keep(value)

    def reader(self, name: str) -> Callable[[], Any]:
        """A function that reads it; quick where the script keeps a plain value under that very name."""
        look, read = self._globals.get, self.read

        def value_now() -> Any:
            value = look(name)
            return value if type(value) in QUICK else read(name)

        return value_now

    def arrange(self, name: str, value: Any) -> str | None:
        """Sets a variable that the script has; gives the name under which it keeps it."""
        bound = self.bound(name)
        if bound is None:
            return None
        if bound.startswith("game."):
            self._held[bound[5:]] = value
        else:
            self._globals[bound] = value
        return bound


def getter(what: Observable, state: GameState, variables: Variables) -> Callable[[], Any]:
    """A function that gives the present value of an observable."""
    showing, scene = state.showing, state.scene
    match what.what:
        case "variable":
            return variables.reader(what.name)
        case "property":
            return lambda: _property(scene, what.name, what.attribute)
        case "count":
            return lambda: sum(not body.removed for body in scene.by_kind.get(what.name, ()))
        case "fact":
            return lambda: state.facts[what.name]
        case "board":
            return lambda: showing.board.get(what.name, UNSET)
        case "offers":
            return lambda: what.name in showing.offers
        case "told" if what.attribute:
            return _counter(lambda: state.story.lines, lambda line: bool(line.text == what.name))
        case "said":
            return _counter(
                lambda: state.story.lines,
                lambda line: _says(scene, line.who, what.attribute) and same_words(what.name) in same_words(line.text),
            )
        case "told":
            return _counter(lambda: state.story.lines, lambda line: same_words(what.name) in same_words(line.text))
        case "asked":
            return _counter(lambda: showing.asked, lambda asked: same_words(what.name) in same_words(asked.text))
        case "sounded":
            return _counter(lambda: showing.sounds, lambda sound: bool(sound.name == what.name))
        case "sent":
            return _counter(lambda: showing.sent, lambda sent: bool(sent.text == what.name))
        case "times":
            event = what.event
            assert event is not None
            return lambda: state.handlers.counts[event]
        case "place":
            return lambda: showing.place
        case "clock":
            return lambda: state.frame / FRAMES_PER_SECOND
        case "outcome":
            return lambda: state.outcome


def _says(scene: SceneState, who: str, wanted: str) -> bool:
    """Whether a piece that tells something is the one that is asked for, or one of that kind."""
    body = scene.by_name.get(who)
    return who == wanted or (body is not None and body.kind == wanted)


def _counter(entries: Callable[[], list[Any]], fits: Callable[[Any], bool]) -> Callable[[], int]:
    """How many entries of a growing list fit; each is looked at once."""
    seen = count = 0

    def number() -> int:
        nonlocal seen, count
        kept = entries()
        while seen < len(kept):
            count += fits(kept[seen])
            seen += 1
        return count

    return number


def _property(scene: SceneState, name: str, attribute: str) -> Any:
    body = scene.by_name.get(name)
    if body is None:
        return UNSET
    if attribute in body.values:
        return keep(body.values[attribute])
    if attribute == "carrying":
        return body.carrying.name if body.carrying is not None else None
    value = getattr(body, attribute, UNSET)
    return value if isinstance(value, (int, float, str)) else UNSET
