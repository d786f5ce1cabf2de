"""Reports of the sample class, made once for all tests that read them."""

from __future__ import annotations

import functools
from collections.abc import Iterator

from hobtrial.core.reporting import Report, explained, mark
from hobtrial.demo import exercises, hand_ins, tries
from tests.slips.support import prepared
from tests.support import BAKEHOUSE

EXPLAINED: int = 30
"""Of the tries at other exercises, one in so many is explained: explaining all of them takes minutes."""


def sources() -> Iterator[tuple[str, str, str]]:
    """Every script that the class handed in: exercise, a name, and the text."""
    for exercise in exercises():
        for number, each in enumerate(tries(exercise)):
            yield exercise, f"{each.student} {number}", each.source
        for file, source in hand_ins(exercise).items():
            yield exercise, file, source.decode()


@functools.cache
def reports() -> dict[tuple[str, str], Report]:
    """All scripts marked; explained is what stands as files for the first exercise, and some of the rest."""
    found: dict[tuple[str, str], Report] = {}
    for number, (exercise, name, source) in enumerate(sources()):
        marked = mark(prepared(exercise), name, source)
        whole = (exercise == BAKEHOUSE and name.endswith(".py")) or number % EXPLAINED == 0
        found[exercise, name] = explained(marked) if whole else marked.report
    return found
