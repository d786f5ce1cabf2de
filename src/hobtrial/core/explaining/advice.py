"""Advice: what costs no marks and is worth a word."""

from __future__ import annotations

from dataclasses import dataclass

from ..judging import Prepared
from ..script import Script
from ..script.tree import is_handler
from .catalogue import HIDDEN_NAME, NO_HANDLERS


@dataclass(frozen=True, slots=True)
class Advice:
    """One piece of advice, with the lines that it is about."""

    kind: str
    lines: tuple[int, ...]
    text: str


def advice_on(prepared: Prepared, script: Script) -> list[Advice]:
    """The advice on a script that can be read."""
    found: list[Advice] = []
    if not script.straight and not any(is_handler(node) for node in script.tree.body):
        found.append(Advice("no-handlers", (), NO_HANDLERS))
    observed = {what.what for scenario in prepared.scenarios for what in scenario.observe}
    for name in sorted(script.globals & {"clock", "outcome", "place"} & observed):
        found.append(Advice("hidden-name", (), HIDDEN_NAME.format(name=name)))
    return found
