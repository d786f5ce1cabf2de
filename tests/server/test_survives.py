"""What a school's server lives through: a database that is killed, ten clicks at once, two editions, a polite end."""

import os
import signal
import socket
import subprocess
import sys
import time
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest import mock

from starlette.testclient import TestClient

from hobtrial.cli.demo import load
from hobtrial.cli.records import make_ready
from hobtrial.core.reporting import EDITION
from hobtrial.crew import DESK_CHECK, HANDED_IN, NewerEditionError, Queue, prepare_queue
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from hobtrial.store import AwayError, Classes, Reports, Rounds, Store, Teachers, reports
from tests.server.served import HOST, ORIGIN, own_cluster, served
from tests.support import BAKEHOUSE, ROOT, database

SCRIPTS = 12
PATIENCE = 120
"""Seconds after which something that should come has not come."""


def wait_for(look: Any, otherwise: str) -> Any:
    """What `look` gives, once it gives something."""
    end = time.monotonic() + PATIENCE
    while time.monotonic() < end:
        found = look()
        if found:
            return found
        time.sleep(0.05)
    raise AssertionError(otherwise)


@contextmanager
def closing_store(dsn: str) -> Iterator[Store]:
    """A store that is closed at the end."""
    store = Store(dsn)
    try:
        yield store
    finally:
        store.close()


def nobody(dsn: str) -> TestClient:
    """A client of an application that marks nothing, who is not signed in."""
    return TestClient(create_app(dsn, Settings(workers=0)), base_url=f"http://{HOST}")


class TheDatabaseIsKilled(unittest.TestCase):
    def setUp(self) -> None:
        self.cluster = own_cluster(self)
        make_ready(self.cluster.dsn)
        load(self.cluster.dsn, [])
        with closing_store(self.cluster.dsn) as store, store.transaction() as connection:
            teacher = Teachers.named(connection, "Linden")
            assert teacher is not None
            class_id = Classes.named(connection, "7 Larch", teacher["id"])
            round_id = Rounds.open(connection, class_id, 1)
            for number in range(SCRIPTS):
                name = f"Student {number}"
                ids = Classes.add_students(connection, class_id, [name])
                source = f"score = {number}\nlives = 3\nboard('Buns', score)\n".encode()
                Rounds.hand_in(connection, round_id, ids[name], "a.py", source)

    def kill(self) -> None:
        """Kills PostgreSQL as a power cut would."""
        note = self.cluster.folder / "data" / "postmaster.pid"
        number = int(note.read_text().split("\n")[0])
        os.kill(number, signal.SIGKILL)
        wait_for(lambda: not Path(f"/proc/{number}").exists() or _is_dead(number), "it still runs")

    def done(self, client: TestClient) -> int:
        answer = client.get("/api/rounds/1")
        return int(answer.json()["done"]) if answer.status_code == 200 else -1

    def test_pages_say_so_and_marking_goes_on_where_it_was(self) -> None:
        before = self.cluster.dsn
        with served(self.cluster.dsn) as client:
            marked = wait_for(lambda: self.done(client) > 1 and self.done(client), "nothing was marked")
            self.kill()
            away = client.get("/api/rounds/1")
            self.assertEqual((away.status_code, away.headers["retry-after"]), (503, "2"))
            self.assertIn("The records cannot be reached just now. Nothing is lost", away.json()["detail"])
            self.assertEqual((client.get("/healthz").status_code, client.get("/readyz").status_code), (200, 503))
            wait_for(lambda: client.get("/readyz").json()["why_not"], "marking does not say that it has ended")
            self.cluster.start()
            self.assertEqual(self.cluster.dsn, before)  # the same port, so the server finds it again
            found = wait_for(
                lambda: self.done(client) == SCRIPTS and client.get("/api/rounds/1").json(), "it does not go on"
            )
            self.assertGreaterEqual(found["done"], marked)
            self.assertEqual({row["status"] for row in found["students"]}, {"marked"})
            self.assertIsNone(found["marking_trouble"])
            ready = wait_for(lambda: client.get("/readyz").status_code == 200, "it is not ready again")
            self.assertTrue(ready)
        with closing_store(before) as store, store.transaction() as connection:
            [twice] = connection.execute(
                "SELECT count(*) - count(DISTINCT (version_id, digest)) AS twice FROM report"
            ).fetchall()
            self.assertEqual(twice["twice"], 0)

    def test_a_transaction_that_loses_it_says_so_and_the_next_one_works(self) -> None:
        with closing_store(self.cluster.dsn) as store:
            with store.transaction() as connection:
                connection.execute("SELECT 1")
            self.kill()
            with self.assertRaises(AwayError), store.transaction() as connection:
                connection.execute("SELECT 1")
            self.cluster.start()
            with store.transaction() as connection:
                connection.execute("SELECT 1")


def _is_dead(number: int) -> bool:
    """Whether a process has ended and is only not collected yet."""
    return " Z " in Path(f"/proc/{number}/stat").read_text()


