"""The texts of one slip."""

from __future__ import annotations

from dataclasses import dataclass


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
