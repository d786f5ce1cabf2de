"""Keeps the marking going: whatever ends it, it is begun again, after a wait that grows."""

from __future__ import annotations

import asyncio
import contextlib
import os
import socket
import traceback
from typing import Final

import structlog

from ..core.words import HobError
from ..crew import Marker, NewerEditionError, work
from ..store import AwayError, Markers, Store

FIRST_WAIT: Final = 0.5
LONGEST_WAIT: Final = 8.0
"""Seconds before marking is begun again; each wait is twice the one before."""
LOOK_SECONDS: Final = 2.0
"""How often it is looked whether the database is there."""
STOP_SECONDS: Final = 4.0
STOP_TRIES: Final = 3
"""How long what works is waited for once it was told to stop, and how often it is told."""
AWAY: Final = "the records cannot be reached"
STOPPED: Final = "whoever looks after this server has stopped it"
LONGEST_ERROR: Final = 300

log = structlog.get_logger()


class Marking:
    """The marking of one server. `trouble` says why it does not run, and is shown with every round that waits."""

    def __init__(self, store: Store, marker: Marker, workers: int, retention_months: int | None = None) -> None:
        self._store = store
        self._marker = marker
        self._workers = workers
        self._retention_months = retention_months
        self._name = f"{socket.gethostname()}, process {os.getpid()}"
        self._number: int | None = None
        self.trouble: str | None = None
        self.runs = not workers  # then others mark, elsewhere

    async def run(self) -> None:
        """Marks until it is cancelled."""
        if not self._workers:
            return
        wait = FIRST_WAIT
        try:
            while True:
                wait = await self._once(wait)
        finally:
            if self._number is not None:
                with contextlib.suppress(Exception):
                    await asyncio.to_thread(self._leave)

    async def _once(self, wait: float) -> float:
        """Marks until that ends, and waits a while. Gives how long the next wait is."""
        try:
            while await asyncio.to_thread(self._say):
                self.trouble = STOPPED
                await asyncio.sleep(LOOK_SECONDS)
            await self._work()
        except NewerEditionError as error:
            self.trouble = str(error).rstrip(".")
        except Exception as error:
            self.trouble = await asyncio.to_thread(self._reason, error)
        wait = FIRST_WAIT if self.runs else min(wait * 2, LONGEST_WAIT)
        self.runs = False
        log.warning("marking is not running", reason=self.trouble, again_in_seconds=wait)
        await asyncio.sleep(wait)
        return wait

    async def _work(self) -> None:
        """Works until that ends by itself, or the database has been away: a worker can take a minute to notice."""
        working = asyncio.create_task(
            work(self._store.dsn, self._marker, self._workers, self._began, self._retention_months)
        )
        try:
            while not working.done():
                await asyncio.wait({working}, timeout=LOOK_SECONDS)
                if not working.done() and not await asyncio.to_thread(self._store.there):
                    self.trouble, self.runs = AWAY, False
                    log.warning("marking is not running", reason=AWAY)
                    while not await asyncio.to_thread(self._store.there):
                        await asyncio.sleep(FIRST_WAIT)
                    return
                if not working.done() and await asyncio.to_thread(self._say):
                    self.trouble, self.runs = STOPPED, False
                    return
            working.result()
        finally:
            await _end(working)

    def _say(self) -> bool:
        """Says what is done here. Whether the owner has stopped it."""
        marker = self._marker
        try:
            with self._store.transaction() as connection:
                told = None
                if self._number is not None:
                    told = Markers.say(
                        connection,
                        self._number,
                        doing=marker.doing,
                        done=marker.done,
                        last_error=marker.last_error[:LONGEST_ERROR],
                    )
                if told is None:  # the first word, or the records are those of a backup
                    self._number = Markers.begin(connection, self._name, self._workers)
                return bool(told)
        except AwayError:
            return False

    def _leave(self) -> None:
        with self._store.transaction() as connection:
            Markers.end(connection, self._number or 0)

    def _began(self) -> None:
        self.trouble, self.runs = None, True
        log.info("marking runs")

    def _reason(self, error: Exception) -> str:
        """Why marking ended, in words for the page; the log has the traceback where it is a fault of ours."""
        if isinstance(error, HobError) or not self._store.there():
            return AWAY
        log.error("marking ended", traceback="".join(traceback.format_exception(error)))
        return "of a fault in this program, which the log has"


async def _end(task: asyncio.Task[None]) -> None:
    """Cancels a task until it ends: where it opens connections, a first cancelling can be lost."""
    for _ in range(STOP_TRIES):
        task.cancel()
        if (await asyncio.wait({task}, timeout=STOP_SECONDS))[0]:
            return
    log.error("what works did not stop when it was told to")
