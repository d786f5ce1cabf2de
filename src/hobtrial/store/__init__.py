"""The records in PostgreSQL: named queries in .sql files, one class a subject."""

from .access import Thing, may_see
from .classes import Classes, Everything, Students, forget_older_than
from .cluster import Cluster, program_of
from .desks import Desks, StaleTextError
from .drafts import Draft, Drafts, StaleDraftError
from .exercises import Exercises
from .lessons import Lessons
from .markers import Markers
from .plays import Plays
from .reports import Reports
from .rounds import Rounds
from .sessions import Person, Sessions
from .store import AwayError, Store, migrate
from .teachers import Teachers

__all__ = [
    "AwayError",
    "Classes",
    "Cluster",
    "Desks",
    "Draft",
    "Drafts",
    "Everything",
    "Exercises",
    "Lessons",
    "Markers",
    "Person",
    "Plays",
    "Reports",
    "Rounds",
    "Sessions",
    "StaleDraftError",
    "StaleTextError",
    "Store",
    "Students",
    "Teachers",
    "Thing",
    "forget_older_than",
    "may_see",
    "migrate",
    "program_of",
]
