"""A running scene: its pieces in scene order, and the step from one frame to the next."""

from __future__ import annotations

import random
from collections.abc import Callable, Collection, Iterable, Mapping
from operator import attrgetter

from .bodies import Body
from .glide import Way, following, way
from .grid import MANY, Grid
from .motions import Motions
from .overlap import overlap
from .spec import MOST_PIECES, PieceSpec, SceneSpec, SpawnerSpec
from .spec_base import Point

_by_index = attrgetter("index")
_stamp = attrgetter("stamp")


class SceneState:
    """The pieces of one trial. Mutable; made again for every trial from the frozen spec.

    `contacts` holds the pairs of indexes (lower first) that blocked each other in this frame:
    a piece overlaps what blocks it or what it rests on.
    """

    def __init__(self, spec: SceneSpec, seed: int) -> None:
        self.spec = spec
        self.kinds = spec.kinds
        self.bodies: list[Body] = []
        self.by_name: dict[str, Body] = {}
        self.by_kind: dict[str, list[Body]] = {kind: [] for kind in spec.all_kinds}
        self.contacts: set[tuple[int, int]] = set()
        self._movers: list[Body] = []
        self._beside: list[Body] = []
        self._obstacles: list[Body] = []
        self._grid: Grid | None = None
        self._carries = False
        self._random = random.Random(f"spawner {seed}")
        self._spawned: dict[str, int] = {}
        self._motions = Motions(spec, self.by_name, self._near, self._contact)
        for piece in spec.piece:
            self._add(Body(0, piece.name, piece.at, piece))

    def _add(self, body: Body) -> Body:
        body.index = len(self.bodies)
        self.bodies.append(body)
        self.by_name[body.name] = body
        self.by_kind.setdefault(body.kind, []).append(body)
        if body.motion.attached is not None:
            self._beside.append(body)
        elif body.moves:
            self._movers.append(body)
        if body.solid or body.mould.pushed:
            self._obstacles.append(body)
            if self._grid is not None:
                self._grid.put(body)
            elif len(self._obstacles) > MANY:
                self._grid = Grid()
                for obstacle in self._obstacles:
                    self._grid.put(obstacle)
        return body

    # ---- pieces that come later

    @property
    def full(self) -> bool:
        """Whether no further piece can be added."""
        return len(self.bodies) >= MOST_PIECES

    def place_of(self, spawner: SpawnerSpec, turn: int) -> tuple[float, float]:
        """Where a spawner's next piece comes: in turn, or from the spawners' own random stream."""
        return spawner.at[turn % len(spawner.at)] if spawner.pick == "turn" else self._random.choice(spawner.at)

    def mould_of(self, kind: str) -> PieceSpec | None:
        """What a piece of a kind is like: as its spawner makes it, else as the first one of the scene."""
        spawner = next((each for each in self.spec.spawner if each.kind == kind), None)
        if spawner is not None:
            return spawner.mould
        return next((each for each in self.spec.piece if each.kind == kind), None)

    def spawn(self, mould: PieceSpec, at: tuple[float, float], frame: int) -> Body:
        """Adds one piece; its name is the kind with the next number."""
        number = self._spawned.get(mould.kind, 0) + 1
        while f"{mould.kind}_{number}" in self.by_name:
            number += 1
        self._spawned[mould.kind] = number
        body = Body(0, f"{mould.kind}_{number}", at, mould)
        body.stamp = frame
        return self._add(body)

    # ---- one frame

    @property
    def newest(self) -> int:
        """The frame in which the box of a piece last changed."""
        return max(map(_stamp, self.bodies), default=-1)

    def step(self, frame: int, down: Collection[str]) -> list[Body]:
        """Moves everything that moves by one frame; gives the pieces that left the scene."""
        self.contacts.clear()
        self._motions.frame = frame
        grid = self._grid
        if grid is not None:
            for body in self._obstacles:
                if body.stamp >= frame - 1:
                    grid.put(body)
        left: list[Body] = []
        newest = max(map(_stamp, self._obstacles), default=-1)
        for body in self._movers:
            if body.removed or body.frozen or body.carried_by is not None:
                continue
            if _lies(body, newest, down):
                if body.rests_on is not None:  # it lies where it lay, and nothing came or went around it
                    self._contact(body, body.rests_on)
                continue
            if self._motions.move(body, down):
                body.stamp = max(body.stamp, frame)
                if body.solid or body.mould.pushed or body.motion.steered is not None:
                    newest = frame
                if grid is not None and body.solid:
                    grid.put(body)
                if body.removed:
                    left.append(body)
        beside = self.placed_beside()
        if beside:
            self._attach(sorted({*beside}, key=_by_index), frame)
        return left

    def glide(self, frame: int, frames: int, down: Collection[str], moving: Collection[int]) -> dict[int, Way] | None:
        """Moves everything by several frames at once, from this frame on; does nothing where it cannot.

        `moving` are the indexes of the pieces that may move. Nothing may touch, push or leave in these frames that a
        step would have to tell of. Gives the ways of the pieces with a motion of their own, by their index.
        """
        newest = max(map(_stamp, self._obstacles), default=-1)
        if self._grid is not None or newest >= frame or any(body.index in moving for body in self._obstacles):
            return None
        ways: dict[int, Way] = {}
        lying: list[Body] = []
        after: list[Body] = []
        for body in self._movers:
            if body.removed or body.frozen or body.carried_by is not None:
                continue
            if _lies(body, newest, down):
                lying.append(body)
            elif body.motion.following is not None:
                after.append(body)
            elif body.index in moving:
                found = way(self.spec, body, frames, down, self._motions.free)
                if found is None:
                    return None
                ways[body.index] = found
            elif body.gravity is not None or body.motion.patrolling is not None:
                return None
        for body in after:
            other = self._followed(body)
            if other is not None:
                at = _seen(body, other, ways.get(other.index))
                if other.motion.following is not None or (other.index in moving and other.index not in ways):
                    return None
                ways[body.index] = following(body, frames, at)
        self.contacts.clear()
        for body in lying:
            if body.rests_on is not None:
                self._contact(body, body.rests_on)
        self._go(ways, frame + frames - 1)
        return ways

    def _followed(self, body: Body) -> Body | None:
        """The piece that another one goes after; nothing where that is gone."""
        assert body.motion.following is not None
        other = self.by_name[body.motion.following.who]
        return None if other.removed or other is body else other

    def _go(self, ways: Mapping[int, Way], last: int) -> None:
        """Puts pieces to the ends of their ways, which they come to in the last frame."""
        for index, found in ways.items():
            body = self.bodies[index]
            if (body.x, body.y) != found.end:
                body.stamp = max(body.stamp, last)
            (body.x, body.y), body.vy = found.end, found.vy
            if body.gravity is not None:
                body.grounded, body.rested = False, -1
        beside = self.placed_beside()
        if beside:
            self._attach(sorted({*beside}, key=_by_index), last)

    def carry(self, body: Body, other: Body) -> None:
        """One piece takes another."""
        body.carry(other)
        self._carries = True

    def _attach(self, beside: list[Body], frame: int) -> None:
        """Attached and carried pieces come last, each after the one that it is beside."""
        waiting = {body.index: body for body in beside}
        while waiting:
            ready = [body for body in waiting.values() if not self._follows(body, waiting)]
            for body in ready or list(waiting.values()):  # in a circle nobody comes first
                del waiting[body.index]
                if body.removed or (body.frozen and body.carried_by is None):
                    continue
                if self._motions.attach(body):
                    body.stamp = max(body.stamp, frame)

    def beside(self, body: Body) -> Body | None:
        """The piece that another one is carried by or attached to."""
        attached = body.motion.attached
        return body.carried_by or (self.by_name[attached.to] if attached else None)

    def _follows(self, body: Body, waiting: dict[int, Body]) -> bool:
        other = self.beside(body)
        return other is not None and other.index in waiting

    def _near(self, x: float, y: float, half_width: float, half_height: float) -> Iterable[Body]:
        if self._grid is None:
            return self._obstacles
        found = self._grid.near(x, y, half_width, half_height)
        return found if len(found) < 2 else sorted(found, key=_by_index)

    def _contact(self, a: Body, b: Body) -> None:
        self.contacts.add((a.index, b.index) if a.index < b.index else (b.index, a.index))

    @property
    def movers(self) -> list[Body]:
        """The pieces that have a motion of their own."""
        return self._movers

    def placed_beside(self) -> list[Body]:
        """The pieces that stay beside another one: attached to it, or carried by it."""
        carried = [body for body in self.bodies if body.carried_by is not None] if self._carries else []
        return [*self._beside, *carried]

    # ---- questions

    def overlaps(self, a: Body, b: Body) -> bool:
        """Whether two pieces overlap now, or one was blocked by the other in this frame."""
        pair = (a.index, b.index) if a.index < b.index else (b.index, a.index)
        return overlap(a, b) or (pair in self.contacts and a.present and b.present)

    def named(self, name: str) -> list[Body]:
        """The piece of that name, or all pieces of that kind, in scene order."""
        body = self.by_name.get(name)
        return [body] if body is not None else self.by_kind.get(name, [])

    def topmost(self, x: float, y: float) -> Body | None:
        """The piece that is seen at a point: the last one there in scene order, zones beneath all others."""
        there = [body for body in self.bodies if body.present and body.covers(x, y)]
        return max(there, key=lambda body: (not body.mould.zone, body.index), default=None)


def _lies(body: Body, newest: int, down: Collection[str]) -> bool:
    """Whether a body lies where it lay: nothing that may be in its way changed since it was seen to lie there.

    `newest` is the frame in which the last of those changed.
    """
    return newest < body.rested and body.stamp < body.rested and (not down or body.motion.steered is None)


def _seen(body: Body, other: Body, way: Way | None) -> Callable[[int], Point]:
    """Where a piece sees the one that it follows in each frame of a glide: pieces move in the order of the scene."""
    here = (other.x, other.y)
    if way is None:
        return lambda frame: here
    if other.index < body.index:
        return lambda frame: (way.xs[frame], way.ys[frame])
    return lambda frame: (way.xs[frame - 1], way.ys[frame - 1]) if frame else here
