"""One trial, frame by frame, in the fixed order:

1. keys released by the end of a hold, then inputs due; 2. spawners due; 3. `held`; 4. motions;
5. pair by pair `meets` with `overlaps`, or `parts`; 6. `frame`; 7. the state is sampled.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Mapping
from dataclasses import replace
from typing import Any, Final

from ..scene import SceneSpec, SceneState, overlap
from ..script import DEFAULT_LIMITS, DIRECT, Limits, Woven
from ..words import PAIR_EVENTS, READING, Event, EventKind, Timeline
from .host import Host, TrialOver
from .names import CALLED_DIRECTLY
from .observe import OUTCOME, Observable
from .pairs import Handler, Pair, Pairs
from .plan import Plan
from .recorder import Recorder, Sampler, keep
from .trace import Trace
from .variables import Variables, getter

KNOWN_FUNCTIONS: Final = CALLED_DIRECTLY | DIRECT
"""What `weave` may take for a function that needs no guard at the place of its call."""


def play(
    woven: Woven,
    scene: SceneSpec,
    plan: Plan,
    *,
    observe: Iterable[Observable] = (),
    names: Mapping[str, tuple[str, ...]] | None = None,
    watch: Iterable[Event] = (),
    record: bool = False,
    limits: Limits = DEFAULT_LIMITS,
) -> Trace:
    """Plays one trial.

    `observe` is sampled at the end of each frame. `names` gives for each variable asked for the
    other names under which a script may keep it. `watch` are pair events to look at even where
    no handler does. With `record` the trace is whole; without, it holds the samples, the story
    and the end. Raises nothing for what a script does: a stop stands in the trace.
    """
    return Run(woven, scene, plan, tuple(observe), names or {}, tuple(watch), record=record, limits=limits).go()


class Run(Host):
    """The mutable state of one trial; made anew for each. What runs the script itself is its `Host`."""

    def __init__(
        self,
        woven: Woven,
        scene: SceneSpec,
        plan: Plan,
        observe: tuple[Observable, ...],
        names: Mapping[str, tuple[str, ...]],
        watch: tuple[Event, ...],
        *,
        record: bool,
        limits: Limits,
    ) -> None:
        super().__init__(woven, SceneState(scene, plan.seed), plan, limits, record=record)
        self._handlers: dict[tuple[EventKind, tuple[str, ...]], list[Handler]] = {}
        self._registered = 0
        self._pairs = Pairs(self.scene)
        self._ran = False
        self._counts: dict[Event, int] = {what.event: 0 for what in observe if what.event is not None}
        self.samples: dict[Observable, Timeline] = {
            what: Timeline([], []) for what in dict.fromkeys((*observe, OUTCOME))
        }
        self._variables = Variables(self._globals, self.game._values, names)
        self._sampler = Sampler([(timeline, self._getter(what)) for what, timeline in self.samples.items()])
        for event in (*self._counts, *watch):
            if event.kind in PAIR_EVENTS:
                self._pairs.ask(event, None)

    def _getter(self, what: Observable) -> Callable[[], Any]:
        return getter(
            what,
            self._variables,
            self.scene,
            self.board,
            self.story,
            self._counts,
            lambda: (self.frame, self.outcome),
        )

    # ---- the trial

    def go(self) -> Trace:
        """Plays the trial to its end, or to where the script is stopped."""
        recorder = self.recorder
        try:
            self._read()
            unarranged = self._arrange()
            self._frames()
            last = self.plan.last_frame
        except TrialOver:
            last = max(self.frame - 1, READING)
            unarranged = ()
            if recorder is not None:
                recorder.end(self.scene.bodies, ran=True)
        self.waits.stop()
        self.story.finish()
        if recorder is not None:
            self._close_overlaps(recorder)
        return self._freeze(last, unarranged)

    def _read(self) -> None:
        """Frame -1: the file is read from top to bottom, then `start` handlers run."""
        if self.recorder is not None:
            self.recorder.begin(READING)
        code = self._woven.recording if self.recorder is not None else self._woven.counting
        if self._woven.script.straight:
            return
        self._guarded(lambda: exec(code, self._globals))
        self._fire(Event("start"))
        if self.recorder is not None:
            self.recorder.cause = -1
            for body in self.scene.bodies:
                body.stamp = max(body.stamp, READING)
            self.recorder.end(self.scene.bodies, ran=True)

    def _frames(self) -> None:
        scene, plan, recorder, sampler = self.scene, self.plan, self.recorder, self._sampler
        inputs = _schedule(plan)
        spawns = self._spawns()
        held = any(kind == "held" for kind, _ in self._handlers)
        each_frame = self._handlers.get(("frame", ()))
        for frame in range(plan.last_frame + 1):
            self.frame = frame
            self._ran = frame == 0
            if recorder is not None:
                recorder.begin(frame)
            if frame in inputs:
                for key, goes_down in inputs[frame]:
                    self._key(key, goes_down=goes_down)
            if frame in spawns:
                for spawner, turn in spawns[frame]:
                    body = scene.spawn(spawner, turn, frame)
                    if body is not None:
                        self._pairs.appeared(body)
            if frame == 0 and self._woven.script.straight:
                self._begin_straight()
            if self.waits.sleepers:
                self._resume(frame)
            if held and self.down:
                for key in sorted(self.down, key=self.down.__getitem__):
                    self._fire(Event("held", (key,)))
            scene.step(frame, self.down)
            self._meet(frame)
            if each_frame:
                self._fire(Event("frame"))
            sampler.sample(frame)
            if recorder is not None:
                recorder.end(scene.bodies, ran=self._ran)

    def _spawns(self) -> dict[int, list[tuple[Any, int]]]:
        spawns: dict[int, list[tuple[Any, int]]] = {}
        for spawner in self.scene.spec.spawner:
            for turn, frame in enumerate(self.scene.due(spawner, self.plan.last_frame)):
                spawns.setdefault(frame, []).append((spawner, turn))
        return spawns

    def _key(self, key: str, *, goes_down: bool) -> None:
        if goes_down == (key in self.down):
            return
        if goes_down:
            self.down[key] = self.frame
        else:
            del self.down[key]
        if self.recorder is not None:
            self.recorder.keys.append((self.frame, key, goes_down))
        self._fire(Event("pressed" if goes_down else "released", (key,)))

    def _meet(self, frame: int) -> None:
        """Step 5: finds the overlaps that begin, last or end, and runs what waits for them."""
        contacts = self.scene.contacts
        for pair in self._pairs.ordered:
            a, b = pair.first, pair.second
            if a.removed or b.removed:
                continue
            touching = bool(contacts) and pair.key in contacts
            if a.stamp >= frame or b.stamp >= frame or touching or pair.touching or frame == 0:
                pair.touching = touching
                now = overlap(a, b) or (touching and a.present and b.present)
            else:
                now = pair.on
            if now:
                if not pair.on:
                    pair.on, pair.since = True, frame
                    self._fire_pair("meets", pair)
                if "overlaps" in pair.handlers or "overlaps" in pair.patterns:
                    self._fire_pair("overlaps", pair)
            elif pair.on:
                pair.on = False
                self._note_overlap(pair, frame - 1)
                self._fire_pair("parts", pair)
        if self._removed:
            self._removed = False
            for pair in self._pairs.ordered:
                if pair.on and (pair.first.removed or pair.second.removed):
                    self._note_overlap(pair, frame)
            self._pairs.forget_removed()

    def _note_overlap(self, pair: Pair, last: int) -> None:
        if self.recorder is not None:
            self.recorder.overlaps.append((f"{pair.first.name} {pair.second.name}", pair.since, last))

    def _close_overlaps(self, recorder: Recorder) -> None:
        for pair in self._pairs.ordered:
            if pair.on:
                self._note_overlap(pair, self.frame)

    # ---- handlers

    def register(self, function: Any, events: tuple[Event, ...], takes: int) -> None:
        """Adds a handler, for each of its events once, in file order."""
        self._registered += 1
        handler = Handler(function.__name__, function, takes, self._registered, function.__code__.co_firstlineno)
        for event in dict.fromkeys(events):
            if event.kind in PAIR_EVENTS:
                self._pairs.ask(event, handler)
            else:
                handlers = self._handlers.setdefault((event.kind, event.about), [])
                handlers.append(handler)

    def _fire(self, event: Event) -> None:
        handlers = self._handlers.get((event.kind, event.about), ())
        if event in self._counts:
            self._counts[event] += 1
        if self.recorder is not None and (handlers or event.kind in ("pressed", "released")):
            self.recorder.came(
                str(event), tuple(h.name for h in handlers), tuple(h.line for h in handlers), len(self.waits.sleepers)
            )
        every_frame = event.kind in ("held", "frame")
        for handler in handlers:
            self._handle(handler, (), (handler.order, event) if every_frame else None)

    def _fire_pair(self, kind: EventKind, pair: Pair) -> None:
        handlers = pair.handlers.get(kind, ())
        for pattern in pair.patterns.get(kind, ()):
            if pattern in self._counts:
                self._counts[pattern] += 1
        if self.recorder is not None:
            text = f"{kind}({pair.first.name}, {pair.second.name})"
            self.recorder.came(
                text, tuple(h.name for h, _ in handlers), tuple(h.line for h, _ in handlers), len(self.waits.sleepers)
            )
        for handler, swapped in handlers:
            first, second = (pair.second, pair.first) if swapped else (pair.first, pair.second)
            both = (self.handle(first), self.handle(second))
            given = both if handler.takes == 2 else both[1:] if handler.takes == 1 else ()
            self._handle(handler, given, (handler.order, pair.key) if kind == "overlaps" else None)

    def _handle(self, handler: Handler, arguments: tuple[Any, ...], busy: Hashable | None = None) -> None:
        if busy is not None and busy in self.waits.busy:
            return
        self._handler = handler
        self._ran = True
        self._depth = 0
        recorder = self.recorder
        if recorder is not None:
            recorder.handler = handler.name
        if self._woven.waits:
            self._guarded(lambda: self.waits.run(lambda: handler.function(*arguments), busy))
        else:
            self._guarded(lambda: handler.function(*arguments))
        self._handler = None
        if recorder is not None:
            recorder.handler = None

    def _begin_straight(self) -> None:
        """A straight script runs once, from the first frame on."""
        code = self._woven.recording if self.recorder is not None else self._woven.counting
        self._ran = True
        self._guarded(lambda: self.waits.run(lambda: exec(code, self._globals)))

    def _resume(self, frame: int) -> None:
        """Goes on with the handlers whose waiting is over."""
        for sleeper in self.waits.due(frame):
            if sleeper not in self.waits.sleepers:
                continue  # another one ended it
            self._handler, self._depth, cause = sleeper.context
            self._ran = True
            if self.recorder is not None:
                self.recorder.handler = self._handler.name if self._handler else None
                self.recorder.cause = cause
            self._guarded(lambda: self.waits.resume(sleeper))  # noqa: B023 - called at once
            self._handler = None

    # ---- arranging and sampling

    def _arrange(self) -> tuple[str, ...]:
        """Applies the scenario's `arrange`; gives back the variables that the script does not have."""
        missing = []
        for line in self.plan.arrange:
            if line.owner is None:
                bound = self._variables.arrange(line.name, line.value)
                if bound is None:
                    missing.append(line.name)
                elif self.recorder is not None:
                    self.recorder.arranged(bound, line.value)
            elif line.owner == "game":
                setattr(self.game, line.name, line.value)
            else:
                for body in self.scene.named(line.owner):
                    if line.name == "removed":
                        body.removed = bool(line.value)
                    elif not body.removed:
                        setattr(self.handle(body), line.name, line.value)
                    body.stamp = 0
        return tuple(missing)

    def _freeze(self, last: int, unarranged: tuple[str, ...]) -> Trace:
        names = [what.name for what in self.samples if what.what == "variable"]
        trace = Trace(
            last_frame=last,
            planned=self.plan.last_frame,
            outcome=self.outcome,
            stopped=self._stop,
            samples=self.samples,
            story=tuple(self.story.lines),
            final={name: keep(self._variables.read(name)) for name in names},
            passes=self._limits.passes_a_trial - self._left,
            unarranged=unarranged,
            bound={name: self._variables.bound(name) or "" for name in names},
        )
        recorder = self.recorder
        if recorder is None:
            return trace
        return replace(
            trace,
            changes=tuple(recorder.changes),
            tests=tuple(recorder.tests),
            events=tuple(recorder.events),
            board=tuple(self.shown),
            keys=tuple(recorder.keys),
            pieces=recorder.pieces,
            overlaps=tuple(recorder.overlaps),
            lines=recorder.lines,
            removals={body.name: body.removed_by for body in self.scene.bodies if body.removed_by},
            thinned=tuple(recorder.thinned),
        )


def _schedule(plan: Plan) -> dict[int, list[tuple[str, bool]]]:
    """For each frame the keys that change in it: first those that come up, then inputs as written."""
    up: dict[int, list[tuple[str, bool]]] = {}
    down: dict[int, list[tuple[str, bool]]] = {}
    for key in plan.inputs:
        up.setdefault(key.up, []).append((key.key, False))
        down.setdefault(key.down, []).append((key.key, True))
    return {frame: [*up.get(frame, ()), *down.get(frame, ())] for frame in {*up, *down}}
