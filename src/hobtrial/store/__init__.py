"""The records in PostgreSQL: named queries in .sql files, one class a subject."""

from .cluster import Cluster
from .drafts import Draft, Drafts, StaleDraftError
from .exercises import Exercises
from .plays import Plays
from .reports import Reports
from .rounds import Rounds
from .store import Store, migrate

__all__ = [
    "Cluster",
    "Draft",
    "Drafts",
    "Exercises",
    "Plays",
    "Reports",
    "Rounds",
    "StaleDraftError",
    "Store",
    "migrate",
]
