"""What the game shows the player and asks of them: scoreboard, choices, questions, place, sounds.

Everything that was ever shown is kept with its frame; the Host makes it part of the trace.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final

from ..script import Halt
from .trace import Asked, Offered, Sent, Shown, Sounded

MOST_SHOWN: Final = 2_000
"""Entries of one kind in a trial (choices, questions, sounds, places): more than a person can take in."""
MOST_WRITTEN: Final = 200_000
"""Times that something is put on the scoreboard in a trial. More than passes of one handler: a loop that never ends is
told as that."""
MOST_LABELS: Final = 200
"""Labels on the scoreboard, and choices that are open at once."""
LONGEST_LABEL: Final = 200
"""Characters of a label, a choice, a message or the name of a sound."""


@dataclass(frozen=True, slots=True)
class Spot:
    """Where the game is: the frame, and the line of the script that is running."""

    frame: int
    line: int


class Showing:
    """The scoreboard, the open choices and questions, and where the player is."""

    def __init__(self) -> None:
        self.board: dict[str, Any] = {}
        self.spots: dict[str, tuple[float, float] | None] = {}
        """For each label where on the scene it stands, if the script says so."""
        self.offers: dict[str, int] = {}
        """The open choices, each with the frame in which it was offered."""
        self.questions: list[str] = []
        self.place = ""
        self.shown: list[Shown] = []
        self.written = 0
        """How often something was put on the scoreboard."""
        self.offered: list[Offered] = []
        self.asked: list[Asked] = []
        self.sounds: list[Sounded] = []
        self.sent: list[Sent] = []
        self.places: list[tuple[int, str]] = []

    def write(self, line: Callable[[], int]) -> None:
        """Counts that something is put on the scoreboard; `line` is asked for the line where it is too often."""
        self.written += 1
        if self.written > MOST_WRITTEN:
            raise Halt("board", f"The scoreboard was written on more than {MOST_WRITTEN:,} times.", line())

    def put_on_board(self, label: str, value: Any, at: tuple[float, float] | None, spot: Spot) -> None:
        """Shows a value under a label."""
        if label not in self.board and len(self.board) >= MOST_LABELS:
            raise Halt("board", f"The scoreboard has more than {MOST_LABELS} labels.", spot.line)
        self.board[label] = value
        self.spots[label] = at
        self.shown.append(Shown(spot.frame, label, value, spot.line, at))

    def offer(self, label: str, spot: Spot) -> None:
        """Opens a choice; one that is open already stays."""
        if label in self.offers:
            return
        if len(self.offers) >= MOST_LABELS:
            raise Halt("offers", f"More than {MOST_LABELS} choices are open at once.", spot.line)
        self.offers[label] = spot.frame
        self._note(self.offered, Offered(spot.frame, label, True, spot.line), spot)

    def withdraw(self, label: str, spot: Spot) -> bool:
        """Closes a choice; whether it was open."""
        if self.offers.pop(label, None) is None:
            return False
        self._note(self.offered, Offered(spot.frame, label, False, spot.line), spot)
        return True

    def ask(self, text: str, spot: Spot) -> None:
        """Asks the player; the same question is not asked twice at once."""
        if text not in self.questions:
            self.questions.append(text)
            self._note(self.asked, Asked(spot.frame, text, spot.line), spot)

    def go_to(self, place: str, spot: Spot) -> None:
        """The player is there from now on; open choices are withdrawn."""
        for label in list(self.offers):
            self.withdraw(label, spot)
        self.place = place
        self._note(self.places, (spot.frame, place), spot)

    def sound(self, name: str, spot: Spot) -> None:
        """Notes a sound."""
        self._note(self.sounds, Sounded(spot.frame, name, spot.line), spot)

    def _note(self, kept: list[Any], entry: Any, spot: Spot) -> None:
        if len(kept) >= MOST_SHOWN:
            raise Halt("story", f"The game showed or asked more than {MOST_SHOWN:,} things of one kind.", spot.line)
        kept.append(entry)
