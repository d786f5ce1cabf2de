"""The workshop: drafts of exercises and their changes, what is said of a draft, and checks made from what is seen."""

from .apply import apply
from .changes import CHANGE, Change
from .companions import Companion, companions, try_companion
from .follow_up import FollowUp, follow_up
from .in_words import in_words
from .levels import at_level, levels_of
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
    "Way",
    "apply",
    "at_level",
    "companions",
    "follow_up",
    "in_many_ways",
    "in_words",
    "levels_of",
    "new_files",
    "rehearse",
    "suggest",
    "title_of",
    "try_companion",
]
