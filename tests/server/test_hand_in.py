"""Handing in on the Round, class lists, own marks, looks, and the schema."""

import asyncio
import io
import json
import time
import unittest
import zipfile
from typing import Any

from starlette.testclient import TestClient

from hobtrial.cli.demo import load
from hobtrial.core.exercise import schema
from hobtrial.crew import Crew
from hobtrial.demo import exercise_folder
from hobtrial.store import Exercises, Store
from tests.server.served import served
from tests.support import BAKEHOUSE, database

HOST = "127.0.0.1:8765"
ORIGIN = {"origin": f"http://{HOST}"}
PICTURE = b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'


class HandingIn(unittest.IsolatedAsyncioTestCase):
    dsn: str

    client: TestClient

    @classmethod
    def setUpClass(cls) -> None:
        cls.dsn = database("handing")
        load(cls.dsn, [BAKEHOUSE])
        cls.client = cls.enterClassContext(served(cls.dsn))

    def hand_in(self, files: dict[str, bytes], answers: dict[str, str] | None = None) -> Any:
        parts = [("files", (name, content)) for name, content in files.items()]
        data = {"answers": json.dumps(answers or {})}
        return self.client.post("/api/rounds/1/scripts", files=parts, data=data, headers=ORIGIN)

    def numbers(self) -> dict[str, int]:
        """How many tries each student has."""
        return {row["student"]: row["number"] for row in self.client.get("/api/rounds/1").json()["students"]}

    def test_files_and_zips_are_matched_and_the_doubtful_ones_asked(self) -> None:
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as archive:
            archive.writestr("7 Larch/Oxlip/game.py", "score = 1")
            archive.writestr("7 Larch/notes.txt", "nothing")
        files = {"task_pipit.py": b"score = 2", "all.zip": packed.getvalue(), "wrenn.py": b"score = 3"}
        found = self.hand_in(files).json()
        self.assertEqual(found["handed_in"], 2)
        self.assertEqual([(each["file"], each["candidates"]) for each in found["doubtful"]], [("wrenn.py", ["Wren"])])
        self.assertEqual(
            {name: self.numbers()[name] for name in ("Oxlip", "Pipit", "Wren")}, {"Oxlip": 2, "Pipit": 2, "Wren": 1}
        )
        again = self.hand_in(files, {"wrenn.py": "Wren"}).json()
        self.assertEqual((again["handed_in"], again["doubtful"]), (3, []))
        self.assertEqual(
            {name: self.numbers()[name] for name in ("Oxlip", "Pipit", "Wren")}, {"Oxlip": 2, "Pipit": 2, "Wren": 2}
        )

    def test_an_answer_can_name_a_new_student_or_leave_a_file_out(self) -> None:
        found = self.hand_in({"x.py": b"a = 1", "y.py": b"b = 1"}, {"x.py": "Campion", "y.py": ""}).json()
        self.assertEqual((found["handed_in"], found["doubtful"]), (1, []))
        self.assertEqual(self.numbers()["Campion"], 1)

    def test_what_cannot_be_handed_in_says_why_and_nothing_is(self) -> None:
        before = self.numbers()
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("bomb.py", b"0" * 10**7)
        for files, words in (
            ({"wren.pdf": b"%PDF"}, "wren.pdf is not a script; hand in .py files, or a zip of them"),
            ({"wren.zip": b"PK no"}, "wren.zip cannot be unzipped"),
            ({"b.zip": bomb.getvalue()}, "bomb.py is packed far tighter than a script can be"),
            ({"wren.py": b"x" * (8 * 2**20 + 1)}, "at most 8,388,608 are read"),
        ):
            with self.subTest(words):
                answer = self.hand_in(files).json()
                self.assertEqual((answer["handed_in"], answer["doubtful"]), (0, []))
                self.assertIn(words, answer["left_out"][0]["why"])
        self.assertEqual(
            self.client.post("/api/rounds/1/scripts", files=[("files", ("wren.py", b"a"))]).status_code, 403
        )
        self.assertEqual(self.numbers(), before)

    def test_a_class_list_comes_and_goes_as_csv(self) -> None:
        listed = self.client.get("/api/classes/1/students.csv").text
        self.assertIn("name\nBramble\n", listed)
        answer = self.client.post(
            "/api/classes/1/students/file", files={"file": ("c.csv", "name\nWren\nYarrow\nSedge\n")}, headers=ORIGIN
        )
        self.assertEqual(answer.json(), {"added": 1})
        self.assertIn("Sedge", self.client.get("/api/classes/1/students.csv").text)
        wrong = self.client.post(
            "/api/classes/1/students/file", files={"file": ("c.csv", "name\nA\nA\n")}, headers=ORIGIN
        )
        self.assertEqual(
            (wrong.status_code, wrong.json()["detail"]),
            (422, "c.csv: line 2: A stands in the list twice; tell the two apart"),
        )

    def test_own_marks_stand_beside_the_computed_ones(self) -> None:
        first = self.client.get("/api/rounds/1").json()["students"][0]["submission_id"]

        def put(**own: Any) -> int:
            return self.client.put(f"/api/submissions/{first}/own", json=own, headers=ORIGIN).status_code

        self.assertEqual(put(marks=12.5, comment="Well thought."), 204)
        found = self.client.get(f"/api/submissions/{first}").json()
        self.assertEqual((found["own_marks"], found["own_comment"], found["own_by"]), (12.5, "Well thought.", "Linden"))
        row = next(row for row in self.client.get("/api/rounds/1").json()["students"] if row["submission_id"] == first)
        self.assertEqual(row["own_marks"], 12.5)
        self.assertEqual((put(marks=12.3), put(marks=-1), put(comment="x" * 3000)), (422, 422, 422))
        self.assertEqual(put(), 204)
        self.assertIsNone(self.client.get(f"/api/submissions/{first}").json()["own_marks"])

    async def test_looks_are_pictures_and_nothing_else(self) -> None:
        files = {**exercise_folder("first-count"), "looks/hob.svg": PICTURE}
        async with Crew(1) as crew:
            opened = await crew.open(files)
        store = Store(self.dsn)
        facts = {key: getattr(opened, key) for key in ("title", "out_of", "seconds", "scenarios")}
        with store.transaction() as connection:
            version = Exercises.add(connection, "with-looks", opened.key, files, facts)
        store.close()
        self.assertEqual(opened.scene["own_looks"], ["hob"])
        answer = self.client.get(f"/api/exercises/{version}/looks/hob.svg")
        self.assertEqual((answer.content, answer.headers["content-type"]), (PICTURE, "image/svg+xml"))
        self.assertIn("sandbox", answer.headers["content-security-policy"])
        self.assertEqual(self.client.get(f"/api/exercises/{version}/looks/bun.svg").status_code, 404)

    def test_the_schema_is_published(self) -> None:
        self.assertEqual(self.client.get("/api/exercise.schema.json").json(), schema())

    def test_trials_of_a_scenario(self) -> None:
        self.assertEqual(self.client.get("/api/submissions/1/scenarios/0?trial=1").status_code, 404)
        found = self.client.get("/api/submissions/1/scenarios/0?shortest=true").json()
        self.assertEqual((found["trials"], found["trial"]), ([""], 0))

    def test_a_round_opens_and_a_newer_version_shows_whose_marks_changed(self) -> None:
        opened = self.client.post(
            "/api/rounds", json={"version_id": 2, "class_name": "8 Beech"}, headers=ORIGIN
        ).json()["id"]
        again = self.client.post("/api/rounds", json={"version_id": 2, "class_name": "8 Beech"}, headers=ORIGIN).json()[
            "id"
        ]
        self.assertEqual(opened, again)
        nothing = self.client.post("/api/rounds", json={"version_id": 999, "class_name": "8 Beech"}, headers=ORIGIN)
        self.assertEqual(nothing.status_code, 404)
        source = exercise_folder("first-count")["starter.py"] + b"sacks = 0\n"
        self.client.post(
            f"/api/rounds/{opened}/scripts",
            files=[("files", ("a.py", source))],
            data={"answers": json.dumps({"a.py": "Sedge"})},
            headers=ORIGIN,
        )
        path = f"/api/rounds/{opened}"
        before = self.marked(path)["students"][0]["marks"]
        self.assertEqual(self.client.post(f"{path}/renew", headers=ORIGIN).status_code, 409)
        self.add_version(
            "first-count",
            (b'at = 0.5\nexpect = "sacks == 0"\nmarks = 1', b'at = 0.5\nexpect = "sacks == 0"\nmarks = 2'),
        )
        self.assertEqual(
            (self.client.get(path).json()["version_number"], self.client.get(path).json()["newest"]), (1, 2)
        )
        self.assertEqual(self.client.post(f"{path}/renew", headers=ORIGIN).status_code, 202)
        found = self.marked(path)
        (changed,) = found["changed"]
        self.assertEqual(
            (found["version_number"], changed["student"], changed["before"], changed["after"]),
            (2, "Sedge", before, before + 1),
        )
        self.assertEqual(changed["why"], ["Nothing happens by itself: `sacks == 0` (at) gives 2 marks, it gave 1."])

    def marked(self, path: str) -> Any:
        """A round once all of it is marked."""
        for _ in range(1500):  # a machine may be busy with other tests
            found = self.client.get(path).json()
            if found["done"] == len(found["students"]):
                return found
            time.sleep(0.1)
        raise AssertionError("the round was not marked")

    def add_version(self, name: str, change: tuple[bytes, bytes]) -> None:
        """A further version of a sample exercise, with one change of its settings."""
        files = exercise_folder(name)
        self.assertIn(change[0], files["exercise.toml"])
        files["exercise.toml"] = files["exercise.toml"].replace(*change)

        async def opened() -> Any:
            async with Crew(1) as crew:
                return await crew.open(files)

        exercise = asyncio.run(opened())
        store = Store(self.dsn)
        facts = {key: getattr(exercise, key) for key in ("title", "out_of", "seconds", "scenarios")}
        with store.transaction() as connection:
            Exercises.add(connection, name, exercise.key, files, facts)
        store.close()
