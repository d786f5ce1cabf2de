"""All wording of findings, one entry a slip, so that it can be read through, changed and translated.

Plain words of `docs/word-list.txt`, at most 20 a sentence, no blame, no exclamation marks. `{braces}`
are filled from the facts of a finding.
"""

from typing import Final

from .conditions import CONDITIONS
from .ends import ENDS
from .entry import Entry, Variant, replaced
from .events import EVENTS
from .ideas import IDEAS, idea_words
from .runs import RUNS
from .variables import VARIABLES

SLIPS: Final[dict[str, Entry]] = {**VARIABLES, **EVENTS, **CONDITIONS, **ENDS, **RUNS}
CHAPTERS: Final[dict[str, dict[str, Entry]]] = {
    "Variables": VARIABLES,
    "Events": EVENTS,
    "Conditions": CONDITIONS,
    "Display, end and restart": ENDS,
    "Runs": RUNS,
}
"""The slips in the order in which they are read."""

__all__ = ["CHAPTERS", "IDEAS", "SLIPS", "Entry", "Variant", "idea_words", "replaced"]
