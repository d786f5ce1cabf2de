"""What a slip may look at where no single change mends: a cause of the why-chain, with both runs.

A cause says what happened. Where it can come from one kind of mistake only, that one is named, as *likely*;
everything else stays open. What several slips ask of it stands here.
"""

from __future__ import annotations

import ast
import re
from dataclasses import dataclass
from typing import Any

from ..judging import Prepared
from ..script import Script
from ..script.tree import Statement, guards_of, statements, targets, walk
from ..trial import Observable, Trace
from .why import Cause

CALLS = {"told": "tell", "said": "tell", "sounded": "sound", "sent": "send"}
"""The call that brings about what is observed."""


@dataclass(frozen=True, eq=False)
class Seen:
    """A cause of something that no edit explains, and the two runs that it was read off."""

    prepared: Prepared
    script: Script
    cause: Cause
    needs: tuple[Observable, ...]
    """What the check is about."""
    own: Trace
    theirs: Trace

    @property
    def reference(self) -> Script:
        """The reference."""
        return self.prepared.reference.script

    @property
    def other_value(self) -> bool:
        """Whether a value is another one than in the reference's run."""
        return self.cause.kind in ("other-value", "extra-change", "no-change")

    @property
    def named(self) -> str:
        """The name that Python's message puts in quotes, where the script stopped with an exception."""
        found = re.search(r"'(\w+)'", str(self.cause.facts.get("message", "")))
        return found[1] if found is not None and self.cause.kind == "stopped" else ""

    @property
    def exception(self) -> str:
        """The kind of the exception or limit that stopped the script, if any did."""
        return str(self.cause.facts["kind"]) if self.cause.kind == "stopped" else ""

    def stored_at(self) -> list[Statement]:
        """The statements that stored the other value, or returned it in that frame."""
        line = self.cause.lines[0] if self.cause.lines else 0
        return [
            stmt
            for stmt in statements(self.script.tree)
            if stmt.node.lineno == line or (isinstance(stmt.node, ast.Return) and self.ran(stmt.node.lineno))
        ]

    def ran(self, line: int) -> bool:
        """Whether a line ran in the frame of the cause."""
        frame = self.cause.frame
        return frame is not None and any(first <= frame <= last for first, last, _ in self.own.lines.get(line, ()))


def has_text(script: Script, text: str) -> bool:
    """Whether a text stands in a script, as a part of a longer one too."""
    wanted = " ".join(text.casefold().split())
    return any(
        wanted in " ".join(node.value.casefold().split())
        for node in walk(script.tree)
        if isinstance(node, ast.Constant) and isinstance(node.value, str)
    )


def unguarded(seen: Seen) -> tuple[Statement, str] | None:
    """A change without any test before it, where the reference has one for each such change; and that test."""
    if seen.cause.kind != "extra-change":
        return None
    line = seen.cause.lines[0] if seen.cause.lines else 0
    stmt = next((each for each in statements(seen.script.tree) if each.node.lineno == line), None)
    name = seen.cause.what.removeprefix("game.")
    theirs = [
        guards_of(each)
        for each in statements(seen.reference.tree)
        if isinstance(each.node, (ast.Assign, ast.AugAssign)) and each.function is not None
        and name in [target.removeprefix("game.") for target in targets(each.node)]
    ]  # fmt: skip
    if stmt is None or guards_of(stmt) or not theirs or not all(theirs):
        return None
    return stmt, theirs[0][0]


def asks_about(test: str, name: str) -> bool:
    """Whether a test speaks of a variable."""
    return re.search(rf"\b{re.escape(name)}\b", test) is not None


def changed_facts(seen: Seen, test: str) -> dict[str, Any]:
    """The facts of a change that the reference makes under a test only."""
    facts = seen.cause.facts
    return {"name": seen.cause.what, "new": facts.get("own"), "old": facts.get("old"), "test": test}
