"""A class that is watched is looked at once, however many teachers watch it."""

import asyncio
import unittest
from datetime import UTC, datetime
from unittest import mock

from hobtrial.server import classroom
from hobtrial.server.classroom import Classroom
from hobtrial.server.lesson_views import WorkView


def view(number: int) -> WorkView:
    return WorkView(
        id=number,
        title="Count",
        class_name="7 Larch",
        out_of=4,
        now=datetime(2026, 11, 30, tzinfo=UTC),
        minutes=40,
        watches=True,
        students=[],
        ideas=[],
    )


class Watched(unittest.IsolatedAsyncioTestCase):
    async def test_many_who_look_at_once_see_one_look(self) -> None:
        room, looks = Classroom(), []

        def see() -> WorkView:
            looks.append(1)
            return view(1)

        seen = await asyncio.gather(*(room.look(1, see) for _ in range(20)))
        self.assertEqual((len(set(seen)), len(looks)), (1, 1))
        await room.look(2, see)
        self.assertEqual(len(looks), 2)  # another round is another look

    async def test_a_look_is_soon_old(self) -> None:
        room, numbers = Classroom(), iter(range(9))
        with mock.patch.object(classroom, "FRESH_SECONDS", -1):
            first = await room.look(1, lambda: view(next(numbers)))
            second = await room.look(1, lambda: view(next(numbers)))
        self.assertNotEqual(first, second)

    async def test_a_look_that_fails_is_not_kept(self) -> None:
        room = Classroom()

        def fails() -> WorkView:
            raise RuntimeError("the records are away")

        with self.assertRaises(RuntimeError):
            await room.look(1, fails)
        self.assertIn("7 Larch", await room.look(1, lambda: view(1)))

    async def test_who_leaves_ends_nobody_else_s_look(self) -> None:
        room, go = Classroom(), asyncio.Event()
        loop = asyncio.get_running_loop()

        def see() -> WorkView:
            asyncio.run_coroutine_threadsafe(go.wait(), loop).result(10)
            return view(1)

        leaves, stays = asyncio.create_task(room.look(1, see)), asyncio.create_task(room.look(1, see))
        await asyncio.sleep(0.05)
        leaves.cancel()
        go.set()
        self.assertIn("Count", await stays)
