"""Workers: what they answer, and that one that dies or hangs costs one task and is replaced."""

import asyncio
import io
import json
import unittest
from pathlib import Path
from unittest import mock

from structlog.testing import capture_logs

from hobtrial.core import reporting
from hobtrial.core.exercise import ExerciseError
from hobtrial.core.words import clean
from hobtrial.crew import Crew, WorkerGoneError
from hobtrial.crew import process as process_module
from hobtrial.crew.wire import WireError, pack, read_message, unpack
from hobtrial.demo import exercise_folder
from tests.core.hostile import HOSTILE
from tests.crew.faults import breaking, busy_cores, killed_after
from tests.support import BAKEHOUSE, as_root, bakehouse, sample_class

FILES = exercise_folder(BAKEHOUSE)


class CrewAtWork(unittest.IsolatedAsyncioTestCase):
    async def test_a_report_is_the_same_as_without_workers(self) -> None:
        async with Crew(2) as crew:
            exercise = await crew.open(FILES)
            names = ["wren", "yarrow", "woad", "dunnock"]
            found = await asyncio.gather(*(crew.mark(exercise, name, sample_class()[name].encode()) for name in names))
        made = [clean(reporting.report(bakehouse(), name, sample_class()[name]).as_json()) for name in names]
        self.assertEqual([each.as_json() for each in found], made)

    async def test_an_exercise_that_cannot_be_used_comes_back_with_its_faults(self) -> None:
        async with Crew(1) as crew:
            with self.assertRaises(ExerciseError) as caught:
                await crew.open(
                    {**FILES, "exercise.toml": FILES["exercise.toml"].replace(b"score == 3", b"scoer == 3", 1)}
                )
        (fault,) = caught.exception.faults
        self.assertEqual((fault.file, fault.line > 90), ("exercise.toml", True))

    async def test_a_worker_that_is_killed_costs_nothing(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            (worker,) = crew._workers
            worker.process.kill()
            found = await crew.mark(exercise, "x.py", sample_class()["wren"].encode())
            self.assertEqual((found.status, found.marks, found.fault), ("marked", 15, None))
            self.assertNotEqual(crew._workers, {worker})

    async def test_a_worker_that_is_killed_each_time_is_the_machines_doing(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            with killed_after(0):
                found = await crew.mark(exercise, "wren.py", sample_class()["wren"].encode())
            self.assertEqual((found.status, found.marks, found.scenarios), ("unmarked", None, ()))
            assert found.fault is not None
            self.assertEqual((found.fault.whose, found.fault.id), ("machine", None))
            self.assertIn("says nothing about the script", found.fault.message)
            again = await crew.mark(exercise, "wren.py", sample_class()["wren"].encode())
            self.assertEqual(again.marks, 15)

    async def test_the_end_of_explaining_costs_no_mark(self) -> None:
        marked = len(exercise_scenarios()) + 1
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            with killed_after(marked):
                found = await crew.mark(exercise, "wren.py", sample_class()["wren"].encode())
        self.assertEqual((found.status, found.marks, found.findings, found.fault), ("marked", 15, (), None))
        assert found.unexplained is not None
        self.assertEqual((found.unexplained.whose, found.cut_short), ("machine", True))

    async def test_memory_that_is_gone_is_the_machines_doing(self) -> None:
        source = "score = 0\nbag = []\nwhile True:\n    bag.append(list(range(9999)))"
        with mock.patch.dict("os.environ"), breaking("hobtrial.core.script.guards.Guards.items", "MemoryError"):
            async with Crew(1) as crew:
                found = await crew.mark(await crew.open(FILES), "x.py", source.encode())
        assert found.fault is not None
        self.assertEqual((found.status, found.marks, found.fault.whose), ("unmarked", None, "machine"))

    async def test_a_fault_of_ours_is_told_as_ours_and_logged_under_its_id(self) -> None:
        for where, status in (("judging.marking.play_scenario", "unmarked"), ("explaining.chain.search", "marked")):
            with self.subTest(where), breaking(f"hobtrial.core.{where}", "AssertionError"), capture_logs() as logs:
                async with Crew(1) as crew:
                    found = await crew.mark(await crew.open(FILES), "wren.py", sample_class()["wren"].encode())
                fault = found.fault or found.unexplained
                assert fault is not None
                self.assertEqual((found.status, found.marks), (status, 15 if status == "marked" else None))
                self.assertEqual(fault.whose, "ours")
                self.assertIn(f"Tell whoever looks after the server: {fault.id}", fault.message)
                (entry,) = [each for each in logs if each["event"] == "internal error"]
                self.assertEqual((entry["id"], entry["log_level"]), (fault.id, "error"))
                self.assertIn("planted", entry["traceback"])

    async def test_a_busy_machine_changes_no_byte(self) -> None:
        """Scripts that are right, wrong, that stop, that loop and that ask for work up to a limit."""
        heavy = "score = 0\n@on(frame)\ndef f():\n    for i in range(2_000):\n        pass"
        scripts = {name: sample_class()[name] for name in ("heron", "wren", "yarrow", "dunnock", "finch")}
        scripts |= {"heavy": heavy, "endless": "score = 0\nwhile True:\n    score += 1"}

        async def reports() -> list[bytes]:
            async with Crew(2) as crew:
                exercise = await crew.open(FILES)
                found = await asyncio.gather(*(crew.mark(exercise, name, scripts[name].encode()) for name in scripts))
            return [json.dumps(each.as_json()).encode() for each in found]

        quiet = await reports()
        with busy_cores():
            self.assertEqual(await reports(), quiet)

    async def test_a_worker_that_hangs_is_ended(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            with mock.patch.object(process_module, "SILENT_SECONDS", 0.001), self.assertRaises(WorkerGoneError):
                await crew.replay(exercise, b"a = 1", 0)
            self.assertEqual((await crew.replay(exercise, b"score = 3", 0))["trace"]["final"]["score"], 3)

    async def test_the_environment_of_the_server_is_not_the_workers(self) -> None:
        with mock.patch.dict("os.environ", {"HOB_SECRET": "x"}):
            async with Crew(1) as crew:
                await crew.open(FILES)
                (worker,) = crew._workers
                with open(f"/proc/{worker.process.pid}/environ", "rb") as file:
                    names = {entry.split(b"=")[0] for entry in file.read().split(b"\0") if entry}
        self.assertEqual(names, {b"PATH", b"PYTHONPATH", b"PYTHONHASHSEED", b"LANG"})

    async def test_a_worker_is_another_user_without_files_and_without_new_privileges(self) -> None:
        async with Crew(1) as crew:
            await crew.open(FILES)
            (worker,) = crew._workers
            self.assertEqual(crew.missing, [])
            process = Path(f"/proc/{worker.process.pid}")
            status = dict(line.split(":", 1) for line in (process / "status").read_text().splitlines())
            self.assertEqual((status["NoNewPrivs"].strip(), status["Seccomp"].strip()), ("1", "2"))
            if as_root():
                self.assertEqual(set(status["Uid"].split()) | set(status["Gid"].split()), {"65534"})
                self.assertEqual(status["Groups"].strip(), "")
                self.assertEqual(sorted(path.name for path in (process / "fd").iterdir()), ["0", "1", "2"])

    async def test_hostile_scripts_leave_a_worker_as_it_was(self) -> None:
        scripts = [source for source, kind in HOSTILE.values() if kind in ("loop", "depth", "text", "collection")][::6]
        canary = b"import random\nscore = random.random()"
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            before = await crew.replay(exercise, canary, 0)
            (worker,) = crew._workers
            for script in scripts:
                self.assertEqual((await crew.mark(exercise, "x.py", script.encode())).status, "stopped", script)
            self.assertEqual(await crew.replay(exercise, canary, 0), before)
            self.assertEqual(crew._workers, {worker})

    async def test_control_characters_do_not_come_through(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            found = await crew.replay(exercise, b'tell("a\\0b\\x1b[31m\\ud800")', 0)
        self.assertEqual(found["trace"]["story"][0]["text"], "a\ufffdb\ufffd[31m\ufffd")


def exercise_scenarios() -> list[str]:
    """The names of the scenarios of the exercise."""
    return [scenario.spec.name for scenario in bakehouse().scenarios]


class Wire(unittest.TestCase):
    def test_there_and_back(self) -> None:
        message = {"do": "mark", "text": "ä"}
        self.assertEqual(read_message(io.BytesIO(pack(message, 1000)), 1000), message)
        self.assertIsNone(read_message(io.BytesIO(b""), 1000))

    def test_what_is_too_long_or_no_object_is_turned_down(self) -> None:
        with self.assertRaises(WireError):
            pack({"a": "x" * 100}, 50)
        with self.assertRaises(WireError):
            read_message(io.BytesIO(pack({"a": "x" * 100}, 500)), 50)
        for body in (b"[1]", b"nonsense"):
            with self.assertRaises(WireError):
                unpack(body)
