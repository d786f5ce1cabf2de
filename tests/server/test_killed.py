"""Processes that are killed at random while a class hands in: nothing is lost, and every try is marked once."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import threading
import time
import unittest
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path
from random import Random
from typing import Any

import httpx2
import psycopg

from hobtrial.cli.demo import load
from hobtrial.cli.records import make_ready
from hobtrial.core.reporting import mark
from hobtrial.demo import tries
from hobtrial.store import Classes, Rounds, Sessions, Store, Teachers
from tests.server.served import own_cluster
from tests.support import BAKEHOUSE, ROOT, bakehouse, quiet_port

PATIENCE = 180


def children(pid: int) -> list[int]:
    """The processes that a process and its descendants began."""
    found: list[int] = []
    with suppress(OSError):
        for thread in Path(f"/proc/{pid}/task").iterdir():
            for each in map(int, (thread / "children").read_text(encoding="ascii").split()):
                found += [each, *children(each)]
    return found


def runs(pid: int) -> bool:
    """Whether a process runs; one that has ended and that nobody has asked for yet does not."""
    with suppress(OSError):
        return Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rsplit(")", 1)[1].split()[0] != "Z"
    return False


KILLS = ("inside", "database", "worker", "serve", "inside", "inside", "database")


class KilledAtRandom(unittest.TestCase):
    clients, each = 4, 6
    """How many hand in at once, and how many scripts each of them."""

    def kills(self, random: Random) -> Iterator[tuple[float, str]]:
        """What is killed, one after the other, with the seconds before it."""
        for what in KILLS:
            yield 0.4 + random.random(), what

    def setUp(self) -> None:
        self.cluster = own_cluster(self)
        with psycopg.connect(
            self.cluster.dsn
        ) as connection:  # a cluster for tests forgets what a killed one had said yes to
            connection.execute("ALTER ROLE CURRENT_USER SET synchronous_commit = on")
        make_ready(self.cluster.dsn)
        load(self.cluster.dsn, [])
        self.texts = self.made()
        store = Store(self.cluster.dsn)
        with store.transaction() as connection:
            teacher = Teachers.named(connection, "Linden")
            assert teacher is not None
            class_id = Classes.named(connection, "7 Larch", teacher["id"])
            Classes.add_students(connection, class_id, list(self.texts))
            Rounds.open(connection, class_id, 1)
            self.token = Sessions.begin(connection, teacher_id=teacher["id"])
        store.close()
        self.port = quiet_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.steps = 0
        self.running: dict[str, subprocess.Popen[bytes]] = {}
        self.addCleanup(self.end)
        for name in ("worker", "serve"):
            self.begin(name)

    def made(self) -> dict[str, tuple[bytes, float | None]]:
        """For each student a text of their own, and the marks that it has on a quiet machine."""
        sample = [each.source for each in tries(BAKEHOUSE)][:5]
        prepared, found = bakehouse(), {}
        for number in range(self.clients * self.each):
            source = sample[number % len(sample)].encode() + b"\n# %d\n" % number
            found[f"Student {number}"] = source, mark(prepared, "", source).report.marks
        return found

    def begin(self, name: str) -> None:
        """Starts the server (with a second process that answers), or a worker beside it."""
        more = ["--port", str(self.port), "--processes", "2"] if name == "serve" else ["--workers", "1"]
        self.running[name] = subprocess.Popen(
            [sys.executable, "-m", "hobtrial", name, *more],
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            env={**os.environ, "PYTHONPATH": str(ROOT / "src"), "HOB_DATABASE": self.cluster.dsn, "HOB_WORKERS": "1"},
            start_new_session=True,
        )
        if (
            name == "serve"
        ):  # what begins while there is no database says so and ends; then whoever began it tries again
            deadline = time.monotonic() + PATIENCE
            while not self.is_up():
                self.assertIsNone(self.running[name].poll(), "it ended while it began")
                self.assertLess(time.monotonic(), deadline, "it does not answer")
                time.sleep(0.1)

    def is_up(self) -> bool:
        with suppress(httpx2.TransportError), self.client() as client:
            return bool(client.get("/healthz").status_code == 200)
        return False

    def end(self) -> None:
        for each in self.running.values():
            each.terminate()
        for each in self.running.values():
            each.wait(PATIENCE)

    def kill(self, what: str, random: Random) -> None:
        """Kills something as a power cut would, and begins it again where nothing else does."""
        if what == "database":
            note = self.cluster.folder / "data" / "postmaster.pid"
            os.kill(int(note.read_text().split("\n")[0]), signal.SIGKILL)
            time.sleep(0.3)
            self.cluster.start()
        elif what == "inside":  # a process that answers or marks, or what forks those that mark
            inside = children(self.running["serve"].pid)
            if inside:
                with suppress(ProcessLookupError):
                    os.kill(random.choice(inside), signal.SIGKILL)
        else:
            process = self.running[what]
            below = children(process.pid)
            process.kill()
            process.wait()
            deadline = time.monotonic() + PATIENCE  # one that explains a script sees it once that is done
            while any(map(runs, below)) and time.monotonic() < deadline:
                time.sleep(0.1)
            self.assertLess(time.monotonic(), deadline, "what it began goes on without it")
            self.begin(what)

    def client(self) -> httpx2.Client:
        return httpx2.Client(base_url=self.url, cookies={"hob": self.token}, headers={"origin": self.url}, timeout=30)

    def hand_in(self, student: str) -> None:
        """Hands in as the page does: again, until it is told that it was taken."""
        deadline = time.monotonic() + PATIENCE
        last = "the server was never there"
        while time.monotonic() < deadline:
            with suppress(httpx2.TransportError), self.client() as client:
                files = [("files", ("script.py", self.texts[student][0]))]
                whose = {"answers": json.dumps({"script.py": student})}
                answer = client.post("/api/rounds/1/scripts", files=files, data=whose)
                last = f"{answer.status_code} {answer.text[:200]}"
                if answer.status_code == 200 and answer.json()["handed_in"] == 1:
                    return
            time.sleep(0.2)
        raise AssertionError(f"{student} could not hand in: {last}")

    def write_a_draft(self, over: threading.Event, failed: list[BaseException]) -> None:
        """Changes a draft again and again: what was said yes to is there, however the answer after it was cut off."""
        try:
            draft = self.asked("POST", "/api/drafts", {"version_id": 1})["id"]
            at, said = 0, ""
            while not over.is_set():
                text = f"Step {at + 1}\n"
                change = {"at": at, "change": {"do": "write", "file": "brief.md", "text": text}}
                try:
                    with self.client() as client:
                        answer = client.post(f"/api/drafts/{draft}/changes", json=change)
                except httpx2.TransportError:
                    answer = None
                if answer is not None and answer.status_code == 200:
                    at, said = answer.json()["at"], text
                    continue
                found = self.asked("GET", f"/api/drafts/{draft}")
                self.assertIn(
                    (found["at"], found["texts"]["brief.md"]),
                    ((at, said or found["texts"]["brief.md"]), (at + 1, text)),
                )
                at, said = found["at"], found["texts"]["brief.md"]
            self.steps = at
            for number in range(at, max(at - 3, 0), -1):
                found = self.asked("POST", f"/api/drafts/{draft}/step", {"at": number, "by": -1})
                self.assertEqual(found["at"], number - 1)
        except BaseException as error:
            failed.append(error)

    def asked(self, how: str, path: str, body: Any = None) -> Any:
        """An answer, asked for until there is one."""
        deadline = time.monotonic() + PATIENCE
        last = "the server was never there"
        while time.monotonic() < deadline:
            with suppress(httpx2.TransportError), self.client() as client:
                answer = client.request(how, path, json=body)
                last = f"{answer.status_code} {answer.text[:200]}"
                if answer.status_code == 200:
                    return answer.json()
            time.sleep(0.1)
        raise AssertionError(f"{how} {path}: {last}")

    def round(self) -> dict[str, Any] | None:
        with suppress(httpx2.TransportError), self.client() as client:
            answer = client.get("/api/rounds/1")
            if answer.status_code == 200:
                found: dict[str, Any] = answer.json()
                return found
        return None

    def test_every_try_is_marked_once_with_the_marks_of_a_quiet_machine(self) -> None:
        random = Random(11)
        names = list(self.texts)
        failed: list[BaseException] = []

        def one(number: int) -> None:
            try:
                for student in names[number :: self.clients]:
                    self.hand_in(student)
                    time.sleep(0.4)
            except BaseException as error:
                failed.append(error)

        threads = [threading.Thread(target=one, args=(number,)) for number in range(self.clients)]
        for each in threads:
            each.start()
        over = threading.Event()
        author = threading.Thread(target=self.write_a_draft, args=(over, failed))
        author.start()
        for pause, what in self.kills(random):
            time.sleep(pause)
            self.kill(what, random)
        for each in threads:
            each.join(PATIENCE)
        over.set()
        author.join(PATIENCE)
        self.assertEqual(failed, [])
        deadline = time.monotonic() + PATIENCE
        found: dict[str, Any] | None = None
        while time.monotonic() < deadline:
            found = self.round()
            if found is not None and {row["status"] for row in found["students"]} <= {
                "marked",
                "stopped",
                "unreadable",
            }:
                break
            time.sleep(0.3)
        assert found is not None
        marks = {row["student"]: (row["status"] != "waiting", row["marks"]) for row in found["students"]}
        wanted = {name: (True, marks) for name, (_, marks) in self.texts.items()}
        odd = {name: (marks.get(name), wanted[name]) for name in wanted if marks.get(name) != wanted[name]}
        self.assertEqual((odd, len(marks)), ({}, len(wanted)))
        store = Store(self.cluster.dsn)
        with store.transaction() as connection:
            [row] = connection.execute(
                "SELECT (SELECT count(*) FROM submission) AS handed_in, (SELECT count(*) FROM report) AS reports"
            ).fetchall()
        store.close()
        self.assertEqual((row["handed_in"], row["reports"]), (len(self.texts), len(self.texts)))
        self.assertGreater(self.steps, 0)
