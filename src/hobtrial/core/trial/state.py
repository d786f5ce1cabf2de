"""The game of one trial while it runs: what there is, and what the calls of a script do to it.

Handles and the names of a script end up here. It runs nothing itself: what a call causes is queued, and the
dispatcher (`dispatcher.py`) delivers it when the handler has ended or waits.
"""

from __future__ import annotations

from collections import deque
from enum import EnumMeta
from typing import Any, Final, NamedTuple

from ..events import PAIR_EVENTS, Event, EventKind
from ..scene import MOST_PIECES, Body, SceneState
from ..script import Halt, Limits, str_of
from ..words import FRAMES_PER_SECOND, READING, GameError, Outcome, frame_of, short_text
from .handlers import Handler, Handlers
from .handles import GameHolder, PieceHandle, had_value
from .lines import script_line
from .pairs import Pair, Pairs
from .plan import Arrangement, Plan
from .recorder import Recorder
from .showing import Showing, Spot
from .story import Story
from .trace import Missed, Overlapped, StoryLine
from .waits import Waits

MOST_MESSAGES: Final = 1_000
"""Events that a script may cause in one frame: a loop of messages that never ends comes here."""
MOST_MESSAGES_A_TRIAL: Final = 20_000
"""The same in one trial: far more than anybody can follow."""
MOST_MISSED: Final = 200
"""Things that came to nothing that are kept: the first ones tell."""


class Context(NamedTuple):
    """What belongs to a run of a handler, and is restored when it goes on after waiting."""

    handler: Handler | None
    depth: int
    cause: int
    about: tuple[int, ...]
    """The indexes of the pieces that its event was about."""


class Queued(NamedTuple):
    """An event that the script caused: it is delivered when the handler that caused it has ended or waits."""

    kind: EventKind
    body: Body | None
    text: str
    line: int


