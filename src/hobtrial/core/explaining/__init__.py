"""Verdicts → Findings: why a script lost marks, with evidence from its own runs."""

from ..script.tree import ChangedLine, with_changes
from .advice import Advice, advice_on
from .catalogue import Sentences, capital, happened, sentences, value_text
from .explain import Explanation, explain, explain_unreadable
from .finding import CheckRef, Confidence, Edit, Finding, Fix

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
