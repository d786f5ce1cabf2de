"""`hob worker`: marks for a database from any machine, beside a server or in its stead, until Ctrl-C."""

from __future__ import annotations

import asyncio
import contextlib
import signal

from psycopg.conninfo import conninfo_to_dict

from ..core.words import HobError
from ..crew import Crew, Marker
from ..server.marking import Marking
from ..server.settings import read_settings
from ..store import Store
from .logs import set_up
from .marking import complain
from .records import needed_database


def run(*, database: str | None, workers: int | None) -> int:
    """Marks. Gives the exit status."""
    try:
        settings = read_settings()
        address = database or needed_database()
        set_up(1, settings.log)
    except HobError as error:
        complain(str(error).split("\n"))
        return 1
    number = workers or max(settings.workers, 1)
    known = conninfo_to_dict(address)
    where = f"{known.get('dbname', 'the database')} on {known.get('host', 'this machine')}"
    print(
        f"Marking for {where} with {number} {'process' if number == 1 else 'processes'}. Ctrl-C stops it.", flush=True
    )
    asyncio.run(_work(address, number, settings.retention_months))
    print("Stopped. What was not marked yet is taken up by others, or the next time.", flush=True)
    return 0


async def _work(address: str, workers: int, retention_months: int | None) -> None:
    """Marks until a signal comes."""
    store = Store(address)
    try:
        async with Crew(workers) as crew:
            marking = asyncio.create_task(Marking(store, Marker(store, crew), workers, retention_months).run())
            loop = asyncio.get_running_loop()
            for each in (signal.SIGINT, signal.SIGTERM):
                loop.add_signal_handler(each, marking.cancel)
            with contextlib.suppress(asyncio.CancelledError):
                await marking
    finally:
        store.close()
