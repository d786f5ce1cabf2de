"""The workshop: drafts of exercises and their changes, what is said of a draft, and checks made from what is seen."""

from .apply import apply
from .changes import CHANGE, Change
from .companions import Companion, companions, try_companion
from .follow_up import FollowUp, follow_up
from .in_words import in_words
from .new import new_files, title_of
from .rehearsal import Rehearsal, rehearse
from .suggest import Suggestion, suggest
from .ways import Way, in_many_ways

__all__ = [
    "CHANGE",
    "Change",
    "Companion",
    "FollowUp",
    "Rehearsal",
    "Suggestion",
    "apply",
    "companions",
    "follow_up",
    "in_words",
    "new_files",
    "rehearse",
    "Way",
    "in_many_ways",
    "suggest",
    "title_of",
    "try_companion",
]
