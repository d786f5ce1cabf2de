"""`hob serve`: the server on a database that the environment names, without the demo, until Ctrl-C."""

from __future__ import annotations

from ..core.words import HobError
from ..server import create_app
from ..server.settings import read_settings
from ..store import Sessions, Store, Teachers
from ..store.sessions import FIRST_LINK_SECONDS
from .logs import set_up
from .marking import complain
from .records import make_ready, needed_database
from .serving import listen, serve_until_stopped
from .siblings import siblings


def run(*, port: int | None, processes: int | None) -> int:
    """Serves. Gives the exit status."""
    try:
        settings = read_settings()
        if processes is not None:
            settings = settings.model_copy(update={"processes": processes})
        address = needed_database()
        make_ready(address)
        set_up(1, settings.log)
        asked = port or settings.port
        listener = listen(asked, settings.address)
        first = _first_link(address)
    except HobError as error:
        complain(str(error).split("\n"))
        return 1
    links = (
        []
        if first is None
        else [
            (
                f"Nobody can sign in yet. The first teacher comes in by this link, good once "
                f"and for {FIRST_LINK_SECONDS // 60} minutes",
                f"/sign-in#first={first}",
            )
        ]
    )
    with siblings(settings.processes - 1, address, settings, listener, says=1):
        serve_until_stopped(
            create_app(address, settings), listener, asked=asked, links=links, proxy=settings.trusted_proxy
        )
    return 0


def _first_link(address: str) -> str | None:
    """The end of the link for the first teacher, where there is none yet."""
    store = Store(address)
    try:
        with store.transaction() as connection:
            return None if Teachers.any(connection) else Sessions.first_link(connection)
    finally:
        store.close()
