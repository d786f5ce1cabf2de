"""One trial, frame by frame, in the fixed order:

1. keys released by the end of a hold, then inputs due; 2. timers, spawners and waits due; 3. `held`;
4. motions; 5. pair by pair `meets` with `overlaps`, or `parts`; 6. `frame`; 7. the state is sampled.

A run has a game (`state.py`), a host for the script (`host.py`), a dispatcher of events (`dispatcher.py`), a player
(`player.py`) and a recorder (`recorder.py`); none of them knows of the run.
"""

from __future__ import annotations

import gc
from collections.abc import Collection, Iterable
from dataclasses import replace
from typing import Any, Final

from ..events import PAIR_EVENTS, Event
from ..scene import Body, SceneSpec, SceneState, SpawnerSpec, overlap
from ..script import DIRECT, Woven
from ..words import READING, Timeline
from .dispatcher import Dispatcher
from .handlers import Handlers
from .host import Host, TrialOver
from .moments import Moments
from .names import CALLED_DIRECTLY
from .observe import OUTCOME, Observable
from .options import Options
from .plan import Arrangement, Plan, PlayerInput
from .player import Player
from .quiet import Quiet
from .recorder import Recorder, keep
from .sampler import MovingSampler, Sampler
from .state import GameState
from .steadily import Steadily
from .timers import Timers
from .trace import Trace
from .variables import Variables, getter
from .waits import Sleeper

PARTS_OF_A_PASS: Final = 8
"""Parts of a sampled collection that are as much work as a pass of a loop."""
SHORTEST_GLIDE: Final = 3
"""Frames: fewer are gone through one by one."""
BETWEEN_GLIDES: Final = 4
"""Frames that are gone through one by one before several at once are tried again."""
KNOWN_FUNCTIONS: Final = CALLED_DIRECTLY | DIRECT
"""What `weave` may take for a function that needs no guard at the place of its call."""


def play(woven: Woven, scene: SceneSpec, plan: Plan, options: Options | None = None) -> Trace:
    """Plays one trial. Raises nothing for what a script does: a stop stands in the trace."""
    collects = gc.isenabled()
    gc.disable()  # what a script holds is walked over and over otherwise, and its limits bound it anyway
    try:
        return Run(woven, scene, plan, options or Options()).go()
    finally:
        if collects:
            gc.enable()


