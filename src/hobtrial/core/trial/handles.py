"""What a script sees of the scene: pieces, kinds and the holder `game`.

A handle has the members of the script language and nothing else that a script could name; what a
script puts on it besides is a variable of that piece. Rooms below do not know of handles.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any, Final, Protocol

from ..scene import Body, SceneState
from ..words import GameError, short_text

FARTHEST: Final = 1e6
"""Squares: positions and speeds beyond it are a mistake, not a game."""


class World(Protocol):
    """What handles need of the running trial."""

    scene: SceneState
    frame: int
    frozen_spawners: set[str]

    def handle(self, body: Body) -> PieceHandle:
        """The one handle of a piece."""

    def touched(self, body: Body) -> None:
        """A script changed something of a piece that can be seen."""

    def joined(self, body: Body) -> None:
        """A piece was added or came back."""

    def removed(self, body: Body) -> None:
        """A piece was taken off the scene."""

    def stored(self, name: str, old: Any, new: Any) -> None:
        """A variable of a piece or of `game` was set."""

    def script_line(self) -> int:
        """The line of the script that is running."""

    def told(self, text: Any, body: Body) -> None:
        """A piece tells something."""

    def walk(self, body: Body, to: tuple[float, float], seconds: float) -> None:
        """Moves a piece at an even pace while the handler waits."""

    def stop_waits_of(self, body: Body) -> None:
        """Ends the waiting handlers that were started for a piece."""


def number(name: str, value: Any, *, least: float = -FARTHEST) -> float:
    """A finite number that a property can have; `name` says in the error what takes it."""
    plain = isinstance(value, (int, float)) and not isinstance(value, bool)
    if not plain or not math.isfinite(value) or not least <= value <= FARTHEST:
        low = "0" if least == 0 else "-1,000,000"
        raise GameError(f"`{name}` takes a number from {low} to 1,000,000, not {short_text(value)}.")
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
        if name == "carrying":
            return None if body.carrying is None else self._world.handle(body.carrying)
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
        elif name == "carrying":
            self.put_down() if value is None else self.carry(value)
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
            if body.removed_by:
                raise GameError(f"`{body.name}` was removed in line {body.removed_by} and cannot be used any more.")
            gone = "has left the scene" if body.motion.drifting is not None else "was removed"
            raise GameError(f"`{body.name}` {gone} and cannot be used any more.")
        return body

    # ---- there and gone

    def remove(self) -> None:
        """Takes the piece off the scene."""
        body = self._live()
        body.removed = True
        body.removed_by = self._world.script_line()
        self._world.touched(body)
        self._world.removed(body)

    def restore(self) -> None:
        """Place, speed, look and visibility as at the beginning; brings a removed piece back."""
        body = self._body
        gone = body.removed
        body.let_go()
        body.begin()
        self._world.touched(body)
        if gone:
            body.removed_by = None
            self._world.joined(body)

    def freeze(self) -> None:
        """Its motion stops."""
        self._live().frozen = True

    def thaw(self) -> None:
        """Its motion goes on."""
        self._live().frozen = False

    def tell(self, text: Any) -> None:
        """Adds a line to the story that this piece tells."""
        self._world.told(text, self._live())

    def stop_waits(self) -> None:
        """Ends the waiting handlers that were started for it."""
        self._world.stop_waits_of(self._live())

    # ---- moving

    def move(self, dx: Any, dy: Any) -> None:
        """Moves the piece by so many squares."""
        body = self._live()
        self.go(body.x + number("dx", dx), body.y + number("dy", dy))

    def go(self, x: Any, y: Any) -> None:
        """Puts the piece at a place, in squares."""
        body = self._live()
        body.x, body.y = round(number("x", x), 6), round(number("y", y), 6)
        self._world.touched(body)

    def walk(self, x: Any, y: Any, seconds: Any) -> None:
        """Walks to a place at an even pace, and waits until it is there."""
        body = self._live()
        self._world.walk(body, (number("x", x), number("y", y)), number("seconds", seconds, least=0))

    def face(self, other: Any) -> None:
        """Turns to another piece, or to the nearest of a kind."""
        body = self._live()
        there = _nearest(body, other, "face")
        if there is not body:
            body.facing = body.angle_to(there)
            self._world.touched(body)

    def carry(self, other: Any) -> None:
        """Takes another piece along, which keeps its place beside this one."""
        body = self._live()
        if not isinstance(other, PieceHandle):
            raise GameError(f"`carry` takes one piece of the scene, not {short_text(other)}.")
        taken = other._live()
        scene = self._world.scene
        above: Body | None = body
        while above is not None:
            if above is taken:
                what = "itself" if taken is body else f"`{taken.name}`, which carries it"
                raise GameError(f"`{body.name}` cannot carry {what}.")
            above = scene.beside(above)
        scene.carry(body, taken)
        self._world.touched(body)
        self._world.touched(taken)

    def put_down(self) -> None:
        """Leaves what it carries where it is."""
        body = self._live()
        if body.carrying is not None:
            self._world.touched(body.carrying)
            body.put_down()
            self._world.touched(body)

    # ---- questions

    def overlaps(self, other: Any) -> bool:
        """Whether the piece overlaps another, or any of a kind, now."""
        scene, body = self._world.scene, self._live()
        return any(
            other_body is not body and scene.overlaps(body, other_body) for other_body in bodies_of(other, "overlaps")
        )

    def distance(self, other: Any) -> float:
        """The distance between the middles of two pieces, or to the nearest of a kind, in squares."""
        body = self._live()
        there = _nearest(body, other, "distance")
        return round(math.hypot(there.x - body.x, there.y - body.y), 6)


def _nearest(body: Body, other: Any, what: str) -> Body:
    bodies = bodies_of(other, what)
    if isinstance(other, KindHandle):
        bodies = [each for each in bodies if each is not body]
        if not bodies:
            raise GameError(f"There is no `{short_text(other)}` in the scene for `{what}`.")
    return min(bodies, key=lambda each: math.hypot(each.x - body.x, each.y - body.y))


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


class SpawnerHandle:
    """A spawner as a script has it: it can stop and go on."""

    __slots__ = ("_name", "_world")

    def __init__(self, name: str, world: World) -> None:
        self._name = name
        self._world = world

    def __repr__(self) -> str:
        return self._name

    def freeze(self) -> None:
        """Adds no further pieces."""
        self._world.frozen_spawners.add(self._name)

    def thaw(self) -> None:
        """Adds pieces again, at its own times."""
        self._world.frozen_spawners.discard(self._name)


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
    raise GameError(f"`{what}` takes a piece or a kind of the scene, not {short_text(thing)}.")


def name_of(thing: Any, what: str) -> str:
    """The name of a piece or kind; `what` names the call for the error."""
    if isinstance(thing, PieceHandle):
        return thing._body.name
    if isinstance(thing, KindHandle):
        return thing._name
    raise GameError(f"`{what}` takes pieces or kinds of the scene, not {short_text(thing)}.")


def had_value(old: Any) -> bool:
    """Whether `old`, as given to `World.stored`, was a value."""
    return old is not _NOTHING


_READ: Final[dict[str, Callable[[Body], Any]]] = {
    name: (lambda body, name=name: getattr(body, name))  # type: ignore[misc]
    for name in ("x", "y", "facing", "look", "visible", "opacity", "size", "speed", "vx", "vy", "name", "kind")
}


def _set_number(name: str, least: float = -FARTHEST) -> Callable[[Body, Any], None]:
    def store(body: Body, value: Any) -> None:
        setattr(body, name, number(name, value, least=least))

    return store


def _set_look(body: Body, value: Any) -> None:
    if not isinstance(value, str):
        raise GameError(f"`look` takes the name of a look in quotes, not {short_text(value)}.")
    looks = body.mould.looks
    if looks is not None and value not in looks:
        raise GameError(f"`{body.name}` has the looks {', '.join(map(repr, looks))}, and no {short_text(value)}.")
    body.look = value


def _set_visible(body: Body, value: Any) -> None:
    if not isinstance(value, bool):
        raise GameError(f"`visible` is True or False, not {short_text(value)}.")
    body.visible = value


def _set_size(body: Body, value: Any) -> None:
    body.resize(number("size", value, least=0))


_SET: Final[dict[str, Callable[[Body, Any], None]]] = {
    **{name: _set_number(name) for name in ("x", "y", "facing", "vx", "vy")},
    "opacity": _set_number("opacity", 0),
    "speed": _set_number("speed", 0),
    "size": _set_size,
    "look": _set_look,
    "visible": _set_visible,
}
HANDLES: Final = (PieceHandle, KindHandle, SpawnerHandle, GameHolder)
