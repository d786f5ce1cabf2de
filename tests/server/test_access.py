"""Who sees what: every address and socket, for every role, with one's own things and with others'."""

import json
import re
import unittest
from contextlib import ExitStack
from typing import Any
from unittest import mock

from fastapi.routing import APIRoute, APIWebSocketRoute
from starlette.routing import Mount, Route
from starlette.websockets import WebSocketDisconnect

from hobtrial.core.exercise import load as load_exercise
from hobtrial.demo import exercise_folder
from hobtrial.server import create_app, lesson
from hobtrial.server.access import SOCKET, TABLE, Role
from tests.server.school import School
from tests.server.served import ORIGIN
from tests.support import BAKEHOUSE, database

ROLES = {"linden": Role.OWNER, "hazel": Role.TEACHER, "wren": Role.STUDENT, "nobody": Role.NOBODY}


DESCRIBED = create_app().openapi()["paths"]


def routes() -> set[tuple[str, str]]:
    """Method and address of everything that the application answers."""
    found = set()
    for route in _flat(create_app().routes):
        if isinstance(route, APIWebSocketRoute):
            found.add((SOCKET, route.path))
        elif isinstance(route, (APIRoute, Route)):
            found |= {(method, route.path) for method in route.methods or () if method != "HEAD"}
        elif isinstance(route, Mount):
            assert route.path == "/assets", route.path
        else:
            raise AssertionError(route)
    return found


def _flat(found: Any) -> list[Any]:
    """Routes, and those inside of included routers."""
    flat = []
    for route in found:
        included = getattr(route, "original_router", None)
        flat += _flat(included.routes) if included is not None else [route]
    return flat


