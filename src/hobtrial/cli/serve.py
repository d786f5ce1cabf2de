"""`hob serve`: the server on a database that the environment names, without the demo, until Ctrl-C."""

from __future__ import annotations

from ..core.words import HobError
from ..server import create_app
from .marking import complain
from .records import make_ready, needed_database
from .serving import listen, serve_until_stopped


def run(*, port: int) -> int:
    """Serves. Gives the exit status."""
    try:
        address = needed_database()
        make_ready(address)
    except HobError as error:
        complain(str(error).split("\n"))
        return 1
    listener = listen(port)
    serve_until_stopped(create_app(address), listener, asked=port)
    return 0
