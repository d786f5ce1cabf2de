"""What the description says is what is answered: every address, with what is drawn from the description itself.

As a teacher and as a student. Any answer must be one that the description names, of the form that it gives, and none
may be a fault of ours.
"""

import threading
import unittest
from contextlib import ExitStack
from itertools import count
from typing import Any, ClassVar

import requests
import schemathesis
import uvicorn
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from hobtrial.cli.serving import listen
from hobtrial.server import create_app
from hobtrial.server.settings import Settings
from tests.server.school import PASSWORD, School
from tests.support import database

EXAMPLES = 12
CHECKS = (not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance)
LEFT_OUT = {"/api/sign-out", "/api/rounds/{round_id}/work/live"}
"""Whoever is signed out would be asked about nothing else; and a stream of events does not end."""


class EveryAddress(unittest.TestCase):
    url: ClassVar[str]
    card: ClassVar[tuple[str, str]]
    ids: ClassVar[dict[str, int]]

    @classmethod
    def setUpClass(cls) -> None:
        dsn = database("described")
        with ExitStack() as stack:
            school = School(dsn, stack)
            cls.card = school.cards["wren"]
            cls.ids = school.things["linden"].ids() | {"version_id": 1, "teacher_id": 2, "index": 0, "number": 0}
        listener = listen(0)
        server = uvicorn.Server(
            uvicorn.Config(create_app(dsn, Settings(workers=0)), log_level="critical", access_log=False)
        )
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()
        cls.url = f"http://127.0.0.1:{listener.getsockname()[1]}"

        def stop() -> None:
            server.should_exit = True
            thread.join(20)

        cls.addClassCleanup(stop)

    def signed_in(self, path: str, body: dict[str, str]) -> requests.Session:
        session = requests.Session()
        session.headers["Origin"] = self.url
        self.assertEqual(session.post(f"{self.url}{path}", json=body).status_code, 204)
        return session

    def there(self, path: str) -> dict[str, int]:
        """What an address names, as it is there."""
        return {name: number for name, number in self.ids.items() if f"{{{name}}}" in path}

    def walk(self, session: requests.Session) -> None:
        schema: Any = schemathesis.openapi.from_url(f"{self.url}/api/openapi.json")
        operations = [found.ok() for found in schema.get_all_operations()]
        for operation in sorted(operations, key=lambda each: each.method == "delete"):  # what is there is asked first
            if operation.path not in LEFT_OUT:
                with self.subTest(method=operation.method, path=operation.path):
                    self.ask(operation, session)

    def ask(self, operation: Any, session: requests.Session) -> None:
        """Asks an address over and over; every other time for what is there."""
        turn = count()

        @settings(
            max_examples=EXAMPLES,
            derandomize=True,
            database=None,
            deadline=None,
            phases=[Phase.explicit, Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def ask(case: Any) -> None:
            if next(turn) % 2:
                case.path_parameters = {**(case.path_parameters or {}), **self.there(operation.path)}
            case.validate_response(case.call(session=session), checks=CHECKS)

        ask()

    def test_as_a_teacher(self) -> None:
        self.walk(self.signed_in("/api/sign-in/teacher", {"name": "Linden", "password": PASSWORD}))

    def test_as_a_student(self) -> None:
        word, card = self.card
        self.walk(self.signed_in("/api/sign-in/student", {"class_word": word, "card": card}))
