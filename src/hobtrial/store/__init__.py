"""The records in PostgreSQL: named queries in .sql files, one class a subject."""

from .cluster import Cluster
from .exercises import Exercises
from .plays import Plays
from .reports import Reports
from .rounds import Rounds
from .store import Store, migrate

__all__ = ["Cluster", "Exercises", "Plays", "Reports", "Rounds", "Store", "migrate"]
