"""Workers: what they answer, and that one that dies or hangs costs one task and is replaced."""

import asyncio
import io
import unittest
from pathlib import Path
from unittest import mock

from hobtrial.core.exercise import ExerciseError
from hobtrial.core.explaining import report
from hobtrial.core.words import clean
from hobtrial.crew import Crew, WorkerGoneError
from hobtrial.crew import hand as hand_module
from hobtrial.crew.wire import WireError, pack, read_message, unpack
from hobtrial.demo import exercise_folder
from tests.core.hostile import HOSTILE
from tests.support import BAKEHOUSE, as_root, bakehouse, sample_class

FILES = exercise_folder(BAKEHOUSE)


class CrewAtWork(unittest.IsolatedAsyncioTestCase):
    async def test_a_report_is_the_same_as_without_workers(self) -> None:
        async with Crew(2) as crew:
            exercise = await crew.open(FILES)
            names = ["wren", "yarrow", "woad", "dunnock"]
            found = await asyncio.gather(*(crew.mark(exercise, name, sample_class()[name].encode()) for name in names))
        self.assertEqual(found, [clean(report(bakehouse(), name, sample_class()[name])) for name in names])

    async def test_an_exercise_that_cannot_be_used_comes_back_with_its_faults(self) -> None:
        async with Crew(1) as crew:
            with self.assertRaises(ExerciseError) as caught:
                await crew.open(
                    {**FILES, "exercise.toml": FILES["exercise.toml"].replace(b"score == 3", b"scoer == 3")}
                )
        (fault,) = caught.exception.faults
        self.assertEqual((fault.file, fault.line > 90), ("exercise.toml", True))

    async def test_a_worker_that_dies_costs_one_task_and_is_replaced(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            (hand,) = crew._hands
            hand.process.kill()
            lost = await crew.mark(exercise, "x.py", b"a = 1")
            self.assertEqual((lost["status"], lost["marks"], lost["out_of"]), ("stopped", 0, 20))
            self.assertEqual(lost["findings"][0]["confidence"], "open")
            again = await crew.mark(exercise, "x.py", sample_class()["wren"].encode())
            self.assertEqual(again["marks"], 15)

    async def test_what_a_killed_worker_had_played_is_kept_and_marked(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            (hand,) = crew._hands
            hear, heard = hand._hear, []

            async def hear_two(seconds: float) -> dict:
                if len(heard) == 2:
                    hand.process.kill()
                    await hand.process.wait()
                    raise WorkerGoneError("gone")
                heard.append(await hear(seconds))
                return heard[-1]

            with mock.patch.object(hand, "_hear", hear_two):
                found = await crew.mark(exercise, "wren.py", sample_class()["wren"].encode())
        self.assertEqual((found["status"], found["marks"], len(found["scenarios"])), ("stopped", 9, 2))
        self.assertEqual(found["findings"][0]["marks_lost"], 11)

    async def test_a_worker_that_hangs_is_ended(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            with mock.patch.object(hand_module, "WALL_SECONDS", 0.001), self.assertRaises(WorkerGoneError):
                await crew.replay(exercise, b"a = 1", 0)
            self.assertEqual((await crew.replay(exercise, b"score = 3", 0))["trace"]["final"]["score"], 3)

    async def test_the_environment_of_the_server_is_not_the_workers(self) -> None:
        with mock.patch.dict("os.environ", {"HOB_SECRET": "x"}):
            async with Crew(1) as crew:
                await crew.open(FILES)
                (hand,) = crew._hands
                with open(f"/proc/{hand.process.pid}/environ", "rb") as file:
                    names = {entry.split(b"=")[0] for entry in file.read().split(b"\0") if entry}
        self.assertEqual(names, {b"PATH", b"PYTHONPATH", b"PYTHONHASHSEED", b"LANG"})

    async def test_a_worker_is_another_user_without_files_and_without_new_privileges(self) -> None:
        async with Crew(1) as crew:
            await crew.open(FILES)
            (hand,) = crew._hands
            self.assertEqual(crew.missing, [])
            process = Path(f"/proc/{hand.process.pid}")
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
            (hand,) = crew._hands
            for script in scripts:
                self.assertEqual((await crew.mark(exercise, "x.py", script.encode()))["status"], "stopped", script)
            self.assertEqual(await crew.replay(exercise, canary, 0), before)
            self.assertEqual(crew._hands, {hand})

    async def test_control_characters_do_not_come_through(self) -> None:
        async with Crew(1) as crew:
            exercise = await crew.open(FILES)
            found = await crew.replay(exercise, b'tell("a\\0b\\x1b[31m\\ud800")', 0)
        self.assertEqual(found["trace"]["story"][0]["text"], "a\ufffdb\ufffd[31m\ufffd")


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
