"""`other-name`: a consistent name of one's own for the one asked for.

Recognised by renaming it throughout, where the name asked for is nowhere in the script: it mends.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from ..edits import spans
from ..finding import Edit
from ..near import near
from ..subject import Subject
from .misspelt_name import name_places, renamed_places

SLIP: Final = "other-name"


def edits(subject: Subject) -> Iterator[Edit]:
    """For each listed variable that the script does not have: each variable of its own under that name."""
    places = name_places(subject.script)
    listed = {name for each in subject.prepared.exercise.settings.variable for name in (each.name, *each.also)}
    for each in subject.prepared.exercise.settings.variable:
        if each.name in places or any(name in places for name in each.also):
            continue
        for own in subject.variables:
            plain = own.removeprefix("game.")
            if plain in listed or "." in plain or plain not in places or near(plain, each.name):
                continue
            facts = {"own": plain, "right": each.name}
            yield Edit(SLIP, spans(*renamed_places(places[plain], each.name)), each.name, facts, everywhere=True)
