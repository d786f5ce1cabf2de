"""Two at the same thing at once, and an upload that is cut off: nobody's work is lost, and nobody gets an error of ours."""

from __future__ import annotations

import asyncio
import socket
import threading
import unittest
from collections.abc import Callable
from contextlib import ExitStack
from typing import Any
from urllib.parse import urlsplit

import uvicorn

from hobtrial.cli.demo import links_of_demo
from hobtrial.cli.serving import listen
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from hobtrial.store import Sessions
from tests.server.desks import ONE_TOO_MANY, Room
from tests.support import database

AT_ONCE, TURNS = 4, 6


class AtOnce(unittest.TestCase):
    room: Room
    submission: int

    @classmethod
    def setUpClass(cls) -> None:
        cls.room = Room(database("at_once"), cls.enterClassContext(ExitStack()))
        cls.submission = cls.room.desk("wren", "/hand-in", "POST", {"source": ONE_TOO_MANY}).json()["submission_id"]

    def together(self, do: Callable[[int], int]) -> list[int]:
        """The statuses of several who do something at the same moment, turn after turn."""
        found: list[int] = []
        barrier = threading.Barrier(AT_ONCE)

        def one(number: int) -> None:
            for turn in range(TURNS):
                barrier.wait(60)
                found.append(do(number * TURNS + turn))

        threads = [threading.Thread(target=one, args=(number,)) for number in range(AT_ONCE)]
        for each in threads:
            each.start()
        for each in threads:
            each.join(60)
        self.assertEqual(len(found), AT_ONCE * TURNS)
        return found

    def ask(self, method: str, path: str, body: Any) -> int:
        return int(self.room.ask("linden", method, path, body).status_code)

    def test_own_marks(self) -> None:
        path = f"/api/submissions/{self.submission}/own"
        said = self.together(lambda turn: self.ask("PUT", path, {"marks": turn % 4, "comment": f"turn {turn}"}))
        self.assertEqual(set(said), {204})
        own = self.room.ask("linden", "GET", f"/api/submissions/{self.submission}").json()
        self.assertEqual(own["own_marks"], int(own["own_comment"].split()[1]) % 4)

    def test_withdrawn_and_put_back(self) -> None:
        path = f"/api/rounds/{self.room.round_id}/withdrawn"
        said = self.together(lambda turn: self.ask("PUT", path, {"key": "boundary", "withdrawn": turn % 2 == 0}))
        self.assertEqual(set(said), {204})

    def test_changes_of_a_draft(self) -> None:
        draft = self.room.ask("linden", "POST", "/api/drafts", {"version_id": self.room.version_id}).json()["id"]
        path = f"/api/drafts/{draft}/changes"

        def change(turn: int) -> int:
            at = self.room.ask("linden", "GET", f"/api/drafts/{draft}").json()["at"]
            return self.ask("POST", path, {"at": at, "change": {"do": "set", "keys": {"title": f"Turn {turn}"}}})

        said = self.together(change)
        self.assertLessEqual(set(said), {200, 409})
        now = self.room.ask("linden", "GET", f"/api/drafts/{draft}").json()["at"]
        self.assertEqual(now, said.count(200))  # each that was taken is one step, and each other one was told

    def test_levels_and_standings(self) -> None:
        path = f"/api/rounds/{self.room.round_id}/students/{self.room.ids['Wren']}"
        bodies = ({"excused": True}, {"level": "supported"}, {"excused": False}, {"level": None})
        said = self.together(
            lambda turn: self.ask("PUT", f"{path}/{'standing' if turn % 2 == 0 else 'level'}", bodies[turn % 4])
        )
        self.assertEqual(set(said), {204})


class CutOff(unittest.TestCase):
    def test_an_upload_that_is_cut_off_changes_nothing(self) -> None:
        with ExitStack() as stack:
            room = Room(database("cut_off"), stack)
            with room.store.transaction() as connection:
                [teacher] = connection.execute("SELECT id FROM teacher WHERE name = 'Linden'").fetchall()
                token = Sessions.begin(connection, teacher_id=teacher["id"])
            app = create_app(room.store.dsn, Settings(workers=0), demo=links_of_demo())
            listener = listen(0)
            server = uvicorn.Server(uvicorn.Config(app, log_level="error", access_log=False))
            thread = threading.Thread(target=lambda: asyncio.run(server.serve(sockets=[listener])), daemon=True)
            thread.start()
            address = f"http://127.0.0.1:{listener.getsockname()[1]}"
            before = room.ask("linden", "GET", f"/api/rounds/{room.round_id}").json()["students"]
            for length in (10, 300):
                body = b'--b\r\ncontent-disposition: form-data; name="files"; filename="wren.py"\r\n\r\nscore = 1\n'
                head = (
                    f"POST /api/rounds/{room.round_id}/scripts HTTP/1.1\r\nhost: {urlsplit(address).netloc}\r\n"
                    f"origin: {address}\r\ncookie: hob={token}\r\ncontent-type: multipart/form-data; boundary=b\r\n"
                    f"content-length: {len(body) + length}\r\n\r\n"
                )
                with socket.create_connection(("127.0.0.1", listener.getsockname()[1])) as wire:
                    wire.sendall(head.encode() + body)
            self.assertEqual(room.ask("linden", "GET", f"/api/rounds/{room.round_id}").json()["students"], before)
            server.should_exit = True
            thread.join(60)
            self.assertFalse(thread.is_alive())
