"""A disk that is full, a clock that jumps, a backup that is brought back beside a running server: nothing is lost."""

import os
import tempfile
import threading
import time
import unittest
from pathlib import Path
from typing import Any
from unittest import mock

import psycopg

from hobtrial.cli.backups import backup, restore
from hobtrial.cli.demo import load
from hobtrial.cli.records import make_ready
from hobtrial.core.reporting import mark
from hobtrial.crew.crew import digest_of
from hobtrial.demo import exercise_folder
from hobtrial.store import Classes, Rounds, Sessions, Teachers
from tests.server.served import ORIGIN, own_cluster, served
from tests.server.test_survives import closing_store, wait_for
from tests.support import bakehouse

FULL = """
CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS
$$ BEGIN RAISE EXCEPTION 'could not extend file: No space left on device' USING ERRCODE = '53100'; END $$;
CREATE TRIGGER full_disk BEFORE INSERT ON {} FOR EACH ROW EXECUTE FUNCTION full_disk();
"""
ROOM = "DROP FUNCTION full_disk CASCADE"
JUMP = """
UPDATE procrastinate_workers SET last_heartbeat = last_heartbeat + {0};
UPDATE procrastinate_jobs SET scheduled_at = scheduled_at + {0};
UPDATE marker SET beat = beat + {0};
"""
"""What a clock that jumped leaves: all that was noted before is a day too early, or too late."""


class Running(unittest.TestCase):
    """A server that marks, and its database."""

    def setUp(self) -> None:
        self.cluster = own_cluster(self)
        self.dsn = self.cluster.dsn
        make_ready(self.dsn)
        load(self.dsn, [])
        with closing_store(self.dsn) as store, store.transaction() as connection:
            teacher = Teachers.named(connection, "Linden")
            assert teacher is not None
            class_id = Classes.named(connection, "7 Larch", teacher["id"])
            Classes.add_students(connection, class_id, [f"Student {number}" for number in range(12)])
            Rounds.open(connection, class_id, 1)
            self.token = Sessions.begin(connection, teacher_id=teacher["id"])
        self.client = self.enterContext(served(self.dsn))

    def run_sql(self, text: str) -> None:
        with psycopg.connect(self.dsn) as connection:
            connection.execute(text.encode())

    def hand_in(self, number: int, source: str, round_id: int = 1) -> Any:
        return self.client.post(
            f"/api/rounds/{round_id}/scripts",
            files=[("files", ("a.py", source.encode()))],
            data={"answers": f'{{"a.py": "Student {number}"}}'},
            headers=ORIGIN,
        )

    def row(self, number: int, round_id: int = 1) -> Any:
        answer = self.client.get(f"/api/rounds/{round_id}")
        rows = answer.json()["students"] if answer.status_code == 200 else []
        return next((row for row in rows if row["student"] == f"Student {number}"), None)

    def marked(self, number: int, round_id: int = 1) -> float:
        """The marks of a student, once there are some."""

        def look() -> Any:
            row = self.row(number, round_id)
            return row if row is not None and row["status"] == "marked" else None

        return float(wait_for(look, f"{number} is not marked")["marks"])


def script(number: int) -> str:
    """A small script, different for each student."""
    return f"score = {number}\nlives = 3\nboard('Buns', score)\n"


def earned(number: int) -> float:
    """What it earns on a quiet machine."""
    return float(mark(bakehouse(), "", script(number)).report.marks or 0)


class FullDisk(Running):
    def test_handing_in_says_so_and_works_once_there_is_room(self) -> None:
        self.run_sql(FULL.format("submission"))
        refused = self.hand_in(1, script(1))
        self.assertEqual(refused.status_code, 503)
        self.assertIn("The disk of the records is full", refused.json()["detail"])
        self.assertIsNotNone(self.client.get("/api/rounds/1").json())
        self.run_sql(ROOM)
        self.assertEqual(self.hand_in(1, script(1)).json()["handed_in"], 1)
        self.assertEqual(self.marked(1), earned(1))

    def test_marking_says_so_and_goes_on_once_there_is_room(self) -> None:
        self.run_sql(FULL.format("report"))
        self.hand_in(2, script(2))
        full = "The disk of the records is full"
        wait_for(lambda: full in self.client.get("/api/markers").text, "the owner is not told")
        self.assertEqual(self.row(2)["status"], "waiting")
        self.run_sql(ROOM)
        self.assertEqual(self.marked(2), earned(2))