class TheQueue(unittest.TestCase):
    def jobs(self, store: Store) -> int:
        with store.transaction() as connection:
            [row] = connection.execute("SELECT count(*) AS jobs FROM procrastinate_jobs").fetchall()
        return int(row["jobs"])

    def test_the_first_text_of_each_exercise_goes_first(self) -> None:
        dsn = database("turns")
        with closing_store(dsn) as store:
            queue = Queue(dsn)
            self.addCleanup(queue.close)
            with store.transaction() as connection:
                queue.defer(connection, [(1, f"a{number}") for number in range(4)], HANDED_IN)
                queue.defer(connection, [(2, "b0"), (2, "b1")], HANDED_IN)
                queue.defer(connection, [(1, "a4")], HANDED_IN)
                queue.defer(connection, [(3, "c0")], DESK_CHECK)
                rows = connection.execute(
                    "SELECT args ->> 'digest' AS text FROM procrastinate_jobs ORDER BY priority DESC, id"
                ).fetchall()
        self.assertEqual([row["text"] for row in rows], ["c0", "a0", "b0", "a1", "b1", "a2", "a3", "a4"])

    def test_however_often_it_is_asked_for_a_text_waits_once(self) -> None:
        dsn = database("often")
        load(dsn, [BAKEHOUSE])
        queue = Queue(dsn)
        self.addCleanup(queue.close)
        with closing_store(dsn) as store:
            waiting = queue.defer_all(store)
            self.assertGreater(waiting, 20)
            self.assertEqual((queue.defer_waiting(store), self.jobs(store)), (0, waiting))

    def test_an_older_edition_leaves_a_newer_ones_work_alone(self) -> None:
        dsn = database("editions")
        load(dsn, [BAKEHOUSE])
        queue = Queue(dsn)
        self.addCleanup(queue.close)
        with closing_store(dsn) as store:
            with mock.patch.object(reports, "EDITION", EDITION + 1), store.transaction() as connection:
                self.assertTrue(Reports.forget_older(connection))
            with self.assertRaises(NewerEditionError):
                queue.defer_all(store)
        with served(dsn) as client:
            trouble = wait_for(lambda: client.get("/api/rounds/1").json()["marking_trouble"], "it says nothing")
            self.assertEqual(
                trouble,
                "A newer Hob Trial marks with these records. This one shows them and marks nothing; update it",
            )

    def test_tables_of_another_version_of_the_library_are_made_again(self) -> None:
        dsn = database("older_queue")
        with closing_store(dsn) as store:
            with store.transaction() as connection:
                connection.execute("COMMENT ON TABLE procrastinate_jobs IS 'made by an older one'")
                connection.execute("ALTER TABLE procrastinate_jobs DROP COLUMN queueing_lock CASCADE")
            prepare_queue(dsn)
            load(dsn, [BAKEHOUSE])
            queue = Queue(dsn)
            self.addCleanup(queue.close)
            self.assertGreater(queue.defer_all(store), 20)

    def test_marking_a_round_again_ten_times_is_marking_it_again(self) -> None:
        dsn = database("clicks")
        load(dsn, [BAKEHOUSE])
        with served(dsn) as client:
            for _ in range(10):
                self.assertEqual(client.post("/api/rounds/1/mark", headers=ORIGIN).status_code, 202)
            with closing_store(dsn) as store:
                self.assertLessEqual(self.jobs(store), 28 + 5)  # some are being marked already, and wait once more


class ThePoliteEnd(unittest.TestCase):
    def test_it_comes_although_a_request_does_not_end(self) -> None:
        environment = {"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin", "HOB_DATABASE": database("polite")}
        serve = [sys.executable, "-m", "hobtrial", "serve", "--port", "18765"]
        server = subprocess.Popen(serve, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=environment)
        self.addCleanup(server.kill)
        assert server.stdout is not None
        address = server.stdout.readline().split("http://")[1].split("/")[0]
        host, port = address.split(":")
        with socket.create_connection((host, int(port))) as slow:
            head = f"POST /api/sign-in/teacher HTTP/1.1\r\nHost: {address}\r\nOrigin: http://{address}\r\n"
            slow.sendall(f"{head}Content-Type: application/json\r\nContent-Length: 900\r\n\r\n{{".encode())
            time.sleep(0.3)
            server.send_signal(signal.SIGTERM)
            self.assertIsNotNone(server.wait(60))
        server.stdout.close()


class TooMuch(unittest.TestCase):
    def test_a_body_that_is_too_large_is_not_read_to_its_end(self) -> None:
        with nobody(database("large")) as client:
            answer = client.post(
                "/api/sign-in/teacher",
                content=b" " * (41 * 2**20),
                headers={**ORIGIN, "content-type": "application/json"},
            )
            self.assertEqual((answer.status_code, answer.json()["detail"][:25]), (413, "This is more than 40 MB, "))

    def test_addresses_that_are_none(self) -> None:
        with nobody(database("large")) as client:
            for path in ("/index.html%00.png", "/" + "a" * 3000, "/%ff%fe", "/assets/%00"):
                self.assertIn(client.get(path).status_code, (200, 404), path)
            self.assertEqual(client.get("/" + "a" * 6000).status_code, 403)
            for path in ("/api/rounds/%00", "/api/drafts/1/looks/%00.svg"):
                self.assertEqual(client.get(path).status_code, 401, path)
