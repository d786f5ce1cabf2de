"""One trial, frame by frame, in the fixed order:

1. keys released by the end of a hold, then inputs due; 2. spawners due; 3. `held`; 4. motions;
5. pair by pair `meets` with `overlaps`, or `parts`; 6. `frame`; 7. the state is sampled.
"""

from __future__ import annotations

import builtins
import sys
from collections.abc import Callable, Hashable, Iterable, Mapping
from dataclasses import replace
from typing import Any, Final

from ..scene import Body, SceneSpec, SceneState, overlap
from ..script import DEFAULT_LIMITS, DIRECT, SCRIPT_FILE, Guards, Halt, Limits, Woven, builtins_of, stand_ins
from ..script.hints import loop_hint
from ..words import PAIR_EVENTS, READING, Event, EventKind, Outcome, Stop, Timeline, short_text
from .handles import HANDLES, GameHolder, PieceHandle, had_value
from .names import CALLED_DIRECTLY, game_names
from .observe import OUTCOME, Observable
from .pairs import Handler, Pair, Pairs
from .plan import Plan
from .recorder import Recorder, Sampler, keep
from .story import Story
from .trace import Shown, Trace
from .variables import Variables, getter
from .waits import Waits

KNOWN_FUNCTIONS: Final = CALLED_DIRECTLY | DIRECT
"""What `weave` may take for a function that needs no guard at the place of its call."""


class TrialOver(BaseException):
    """Unwinds to the end of the trial once the script was stopped."""


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


