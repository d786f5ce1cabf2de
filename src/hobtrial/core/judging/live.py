"""A game that a person plays: the same run as a trial, one frame at a time, with inputs as they come.

What was played is kept as the inputs of a scenario, which plays the very same game again; and a game may begin
where such inputs, those of the game before or of a scenario, have led to.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any, Final

from ..exercise import LONGEST_TRIAL
from ..script import Woven
from ..trial import Observable, Options, Plan, PlayerInput, Run, TrialOver, variable
from ..words import READING, Stop, frame_of
from .news import News
from .prepare import Prepared
from .start import Put, Start, names_for, read_put
from .written import inputs_back, time

STILL_DOWN: Final = 10**9
"""The frame in which a key comes up that nobody has let go yet."""
LAST_FRAME: Final = frame_of(LONGEST_TRIAL)
"""A game by hand lasts as long as a trial may, so that it can be kept as one."""
MOST_INPUTS: Final = 2_000
"""Inputs of one game: ten minutes of three a second."""


class LiveGame:
    """One game by hand. Each step gives what is new since the one before."""

    def __init__(
        self,
        prepared: Prepared,
        woven: Woven,
        start: Start,
        *,
        before: LiveGame | None = None,
        shown: Sequence[Observable] = (),
    ) -> None:
        """`before` is the game to begin in the middle of, where `start` says so. Raises `UsageError`."""
        lines = read_put(start.put, names_for(prepared, woven.script))
        self.played: list[PlayerInput] = []
        self._prepared = prepared
        self._start = start
        plan = Plan(LAST_FRAME, 1, freeze_at_end=prepared.exercise.settings.at_end == "freeze", by_hand=True)
        self._due, self.put = self._led_by(start, before)
        if start.again and before is not None:
            plan = replace(plan, arrange=before.plan.arrange, luck=before.plan.luck, seed=before.plan.seed)
        elif start.scenario is not None and start.scenario < len(prepared.scenarios):
            given = prepared.scenarios[start.scenario].plan
            plan = replace(plan, arrange=given.arrange, luck=given.luck, seed=given.seed)
        plan = replace(
            plan,
            seed=plan.seed if start.seed is None else start.seed,
            luck=plan.luck if start.luck is None else start.luck,
        )
        self.plan: Plan = plan
        """As an exercise could have it: without what was put in place by hand."""
        self._lines = [*((frame, line) for frame, text in self.put for line in self._read(text, woven))]
        self._lines += [(start.frame, line) for line in lines]
        self.put += [(start.frame, text) for text in start.put]
        first = tuple(line for frame, line in self._lines if frame <= READING)
        names = [each.name for each in prepared.exercise.settings.variable]
        watched = (*(variable(name) for name in names), *shown)
        options = Options(
            observe=watched, names=prepared.alias, watch=prepared.watch, record=True, limits=prepared.limits
        )
        self._run = Run(woven, prepared.scene, replace(plan, arrange=(*plan.arrange, *first)), options)
        self._downs: dict[str, int] = {}
        self._news = News(self._run, watched)
        self._over = False

    def begin(self) -> dict[str, Any]:
        """Reads the script, runs `start` and plays up to where the person takes over; gives the whole state."""
        try:
            self._run.begin()
            for frame in range(self._start.frame + 1):
                self._run.next_frame(each for each in self._due if each.frame == frame)
                self._run.put(line for after, line in self._lines if after == frame)
            self._let_all_go()
        except TrialOver:
            self._over = True
        return self._news.now(self.played, over=self._over)

    def next(self, inputs: Iterable[dict[str, Any]]) -> dict[str, Any]:
        """Plays one frame. `inputs` are as `PlayerDid` of the server spells them."""
        if not self._over:
            try:
                self._run.next_frame(self._given(inputs, self._run.frame + 1))
            except TrialOver:
                self._over = True
            self._over = self._over or self._run.frame >= LAST_FRAME
        return self._news.now(self.played, over=self._over)

    def as_scenario(self, name: str) -> dict[str, Any]:
        """What was played so far as a scenario of an exercise, with times in seconds; without `put`."""
        frame = max(self._run.frame, 1)
        luck = self.plan.luck
        return {
            "name": name,
            "seed": self.plan.seed,
            "seconds": time(frame),
            "arrange": [line.text for line in self.plan.arrange],
            "input": inputs_back(self.played, frame),
            **({"luck": list(luck) if isinstance(luck, tuple) else luck} if luck is not None else {}),
        }

    @property
    def stop(self) -> Stop | None:
        """Why the script was stopped, if it was."""
        return self._run.host.stop

    def show(self, shown: Sequence[Observable]) -> None:
        """Puts other things on show besides the listed variables."""
        names = [each.name for each in self._prepared.exercise.settings.variable]
        self._news.watch((*(variable(name) for name in names), *shown))

    # ---- up to where the person takes over

    def _led_by(self, start: Start, before: LiveGame | None) -> tuple[list[PlayerInput], list[Put]]:
        """The inputs that lead to where a game begins, and what was put in place on the way."""
        if start.frame <= READING and not start.again:
            return [], []
        if start.again:
            inputs: Iterable[PlayerInput] = before.played if before is not None else ()
            put = [each for each in before.put if each[0] <= start.frame] if before is not None else []
        else:
            number = start.scenario if start.scenario is not None else len(self._prepared.scenarios)
            scenarios = self._prepared.scenarios[number : number + 1]
            inputs, put = (scenarios[0].plan.inputs if scenarios else ()), []
        led = [each for each in inputs if each.frame <= start.frame]
        self.played += led
        return led, put

    def _read(self, text: str, woven: Woven) -> list[Any]:
        return read_put([text], names_for(self._prepared, woven.script))

    def _let_all_go(self) -> None:
        """Keys that were down when the person takes over come up: nobody holds them."""
        frame = self._run.frame + 1
        for index, given in enumerate(self.played):
            if given.kind in ("hold", "press") and given.what in self._run.state.down and given.up >= frame:
                self.played[index] = replace(given, up=frame, until=None)
                self._run.player.up_at(given.what, frame)

    # ---- what the player does

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
