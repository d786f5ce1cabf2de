"""The nursery: workers are forked from it, it never does their work, and where it is gone there is another one."""

import asyncio
import contextlib
import os
import signal
import time
import unittest
import unittest.mock
from pathlib import Path

from hobtrial.crew import Crew
from hobtrial.crew import process as process_module
from hobtrial.crew.process import WorkerProcess
from hobtrial.demo import exercise_folder
from tests.support import BAKEHOUSE


def parent_of(pid: int) -> int:
    return int(Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[1])


class Nursery(unittest.IsolatedAsyncioTestCase):
    async def test_workers_are_siblings_and_end_for_good(self) -> None:
        workers = [await WorkerProcess.start() for _ in range(4)]
        pids = [worker.process.pid for worker in workers]
        self.assertEqual(len(set(pids)), 4)
        self.assertEqual(len({parent_of(pid) for pid in pids}), 1)
        self.assertNotEqual(parent_of(pids[0]), os.getpid())
        for worker in workers:
            await worker.end()
            self.assertIsNotNone(worker.process.returncode)
            with self.assertRaises(ProcessLookupError):
                worker.process.kill()
        end = time.monotonic() + 10
        while any(Path(f"/proc/{pid}").exists() for pid in pids):
            self.assertLess(time.monotonic(), end, "somebody who ended is still there")
            await asyncio.sleep(0.05)

    async def test_where_it_is_killed_there_is_another_one_and_workers_at_work_go_on(self) -> None:
        async with Crew(2) as crew:
            exercise = await crew.open(exercise_folder(BAKEHOUSE))
            (worker,) = crew._workers
            old = parent_of(worker.process.pid)
            os.kill(old, signal.SIGKILL)
            await asyncio.sleep(0.2)
            self.assertEqual(await crew.read(exercise, b"score = "), await crew.read(exercise, b"score = "))
            other = await WorkerProcess.start()
            self.assertNotEqual(parent_of(other.process.pid), old)
            await other.end()

    async def test_how_nice_a_worker_is(self) -> None:
        worker = await WorkerProcess.start(7)
        self.assertEqual(os.getpriority(os.PRIO_PROCESS, worker.process.pid), 7)
        await worker.end()

    async def test_many_can_be_started_at_once(self) -> None:
        workers = await asyncio.gather(*(WorkerProcess.start() for _ in range(12)))
        self.assertEqual(len({worker.process.pid for worker in workers}), 12)
        await asyncio.gather(*(worker.end() for worker in workers))

    async def test_a_nursery_that_cannot_begin_is_said(self) -> None:
        command = ("-c", "import sys; sys.exit(3)")
        with contextlib.ExitStack() as stack:
            stack.enter_context(unittest.mock.patch.object(process_module, "COMMAND", command))
            with self.assertRaisesRegex(process_module.WorkerGoneError, "no worker can be started"):
                await WorkerProcess.start()
