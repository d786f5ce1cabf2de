"""A running scene: its pieces in scene order, and the step from one frame to the next."""

from __future__ import annotations

import random
from collections.abc import Collection

from ..words import frame_of
from .bodies import Body
from .motions import fall, steer
from .overlap import overlap
from .spec import MOST_PIECES, SceneSpec, SpawnerSpec


class SceneState:
    """The pieces of one trial. Mutable; made anew for every trial from the frozen spec.

    `contacts` holds the pairs of indexes (lower first) that blocked each other in this frame:
    a piece overlaps what blocks it or what it rests on.
    """

    def __init__(self, spec: SceneSpec, seed: int) -> None:
        self.spec = spec
        self.bodies: list[Body] = []
        self.by_name: dict[str, Body] = {}
        self.by_kind: dict[str, list[Body]] = {kind: [] for kind in spec.kinds}
        self.contacts: set[tuple[int, int]] = set()
        self._movers: list[Body] = []
        self._solids: list[Body] = []
        self._random = random.Random(f"spawner {seed}")
        self._spawned: dict[str, int] = {}
        for piece in spec.piece:
            body = Body(0, piece.name, piece.kind, piece.at, piece.size, piece.look, piece.motion, solid=piece.solid)
            body.facing = piece.facing
            body.visible = not piece.hidden
            body.values.update(piece.vars)
            self._add(body)

    def _add(self, body: Body) -> Body:
        body.index = len(self.bodies)
        self.bodies.append(body)
        self.by_name[body.name] = body
        self.by_kind.setdefault(body.kind, []).append(body)
        if body.motion.name != "still":
            self._movers.append(body)
        if body.solid:
            self._solids.append(body)
        return body

    def due(self, spawner: SpawnerSpec, last_frame: int) -> list[int]:
        """The frames in which a spawner adds a piece, up to a frame, at most `most` of them."""
        if spawner.times is not None:
            frames = [frame_of(time) for time in spawner.times]
        else:
            assert spawner.every is not None
            frames = []
            for n in range(1, spawner.most + 1):
                frame = frame_of(n * spawner.every)
                if frame > last_frame:
                    break
                frames.append(frame)
        return [frame for frame in frames if frame <= last_frame][: spawner.most]

    def spawn(self, spawner: SpawnerSpec, turn: int, frame: int) -> Body | None:
        """Adds one piece of the spawner's kind; nothing where the scene is full."""
        if len(self.bodies) >= MOST_PIECES:
            return None
        places = spawner.at
        at = places[turn % len(places)] if spawner.pick == "turn" else self._random.choice(places)
        number = self._spawned.get(spawner.kind, 0) + 1
        while f"{spawner.kind}_{number}" in self.by_name:
            number += 1
        self._spawned[spawner.kind] = number
        name = f"{spawner.kind}_{number}"
        body = Body(0, name, spawner.kind, at, spawner.size, spawner.look, spawner.motion, solid=spawner.solid)
        body.stamp = frame
        return self._add(body)

    def step(self, frame: int, down: Collection[str]) -> None:
        """Moves everything that moves by one frame."""
        contacts = self.contacts
        contacts.clear()

        def contact(a: Body, b: Body) -> None:
            contacts.add((a.index, b.index) if a.index < b.index else (b.index, a.index))

        spec, solids = self.spec, self._solids
        for body in self._movers:
            if body.removed:
                continue
            if body.motion.steered is not None:
                moved = bool(down) and steer(body, down, spec, solids, contact)
            else:
                moved = fall(body, spec, solids, contact)
            if moved:
                body.stamp = frame

    def overlaps(self, a: Body, b: Body) -> bool:
        """Whether two pieces overlap now, or one was blocked by the other in this frame."""
        pair = (a.index, b.index) if a.index < b.index else (b.index, a.index)
        return overlap(a, b) or (pair in self.contacts and a.present and b.present)

    def named(self, name: str) -> list[Body]:
        """The piece of that name, or all pieces of that kind, in scene order."""
        body = self.by_name.get(name)
        return [body] if body is not None else self.by_kind.get(name, [])
