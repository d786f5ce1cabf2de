"""What marks, as whoever looks after the server sees it: what each does, what waits, and a way to stop one."""

import time
import unittest
from contextlib import ExitStack
from typing import Any

from hobtrial.store import Markers
from tests.server.desks import RIGHT, Room
from tests.support import database

PATIENCE = 60


class WhatMarks(unittest.TestCase):
    def setUp(self) -> None:
        self.room = Room(database("markers"), self.enterContext(ExitStack()))

    def seen(self) -> dict[str, Any]:
        answer = self.room.ask("linden", "GET", "/api/markers")
        assert answer.status_code == 200, answer.text
        found: dict[str, Any] = answer.json()
        return found

    def until(self, look: Any, otherwise: str) -> Any:
        end = time.monotonic() + PATIENCE
        while time.monotonic() < end:
            found = look(self.seen())
            if found:
                return found
            time.sleep(0.1)
        raise AssertionError(f"{otherwise}: {self.seen()}")

    def test_it_says_what_it_does_and_can_be_stopped_and_go_on(self) -> None:
        [first] = self.until(lambda seen: seen["markers"], "nothing marks")
        self.assertEqual((first["processes"], first["stopped"], first["last_error"]), (1, False, ""))
        path = f"/api/markers/{first['id']}"
        self.assertEqual(self.room.ask("linden", "PUT", path, {"stopped": True}).status_code, 204)
        round_path = f"/api/rounds/{self.room.round_id}"
        trouble = "whoever looks after this server has stopped it"

        def stopped(_: Any) -> bool:
            self.room.desk("wren", "/hand-in", "POST", {"source": f"{RIGHT}# {time.monotonic()}\n"})
            return bool(self.room.ask("linden", "GET", round_path).json()["marking_trouble"] == trouble)

        self.until(stopped, "it goes on")
        waits = self.until(lambda seen: seen["waiting"]["handed_in"], "nothing waits")
        self.assertGreaterEqual(waits, 1)
        self.assertTrue(self.seen()["markers"][0]["stopped"])
        self.assertEqual(self.room.ask("linden", "PUT", path, {"stopped": False}).status_code, 204)
        self.until(lambda seen: not seen["waiting"]["handed_in"] and seen["a_minute"], "it does not go on")
        self.until(lambda seen: seen["markers"][0]["done"] >= 1, "it does not say what it did")
        self.assertIsNone(self.room.ask("linden", "GET", round_path).json()["marking_trouble"])

    def test_only_the_owner_sees_them(self) -> None:
        self.assertEqual(self.room.ask("wren", "GET", "/api/markers").status_code, 403)
        self.assertEqual(self.room.ask("wren", "PUT", "/api/markers/1", {"stopped": True}).status_code, 403)
        self.assertEqual(self.room.ask("linden", "PUT", "/api/markers/99999", {"stopped": True}).status_code, 404)

    def test_one_that_says_nothing_is_forgotten(self) -> None:
        with self.room.store.transaction() as connection:
            gone = Markers.begin(connection, "elsewhere, process 7", 4)
            connection.execute("UPDATE marker SET beat = beat - interval '1 hour' WHERE id = %s", [gone])
            [row] = [each for each in Markers.all(connection) if each["id"] == gone]
            self.assertGreater(row["quiet"], 3000)
            Markers.begin(connection, "another, process 8", 1)
            self.assertNotIn(gone, [each["id"] for each in Markers.all(connection)])
            self.assertIsNone(Markers.say(connection, gone, doing=0, done=0, last_error=""))
