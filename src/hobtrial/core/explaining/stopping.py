"""Where a script stopped with an exception: whether a change deals with that, or only keeps the script from the line.

A game that no longer stops holds many a check, whatever is done instead. So a change that mends them counts only if it
goes to the name or the line at which the script stopped, or if nothing else is wrong in that scenario afterwards.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Mapping
from typing import Final

from ..judging import Played
from ..script.tree import changes_of
from ..words import Stop
from .finding import CheckRef, Edit
from .recognition import has_text
from .subject import Subject

UNSET: Final = ("NameError", "UnboundLocalError")
"""The script stopped at a name that had no value."""
NAMED: Final = re.compile(r"'(\w+)'")
WORD: Final = re.compile(r"[A-Za-z_]\w*")
TOKEN: Final = re.compile(r"[A-Za-z_]\w*|\d+(?:\.\d+)?|\"[^\"]*\"|'[^']*'")
REPLACED: Final = ("no-feedback", "missing-condition", "no-end")
"""Slips that put a line of the reference where another one stands, and say that it is missing."""
TELLS: Final = re.compile(r"\b(?:tell|print|board|sound|win|lose)\(")
NO_STORE: Final = re.compile(r"\s*(?:if|elif|else|while|def|return|@)")
"""Lines that give no variable another value."""


def only_avoids(edit: Edit, subject: Subject, after: Mapping[int, Played], mends: Iterable[CheckRef]) -> bool:
    """Whether a change mends only since the script does not come to the line any more at which it stopped."""
    mended = {number for number, _ in mends}
    for number in sorted((mended or set(after)) & set(subject.traces)):
        stop = subject.traces[number].stopped
        if stop is None or stop.limit:
            continue
        if edit.slip in REPLACED and (_tells(subject, stop) or edit.line <= stop.line <= edit.spans[-1].line):
            return True  # the line that stopped it would have done that, had it not stopped
        if after[number].trace.stopped is not None:
            continue
        if stop.kind in UNSET:
            if not _names(edit, subject, stop, quoted=bool(mended)):
                return True
        elif after[number].broken and not _goes_there(edit, subject, stop):
            return True
    return False


def stopped_at(subject: Subject) -> set[int]:
    """The lines at which the script stopped with an exception."""
    stops = [each.stopped for each in subject.traces.values() if each.stopped is not None]
    return {stop.line for stop in stops if not stop.limit}


def stopped_unset(subject: Subject) -> bool:
    """Whether the script stopped at a name that had no value."""
    return any(each.stopped is not None and each.stopped.kind in UNSET for each in subject.traces.values())


def _tells(subject: Subject, stop: Stop) -> bool:
    """Whether the line that stopped the script was to tell, show or sound something."""
    lines = subject.script.lines
    return 0 < stop.line <= len(lines) and bool(TELLS.search(lines[stop.line - 1]))


def _names(edit: Edit, subject: Subject, stop: Stop, *, quoted: bool) -> bool:
    """Whether a change is about the name that had no value: it is given one, or another name stands in its place."""
    found = NAMED.search(stop.message)
    if found is None:
        return True
    changes = _changes(edit, subject)
    before, now = (Counter(TOKEN.findall("\n".join(side))) for side in zip(*changes, strict=True))
    name = found[1]
    if name not in before | now:
        return False
    added = set(now - before) - {"pass"}
    fewer = now[name] < before[name]
    quoted = quoted and has_text(subject.reference, name)
    return not fewer or any(WORD.fullmatch(each) or (quoted and each[0] in "\"'") for each in added)


def _changes(edit: Edit, subject: Subject) -> list[tuple[str, str]]:
    """The lines that a change touches, as they were and as they are."""
    script = subject.script
    numbers = range(1, len(script.lines) + 1)
    return [(each.before, each.after) for each in changes_of(script.text, edit.spans, numbers)]


def _goes_there(edit: Edit, subject: Subject, stop: Stop) -> bool:
    """Whether a change goes to the line that stopped the script, or to one that gives a value to a name in it."""
    lines = subject.script.lines
    if not 0 < stop.line <= len(lines):
        return True
    numbers = range(1, len(lines) + 1)
    there = [each.after for each in changes_of(subject.script.text, edit.spans, numbers) if each.line == stop.line]
    if there:
        return there[0].strip() not in ("", "pass")
    used = set(WORD.findall(lines[stop.line - 1])) - subject.given
    return any(
        used & set(WORD.findall(line)) and not NO_STORE.match(line)
        for change in _changes(edit, subject)
        for line in "\n".join(change).split("\n")
    )
