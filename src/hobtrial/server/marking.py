"""Keeps the marking going: whatever ends it, it is begun again, after a wait that grows."""

from __future__ import annotations

import asyncio
import traceback
from typing import Final

import structlog

from ..core.words import HobError
from ..crew import Marker, NewerEditionError, work
from ..store import Store

FIRST_WAIT: Final = 0.5
LONGEST_WAIT: Final = 8.0
"""Seconds before marking is begun again; each wait is twice the one before."""
LOOK_SECONDS: Final = 2.0
"""How often it is looked whether the database is there."""
AWAY: Final = "the records cannot be reached"

log = structlog.get_logger()


class Marking:
    """The marking of one server. `trouble` says why it does not run, and is shown with every round that waits."""

    def __init__(self, store: Store, marker: Marker, workers: int, retention_months: int | None = None) -> None:
        self._store = store
        self._marker = marker
        self._workers = workers
        self._retention_months = retention_months
        self.trouble: str | None = None
        self.runs = not workers  # then others mark, elsewhere

    async def run(self) -> None:
        """Marks until it is cancelled."""
        if not self._workers:
            return
        wait = FIRST_WAIT
        while True:
            try:
                await self._work()
            except NewerEditionError as error:
                self.trouble = str(error).rstrip(".")
            except Exception as error:
                self.trouble = await asyncio.to_thread(self._reason, error)
            wait = FIRST_WAIT if self.runs else min(wait * 2, LONGEST_WAIT)
            self.runs = False
            log.warning("marking is not running", reason=self.trouble, again_in_seconds=wait)
            await asyncio.sleep(wait)

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
            working.result()
        finally:
            working.cancel()
            await asyncio.wait({working}, timeout=LONGEST_WAIT)

    def _began(self) -> None:
        self.trouble, self.runs = None, True
        log.info("marking runs")

    def _reason(self, error: Exception) -> str:
        """Why marking ended, in words for the page; the log has the traceback where it is a fault of ours."""
        if isinstance(error, HobError) or not self._store.there():
            return AWAY
        log.error("marking ended", traceback="".join(traceback.format_exception(error)))
        return "of a fault in this program, which the log has"
