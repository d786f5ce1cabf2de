"""One trial, frame by frame, in the fixed order:

1. keys released by the end of a hold, then inputs due; 2. timers, spawners and waits due; 3. `held`;
4. motions; 5. pair by pair `meets` with `overlaps`, or `parts`; 6. `frame`; 7. the state is sampled.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any, Final

from ..events import PAIR_EVENTS, Event
from ..scene import Body, SceneSpec, SceneState, SpawnerSpec, overlap
from ..script import DEFAULT_LIMITS, DIRECT, Limits, Woven
from ..words import READING, Timeline
from .firing import Firing
from .host import TrialOver
from .moments import Asked, Moments
from .names import CALLED_DIRECTLY
from .observe import OUTCOME, Observable
from .plan import Arrangement, Plan, PlayerInput
from .player import Player
from .recorder import Sampler, keep
from .timers import Timers
from .trace import Trace
from .variables import Variables, getter
from .waits import Sleeper

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
    each: Asked | None = None,
    record: bool = False,
    limits: Limits = DEFAULT_LIMITS,
) -> Trace:
    """Plays one trial.

    `observe` is sampled at the end of each frame. `names` gives for each variable asked for the
    other names under which a script may keep it. `watch` are pair events to look at even where
    no handler does; `each` are
    events with what is asked of every one. With `record` the trace is whole; without, it holds the samples, the story
    and the end. Raises nothing for what a script does: a stop stands in the trace.
    """
    run = Run(woven, scene, plan, tuple(observe), names or {}, tuple(watch), each or {}, record=record, limits=limits)
    return run.go()


class Run(Firing):
    """The mutable state of one trial; made anew for each."""

    def __init__(
        self,
        woven: Woven,
        scene: SceneSpec,
        plan: Plan,
        observe: tuple[Observable, ...],
        names: Mapping[str, tuple[str, ...]],
        watch: tuple[Event, ...],
        each: Asked,
        *,
        record: bool,
        limits: Limits,
    ) -> None:
        counted = [what.event for what in observe if what.event is not None]
        counted += each
        counted += [given.until for given in plan.inputs if given.until is not None]
        super().__init__(woven, SceneState(scene, plan.seed), plan, limits, counted, record=record)
        self.samples: dict[Observable, Timeline] = {
            what: Timeline([], []) for what in dict.fromkeys((*observe, OUTCOME))
        }
        self.player = Player(self)
        self.variables = Variables(self._globals, self.game._values, names)
        getters = {what: getter(what, self, self.variables) for what in self.samples}
        for what in (what for asked in each.values() for what in asked):
            getters.setdefault(what, getter(what, self, self.variables))
        self._getters = getters
        self._sampler = Sampler([(timeline, getters[what]) for what, timeline in self.samples.items()])
        self.moments = Moments(each, getters) if each else None
        self._first: dict[Observable, Any] = {}
        self._begin: dict[Observable, Any] = {}
        self._timers = Timers(scene.spawner)
        self._spawned: dict[str, int] = {}
        self._later: list[Arrangement] = []
        self._unarranged: tuple[str, ...] = ()
        for event in (*counted, *watch):
            if event.kind in PAIR_EVENTS:
                self.pairs.ask(event, None)

    # ---- the trial

    def go(self) -> Trace:
        """Plays the trial to its end, or to where the script is stopped."""
        due: dict[int, list[PlayerInput]] = {}
        for given in self.plan.inputs:
            due.setdefault(given.frame, []).append(given)
        try:
            self.begin()
            for frame in range(self.plan.last_frame + 1):
                self.next_frame(due.get(frame, ()))
            last = self.plan.last_frame
        except TrialOver:
            last = max(self.frame - 1, READING)
        return self.end(last)

    def begin(self) -> None:
        """Frame -1: the file is read, `start` handlers run, and the scenario puts things in place.

        Raises `TrialOver` where the script is stopped.
        """
        if self.recorder is not None:
            self.recorder.begin(READING)
        code = self._woven.recording if self.recorder is not None else self._woven.counting
        if not self._woven.script.straight:
            self._guarded(lambda: exec(code, self._globals))
            self.deliver()
            self.fire(Event("start"))
            if self.recorder is not None:
                self.recorder.cause = -1
                for body in self.scene.bodies:
                    body.stamp = max(body.stamp, READING)
                self.recorder.end(self.scene.bodies, ran=True)
        self._timers.add(self.handlers.timed())
        self._first = self._all_now()
        self._arrange()
        self._begin = self._all_now()

    def _all_now(self) -> dict[Observable, Any]:
        return {what: keep(self._getters[what]()) for what in self.samples}

    def next_frame(self, inputs: Iterable[PlayerInput]) -> None:
        """Plays one frame with these inputs. Raises `TrialOver` where the script is stopped."""
        self.frame += 1
        frame, scene, recorder = self.frame, self.scene, self.recorder
        self._ran = frame == 0
        if recorder is not None:
            recorder.begin(frame)
        if not self._still:
            self.player.release_due(frame)
            self.player.apply(inputs)
        if frame == 0 and self._woven.script.straight:
            self._begin_straight()
        if not self._still:
            if self.waits.sleepers or frame >= self._timers.next_frame:
                self._timers_and_waits(frame)
            if self.down and "held" in self.handlers.kinds:
                for key in sorted(self.down, key=self.down.__getitem__):
                    self.fire(Event("held", (key,)))
        if not self._still:
            for body in scene.step(frame, self.down):
                self.removed(body)
            if self._queue:
                self.deliver()
            self._meet(frame)
            if "frame" in self.handlers.kinds:
                self.fire(Event("frame"))
        self._sampler.sample(frame)
        if recorder is not None:
            recorder.end(scene.bodies, ran=self._ran)

    def end(self, last: int) -> Trace:
        """Ends the trial after a frame and freezes what it was."""
        recorder = self.recorder
        if recorder is not None and self.stop is not None:
            recorder.end(self.scene.bodies, ran=True)
        self.waits.stop()
        self.story.finish()
        if recorder is not None:
            for pair in self.pairs.overlapping():
                self._note_overlap(pair, self.frame)
        return self._freeze(last)

    # ---- the parts of a frame

    def _timers_and_waits(self, frame: int) -> None:
        """Step 2, by due time and then age: timers are older than any handler that waits."""
        due: list[tuple[float, int, int, Event | SpawnerSpec | Sleeper]] = []
        if frame >= self._timers.next_frame:
            due += [(round(time, 9), 0, timer.age, timer.what) for time, timer in self._timers.due(frame)]
        due += [(round(sleeper.due, 9), 1, sleeper.order, sleeper) for sleeper in self.waits.due(frame)]
        for _, _, _, what in sorted(due, key=lambda entry: entry[:3]):
            if isinstance(what, Event):
                self.fire(what)
            elif isinstance(what, SpawnerSpec):
                self._spawn(what)
            elif what in self.waits.sleepers:  # else another one ended it
                self._resume(what)

    def _spawn(self, spawner: SpawnerSpec) -> None:
        turn = self._spawned.get(spawner.name, 0)
        if spawner.name in self.frozen_spawners or turn >= spawner.most or self.scene.full:
            return
        self._spawned[spawner.name] = turn + 1
        body = self.scene.spawn(spawner.mould, self.scene.place_of(spawner, turn), self.frame)
        self.joined(body)
        self.fire_piece("appeared", body)

    def joined(self, body: Body) -> None:
        """A piece was added or came back; what the scenario arranges for its kind holds for it too."""
        for line in self._later:
            if line.owner == body.kind and not body.removed_by:
                self._arrange_body(body, line)
        super().joined(body)

    def _begin_straight(self) -> None:
        """A straight script runs once, from the first frame on."""
        code = self._woven.recording if self.recorder is not None else self._woven.counting
        self._ran = True
        self._guarded(lambda: self.waits.run(lambda: exec(code, self._globals)))
        self.deliver()

    def _resume(self, sleeper: Sleeper) -> None:
        """Goes on with a handler whose waiting is over."""
        self._handler, self._depth, cause, self._about = sleeper.context
        self._ran = True
        if self.recorder is not None:
            self.recorder.handler = self._handler.name if self._handler else None
            self.recorder.cause = cause
        self._guarded(lambda: self.waits.resume(sleeper))
        self._handler = None
        if self.recorder is not None:
            self.recorder.handler = None
        if self._queue:
            self.deliver()

    def _meet(self, frame: int) -> None:
        """Step 5: finds the overlaps that begin, last or end, and runs what waits for them."""
        contacts = self.scene.contacts
        for pair in self.pairs.walk(frame):
            if pair.gone:
                continue
            a, b = pair.first, pair.second
            touching = bool(contacts) and pair.key in contacts
            if a.stamp >= frame or b.stamp >= frame or touching or pair.touching or frame == 0:
                pair.touching = touching
                now = overlap(a, b) or (touching and a.present and b.present)
            else:
                now = pair.on
            if now:
                if not pair.on:
                    pair.on, pair.since = True, frame
                    self.fire_pair("meets", pair)
                if ("overlaps" in pair.handlers or "overlaps" in pair.patterns) and a.present and b.present:
                    self.fire_pair("overlaps", pair)
            elif pair.on:
                pair.on = False
                self._note_overlap(pair, frame - 1)
                self.fire_pair("parts", pair)

    # ---- arranging and the end

    def _arrange(self) -> None:
        """Applies the scenario's `arrange`."""
        missing: list[str] = []
        for line in self.plan.arrange:
            if line.owner is None and line.name == "place":
                self.showing.place = str(line.value)
            elif line.owner is None and line.name in self.facts:
                self.set_fact(line.name, line.value)
            elif line.owner is None:
                bound = self.variables.arrange(line.name, line.value)
                if bound is None:
                    missing.append(line.name)
                elif self.recorder is not None:
                    self.recorder.arranged(bound, line.value)
            elif line.owner == "game":
                setattr(self.game, line.name, line.value)
            else:
                for body in self.scene.named(line.owner):
                    self._arrange_body(body, line)
                if line.owner in self.scene.spec.kinds:
                    self._later.append(line)
        self._unarranged = tuple(missing)

    def _arrange_body(self, body: Body, line: Arrangement) -> None:
        if line.name == "removed":
            if line.value and not body.removed:
                body.removed = True
                self.pairs.removed(body)
            elif not line.value and body.removed:
                body.removed, body.removed_by = False, None
                super().joined(body)
        elif not body.removed:
            setattr(self.handle(body), line.name, line.value)
        body.stamp = max(0, self.frame)

    def _freeze(self, last: int) -> Trace:
        names = [what.name for what in self.samples if what.what == "variable"]
        trace = Trace(
            last_frame=last,
            planned=self.plan.last_frame,
            outcome=self.outcome,
            stopped=self.stop,
            samples=self.samples,
            story=tuple(self.story.lines),
            final={name: keep(self.variables.read(name)) for name in names},
            passes=self._limits.passes_a_trial - self._left,
            first=self._first,
            begin=self._begin,
            moments={event: tuple(found) for event, found in self.moments.found.items()} if self.moments else {},
            unarranged=self._unarranged,
            bound={name: self.variables.bound(name) or "" for name in names},
            missed=tuple(self.missed),
        )
        recorder = self.recorder
        if recorder is None:
            return trace
        showing = self.showing
        return replace(
            trace,
            changes=tuple(recorder.changes),
            tests=tuple(recorder.tests),
            events=tuple(recorder.events),
            board=tuple(showing.shown),
            offers=tuple(showing.offered),
            questions=tuple(showing.asked),
            sounds=tuple(showing.sounds),
            messages=tuple(showing.sent),
            places=tuple(showing.places),
            facts=tuple(self.fact_changes),
            keys=tuple(recorder.keys),
            pieces=recorder.pieces,
            overlaps=tuple(recorder.overlaps),
            lines=recorder.lines,
            removals={body.name: body.removed_by for body in self.scene.bodies if body.removed_by},
            thinned=tuple(recorder.thinned),
        )
