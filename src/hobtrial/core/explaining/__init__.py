"""Verdicts → Findings: why a script lost marks, with evidence from its own runs."""

from ..script.tree import ChangedLine, with_changes
from .advice import Advice, advice_on
from .catalogue import Sentences, sentences, stop_words, what_happened
from .explain import Explanation, explain, explain_unreadable
from .finding import CheckRef, Confidence, Edit, Finding, Fix
from .saying import capital, value_text
from .wording import idea_words

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
    "idea_words",
    "sentences",
    "stop_words",
    "value_text",
    "what_happened",
    "with_changes",
]