class JumpingClock(Running):
    def test_every_script_is_marked_once_whichever_way_it_jumps(self) -> None:
        for turn, by in enumerate(("interval '1 day'", "- interval '1 day'")):
            numbers = range(6 * turn, 6 * turn + 6)
            for number in numbers:
                self.assertEqual(self.hand_in(number, script(number)).status_code, 200)
            self.run_sql(JUMP.format(by))
            self.assertEqual(
                {number: self.marked(number) for number in numbers}, {number: earned(number) for number in numbers}
            )
        with psycopg.connect(self.dsn) as connection:
            counted = connection.execute("SELECT count(*), count(DISTINCT (version_id, digest)) FROM report").fetchone()
        self.assertEqual(counted, (12, 12))


class BackupBroughtBack(Running):
    def set_for_a_class(self, expect: str) -> int:
        """An exercise of its own with one check, and a round with it."""
        draft = self.client.post("/api/drafts", json={"title": "Mine"}, headers=ORIGIN).json()["id"]
        toml = exercise_folder("first-count")["exercise.toml"].decode().split("[[craft]]", 1)[0]
        toml += (
            f'[[scenario]]\nname = "One"\nseconds = 1\n[[scenario.check]]\nend = true\nmarks = 2\nexpect = "{expect}"\n'
        )
        made = {"exercise.toml": toml, "reference.py": f"sacks = {expect[-1]}\n"}
        for at, (name, text) in enumerate(made.items()):
            change = {"at": at, "change": {"do": "write", "file": name, "text": text}}
            answer = self.client.post(f"/api/drafts/{draft}/changes", json=change, headers=ORIGIN)
            self.assertEqual(answer.status_code, 200, answer.text)
        answer = self.client.post(f"/api/drafts/{draft}/set", json={"class_name": "7 Larch"}, headers=ORIGIN)
        self.assertEqual(answer.status_code, 200, answer.text)
        return int(answer.json()["id"])

    def test_a_running_server_takes_it_up_and_confuses_nothing(self) -> None:
        self.hand_in(1, script(1))
        self.marked(1)
        file = Path(tempfile.mkdtemp(prefix="hob-test-"), "last-night.backup")
        with mock.patch.dict(os.environ, {"HOB_DATABASE": self.dsn}):
            self.assertEqual(backup(file), 0)
        before = self.set_for_a_class("sacks == 1")
        self.hand_in(3, "sacks = 1\n", before)
        self.assertEqual(self.marked(3, before), 2)

        over, answers = threading.Event(), set()

        def look() -> None:
            while not over.is_set():
                answers.add(self.client.get("/api/rounds/1").status_code)
                time.sleep(0.01)

        looking = threading.Thread(target=look)
        looking.start()
        with mock.patch.dict(os.environ, {"HOB_DATABASE": self.dsn}):
            self.assertEqual(restore(file, yes=True), 0)
        over.set()
        looking.join()
        self.assertLessEqual(answers, {200, 503})
        self.assertEqual(self.marked(1), earned(1))
        self.assertEqual(self.client.get(f"/api/rounds/{before}").status_code, 404)

        after = self.set_for_a_class("sacks == 2")  # the numbers of what the backup did not have come again
        self.hand_in(3, "sacks = 1\n", after)
        self.hand_in(4, "sacks = 2\n", after)
        self.assertEqual((before, self.marked(3, after), self.marked(4, after)), (after, 0, 2))

    def test_versions_are_told_apart_by_their_files(self) -> None:
        with psycopg.connect(self.dsn) as connection:
            row = connection.execute(
                "SELECT digest FROM exercise_version JOIN exercise ON exercise.id = exercise_id WHERE slug = 'first-count'"
            ).fetchone()
        self.assertEqual(row, (digest_of(exercise_folder("first-count")),))


if __name__ == "__main__":
    unittest.main()
