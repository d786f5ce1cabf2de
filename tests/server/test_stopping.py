"""Marking that is told to stop while it begins stops: nothing goes on, and nothing is waited for in vain."""

import asyncio
import contextlib
import unittest
from typing import Any
from unittest import mock

from procrastinate import App
from psycopg import AsyncConnection, OperationalError

from hobtrial.cli.records import make_ready
from hobtrial.crew import Crew, Marker
from hobtrial.server import marking
from hobtrial.store import Store
from tests.support import database

PATIENCE = 60


class StoppedWhileItBegins(unittest.IsolatedAsyncioTestCase):
    async def asyncSetUp(self) -> None:
        dsn = await asyncio.to_thread(database, "stopping")
        await asyncio.to_thread(make_ready, dsn)
        self.store = Store(dsn)
        self.addCleanup(self.store.close)
        self.connects = asyncio.Event()
        self.told = asyncio.Event()

    async def connect(self, *_: Any, **__: Any) -> Any:
        """A connection that is being opened, and fails a moment after marking was told to stop."""
        self.connects.set()
        await self.told.wait()
        raise OperationalError

    async def stop(self) -> set[str]:
        """Begins to mark, stops it while it connects, and gives the names of what goes on after that."""
        before = asyncio.all_tasks()
        async with Crew(1) as crew:
            markings = marking.Marking(self.store, Marker(self.store, crew), 1)
            running = asyncio.create_task(markings.run())
            await asyncio.wait_for(self.connects.wait(), PATIENCE)
            running.cancel()
            asyncio.get_running_loop().call_later(0.2, self.told.set)
            await asyncio.wait({running}, timeout=PATIENCE)
            self.assertTrue(running.done())
            self.assertFalse(markings.runs)
            with contextlib.suppress(asyncio.CancelledError):
                await running
        return {task.get_name() for task in asyncio.all_tasks() - before}

    async def test_nothing_is_left_that_connects(self) -> None:
        with mock.patch.object(AsyncConnection, "connect", self.connect):
            self.assertEqual(await self.stop(), set())

    async def test_it_is_told_again_where_the_word_is_lost(self) -> None:
        async def works(*_: Any) -> None:
            with contextlib.suppress(asyncio.CancelledError):
                await self.connect()
            await asyncio.Event().wait()

        with mock.patch.object(marking, "work", works), mock.patch.object(marking, "STOP_SECONDS", 0.05):
            self.assertEqual(await self.stop(), set())

    async def test_a_word_that_is_lost_while_the_queue_opens_is_heard_after_it(self) -> None:
        open_async = App.open_async

        async def opens(app: App) -> None:
            with contextlib.suppress(asyncio.CancelledError):
                await self.connect()
            await open_async(app)

        with mock.patch.object(App, "open_async", opens), mock.patch.object(marking.Marking, "_began") as began:
            self.assertEqual(await self.stop(), set())
        began.assert_not_called()


if __name__ == "__main__":
    unittest.main()
