"""What is new in a game by hand since it was last told: of the scene, and of the strip that is drawn meanwhile."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Final

from ..events import PAIR_EVENTS, EventKind
from ..scene import Body
from ..trial import Came, Observable, PlayerInput, Run, event_json, getter
from ..words import as_json_value

TOLD: Final[frozenset[EventKind]] = frozenset(
    ("every", "after", "appeared", "gone", "pressed", "clicked", "picked", "replied", "typed")
)
"""Events that the strip shows by themselves."""
MOST_EVENTS: Final = 20
"""Events of one frame that are told."""


class News:
    """Remembers what was told of a running game."""

    def __init__(self, run: Run, watched: Sequence[Observable]) -> None:
        self._run = run
        self._getters: dict[str, Any] = {}
        self.watch(watched)
        self._shown: dict[str, Any] = {}
        self._pieces: dict[str, list[Any]] = {}
        self._inputs: list[PlayerInput] = []
        self._handled: set[tuple[str | float, ...]] = set()
        self._seen = dict.fromkeys(("story", "sounds", "sent", "events", "overlaps"), 0)

    def watch(self, watched: Sequence[Observable]) -> None:
        """Tells the values of these things from now on."""
        self._getters = {str(what): getter(what, self._run.state, self._run.variables) for what in watched}

    def now(self, played: Sequence[PlayerInput], *, over: bool) -> dict[str, Any]:
        """What is new, as JSON; what is missing is as before."""
        run, state, showing = self._run, self._run.state, self._run.state.showing
        stop = run.host.stop
        whole = {
            "outcome": state.outcome,
            "board": [
                {"label": label, "value": as_json_value(value), "at": showing.spots[label]}
                for label, value in showing.board.items()
            ],
            "offers": list(showing.offers),
            "questions": list(showing.questions),
            "place": showing.place,
            "facts": dict(state.facts),
            "values": {name: as_json_value(get()) for name, get in self._getters.items()},
            "stopped": stop.as_json() if stop is not None else None,
            "over": over,
        }
        news: dict[str, Any] = {key: value for key, value in whole.items() if self._shown.get(key, whole) != value}
        self._shown.update(news)
        assert run.state.recorder is not None  # a game by hand is recorded
        came = self._further("events", run.state.recorder.events)
        self._handled |= {each.event.about for each in came if each.handlers and each.event.kind in PAIR_EVENTS}
        grown = {
            "pieces": self._moved(),
            "inputs": self._did(played),
            "story": [
                {"frame": line.frame, "line": line.line, "text": line.text, "who": line.who}
                for line in self._further("story", state.story.lines)
            ],
            "sounds": [sound.name for sound in self._further("sounds", showing.sounds)],
            "messages": [
                {"frame": sent.frame, "text": sent.text, "heard_by": list(sent.heard_by)}
                for sent in self._further("sent", showing.sent)
            ],
            "events": [_event(each) for each in came if each.event.kind in TOLD][:MOST_EVENTS],
            "overlaps": [
                {
                    "pair": [each.first, each.second],
                    "first": each.since,
                    "last": each.last,
                    "handled": (each.first, each.second) in self._handled,
                }
                for each in self._further("overlaps", run.state.recorder.overlaps)
            ],
        }
        return {"frame": run.frame, **news, **{key: value for key, value in grown.items() if value}}

    def _further(self, what: str, entries: Sequence[Any]) -> Sequence[Any]:
        """The entries of a growing list that were not told yet."""
        first, self._seen[what] = self._seen[what], len(entries)
        return entries[first:]

    def _did(self, played: Sequence[PlayerInput]) -> list[dict[str, Any]]:
        """What the player did that is new or has changed, each with its number; a key comes up later."""
        before = self._inputs
        found = [
            {"index": index, **given.as_json()}
            for index, given in enumerate(played)
            if index >= len(before) or before[index] is not given
        ]
        if found:
            self._inputs = list(played)
        return found

    def _moved(self) -> dict[str, list[Any] | None]:
        """The pieces that look or stand otherwise than before; nothing for one that is not there."""
        moved: dict[str, list[Any] | None] = {}
        for body in self._run.state.scene.bodies:
            drawn = _drawn(body) if body.present else []
            if self._pieces.get(body.name, []) != drawn:
                self._pieces[body.name] = drawn
                moved[body.name] = drawn or None
        return moved


def _event(came: Came) -> dict[str, Any]:
    return {
        "frame": came.frame,
        "event": event_json(came.event),
        "handlers": list(came.handlers),
        "waiting": came.waiting,
    }


def _drawn(body: Body) -> list[Any]:
    """What is drawn of a piece: kind, x, y, look, size, opacity, facing and what it carries."""
    carrying = body.carrying.name if body.carrying is not None else None
    return [body.kind, body.x, body.y, body.look, body.size, body.opacity, body.facing, carrying]
