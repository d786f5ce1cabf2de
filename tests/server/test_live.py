"""Games by hand over the WebSocket, from the database and from files on disk."""

import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from unittest import mock

from starlette.testclient import TestClient, WebSocketTestSession
from starlette.websockets import WebSocketDisconnect

from hobtrial.cli.demo import load
from hobtrial.demo import exercise_folder
from hobtrial.server import create_disk_app, live
from tests.server.served import served
from tests.support import BAKEHOUSE, database

HOST = "127.0.0.1:8765"
ORIGIN = {"origin": f"http://{HOST}"}
LIVE = f"ws://{HOST}/api/exercises/1/live"
SCRIPT = """
score = 0
@on(pressed("space"))
def count():
    global score
    score += 1
    tell(score)
@on(pressed("x"))
def stop():
    tell(1 / 0)
@on(pressed("l"))
def forever():
    while True:
        pass
"""


class Sockets(unittest.TestCase):
    client: TestClient

    @contextmanager
    def game(self, source: str = SCRIPT) -> Iterator[WebSocketTestSession]:
        with self.client.websocket_connect(LIVE, headers=ORIGIN) as socket:
            socket.send_json({"say": "begin", "source": source, "seed": 1})
            yield socket

    def until(self, socket: WebSocketTestSession, key: str, frames: int = 100) -> Any:
        """What the first message says that has something of that name."""
        for _ in range(frames):
            message = socket.receive_json()
            found = message.get(key, message.get("news", {}).get(key))
            if found:
                return found
        raise AssertionError(f"no {key} came")

    def did(self, socket: WebSocketTestSession, *inputs: dict[str, Any]) -> None:
        socket.send_json({"say": "did", "inputs": list(inputs)})


class Games(Sockets):
    @classmethod
    def setUpClass(cls) -> None:
        dsn = database("live")
        load(dsn, [BAKEHOUSE])
        cls.client = cls.enterClassContext(served(dsn))

    def test_a_game_is_played_and_kept_and_plays_the_same_again(self) -> None:
        with self.game() as socket:
            began = socket.receive_json()
            self.assertEqual((began["say"], began["news"]["values"]["score"]), ("began", 0))
            self.did(
                socket, {"do": "down", "key": "space"}, {"do": "up", "key": "space"}, {"do": "down", "key": "right"}
            )
            self.assertEqual(self.until(socket, "story")[0]["text"], "1")
            self.did(socket, {"do": "up", "key": "right"})
            self.until(socket, "frame", 5)
            socket.send_json({"say": "keep"})
            number = self.until(socket, "id")
        kept = self.client.get(f"/api/plays/{number}").json()
        self.assertEqual((kept["title"], kept["source"]), ("Bakehouse rush", SCRIPT))
        trial = self.client.get(f"/api/plays/{number}/trial").json()
        self.assertEqual([line["text"] for line in trial["trace"]["story"]], ["1"])
        self.assertEqual([each["what"] for each in trial["inputs"]], ["space", "right"])
        self.assertEqual(trial["scenario"], "Played by hand")

    def test_a_stop_says_its_line_and_a_new_game_can_begin(self) -> None:
        with self.game() as socket:
            self.did(socket, {"do": "down", "key": "x"})
            self.assertEqual(self.until(socket, "stopped")["line"], 10)
            socket.send_json({"say": "begin", "source": "score = 7", "seed": 1})
            self.assertEqual(self.until(socket, "values")["score"], 7)

    def test_a_loop_without_end_stops_the_game_and_nothing_else(self) -> None:
        with self.game() as socket:
            self.did(socket, {"do": "down", "key": "l"})
            self.assertEqual(self.until(socket, "stopped")["kind"], "loop")

    def test_a_script_that_cannot_be_read(self) -> None:
        with self.game("score = ") as socket:
            self.assertEqual(self.until(socket, "problems")[0]["line"], 1)

    def test_a_held_game_goes_on_when_it_is_let_go(self) -> None:
        with self.game() as socket:
            socket.send_json({"say": "pace", "speed": 0})
            self.did(socket, {"do": "down", "key": "space"})
            socket.send_json({"say": "pace", "speed": 0.5})
            self.assertEqual(self.until(socket, "story")[0]["text"], "1")

    def test_what_makes_no_sense_ends_the_game(self) -> None:
        for nonsense in (
            {"say": "dance"},
            {"say": "did", "inputs": [{"do": "down", "key": "escape"}]},
            {"say": "begin", "source": "x" * 200_000},
        ):
            with self.game() as socket:
                socket.send_json(nonsense)
                with self.assertRaises(WebSocketDisconnect):
                    for _ in range(200):
                        socket.receive_json()

    def test_idle_players_are_told_and_let_go(self) -> None:
        with mock.patch.object(live, "IDLE_SECONDS", 0.5), self.game() as socket:
            self.assertIn("Nothing was done", self.until(socket, "why"))

    def test_another_page_cannot_play(self) -> None:
        for headers in (
            {"origin": "http://evil.example"},
            {},
            {"origin": "http://evil.example", "host": "evil.example"},
        ):
            with self.assertRaises(WebSocketDisconnect), self.client.websocket_connect(LIVE, headers=headers) as socket:
                socket.receive_json()

    def test_an_exercise_that_there_is_not(self) -> None:
        with self.assertRaises(WebSocketDisconnect) as refused:
            self.client.websocket_connect(LIVE.replace("/1/", "/99/"), headers=ORIGIN).__enter__()
        self.assertEqual((refused.exception.code, refused.exception.reason[:26]), (1008, "There is no such exercise."))
        for path in ("/api/exercises/99/play", "/api/plays/99", "/api/plays/99/trial"):
            self.assertEqual(self.client.get(path).status_code, 404)

    def test_the_screen_begins_with_the_starter_or_a_try(self) -> None:
        found = self.client.get("/api/exercises/1/play").json()
        self.assertEqual(found["script"], exercise_folder(BAKEHOUSE)["starter.py"].decode())
        self.assertIn("score", [each["name"] for each in found["variables"]])
        tried = self.client.get("/api/exercises/1/play?submission_id=1").json()["script"]
        self.assertEqual(tried, self.client.get("/api/submissions/1").json()["source"])


class OnDisk(Sockets):
    def setUp(self) -> None:
        self.script = SCRIPT
        app = create_disk_app(exercise_folder(BAKEHOUSE), lambda: self.script.encode())
        self.client = self.enterContext(TestClient(app, base_url=f"http://{HOST}"))

    def test_it_is_played_kept_and_told_when_the_file_changes(self) -> None:
        self.assertEqual(self.client.get("/api/exercises/1/play").json()["script"], SCRIPT)
        with self.game() as socket:
            self.did(socket, {"do": "down", "key": "space"})
            self.until(socket, "story")
            self.script = "score = 5"
            self.assertEqual(self.until(socket, "source", 200), "score = 5")
            socket.send_json({"say": "keep"})
            number = self.until(socket, "id")
        self.assertEqual(self.client.get(f"/api/plays/{number}/trial").json()["samples"]["score"][-1][1], 1)