class Run:
    """The mutable state of one trial; made again for each."""

    def __init__(self, woven: Woven, scene: SceneSpec, plan: Plan, options: Options) -> None:
        counted = [what.event for what in options.observe if what.event is not None]
        counted += options.each
        counted += [given.until for given in plan.inputs if given.until is not None]
        recorder = Recorder(woven) if options.record else None
        straight = woven.script.straight
        self.plan = plan
        self.state = GameState(
            SceneState(scene, plan.seed), plan, options.limits, Handlers(counted), recorder, straight=straight
        )
        self.host = Host(woven, self.state, options.limits)
        self.dispatcher = Dispatcher(self.host, waits=woven.waits)
        self.player = Player(self.state, self.dispatcher)
        self.variables = Variables(self.host.globals, self.state.game._values, options.names)
        self.samples: dict[Observable, Timeline] = {
            what: Timeline([], []) for what in dict.fromkeys((*options.observe, OUTCOME))
        }
        getters = {what: getter(what, self.state, self.variables) for what in self.samples}
        for what in (what for asked in options.each.values() for what in asked):
            getters.setdefault(what, getter(what, self.state, self.variables))
        self._getters = getters
        self._sampler = Sampler([(timeline, getters[what]) for what, timeline in self.samples.items()])
        self._moving = MovingSampler(self.samples, getters)
        self._skips = options.skips and recorder is None
        self.dispatcher.moments = Moments(options.each, getters) if options.each else None
        self._steadily = Steadily(self.dispatcher, self.host, woven)
        self._first: dict[Observable, Any] = {}
        self._begin: dict[Observable, Any] = {}
        self._timers = Timers(scene.spawner)
        self._spawned: dict[str, int] = {}
        self._unarranged: tuple[str, ...] = ()
        self._arranged = False
        """Whether something was put in place since the last frame."""
        for event in (*counted, *options.watch):
            if event.kind in PAIR_EVENTS:
                self.state.pairs.ask(event, None)

    @property
    def frame(self) -> int:
        """The frame that was played last; -1 while the file is read."""
        return self.state.frame

    # ---- the trial

    def go(self) -> Trace:
        """Plays the trial to its end, or to where the script is stopped."""
        due: dict[int, list[PlayerInput]] = {}
        for given in self.plan.inputs:
            due.setdefault(given.frame, []).append(given)
        put: dict[int, list[Arrangement]] = {}
        for after, line in self.plan.put:
            put.setdefault(after, []).append(line)
        try:
            self.begin()
            frame, last = 0, self.plan.last_frame
            steadily = self._steadily
            quiet = Quiet(self.state, self.player, self._timers, [*due, *put], steadily) if self._skips else None
            while frame <= last:
                if quiet is not None:
                    end, moving = quiet.until(frame, last, still=self.dispatcher.still)
                    if end > frame:
                        end, passed = self._pass(frame, end, moving)
                        if "frame" in self.state.handlers.kinds and not self.dispatcher.still:
                            steadily.passed(passed)
                        frame = end
                        continue
                self.next_frame(due.get(frame, ()))
                if frame in put:
                    self.put(put[frame])
                frame += 1
        except TrialOver:
            last = max(self.frame - 1, READING)
        return self.end(last)

    def _pass(self, frame: int, end: int, moving: Collection[int]) -> tuple[int, int]:
        """Plays quiet frames up to `end`: pieces move on, and nothing else. Gives the frame to go on with, and how many
        were quiet.

        `moving` are the indexes of the pieces that may move.
        """
        state, scene, sample = self.state, self.state.scene, self._moving.sample
        alone = self._moving.can_glide(scene.by_name, moving)
        number, ahead = frame, end - frame
        while number < end:
            if alone and ahead >= SHORTEST_GLIDE:
                ways = scene.glide(number, ahead, state.down, moving) if moving else {}
                if ways is not None:
                    self._moving.glided(number, scene.by_name, ways)
                    number += ahead
                    state.frame = number - 1
                    ahead = end - number
                else:
                    ahead //= 2  # something lands or meets an edge on the way: up to there, and on behind it
                continue
            until = min(number + BETWEEN_GLIDES, end)
            while number < until:
                state.frame = number
                left = scene.step(number, state.down) if moving else []
                if left:  # a piece left the scene: what waits for that comes in this frame
                    self._after_motions(number, left)
                    self._sampler.sample(number)
                    return number + 1, number - frame
                sample(number)
                number += 1
            ahead = end - number
        return end, end - frame

    def begin(self) -> None:
        """Frame -1: the file is read, `start` handlers run, and the scenario puts things in place.

        Raises `TrialOver` where the script is stopped.
        """
        state = self.state
        if state.recorder is not None:
            state.recorder.begin(READING)
        if not state.straight:
            self.host.run(self.host.read_file)
            self.dispatcher.deliver()
            self.dispatcher.fire(Event("start"))
            if state.recorder is not None:
                state.recorder.cause = -1
                for body in state.scene.bodies:
                    body.stamp = max(body.stamp, READING)
                state.recorder.end(state.scene.bodies, ran=True)
        self._timers.add(state.handlers.timed())
        self._first = self._all_now()
        self._unarranged = self.put(self.plan.arrange)
        self._begin = self._all_now()

    def _all_now(self) -> dict[Observable, Any]:
        return {what: keep(self._getters[what]()) for what in self.samples}

    def next_frame(self, inputs: Iterable[PlayerInput]) -> None:
        """Plays one frame with these inputs. Raises `TrialOver` where the script is stopped."""
        state, dispatcher = self.state, self.dispatcher
        state.frame += 1
        frame, scene, recorder = state.frame, state.scene, state.recorder
        dispatcher.ran = frame == 0
        dispatcher.happened = frame == 0 or bool(inputs) or self._arranged
        self._arranged = False
        if recorder is not None:
            recorder.begin(frame)
        if not dispatcher.still:
            self.player.release_due(frame)
            self.player.apply(inputs)
        if frame == 0 and state.straight:
            self._begin_straight()
        if not dispatcher.still:
            if state.waits.sleepers or frame >= self._timers.next_frame:
                self._timers_and_waits(frame)
            if state.down and "held" in state.handlers.kinds:
                for key in sorted(state.down, key=state.down.__getitem__):
                    dispatcher.fire(Event("held", (key,)))
        if not dispatcher.still:
            self._after_motions(frame, scene.step(frame, state.down))
        if self._skips and not dispatcher.happened:
            self._moving.sample(frame)
        else:
            self._sampler.sample(frame)
        if recorder is not None:
            recorder.end(scene.bodies, ran=dispatcher.ran)

    def _after_motions(self, frame: int, left: list[Body]) -> None:
        """Steps 5 and 6, and before them what left the scene."""
        for body in left:
            self.dispatcher.happened = True
            self.state.removed(body)
        if self.state.queue:
            self.dispatcher.deliver()
        self._meet(frame)
        if "frame" in self.state.handlers.kinds:
            if self._skips:
                self._steadily.each_frame()
            else:
                self.dispatcher.each_frame()

    def end(self, last: int) -> Trace:
        """Ends the trial after a frame and freezes what it was."""
        state = self.state
        if state.recorder is not None and self.host.stop is not None:
            state.recorder.end(state.scene.bodies, ran=True)
        state.waits.stop()
        state.story.finish()
        if state.recorder is not None:
            for pair in state.pairs.overlapping():
                state.note_overlap(pair, state.frame)
        return self._freeze(last)

    # ---- the parts of a frame

    def _timers_and_waits(self, frame: int) -> None:
        """Step 2, by due time and then age: timers are older than any handler that waits."""
        due: list[tuple[float, int, int, Event | SpawnerSpec | Sleeper]] = []
        if frame >= self._timers.next_frame:
            due += [(round(time, 9), 0, timer.age, timer.what) for time, timer in self._timers.due(frame)]
        due += [(round(sleeper.due, 9), 1, sleeper.order, sleeper) for sleeper in self.state.waits.due(frame)]
        for _, _, _, what in sorted(due, key=lambda entry: entry[:3]):
            if isinstance(what, Event):
                self.dispatcher.fire(what)
            elif isinstance(what, SpawnerSpec):
                self._spawn(what)
            elif what in self.state.waits.sleepers:  # else another one ended it
                self.dispatcher.resume(what)

    def _spawn(self, spawner: SpawnerSpec) -> None:
        state = self.state
        turn = self._spawned.get(spawner.name, 0)
        if spawner.name in state.frozen_spawners or turn >= spawner.most or state.scene.full:
            return
        self._spawned[spawner.name] = turn + 1
        body = state.scene.spawn(spawner.mould, state.scene.place_of(spawner, turn), state.frame)
        state.joined(body)
        self.dispatcher.fire_piece("appeared", body)

    def _begin_straight(self) -> None:
        """A straight script runs once, from the first frame on."""
        self.dispatcher.ran = True
        self.host.run(self.state.waits.run, self.host.read_file)
        self.dispatcher.deliver()

    def _meet(self, frame: int) -> None:
        """Step 5: finds the overlaps that begin, last or end, and runs what waits for them."""
        contacts = self.state.scene.contacts
        for pair in self.state.pairs.walk(frame):
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
                    self.dispatcher.fire_pair("meets", pair)
                if ("overlaps" in pair.handlers or "overlaps" in pair.patterns) and a.present and b.present:
                    self.dispatcher.fire_pair("overlaps", pair)
            elif pair.on:
                pair.on = False
                self.state.note_overlap(pair, frame - 1)
                self.dispatcher.fire_pair("parts", pair)

    # ---- arranging and the end

    def put(self, lines: Iterable[Arrangement]) -> tuple[str, ...]:
        """Puts things in place. Gives the variables that the script does not have."""
        state = self.state
        self._arranged = True
        missing: list[str] = []
        for line in lines:
            if line.owner is None and line.name == "place":
                state.showing.place = str(line.value)
            elif line.owner is None and line.name in state.facts:
                state.set_fact(line.name, line.value)
            elif line.owner is None:
                bound = self.variables.arrange(line.name, line.value)
                if bound is None:
                    missing.append(line.name)
                elif state.recorder is not None:
                    state.recorder.arranged(bound, line.value)
            elif line.owner == "game":
                setattr(state.game, line.name, line.value)
            else:
                state.arrange_kind(line)
        return tuple(missing)

    def _freeze(self, last: int) -> Trace:
        state, moments = self.state, self.dispatcher.moments
        names = [what.name for what in self.samples if what.what == "variable"]
        trace = Trace(
            last_frame=last,
            planned=state.plan.last_frame,
            outcome=state.outcome,
            stopped=self.host.stop,
            samples=self.samples,
            story=tuple(state.story.lines),
            log=tuple(state.story.log),
            final={name: keep(self.variables.read(name)) for name in names},
            passes=self.host.passes + self._sampler.parts // PARTS_OF_A_PASS + state.waits.work,
            first=self._first,
            begin=self._begin,
            moments={event: tuple(found) for event, found in moments.found.items()} if moments is not None else {},
            unarranged=self._unarranged,
            bound={name: self.variables.bound(name) or "" for name in names},
            missed=tuple(state.missed),
        )
        recorder = state.recorder
        if recorder is None:
            return trace
        showing = state.showing
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
            facts=tuple(state.fact_changes),
            keys=tuple(recorder.keys),
            pieces=recorder.pieces,
            overlaps=tuple(recorder.overlaps),
            lines=recorder.lines,
            removals={body.name: body.removed_by for body in state.scene.bodies if body.removed_by},
            thinned=tuple(recorder.thinned),
            steps=tuple(recorder.steps),
        )
