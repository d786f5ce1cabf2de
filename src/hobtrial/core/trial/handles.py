"""What a script sees of the scene: pieces, kinds and the holder `game`.

A handle has the members of the script language and nothing else that a script could name; what a
script puts on it besides is a variable of that piece. Rooms below do not know of handles.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any, Final, Protocol

from ..scene import Body, SceneState
from ..words import GameError

FARTHEST: Final = 1e6
"""Squares: positions and speeds beyond it are a mistake, not a game."""


class World(Protocol):
    """What handles need of the running trial."""

    scene: SceneState
    frame: int

    def handle(self, body: Body) -> PieceHandle:
        """The one handle of a piece."""

    def touched(self, body: Body) -> None:
        """A script changed something of a piece that can be seen."""

    def stored(self, name: str, old: Any, new: Any) -> None:
        """A variable of a piece or of `game` was set."""

    def script_line(self) -> int:
        """The line of the script that is running."""


def _number(name: str, value: Any, *, least: float = -FARTHEST) -> float:
    number = isinstance(value, (int, float)) and not isinstance(value, bool)
    if not number or not math.isfinite(value) or not least <= value <= FARTHEST:
        low = "0" if least == 0 else "-1,000,000"
        raise GameError(f"`{name}` takes a number from {low} to 1,000,000, not {value!r}.")
    return value  # type: ignore[no-any-return]


class PieceHandle:
    """A piece as a script has it: `hob.x`, `hob.lives`, `which.remove()`."""

    __slots__ = ("_body", "_world")
    _body: Body
    _world: World

    def __init__(self, body: Body, world: World) -> None:
        object.__setattr__(self, "_body", body)
        object.__setattr__(self, "_world", world)

    def __repr__(self) -> str:
        return self._body.name

    def __getattr__(self, name: str) -> Any:
        body = self._live()
        reader = _READ.get(name)
        if reader is not None:
            return reader(body)
        try:
            return body.values[name]
        except KeyError:
            raise AttributeError(f"`{body.name}` has no variable `{name}`") from None

    def __setattr__(self, name: str, value: Any) -> None:
        body = self._live()
        setter = _SET.get(name)
        if setter is not None:
            setter(body, value)
            self._world.touched(body)
        elif name in _READ or hasattr(type(self), name):
            raise GameError(f"`{name}` of a piece cannot be set.")
        else:
            old = body.values.get(name)
            had = name in body.values
            body.values[name] = value
            self._world.stored(f"{body.name}.{name}", old if had else _NOTHING, value)

    def _live(self) -> Body:
        body = self._body
        if body.removed:
            where = f" in line {body.removed_by}" if body.removed_by else ""
            raise GameError(f"`{body.name}` was removed{where} and cannot be used any more.")
        return body

    def remove(self) -> None:
        """Takes the piece off the scene."""
        body = self._live()
        body.removed = True
        body.removed_by = self._world.script_line()
        self._world.touched(body)

    def move(self, dx: Any, dy: Any) -> None:
        """Moves the piece by so many squares."""
        body = self._live()
        self.go(body.x + _number("dx", dx), body.y + _number("dy", dy))

    def go(self, x: Any, y: Any) -> None:
        """Puts the piece at a place, in squares."""
        body = self._live()
        body.x, body.y = round(_number("x", x), 6), round(_number("y", y), 6)
        self._world.touched(body)

    def overlaps(self, other: Any) -> bool:
        """Whether the piece overlaps another, or any of a kind, now."""
        scene, body = self._world.scene, self._live()
        return any(
            other_body is not body and scene.overlaps(body, other_body) for other_body in bodies_of(other, "overlaps")
        )

    def distance(self, other: Any) -> float:
        """The distance to the middle of another piece, in squares."""
        body, (there, *_) = self._live(), bodies_of(other, "distance")
        return round(math.hypot(there.x - body.x, there.y - body.y), 6)


_NOTHING: Final = object()
"""Stands for "had no value" between a handle and its world."""


class KindHandle:
    """All pieces of a kind: `for b in bun`, `len(bun)`, `hob.overlaps(bun)`."""

    __slots__ = ("_name", "_world")

    def __init__(self, name: str, world: World) -> None:
        self._name = name
        self._world = world

    def __repr__(self) -> str:
        return self._name

    def _bodies(self) -> list[Body]:
        return [body for body in self._world.scene.by_kind[self._name] if not body.removed]

    def __iter__(self) -> Iterator[PieceHandle]:
        for body in self._bodies():
            if not body.removed:
                yield self._world.handle(body)

    def __len__(self) -> int:
        return len(self._bodies())


class GameHolder:
    """The ready-made holder `game`: `game.score += 1` needs no `global`."""

    __slots__ = ("_values", "_world")
    _values: dict[str, Any]
    _world: World

    def __init__(self, world: World) -> None:
        object.__setattr__(self, "_values", {})
        object.__setattr__(self, "_world", world)

    def __repr__(self) -> str:
        return "game"

    def __getattr__(self, name: str) -> Any:
        try:
            return self._values[name]
        except KeyError:
            raise AttributeError(f"`game` has no variable `{name}`") from None

    def __setattr__(self, name: str, value: Any) -> None:
        old = self._values.get(name, _NOTHING)
        self._values[name] = value
        self._world.stored(f"game.{name}", old, value)


def bodies_of(thing: Any, what: str) -> list[Body]:
    """The bodies behind a piece or kind; `what` names the call for the error."""
    if isinstance(thing, PieceHandle):
        return [thing._live()]
    if isinstance(thing, KindHandle):
        return thing._bodies()
    raise GameError(f"`{what}` takes a piece or a kind of the scene, not {thing!r}.")


def name_of(thing: Any, what: str) -> str:
    """The name of a piece or kind; `what` names the call for the error."""
    if isinstance(thing, PieceHandle):
        return thing._body.name
    if isinstance(thing, KindHandle):
        return thing._name
    raise GameError(f"`{what}` takes pieces or kinds of the scene, not {thing!r}.")


def had_value(old: Any) -> bool:
    """Whether `old`, as given to `World.stored`, was a value."""
    return old is not _NOTHING


_READ: Final[dict[str, Callable[[Body], Any]]] = {
    name: (lambda body, name=name: getattr(body, name))  # type: ignore[misc]
    for name in ("x", "y", "facing", "look", "visible", "opacity", "size", "speed", "vx", "vy", "name", "kind")
}


def _set_number(name: str, least: float = -FARTHEST) -> Callable[[Body, Any], None]:
    def store(body: Body, value: Any) -> None:
        setattr(body, name, _number(name, value, least=least))

    return store


def _set_look(body: Body, value: Any) -> None:
    if not isinstance(value, str):
        raise GameError(f"`look` takes the name of a look in quotes, not {value!r}.")
    body.look = value


def _set_visible(body: Body, value: Any) -> None:
    if not isinstance(value, bool):
        raise GameError(f"`visible` is True or False, not {value!r}.")
    body.visible = value


def _set_size(body: Body, value: Any) -> None:
    body.resize(_number("size", value, least=0))


_SET: Final[dict[str, Callable[[Body, Any], None]]] = {
    **{name: _set_number(name) for name in ("x", "y", "facing", "vx", "vy")},
    "opacity": _set_number("opacity", 0),
    "speed": _set_number("speed", 0),
    "size": _set_size,
    "look": _set_look,
    "visible": _set_visible,
}
HANDLES: Final = (PieceHandle, KindHandle, GameHolder)