class Run:
    """The mutable state of one trial; made anew for each."""

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
        self.scene = SceneState(scene, plan.seed)
        self.plan = plan
        self.frame = READING
        self.outcome: Outcome = "playing"
        self.down: dict[str, int] = {}
        self.board: dict[str, Any] = {}
        self.shown: list[Shown] = []
        self.story = Story(limits, lambda: (self.frame, self.script_line()))
        self.game = GameHolder(self)
        self.recorder = Recorder(woven) if record else None
        self.guards = Guards(limits, HANDLES)
        self._woven = woven
        self._limits = limits
        self._handles: dict[int, PieceHandle] = {}
        self._handlers: dict[tuple[EventKind, tuple[str, ...]], list[Handler]] = {}
        self._registered = 0
        self._pairs = Pairs(self.scene)
        self._budget = self.guards.budget
        self._left = limits.passes_a_trial
        self._depth = 0
        self._handler: Handler | None = None
        self.waits = Waits(
            lambda: self.frame, lambda: (self._handler, self._depth, self.recorder.cause if self.recorder else -1)
        )
        self._answers = list(plan.answers)
        self._ran = False
        self._removed = False
        self._stop: Stop | None = None
        self._counts: dict[Event, int] = {what.event: 0 for what in observe if what.event is not None}
        self._globals: dict[str, Any] = self._namespace()
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

    def _namespace(self) -> dict[str, Any]:
        modules = stand_ins(self.guards, self.plan.seed, self.waits.wait)

        def module(name: str, part: str | None) -> Any:
            return modules[name] if part is None else getattr(modules[name], part)

        hidden: dict[str, Any] = {
            "__name__": "__main__",
            "__build_class__": builtins.__build_class__,
            "__b": self._budget,
            "__over": self._over,
            "__tick": self._tick,
            "__except": self._except,
            "__module": module,
            "__enter": self._enter,
            "__leave": self._leave,
            "__put": self._put,
            **self.guards.hidden(),
            **(self.recorder.hidden() if self.recorder else {}),
        }
        return {"__builtins__": {**builtins_of(self.guards), **game_names(self), **hidden}}

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

    def ask(self, text: str) -> str:
        """`input`: tells the question and waits for the scenario's next answer."""
        if text:
            self.story.tell(text)
        if not self._answers:
            raise Halt("input", "The script asked once more than the scenario answers.", self.script_line())
        frame, answer = self._answers.pop(0)
        if frame > self.frame:
            self.waits.sleep_until(frame, frame / 30)
        return answer

    def _guarded(self, work: Callable[[], Any]) -> None:
        """Runs a piece of the script under its budget; turns what ends it into a stop."""
        granted = self._budget[0] = min(self._limits.passes_a_handler, self._left)
        try:
            work()
        except Halt as halt:
            self._stopped(halt.kind, halt.message, halt.line or _line_of(halt), limit=True)
        except RecursionError as error:
            self._stopped("depth", "Functions called each other too deep.", _line_of(error), limit=True)
        except MemoryError as error:
            self._stopped("memory", "The script used more memory than a trial may.", _line_of(error), limit=True)
        except Exception as error:
            self._stopped(type(error).__name__, _message(error), _line_of(error), limit=False)
        self._left -= granted - self._budget[0]

    def _stopped(self, kind: str, message: str, line: int, *, limit: bool) -> None:
        name = self._handler.name if self._handler else None
        self._stop = Stop(self.frame, line, name, kind, message, limit)
        raise TrialOver

    # ---- what the woven code and the handles call

    def _over(self, line: int) -> None:
        if (
            self._left <= self._limits.passes_a_handler
            and self._budget[0] < 0
            and self._left < self._limits.passes_a_trial
        ):
            often = f"{self._limits.passes_a_trial:,} times in one trial"
        else:
            often = f"{self._limits.passes_a_handler:,} times in one frame"
        raise Halt("loop", loop_hint(self._woven.script, line, often), line)

    def _tick(self, line: int) -> bool:
        """A pass of a loop inside an expression, or a call of a lambda."""
        self._budget[0] -= 1
        if self._budget[0] < 0:
            self._over(line)
        return True

    def _except(self, line: int) -> None:
        """The body of an `except` begins: what no script may catch is raised again."""
        if isinstance(sys.exception(), (MemoryError, RecursionError)):
            raise Halt(
                "depth" if isinstance(sys.exception(), RecursionError) else "memory", "The script grew too large.", line
            )
        self._tick(line)

    def _enter(self, line: int) -> None:
        self._depth += 1
        if self._depth > self._limits.depth:
            raise Halt("depth", f"Functions called each other {self._limits.depth} deep.", line)

    def _leave(self) -> None:
        self._depth -= 1

    def _put(self, line: int, name: str, value: Any, owner: Any) -> None:
        if not isinstance(owner, HANDLES):
            raise Halt(
                "refused", f"Only pieces and `game` can hold variables of their own, not {short_text(owner)}.", line
            )
        self._line = line
        setattr(owner, name, value)

    def handle(self, body: Body) -> PieceHandle:
        """The one handle of a piece."""
        handle = self._handles.get(body.index)
        if handle is None:
            handle = self._handles[body.index] = PieceHandle(body, self)
        return handle

    def touched(self, body: Body) -> None:
        """A script changed a piece: its pairs are looked at again in this frame and the next."""
        body.stamp = self.frame + 1
        if body.removed:
            self._removed = True

    def stored(self, name: str, old: Any, new: Any) -> None:
        """A variable of a piece or of `game` was set."""
        if self.recorder is not None:
            if had_value(old):
                self.recorder.known(name, old)
            self.recorder.change(self._line, "script", name, new)

    def script_line(self) -> int:
        """The line of the script that is running."""
        frame = sys._getframe(1)
        while frame is not None:
            if frame.f_code.co_filename == SCRIPT_FILE:
                return frame.f_lineno
            frame = frame.f_back  # type: ignore[assignment]
        return 0

    def end_with(self, outcome: Outcome, text: str) -> None:
        """The game is won or lost; the first counts."""
        if self.outcome == "playing":
            self.outcome = outcome
            if self.recorder is not None:
                self.recorder.change(self.script_line(), "script", "outcome", outcome)
            if text:
                self.story.tell(text)

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


def _line_of(error: BaseException) -> int:
    """The last line of the script in an exception's traceback."""
    line, trace = 0, error.__traceback__
    while trace is not None:
        if trace.tb_frame.f_code.co_filename == SCRIPT_FILE:
            line = trace.tb_lineno
        trace = trace.tb_next
    return line


def _message(error: Exception) -> str:
    if isinstance(error, KeyError) and error.args:
        return repr(error.args[0])
    return str(error)[:500]
