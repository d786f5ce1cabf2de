"""What the player does: keys with their holds, clicks, choices, answers, words, facts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..events import Event
from .dispatcher import Dispatcher
from .observe import same_words
from .plan import PlayerInput
from .state import GameState
from .timers import NEVER


@dataclass(slots=True, eq=False)
class Hold:
    """A key that is down: the frame in which it comes up, and the event that lets it come up before."""

    key: str
    order: int
    up: int
    until: Event | None
    seen: int
    """How often that event had come when the key went down."""


class Player:
    """Applies inputs to a running game."""

    def __init__(self, state: GameState, dispatcher: Dispatcher) -> None:
        self._game = state
        self._events = dispatcher
        self._holds: dict[str, Hold] = {}
        self._order = 0

    def release_due(self, frame: int) -> None:
        """Lets the keys come up whose hold has ended, in the order in which they were written."""
        if not self._holds:
            return
        counts = self._game.handlers.counts
        over = [
            hold
            for hold in self._holds.values()
            if hold.up <= frame or (hold.until is not None and counts[hold.until] > hold.seen)
        ]
        for hold in sorted(over, key=lambda hold: hold.order):
            self.release(hold.key)

    @property
    def next_release(self) -> int:
        """The frame in which the next key comes up: 0 where one is due already, `NEVER` where none is down."""
        if not self._holds:
            return NEVER
        counts = self._game.handlers.counts
        return min(0 if self._is_over(hold, counts) else hold.up for hold in self._holds.values())

    @staticmethod
    def _is_over(hold: Hold, counts: Mapping[Event, int]) -> bool:
        """Whether the event has come until which a key is held."""
        return hold.until is not None and counts[hold.until] > hold.seen

    def up_at(self, key: str, frame: int) -> None:
        """Sets when a key that is down comes up."""
        if key in self._holds:
            self._holds[key].up = frame

    def release(self, key: str) -> None:
        """A key comes up."""
        game = self._game
        if self._holds.pop(key, None) is None:
            return
        del game.down[key]
        if game.recorder is not None:
            game.recorder.keys.append((game.frame, key, False))
        self._events.fire(Event("released", (key,)))

    def apply(self, inputs: Iterable[PlayerInput]) -> None:
        """Inputs that are due, in written order."""
        for given in inputs:
            match given.kind:
                case "press" | "hold":
                    self._press(given)
                case "click":
                    self._click(given)
                case "pick":
                    self._pick(given.what)
                case "answer":
                    self._answer(given.what)
                case "type":
                    self._events.fire(Event("typed", (same_words(given.what),)))
                case "set":
                    self._game.set_fact(given.what, given.value)

    def _press(self, given: PlayerInput) -> None:
        game, key = self._game, given.what
        self._order += 1
        hold = self._holds.get(key)
        if hold is not None:
            hold.up = max(hold.up, given.up)
            game.miss(f'"{key}" goes down', "the key was down already")
            return
        seen = game.handlers.counts[given.until] if given.until is not None else 0
        self._holds[key] = Hold(key, self._order, given.up, given.until, seen)
        game.down[key] = game.frame
        if game.recorder is not None:
            game.recorder.keys.append((game.frame, key, True))
        self._events.fire(Event("pressed", (key,)))

    def _click(self, given: PlayerInput) -> None:
        game = self._game
        if given.value is not None:
            self._events.fire_piece("clicked", game.scene.topmost(*given.value))
            return
        body = game.scene.by_name.get(given.what)
        if body is not None and body.present:
            self._events.fire_piece("clicked", body)
            return
        why = "is not there" if body is None else "was removed" if body.removed else "is hidden"
        game.miss(f"a click on {given.what}", f"`{given.what}` {why}")
        self._events.fire_piece("clicked", game.scene.topmost(body.x, body.y) if body is not None else None)

    def _pick(self, label: str) -> None:
        game = self._game
        if not game.showing.withdraw(label, game.spot()):
            game.miss(f'picking "{label}"', "it was not on offer then")
            return
        self._events.fire(Event("picked", (label,)))

    def _answer(self, text: str) -> None:
        game = self._game
        if not game.showing.questions:
            game.miss(f'the answer "{text}"', "nobody had asked")
            return
        game.showing.questions.pop(0)
        if game.take_answer(text):
            return
        self._events.fire(Event("replied"), text)