class GameState:
    """Scene, facts, outcome, scoreboard, story, handlers and waiting handlers of one trial."""

    def __init__(
        self,
        scene: SceneState,
        plan: Plan,
        limits: Limits,
        handlers: Handlers,
        recorder: Recorder | None,
        *,
        straight: bool,
    ) -> None:
        self.scene = scene
        self.plan = plan
        self.handlers = handlers
        self.pairs = Pairs(scene)
        self.recorder = recorder
        self.straight = straight
        """Whether the script runs from top to bottom."""
        self.frame = READING
        self.outcome: Outcome = "playing"
        self.down: dict[str, int] = {}
        """The keys that are down, each with the frame in which it went down."""
        self.facts: dict[str, Any] = {fact.name: fact.start for fact in scene.spec.fact}
        self.fact_changes: list[tuple[int, str, Any]] = []
        self.frozen_spawners: set[str] = set()
        self.missed: list[Missed] = []
        self.showing = Showing()
        self.story = Story(limits, lambda: (self.frame, script_line()), self._told, log_prints=plan.log_prints)
        self.game = GameHolder(self)
        self.script: dict[str, Any] = {}
        """The globals of the script; the host puts them here."""
        self.names: dict[str, Any] = {}
        """The names that are ready made for the script; `Host` fills it."""
        self.queue: deque[Queued] = deque()
        self.handler: Handler | None = None
        """The handler that is running, how deep its calls are, and the pieces that its event was about."""
        self.depth = 0
        self.about: tuple[int, ...] = ()
        self.line = 0
        """The line of the last store on a piece or `game`."""
        self.waits = Waits(lambda: self.frame, self.context)
        self.answered: list[tuple[int, str]] = []
        """The answers that a straight script took, with their frames."""
        self._answers = list(plan.answers)
        self._handles: dict[int, PieceHandle] = {}
        self._later: list[Arrangement] = []
        self._queued = (READING, 0)
        self._caused = 0
        self._asking = False

    def _told(self, line: StoryLine) -> None:
        if self.recorder is not None:
            self.recorder.step("asked" if self._asking else "told", line.line, line.text)

    def context(self) -> Context:
        """What must be restored when the running handler goes on."""
        return Context(self.handler, self.depth, self.recorder.cause if self.recorder else -1, self.about)

    # ---- handlers and pieces

    def register(self, function: Any, events: tuple[Event, ...], takes: int) -> None:
        """Adds a handler, for each of its events once, in file order."""
        handler, distinct = self.handlers.add(function, events, takes)
        for event in distinct:
            if event.kind in PAIR_EVENTS:
                self.pairs.ask(event, handler)

    def touched(self, body: Body) -> None:
        """A script changed a piece: its pairs are looked at again in this frame and the next."""
        body.stamp = self.frame + 1
        self.pairs.stirred(body)

    def joined(self, body: Body) -> None:
        """A piece was added or came back; what the scenario arranges for its kind holds for it too."""
        for line in self._later:
            if line.owner == body.kind and not body.removed_by:
                self.arrange_body(body, line)
        self.pairs.appeared(body)

    def removed(self, body: Body) -> None:
        """A piece was taken off the scene: its pairs end without `parts`."""
        body.let_go()
        for pair in self.pairs.removed(body):
            self.note_overlap(pair, max(self.frame, 0))
        self.cause("gone", body)

    def note_overlap(self, pair: Pair, last: int) -> None:
        """Records an overlap that ended."""
        if self.recorder is not None:
            self.recorder.overlaps.append(Overlapped(pair.first.name, pair.second.name, pair.since, last))

    def arrange_body(self, body: Body, line: Arrangement) -> None:
        """Puts a piece as a scenario wants it."""
        if line.name == "removed":
            if line.value and not body.removed:
                body.removed = True
                self.pairs.removed(body)
            elif not line.value and body.removed:
                body.removed, body.removed_by = False, None
                self.pairs.appeared(body)
        elif not body.removed:
            setattr(self.handle(body), line.name, line.value)
        body.stamp = max(0, self.frame)

    def arrange_kind(self, line: Arrangement) -> None:
        """Puts the pieces of a name or kind as a scenario wants them, later ones of a kind too."""
        assert line.owner is not None
        for body in self.scene.named(line.owner):
            self.arrange_body(body, line)
        if line.owner in self.scene.spec.kinds:
            self._later.append(line)

    def set_fact(self, name: str, value: Any) -> None:
        """Gives a fact another value."""
        self.facts[name] = value
        self.names[name] = self._member(value)
        self.fact_changes.append((self.frame, name, value))

    def bind_members(self) -> None:
        """Facts that begin with a member of an enumeration of the script, such as "Day.NOON", become that member."""
        for name, value in self.facts.items():
            self.names[name] = self._member(value)

    def _member(self, value: Any) -> Any:
        """The member of the script's enumeration that a text such as "Day.NOON" names; else the value itself."""
        owner, dot, name = value.partition(".") if isinstance(value, str) else ("", "", "")
        listed = self.script.get(owner) if dot else None
        if isinstance(listed, EnumMeta):
            return listed.__members__.get(name, value)
        return value

    # ---- what handles and calls tell

    def cause(self, kind: EventKind, body: Body | None = None, text: str = "") -> None:
        """Queues an event that the script brought about."""
        frame, number = self._queued
        self._queued = (self.frame, number + 1 if frame == self.frame else 1)
        self._caused += 1
        if self._queued[1] > MOST_MESSAGES or self._caused > MOST_MESSAGES_A_TRIAL:
            often = f"{MOST_MESSAGES:,} messages in one frame"
            if self._queued[1] <= MOST_MESSAGES:
                often = f"{MOST_MESSAGES_A_TRIAL:,} messages in one trial"
            raise Halt("messages", f"More than {often}.", script_line())
        self.queue.append(Queued(kind, body, text, script_line()))

    def handle(self, body: Body) -> PieceHandle:
        """The one handle of a piece."""
        handle = self._handles.get(body.index)
        if handle is None:
            handle = self._handles[body.index] = PieceHandle(body, self)
        return handle

    def spot(self) -> Spot:
        """The present frame and the line of the script that is running."""
        return Spot(self.frame, script_line())

    def told(self, text: Any, body: Body) -> None:
        """A piece tells something."""
        self.story.tell(str_of(text), body.name)

    def walk(self, body: Body, to: tuple[float, float], seconds: float) -> None:
        """Moves a piece at an even pace while the handler waits; a removed piece stays where it is."""
        first, x, y = max(self.frame, 0), body.x, body.y
        frames = max(1, frame_of(first / FRAMES_PER_SECOND + seconds) - first)
        for step in range(1, frames + 1):
            self.waits.sleep_until(first + step, (first + step) / FRAMES_PER_SECOND)
            if body.removed:
                return
            body.x = round(x + (to[0] - x) * step / frames, 6)
            body.y = round(y + (to[1] - y) * step / frames, 6)
            self.touched(body)

    def stop_waits_of(self, body: Body) -> None:
        """Ends the waiting handlers that were started for a piece."""
        self.waits.stop(lambda context: body.index in context.about)

    def miss(self, what: str, why: str) -> None:
        """Notes something that came to nothing."""
        if len(self.missed) < MOST_MISSED:
            self.missed.append(Missed(self.frame, what, why))

    def stored(self, name: str, old: Any, new: Any) -> None:
        """A variable of a piece or of `game` was set."""
        if self.recorder is not None:
            if had_value(old):
                self.recorder.known(name, old)
            self.recorder.change(self.line, "script", name, new)

    def script_line(self) -> int:
        """The line of the script that is running."""
        return script_line()

    def end_with(self, outcome: Outcome, text: str) -> None:
        """The game is won or lost; the first counts."""
        if self.outcome != "playing":
            self.miss(outcome, f"the outcome was {self.outcome} already")
            return
        self.outcome = outcome
        if self.recorder is not None:
            self.recorder.change(script_line(), "script", "outcome", outcome)
        if text:
            self.story.tell(text)
        self.cause("finished")

    def play_again(self) -> None:
        """The outcome is "playing" once more; nothing else is put back."""
        if self.outcome != "playing":
            self.outcome = "playing"
            if self.recorder is not None:
                self.recorder.change(script_line(), "script", "outcome", "playing")

    def ask(self, text: str) -> str:
        """`input`: tells the question and waits for the scenario's next answer."""
        self._asking = True
        if text:
            self.story.tell(text)
        self._asking = False
        if not self._answers and not self.plan.by_hand:
            raise Halt("input", "The script asked once more than the scenario answers.", script_line())
        if not self._answers:
            self.showing.ask(text or "?", self.spot())
        while not self._answers:
            self.waits.sleep_until(self.frame + 1, (self.frame + 1) / FRAMES_PER_SECOND)
        frame, answer = self._answers.pop(0)
        if frame > self.frame:
            self.waits.sleep_until(frame, frame / FRAMES_PER_SECOND)
        self.answered.append((self.frame, answer))
        if self.recorder is not None:
            self.recorder.step("answered", script_line(), answer)
        return answer

    def take_answer(self, text: str) -> bool:
        """An answer by hand, for a script that waits in `input`; whether the script is of that kind."""
        if not self.straight:
            return False
        self._answers.append((self.frame, text))
        return True

    def enter(self, place: str) -> None:
        """The player is in another place from now on."""
        places = self.scene.spec.places
        if places and place not in places:
            raise GameError(
                f"There is no place {short_text(place)}. The places here are {', '.join(map(repr, places))}."
            )
        self.showing.go_to(place, self.spot())
        self.cause("entered", text=place)

    def spawn(self, kind: str, at: tuple[float, float]) -> Body:
        """Adds a piece of a kind."""
        mould = self.scene.mould_of(kind)
        if mould is None:
            kinds = ", ".join(f'"{each}"' for each in sorted(self.scene.spec.all_kinds))
            raise GameError(f"`spawn` takes the name of a kind in quotes. Here are {kinds}, and no {short_text(kind)}.")
        if self.scene.full:
            raise Halt("pieces", f"More than {MOST_PIECES} pieces were in the scene.", script_line())
        body = self.scene.spawn(mould, at, self.frame + 1)
        self.joined(body)
        self.cause("appeared", body)
        return body
