"""A game that a person plays: the same run as a trial, one frame at a time, with inputs as they come.

What was played is kept as the inputs of a scenario, which plays the very same game again.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any, Final

from ..exercise import LONGEST_TRIAL
from ..scene import Body
from ..script import Woven
from ..trial import Options, Plan, PlayerInput, Run, TrialOver, variable
from ..words import as_json_value, frame_of
from .prepare import Prepared
from .written import inputs_back, time

STILL_DOWN: Final = 10**9
"""The frame in which a key comes up that nobody has let go yet."""
LAST_FRAME: Final = frame_of(LONGEST_TRIAL)
"""A game by hand lasts as long as a trial may, so that it can be kept as one."""
MOST_INPUTS: Final = 2_000
"""Inputs of one game: ten minutes of three a second."""


class LiveGame:
    """One game by hand. Each step gives what is new since the one before."""

    def __init__(self, prepared: Prepared, woven: Woven, seed: int, scenario: int | None = None) -> None:
        """`scenario` is the one at whose beginning, and with whose luck, the game begins."""
        self.seed = seed
        self.played: list[PlayerInput] = []
        self._prepared = prepared
        self._names = [each.name for each in prepared.exercise.settings.variable]
        plan = Plan(LAST_FRAME, seed, freeze_at_end=prepared.exercise.settings.at_end == "freeze", by_hand=True)
        if scenario is not None and scenario < len(prepared.scenarios):
            given = prepared.scenarios[scenario].plan
            plan = replace(plan, arrange=given.arrange, luck=given.luck, seed=given.seed)
        watched = tuple(variable(name) for name in self._names)
        options = Options(observe=watched, names=prepared.alias, limits=prepared.limits)
        self.seed = plan.seed
        self._run = Run(woven, prepared.scene, plan, options)
        self._downs: dict[str, int] = {}
        self._shown: dict[str, Any] = {}
        self._pieces: dict[str, list[Any]] = {}
        self._story = 0
        self._sounds = 0
        self._over = False

    def begin(self) -> dict[str, Any]:
        """Reads the script and runs `start`; gives the whole state."""
        try:
            self._run.begin()
        except TrialOver:
            self._over = True
        return self._news()

    def next(self, inputs: Iterable[dict[str, Any]]) -> dict[str, Any]:
        """Plays one frame. `inputs` are as `PlayerDid` of the server spells them."""
        if not self._over:
            try:
                self._run.next_frame(self._given(inputs, self._run.frame + 1))
            except TrialOver:
                self._over = True
            self._over = self._over or self._run.frame >= LAST_FRAME
        return self._news()

    def as_scenario(self, name: str) -> dict[str, Any]:
        """What was played so far as a scenario of an exercise, with times in seconds."""
        frame = max(self._run.frame, 1)
        inputs = inputs_back(self.played, frame)
        return {"name": name, "seed": self.seed, "seconds": time(frame), "input": inputs}

    def _given(self, inputs: Iterable[dict[str, Any]], frame: int) -> list[PlayerInput]:
        """What the player does in a frame; keys that come up are let go first, as in a trial."""
        first = len(self.played)
        for each in inputs:
            kind = each["do"]
            if kind == "up":
                self._let_go(each["key"], frame)
            elif len(self.played) >= MOST_INPUTS:
                continue
            elif kind == "down" and each["key"] not in self._downs:
                self._downs[each["key"]] = len(self.played)
                self.played.append(PlayerInput("hold", frame, each["key"], up=STILL_DOWN))
            elif self._possible(kind, each.get("what", ""), each.get("value")):
                value = tuple(each["value"]) if kind == "click" and not each["what"] else each["value"]
                self.played.append(PlayerInput(kind, frame, each["what"], value if kind in ("click", "set") else None))
        return self.played[first:]

    def _possible(self, kind: str, what: str, value: Any) -> bool:
        """Whether an exercise could have such an input: a browser may send anything."""
        scene = self._prepared.scene
        match kind:
            case "click":
                spot = (
                    isinstance(value, (list, tuple))
                    and len(value) == 2
                    and all(isinstance(each, (int, float)) for each in value)
                )
                return what in self._prepared.names.pieces if what else spot
            case "set":
                fact = next((each for each in scene.fact if each.name == what), None)
                return fact is not None and fact.accepts(value)
            case "answer":
                return True
        return kind in ("pick", "type") and bool(what.strip())

    def _let_go(self, key: str, frame: int) -> None:
        index = self._downs.pop(key, None)
        if index is not None:
            down = self.played[index]
            self.played[index] = replace(down, up=max(frame, down.frame + 1))
            self._run.player.up_at(key, self.played[index].up)

    # ---- what is new

    def _news(self) -> dict[str, Any]:
        run, state, showing = self._run, self._run.state, self._run.state.showing
        lines, sounds = state.story.lines[self._story :], showing.sounds[self._sounds :]
        self._story, self._sounds = len(state.story.lines), len(showing.sounds)
        stop = run.host.stop
        now = {
            "outcome": state.outcome,
            "board": [
                {"label": label, "value": as_json_value(value), "at": showing.spots[label]}
                for label, value in showing.board.items()
            ],
            "offers": list(showing.offers),
            "questions": list(showing.questions),
            "place": showing.place,
            "facts": dict(state.facts),
            "values": {name: as_json_value(run.variables.read(name)) for name in self._names},
            "stopped": stop.as_json() if stop is not None else None,
            "over": self._over,
        }
        news: dict[str, Any] = {key: value for key, value in now.items() if self._shown.get(key, now) != value}
        self._shown.update(news)
        pieces = self._moved()
        if pieces:
            news["pieces"] = pieces
        if lines:
            news["story"] = [
                {"frame": line.frame, "line": line.line, "text": line.text, "who": line.who} for line in lines
            ]
        if sounds:
            news["sounds"] = [sound.name for sound in sounds]
        return {"frame": run.frame, **news}

    def _moved(self) -> dict[str, list[Any] | None]:
        """The pieces that look or stand otherwise than before; nothing for one that is not there."""
        moved: dict[str, list[Any] | None] = {}
        for body in self._run.state.scene.bodies:
            drawn = _drawn(body) if body.present else []
            if self._pieces.get(body.name, []) != drawn:
                self._pieces[body.name] = drawn
                moved[body.name] = drawn or None
        return moved


def _drawn(body: Body) -> list[Any]:
    """What is drawn of a piece: kind, x, y, look, size, opacity, facing and what it carries."""
    carrying = body.carrying.name if body.carrying is not None else None
    return [body.kind, body.x, body.y, body.look, body.size, body.opacity, body.facing, carrying]
