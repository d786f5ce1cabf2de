"""Wild scenarios: random inputs, and the shortest list of them that still breaks a check.

Hypothesis draws and cuts down, derandomized and without a database: the same inputs for every script, and
the same shortest list for the same script. All bounds are counts.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Final

from hypothesis import HealthCheck, Phase, find, settings
from hypothesis import strategies as st
from hypothesis.errors import NoSuchExample

from ..exercise import Wild
from ..trial import Plan, PlayerInput, click, done, held_key, pressed_key

LONGEST_HOLD: Final = 20
"""Tenths of a second that a key is held at most: far enough to cross half of a scene."""
MOST_INPUTS: Final = 12
"""Inputs of one run: a dozen in ten seconds is more than most players do."""
MOST_CUTS: Final = 150
"""Trials that are played to cut a list down."""


@dataclass(frozen=True, slots=True, order=True)
class Deed:
    """One random input: when and how long in tenths of a second, and what."""

    at: int
    kind: str
    what: str
    tenths: int = 0

    def as_input(self) -> PlayerInput:
        """The deed as an input of a trial."""
        at = self.at / 10
        match self.kind:
            case "hold":
                return held_key(self.what, at, self.tenths / 10)
            case "press":
                return pressed_key(self.what, at)
            case "click":
                return click(at, self.what)
        return done("pick", at, self.what)

    def as_table(self) -> dict[str, Any]:
        """The deed as a table of an exercise."""
        return {"at": self.at / 10, self.kind: self.what, **({"for": self.tenths / 10} if self.kind == "hold" else {})}

    def __str__(self) -> str:
        match self.kind:
            case "hold":
                return f"hold {self.what} {self.tenths / 10:g} s"
            case "click":
                return f"click {self.what}"
            case "pick":
                return f'pick "{self.what}"'
        return f"press {self.what}"


Deeds = tuple[Deed, ...]


def drawn(wild: Wild, seconds: float) -> list[Deeds]:
    """The runs of a wild scenario, as many as it asks for; the same ones every time."""
    runs: list[Deeds] = []

    def note(run: Deeds) -> bool:
        runs.append(run)
        return False

    _search(wild, seconds, note, cut=False)
    return runs[: wild.runs]


def shortest(wild: Wild, seconds: float, breaks: Callable[[Deeds], bool]) -> Deeds | None:
    """The shortest list of inputs that still breaks something; nothing where none of the runs does."""
    known: dict[Deeds, bool] = {}
    best: list[Deeds] = []

    def still(run: Deeds) -> bool:
        if run not in known:
            if best and len(known) > wild.runs + MOST_CUTS:
                return False
            known[run] = breaks(run)
            if known[run] and (not best or _size(run) < _size(best[0])):
                best[:] = [run]
        return known[run]

    _search(wild, seconds, still, cut=True)
    return best[0] if best else None


def wild_plan(base: Plan, run: Deeds) -> Plan:
    """A trial with these inputs."""
    return replace(base, inputs=tuple(deed.as_input() for deed in run))


def _size(run: Deeds) -> tuple[int, int, int]:
    return len(run), sum(deed.tenths for deed in run), sum(deed.at for deed in run)


def _search(wild: Wild, seconds: float, test: Callable[[Deeds], bool], *, cut: bool) -> None:
    choices: list[tuple[str, str]] = [("press", key) for key in wild.keys]
    choices += [("click", piece) for piece in wild.clicks] + [("pick", label) for label in wild.picks]
    choices += [("hold", key) for key in wild.keys]
    last = max(int(seconds * 10) - 1, 0)
    deed = st.builds(
        lambda at, choice, tenths: Deed(at, choice[0], choice[1], tenths if choice[0] == "hold" else 0),
        st.integers(0, last),
        st.sampled_from(choices),
        st.integers(1, LONGEST_HOLD),
    )
    runs = st.lists(deed, max_size=MOST_INPUTS).map(lambda deeds: tuple(sorted(deeds)))
    phases = [Phase.generate, Phase.shrink] if cut else [Phase.generate]
    wanted = settings(
        max_examples=wild.runs,
        derandomize=True,
        database=None,
        deadline=None,
        phases=phases,
        suppress_health_check=list(HealthCheck),
    )
    try:
        find(runs, test, settings=wanted)
    except NoSuchExample:
        return
