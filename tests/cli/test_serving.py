"""`hob serve`, `hob load` on a database of the environment, and `hob dev`: what they serve, and what they say."""

import json
import os
import queue
import re
import signal
import subprocess
import sys
import threading
import time
import unittest
from contextlib import closing, suppress
from http.client import HTTPConnection
from http.cookiejar import CookieJar
from tempfile import TemporaryDirectory
from typing import Any
from urllib.parse import urlsplit
from urllib.request import HTTPCookieProcessor, Request, build_opener

from hobtrial.cli.demo import load
from hobtrial.cli.serving import listen
from hobtrial.store import Store
from tests.cli.test_commands import CLASS, EXERCISE
from tests.support import BAKEHOUSE, ROOT, database

MINUTE = 60


def begin(case: unittest.TestCase, *arguments: str, **environment: str) -> "queue.Queue[str]":
    """Starts a command that serves until it is stopped, and gives its lines as they come."""
    process = subprocess.Popen(
        [sys.executable, "-m", "hobtrial", *arguments],
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        env={"PYTHONPATH": str(ROOT / "src"), "PATH": os.environ["PATH"], "PYTHONUNBUFFERED": "1", **environment},
        start_new_session=True,
    )
    lines: queue.Queue[str] = queue.Queue()

    def read() -> None:
        assert process.stdout is not None
        for line in process.stdout:
            lines.put(line)

    def stop() -> None:
        with suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGTERM)
        process.wait(MINUTE)
        thread.join(MINUTE)
        assert process.stdout is not None
        process.stdout.close()

    thread = threading.Thread(target=read, daemon=True)
    thread.start()
    case.addCleanup(stop)
    return lines


def address(lines: "queue.Queue[str]", words: str) -> str:
    """The address in the first line that has some words in it."""
    seen: list[str] = []
    while True:
        try:
            line = re.sub(r"\x1b\[[0-9;]*m", "", lines.get(timeout=MINUTE))
        except queue.Empty:
            raise AssertionError("".join(seen)) from None
        seen.append(line)
        found = re.search(r"http://[\w.]+:\d+", line)
        if words in line and found:
            return found[0]


def ask(url: str, path: str, method: str = "GET") -> tuple[int, Any]:
    """A status and an answer, as a page at that address gets it."""
    place = urlsplit(url)
    with closing(HTTPConnection(str(place.hostname), place.port, timeout=MINUTE)) as connection:
        connection.request(method, path, headers={"Origin": url})
        answer = connection.getresponse()
        return answer.status, json.loads(answer.read() or b"null")


def ready(url: str, path: str) -> Any:
    """The answer, as soon as there is one."""
    until = time.monotonic() + MINUTE
    while True:
        try:
            status, found = ask(url, path)
            if status == 200:
                return found
        except (ConnectionError, ValueError):
            pass
        if time.monotonic() > until:
            raise AssertionError(f"nothing answers at {url}{path}")
        time.sleep(0.2)


def free_port() -> str:
    with closing(listen(0)) as listener:
        return str(listener.getsockname()[1])


class Serve(unittest.TestCase):
    def run_to_its_end(self, command: str, **environment: str) -> tuple[int, str]:
        done = subprocess.run(
            [sys.executable, "-m", "hobtrial", command],
            capture_output=True,
            text=True,
            env={"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin", **environment},
            timeout=MINUTE,
        )
        return done.returncode, done.stdout + done.stderr

    def test_without_a_database_it_says_how_to_name_one(self) -> None:
        status, said = self.run_to_its_end("serve")
        self.assertEqual(status, 1)
        self.assertIn(
            "HOB_DATABASE is not set. It says which PostgreSQL database keeps the records: postgresql://", said
        )

    def test_a_database_that_cannot_be_used_has_postgresqls_words(self) -> None:
        status, said = self.run_to_its_end("serve", HOB_DATABASE=f"postgresql://hob@127.0.0.1:{free_port()}/hob")
        self.assertEqual(status, 1)
        self.assertIn("cannot be used. PostgreSQL says: connection failed", said)
        self.assertNotIn("Traceback", said)

    def test_what_is_loaded_into_its_database_is_served_and_nothing_else(self) -> None:
        named = {"HOB_DATABASE": database("named")}
        said = begin(self, "serve", "--port", free_port(), **named)
        url = address(said, "Hob Trial is at")
        self.assertIn("Nobody can sign in yet", said.get(timeout=MINUTE))
        first = said.get(timeout=MINUTE).strip()
        self.assertTrue(first.startswith(f"{url}/sign-in#first="), first)
        lines = begin(self, "load", str(EXERCISE), "Evening class", str(CLASS / "wren.py"), **named)
        self.assertIn("1 of 1 scripts were handed in for Evening class", lines.get(timeout=MINUTE))
        teacher = build_opener(HTTPCookieProcessor(CookieJar()))
        given = {"token": first.rpartition("=")[2], "name": "Alder", "password": "under the alders"}
        headers = {"Origin": url, "Content-Type": "application/json"}
        teacher.open(Request(f"{url}/api/sign-in/first", json.dumps(given).encode(), headers)).close()
        with teacher.open(f"{url}/api/bench") as answer:
            [found] = json.load(answer)["rounds"]
        self.assertEqual((found["class_name"], found["scripts"]), ("Evening class", 1))


class Dev(unittest.TestCase):
    def test_the_front_end_reads_and_writes_through_its_own_address(self) -> None:
        lines = begin(
            self,
            "dev",
            "--port",
            free_port(),
            HOB_DATABASE=database("dev"),
            HOB_HOME=self.enterContext(TemporaryDirectory()),
        )
        url = address(lines, "Local:")
        self.assertEqual(ready(url, "/api/me")["role"], "nobody")
        status, answer = ask(url, "/api/rounds/1/mark", "POST")
        self.assertEqual((status, answer), (401, {"detail": "Sign in first."}))


class Workers(unittest.TestCase):
    def test_a_worker_elsewhere_marks_what_a_server_leaves_to_it(self) -> None:
        dsn = database("worked")
        load(dsn, [BAKEHOUSE])
        store = Store(dsn)
        self.addCleanup(store.close)
        lines = begin(self, "worker", "--workers", "1", HOB_DATABASE=dsn)
        self.assertIn("with 1 process. Ctrl-C stops it.", lines.get(timeout=MINUTE))
        end = time.monotonic() + 2 * MINUTE
        while time.monotonic() < end:
            with store.transaction() as connection:
                found = connection.execute("SELECT count(*) AS reports FROM report").fetchone()
            if found and found["reports"] > 1:
                return
            time.sleep(0.2)
        raise AssertionError("nothing was marked")

    def test_without_a_database_it_says_what_is_missing(self) -> None:
        lines = begin(self, "worker")
        self.assertIn("HOB_DATABASE", lines.get(timeout=MINUTE))
