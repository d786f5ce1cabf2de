"""A class at its desks: a small exercise with a prediction and a hidden scenario, and two students who are in."""

from __future__ import annotations

import asyncio
from contextlib import ExitStack
from typing import Any

from starlette.testclient import TestClient

from hobtrial.cli.demo import links_of_demo
from hobtrial.crew import Crew, ReadVersion, read_version
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from hobtrial.store import Classes, Rounds, Store, Teachers
from tests.server.school import PASSWORD, Asker
from tests.server.served import HOST, ORIGIN

EXERCISE = {
    "exercise.toml": b"""
format = 1
title = "Count the buns"
seconds = 2
[scene]
[[scene.piece]]
name = "hob"
at = [2, 1]
motion = {steered = {speed = 6}}
[[scene.piece]]
name = "bun_1"
kind = "bun"
at = [4, 1]
[[scene.piece]]
name = "bun_2"
kind = "bun"
at = [6, 1]
[[variable]]
name = "score"
meaning = "buns on the shelf"
[[scenario]]
name = "Two buns"
input = [{at = 0.1, hold = "right", for = 1.5}]
[[scenario.check]]
end = true
expect = "score == 2"
marks = 2
concept = "variables"
because = "Each bun counts."
[[scenario]]
name = "Won by two"
predict = {names = ["score"], at = 1.9}
input = [{at = 0.1, hold = "right", for = 1.5}]
[[scenario.check]]
end = true
expect = "outcome == 'won'"
marks = 1
concept = "conditionals"
because = "Two buns fill the shelf."
[[scenario]]
name = "Secret wait"
visible = false
[[scenario.check]]
end = true
expect = "score == 0"
marks = 1
because = "Nothing was met."
""",
    "brief.md": b"# Count the buns\nEach bun counts, and two win.",
    "starter.py": b"score = 0\n",
    "reference.py": b"""
score = 0
@on(meets(hob, bun))
def shelve(which):
    global score
    score += 1
    which.remove()
    if score >= 2:
        win("full")
""",
}
ONE_TOO_MANY = """score = 0
@on(meets(hob, bun))
def shelve(which):
    global score
    score += 1
    which.remove()
    if score > 2:
        win("full")
"""
RIGHT = EXERCISE["reference.py"].decode()


class Room:
    """A served class with Wren and Sorrel in it, and their teacher Linden. Round 1 is theirs."""

    def __init__(self, dsn: str, stack: ExitStack, workers: int = 1, files: dict[str, bytes] = EXERCISE) -> None:
        app = create_app(dsn, Settings(workers=workers), demo=links_of_demo())
        client = stack.enter_context(TestClient(app, base_url=f"http://{HOST}"))
        self.store = Store(dsn)
        stack.callback(self.store.close)

        async def read() -> ReadVersion:
            async with Crew(1) as crew:
                return await read_version(crew, files)

        version = asyncio.run(read())
        with self.store.transaction() as connection:
            teacher = Teachers.add(connection, "Linden", PASSWORD)
            self.version_id = version.keep(connection, "count-the-buns", teacher)
            self.class_id = Classes.named(connection, "7 Larch", teacher)
            self.ids = Classes.add_students(connection, self.class_id, ["Wren", "Sorrel"])
            self.round_id = Rounds.open(connection, self.class_id, self.version_id)
        self.people = {name: Asker(client) for name in ("linden", "wren", "sorrel")}
        self.ask("linden", "POST", "/api/sign-in/teacher", {"name": "Linden", "password": PASSWORD})
        sheet = self.ask(
            "linden", "POST", f"/api/classes/{self.class_id}/cards", {"student_ids": list(self.ids.values())}
        )
        self.word: str = sheet.json()["word"]
        self.cards = {each["name"].lower(): each["card"] for each in sheet.json()["cards"]}
        for name in ("wren", "sorrel"):
            self.ask(
                name, "POST", "/api/sign-in/student", {"class_word": sheet.json()["word"], "card": self.cards[name]}
            )

    def ask(self, who: str, method: str, path: str, body: Any = None, seen: str = "") -> Any:
        """Asks as somebody who has `seen` an answer with that tag."""
        headers = {**ORIGIN, "if-none-match": seen} if seen else ORIGIN
        return self.people[who].request(method, path, json=body, headers=headers)

    def desk(self, who: str, rest: str = "", method: str = "GET", body: Any = None) -> Any:
        """Asks at the desk of somebody in round 1."""
        return self.ask(who, method, f"/api/desk/rounds/{self.round_id}{rest}", body)

    def check(self, who: str, source: str) -> dict[str, Any]:
        """Checks a text; gives its first view."""
        answer = self.desk(who, "/check", "POST", {"source": source})
        assert answer.status_code == 200, answer.text
        found: dict[str, Any] = answer.json()
        return found
