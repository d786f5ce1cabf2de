"""The texts of one slip."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace


@dataclass(frozen=True, slots=True)
class Entry:
    """Title for the class, an example (wrong, right), three levels of help and a note for the teacher.

    The texts with `_plain` stand in where the run holds no values for the others.
    """

    title: str
    nudge: str
    pointer: str
    note: str
    nudge_plain: str = ""
    pointer_plain: str = ""
    quiet: str = ""
    """The nudge of a hidden scenario, without its inputs and values; else `nudge_plain`, else `nudge`."""
    for_class: str = ""
    """The title of a group of such findings, without one student's own wording; else `title`."""
    example: tuple[str, str] = ("", "")
    recognised: str = ""
    """How it is recognised, where no file of `slips` says so."""
    variants: Mapping[str, Variant] = field(default_factory=dict)
    """For a fact that a finding has, the texts that say it better."""


@dataclass(frozen=True, slots=True)
class Variant:
    """Texts that stand in for those of an entry; an empty one leaves the entry's."""

    title: str = ""
    pointer: str = ""
    nudge: str = ""
    note: str = ""
    for_class: str = ""


def replaced(entry: Entry, variant: Variant) -> Entry:
    """An entry with the texts of a variant."""
    given = {
        "title": variant.title,
        "pointer": variant.pointer,
        "nudge": variant.nudge,
        "note": variant.note,
        "for_class": variant.for_class,
    }
    kept: dict[str, str] = {key: text for key, text in given.items() if text}
    if variant.pointer:
        kept["pointer_plain"] = ""
    if variant.nudge:
        kept["nudge_plain"] = ""
    return replace(entry, **kept)  # type: ignore[arg-type]