class EveryAddress(unittest.TestCase):
    school: School

    @classmethod
    def setUpClass(cls) -> None:
        cls.enterClassContext(mock.patch.object(lesson, "STREAM_SECONDS", 0))  # a stream ends at once
        cls.school = School(database("school"), cls.enterClassContext(ExitStack()))

    def test_somebody_decided_about_each(self) -> None:
        self.assertEqual(routes() - set(TABLE), set())
        self.assertEqual(set(TABLE) - routes(), set())

    def address(self, path: str, owner: str, **more: int) -> str:
        """An address with the things of a teacher in it."""
        ids: dict[str, Any] = (
            self.school.things[owner].ids()
            | {"version_id": 1, "teacher_id": 2, "index": 0, "number": 0, "form": "csv"}
            | more
        )
        return re.sub(r"\{(\w+)(:path)?\}", lambda part: str(ids.get(part[1], "x")), path)

    def asked(self, who: str, method: str, path: str) -> int:
        """The status of an address for somebody; for a socket, of its handshake."""
        client = self.school.clients[who]
        if method == SOCKET:
            try:
                with client.websocket_connect(path, headers=ORIGIN):
                    return 200
            except WebSocketDisconnect as refused:
                return {"Sign in first.": 401, "Only teachers can do this.": 403}.get(refused.reason, 404)
        status: int = client.request(method, path, headers=ORIGIN).status_code
        return status

    def test_roles_that_may_not_are_turned_away(self) -> None:
        for (method, path), rule in TABLE.items():
            for who, role in ROLES.items():
                if role in rule.roles:
                    continue
                with self.subTest(method=method, path=path, who=who):
                    status = self.asked(who, method, self.address(path, "linden"))
                    self.assertEqual(status, 401 if who == "nobody" else 403)

    def test_whoever_may_is_not_turned_away(self) -> None:
        """With nothing sent, so that nothing is changed: what is sent is missed, and nobody is refused."""
        for (method, path), rule in TABLE.items():
            for who, role in ROLES.items():
                harmless = method == "GET" or (method in ("POST", "PUT") and self.needs_a_body(method, path))
                if role not in rule.roles or not harmless or path == "/api/sign-out":
                    continue
                with self.subTest(method=method, path=path, who=who):
                    owner = "hazel" if who == "hazel" else "linden"
                    status = self.asked(who, method, self.address(path, owner))
                    self.assertNotIn(status, (401, 403))
                    self.assertLess(status, 500) if "readyz" not in path else None

    def needs_a_body(self, method: str, path: str) -> bool:
        described = DESCRIBED[path][method.lower()]
        return bool(described.get("requestBody", {}).get("required"))

    def test_other_peoples_things_are_not_there(self) -> None:
        """Of the neighbour, and of ids one above and below."""
        for (method, path), rule in TABLE.items():
            things = [thing for thing in rule.things if thing not in ("version", "teacher")]
            for who, role in ROLES.items():
                if role not in rule.roles or not things:
                    continue
                other = "hazel" if who in ("linden", "wren") else "linden"
                with self.subTest(method=method, path=path, who=who):
                    self.assertEqual(self.asked(who, method, self.address(path, other)), 404)
                    for number in (0, 2**31, 10**11):
                        beside = self.address(path, other, **{f"{things[0]}_id": number})
                        self.assertEqual(self.asked(who, method, beside), 404, beside)

    def test_a_number_that_is_written_in_another_way_is_no_way_in(self) -> None:
        other = self.school.things["hazel"]
        for written in (f"+{other.round_id}", f" {other.round_id}", f"{other.round_id}.0", f"0{other.round_id}", "1_0"):
            with self.subTest(written):
                self.assertIn(self.asked("linden", "GET", f"/api/rounds/{written}"), (404, 422))

    def test_a_try_of_the_neighbours_is_no_script_to_begin_with(self) -> None:
        other = self.school.things["hazel"].submission_id
        found = self.school.get("linden", f"/api/exercises/1/play?submission_id={other}").json()
        self.assertEqual(found["script"], exercise_folder("bakehouse-rush")["starter.py"].decode())

    def test_a_class_of_that_name_that_is_the_neighbours_stays_the_neighbours(self) -> None:
        opened = self.school.post("linden", "/api/rounds", {"version_id": 1, "class_name": "hazel's"}).json()["id"]
        theirs = self.school.things["hazel"]
        self.assertNotEqual(self.school.get("linden", f"/api/rounds/{opened}").json()["class_id"], theirs.class_id)
        self.assertEqual(self.school.get("hazel", f"/api/rounds/{opened}").status_code, 404)

    def test_a_student_cannot_be_moved_into_the_neighbours_class(self) -> None:
        mine, theirs = self.school.things["linden"], self.school.things["hazel"]
        moved = self.school.post("linden", f"/api/students/{mine.student_id}", {"class_id": theirs.class_id}, "PUT")
        self.assertEqual(moved.status_code, 404)


class AStudent(unittest.TestCase):
    """Nothing of a hidden scenario, of the reference, or of anybody else is sent to a student."""

    school: School

    @classmethod
    def setUpClass(cls) -> None:
        cls.school = School(database("hidden"), cls.enterClassContext(ExitStack()))

    def test_their_page_has_their_own_and_what_is_visible(self) -> None:
        desk = self.school.get("wren", "/api/desk").json()
        [set_for_them] = desk["rounds"]
        self.assertEqual([each["id"] for each in set_for_them["tries"]], [self.school.things["linden"].submission_id])
        task = self.school.get("wren", f"/api/desk/rounds/{set_for_them['id']}").json()
        exercise = load_exercise(exercise_folder(BAKEHOUSE))
        visible = [each.name for each in exercise.settings.scenario if each.visible]
        self.assertEqual([each["name"] for each in task["scenarios"]], visible)
        tried = self.school.get("wren", f"/api/desk/submissions/{set_for_them['tries'][0]['id']}").json()
        everything = json.dumps([desk, task, tried])
        hidden = [each for each in exercise.settings.scenario if not each.visible]
        self.assertTrue(hidden)
        for scenario in hidden:
            self.assertNotIn(scenario.name, everything)
        self.assertNotIn("Sorrel", everything)
        for line in exercise_folder(BAKEHOUSE)["reference.py"].decode().split("\n"):
            given = b"".join(exercise_folder(BAKEHOUSE)[file] for file in ("brief.md", "starter.py")).decode()
            if len(line.strip()) > 12 and line.strip() not in given:
                self.assertNotIn(line.strip(), everything)
