"""`hob forget`: deletes what was handed in longer ago than records are kept."""

from __future__ import annotations

from ..core.words import HobError, UsageError, plural
from ..server.settings import read_settings
from ..store import Store, forget_older_than
from .home import home
from .marking import complain
from .records import database_of


def forget(months: int | None) -> int:
    """Deletes it. Gives the exit status."""
    try:
        months = months or read_settings().retention_months
        if months is None:
            raise UsageError("say how many months are kept: --months N, or HOB_RETENTION_MONTHS in the environment")
        store = Store(database_of(home()))
        try:
            with store.transaction() as connection:
                gone = forget_older_than(connection, months)
        finally:
            store.close()
    except HobError as error:
        complain(str(error).split("\n"))
        return 1
    print(f"{plural(gone, 'text')} of more than {plural(months, 'month')} ago, and what belonged to them, are deleted.")
    return 0
