"""What the player is told, line by line."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ..script import Halt, Limits
from .trace import StoryLine


class Story:
    """The story of one trial.

    `place` gives the frame and the line of the script that is running; `added` hears of each new line.
    """

    def __init__(
        self,
        limits: Limits,
        place: Callable[[], tuple[int, int]],
        added: Callable[[StoryLine], None] = lambda line: None,
        *,
        log_prints: bool = False,
    ) -> None:
        self.lines: list[StoryLine] = []
        self.log: list[StoryLine] = []
        """What `print` wrote, where that is no part of the story."""
        self._log_prints = log_prints
        self._limits = limits
        self._place = place
        self._added = added
        self._open = ""
        self._letters = 0

    def tell(self, text: str, who: str = "") -> None:
        """Adds a line; `who` is the piece that tells it."""
        if not self._log_prints:
            self.close()
        self._add(text, who)

    def print(self, text: str, end: Any) -> None:
        """Adds printed text; without a line end the next print joins it."""
        end = "\n" if end is None else str(end)
        self._open += text + end
        if end.endswith("\n"):
            self.close()
        elif len(self._open) > self._limits.text:
            self._refuse()

    def close(self) -> None:
        """Ends a line that was printed without a line end."""
        if self._open:
            text, self._open = self._open.removesuffix("\n"), ""
            self._add(text, printed=True)

    def finish(self) -> None:
        """Ends an open line at the end of the trial; what is too much is left out."""
        self._open = self._open[: self._limits.text]
        if self._log_prints or len(self.lines) < self._limits.story:
            self.close()

    def _add(self, text: str, who: str = "", *, printed: bool = False) -> None:
        frame, line = self._place()
        if printed and self._log_prints:
            self._write(StoryLine(frame, line, text, who))
            return
        if len(self.lines) >= self._limits.story:
            raise Halt("story", f"The story grew beyond {self._limits.story:,} lines.", line)
        if len(text) > self._limits.text:
            self._refuse()
        self._letters += len(text)
        if self._letters > self._limits.letters:
            raise Halt("story", f"The story grew beyond {self._limits.letters:,} characters.", line)
        self.lines.append(StoryLine(frame, line, text, who))
        self._added(self.lines[-1])

    def _write(self, line: StoryLine) -> None:
        """Adds a line to the log; what is too much is left out, since it counts for nothing."""
        if len(self.log) < self._limits.story:
            self.log.append(line)

    def _refuse(self) -> None:
        raise Halt("text", f"A text grew beyond {self._limits.text:,} characters.", self._place()[1])
