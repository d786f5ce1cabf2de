"""Verdicts → Findings: why a script lost marks, with evidence from its own runs."""

from .advice import Advice, advice_on
from .catalogue import Sentences, capital, happened, sentences, value_text
from .edits import with_changes
from .explain import Explanation, explain, explain_unreadable
from .finding import ChangedLine, CheckRef, Confidence, Edit, Finding, Fix

__all__ = [
    "Advice",
    "ChangedLine",
    "CheckRef",
    "Confidence",
    "Edit",
    "Explanation",
    "Finding",
    "Fix",
    "Sentences",
    "advice_on",
    "capital",
    "explain",
    "explain_unreadable",
    "happened",
    "sentences",
    "value_text",
    "with_changes",
]
