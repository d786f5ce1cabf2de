"""Two teachers who do not share anything, with a class each: who may see what of the other's."""

from __future__ import annotations

import asyncio
import functools
from contextlib import ExitStack
from dataclasses import dataclass, field
from typing import Any

from httpx2 import Cookies
from starlette.testclient import TestClient

from hobtrial.cli.demo import links_of_demo
from hobtrial.crew import Crew, OpenedExercise
from hobtrial.demo import exercise_folder
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from hobtrial.store import Classes, Desks, Drafts, Exercises, Plays, Rounds, Store, Teachers
from hobtrial.store.store import Connection
from tests.server.served import HOST, ORIGIN
from tests.support import BAKEHOUSE

PASSWORD = "under the hazels"
NOTHING_MARKS = Settings(workers=0)


@functools.cache
def opened() -> OpenedExercise:
    """The exercise of the school, as a worker opens it."""

    async def ask() -> OpenedExercise:
        async with Crew(1) as crew:
            return await crew.open(exercise_folder(BAKEHOUSE))

    return asyncio.run(ask())


def _checked(connection: Connection, round_id: int, student_id: int) -> int:
    """A text that was checked at a desk."""
    Desks.one(connection, round_id, student_id, b"")
    return Desks.check(connection, round_id, student_id, b"score = 2")


@dataclass
class Things:
    """What a teacher has, by the names that addresses call them."""

    class_id: int
    round_id: int
    submission_id: int
    student_id: int
    draft_id: int
    play_id: int
    checked_id: int

    def ids(self) -> dict[str, int]:
        """The same for filling an address."""
        return dict(vars(self))


@dataclass
class Asker:
    """One of those who share a client, and so an event loop: each with cookies of their own."""

    client: TestClient
    cookies: Cookies = field(default_factory=Cookies)

    def request(self, method: str, path: str, **more: Any) -> Any:
        """Asks as this one."""
        self.client.cookies = self.cookies
        answer = self.client.request(method, path, **more)
        self.cookies = Cookies(self.client.cookies)
        return answer

    def websocket_connect(self, path: str, **more: Any) -> Any:
        """Opens a socket as this one."""
        cookies = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        headers = {**more.pop("headers", {}), "host": HOST, **({"cookie": cookies} if cookies else {})}
        self.client.cookies = Cookies()
        return self.client.websocket_connect(path, headers=headers, **more)


@dataclass
class School:
    """A served school. Clients are called after who they are: linden (the owner), hazel, their students, nobody."""

    dsn: str
    stack: ExitStack
    clients: dict[str, Asker] = field(default_factory=dict)
    things: dict[str, Things] = field(default_factory=dict)
    cards: dict[str, tuple[str, str]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        links = links_of_demo()
        app = create_app(self.dsn, NOTHING_MARKS, demo=links)
        client = self.stack.enter_context(TestClient(app, base_url=f"http://{HOST}"))
        self.clients = {name: Asker(client) for name in ("linden", "hazel", "wren", "sorrel", "nobody")}
        store = Store(self.dsn)
        with store.transaction() as connection:
            owner, colleague = (Teachers.add(connection, name, PASSWORD) for name in ("Linden", "Hazel"))
            facts = {key: getattr(opened(), key) for key in ("title", "out_of", "seconds", "scenarios")}
            version = Exercises.add(connection, BAKEHOUSE, opened().key, exercise_folder(BAKEHOUSE), facts, owner)
            for name, teacher_id, student in (("linden", owner, "Wren"), ("hazel", colleague, "Sorrel")):
                class_id = Classes.named(connection, f"{name}'s", teacher_id)
                ids = Classes.add_students(connection, class_id, [student, "Teasel"])
                round_id = Rounds.open(connection, class_id, version)
                self.things[name] = Things(
                    class_id,
                    round_id,
                    Rounds.hand_in(connection, round_id, ids[student], "a.py", f"score = {class_id}".encode()),
                    ids[student],
                    Drafts.begin(connection, teacher_id, "", {"exercise.toml": b"format = 1"}, "begun"),
                    Plays.keep(connection, version, b"score = 1", {"name": "x", "input": []}, [], teacher_id),
                    _checked(connection, round_id, ids[student]),
                )
        store.close()
        for name in ("linden", "hazel"):
            answer = self.post(name, "/api/sign-in/teacher", {"name": name, "password": PASSWORD})
            assert answer.status_code == 204, answer.text
        for name, teacher in (("wren", "linden"), ("sorrel", "hazel")):
            one = self.things[teacher]
            sheet = self.post(teacher, f"/api/classes/{one.class_id}/cards", {"student_ids": [one.student_id]}).json()
            self.cards[name] = sheet["word"], sheet["cards"][0]["card"]
            self.come_in(name)

    def come_in(self, student: str) -> int:
        """Signs a student in with their card. Gives the status."""
        word, card = self.cards[student]
        return int(self.post(student, "/api/sign-in/student", {"class_word": word, "card": card}).status_code)

    def post(self, who: str, path: str, body: Any, method: str = "POST") -> Any:
        """Sends JSON as somebody."""
        return self.clients[who].request(method, path, json=body, headers=ORIGIN)

    def get(self, who: str, path: str) -> Any:
        """Asks as somebody."""
        return self.clients[who].request("GET", path)
