"""Levels: the same exercise with fewer or further tasks, by the level that a student has in the class or in a round."""

import time
import unittest
from contextlib import ExitStack
from typing import Any

from hobtrial.core.exercise import ExerciseError, load
from hobtrial.core.judging import open_exercise
from hobtrial.core.reporting import report
from hobtrial.core.workshop import at_level, levels_of
from tests.server.desks import EXERCISE, ONE_TOO_MANY, Room
from tests.support import database

TOML = (
    EXERCISE["exercise.toml"]
    .decode()
    .replace("seconds = 2\n", 'seconds = 2\ntasks = [{id = "count", text = "Count"}, {id = "win", text = "Win"}]\n')
    .replace('name = "Two buns"', 'name = "Two buns"\ntask = "count"')
    .replace('name = "Won by two"', 'name = "Won by two"\ntask = "win"')
    .replace("[scene]\n", '[levels.supported]\ntasks = ["count"]\nhelp = {after = [0, 0, 0]}\n\n[scene]\n', 1)
)
LEVELLED = {
    **EXERCISE,
    "exercise.toml": TOML.encode(),
    "starter.supported.py": b"score = 0\n# count the buns here\n",
    "brief.supported.md": b"# Count the buns\nEach bun counts.",
}


class Made(unittest.TestCase):
    def test_a_level_has_its_own_tasks_help_starter_and_brief(self) -> None:
        self.assertEqual(levels_of(LEVELLED), ("supported",))
        files = at_level(LEVELLED, "supported")
        made = load(files)
        self.assertEqual([each.name for each in made.settings.scenario], ["Two buns", "Secret wait"])
        self.assertEqual([each.id for each in made.settings.tasks], ["count"])
        self.assertEqual((made.settings.help.after, made.settings.levels), ((0, 0, 0), {}))
        self.assertEqual(
            (made.starter, made.brief), ("score = 0\n# count the buns here\n", "# Count the buns\nEach bun counts.")
        )
        self.assertNotIn("starter.supported.py", files)
        prepared = open_exercise(files)
        self.assertEqual(report(prepared, "", made.reference).marks, prepared.out_of)

    def test_what_cannot_be_is_refused(self) -> None:
        for old, new, words in (
            (
                'tasks = ["count"]',
                'tasks = ["cuont"]',
                "the level supported has the task 'cuont'; known tasks: count, win",
            ),
            ("[levels.supported]", "[levels.easy]", "easy"),
        ):
            with self.subTest(new), self.assertRaises(ExerciseError) as caught:
                load({**LEVELLED, "exercise.toml": TOML.replace(old, new).encode()})
            self.assertIn(words, str(caught.exception))
        with self.assertRaises(ExerciseError) as caught:
            load({**LEVELLED, "starter.stretch.py": b"score = 0\n"})
        self.assertIn("exercise.toml has no [levels.stretch]", str(caught.exception))


class Given(unittest.TestCase):
    room: Room

    @classmethod
    def setUpClass(cls) -> None:
        cls.room = Room(database("level_records"), cls.enterClassContext(ExitStack()), files=LEVELLED)

    def round(self) -> dict[str, Any]:
        for _ in range(600):
            found: dict[str, Any] = self.room.ask("linden", "GET", f"/api/rounds/{self.room.round_id}").json()
            if all(each["status"] != "waiting" for each in found["students"]):
                return found
            time.sleep(0.05)
        raise AssertionError("not marked")

    def level(self, student: str, level: str | None) -> int:
        path = f"/api/rounds/{self.room.round_id}/students/{self.room.ids[student]}/level"
        return int(self.room.ask("linden", "PUT", path, {"level": level}).status_code)

    def test_a_student_has_the_tasks_of_their_level_everywhere(self) -> None:
        for who in ("wren", "sorrel"):
            self.room.desk(who, "/hand-in", "POST", {"source": ONE_TOO_MANY})
        marks = {each["student"]: (each["marks"], each["out_of"]) for each in self.round()["students"]}
        self.assertEqual(marks, {"Sorrel": (3, 4), "Wren": (3, 4)})
        self.assertEqual(self.level("Wren", "supported"), 204)

        task = self.room.desk("wren").json()
        self.assertEqual([each["name"] for each in task["scenarios"]], ["Two buns"])
        self.assertEqual((task["out_of"], task["brief"]), (3, "# Count the buns\nEach bun counts."))
        self.assertEqual(len(self.room.desk("sorrel").json()["scenarios"]), 2)
        found = self.room.check("wren", ONE_TOO_MANY)
        self.assertEqual((found["marks"], [each["name"] for each in found["scenarios"]]), (2, ["Two buns"]))

        seen = self.round()
        rows = {each["student"]: each for each in seen["students"]}
        self.assertEqual((rows["Wren"]["marks"], rows["Wren"]["out_of"]), (3, 3))
        self.assertEqual(rows["Wren"]["verdicts"], [["held"], [], ["held"]])
        self.assertEqual(rows["Sorrel"]["verdicts"], [["held"], ["broken"], ["held"]])
        self.assertEqual(seen["levels"], ["supported"])
        self.assertEqual([each["level"] for each in seen["at_level"]], [None, "supported"])
        ledger = self.room.ask("linden", "GET", f"/api/classes/{self.room.class_id}/ledger").json()
        cells = {each["name"]: each["cells"][0] for each in ledger["students"]}
        self.assertEqual((cells["Wren"]["marks"], cells["Wren"]["out_of"]), (3, 3))
        table = self.room.ask("linden", "GET", f"/api/classes/{self.room.class_id}/ledger.csv").content.decode(
            "utf-8-sig"
        )
        self.assertIn("Wren,3 of 3,3 of 3", table)
        tried = self.room.ask("linden", "GET", f"/api/submissions/{rows['Wren']['submission_id']}/scenarios/0").json()
        played = self.room.ask("linden", "GET", f"/api/exercises/{tried['version_id']}/play")
        self.assertEqual((played.status_code, played.json().get("title")), (200, "Count the buns"))
        sheets = self.room.ask("linden", "GET", f"/api/rounds/{self.room.round_id}/sheets").json()
        self.assertEqual({each["student"]: each["out_of"] for each in sheets}, {"Wren": 3, "Sorrel": 4})

        self.assertEqual(self.level("Wren", None), 204)
        self.assertEqual({each["out_of"] for each in self.round()["students"]}, {4})

    def test_a_level_in_the_class_holds_where_a_round_says_nothing_else(self) -> None:
        path = f"/api/students/{self.room.ids['Sorrel']}"
        self.assertEqual(self.room.ask("linden", "PUT", path, {"level": "supported"}).status_code, 204)
        self.assertEqual(self.room.desk("sorrel").json()["out_of"], 3)
        students = self.room.ask("linden", "GET", f"/api/classes/{self.room.class_id}").json()["students"]
        self.assertEqual({each["name"]: each["level"] for each in students}, {"Sorrel": "supported", "Wren": None})
        self.assertEqual(self.level("Sorrel", "core"), 204)
        self.assertEqual(self.room.desk("sorrel").json()["out_of"], 4)
        self.assertEqual(self.level("Sorrel", None), 204)
        self.assertEqual(self.room.ask("linden", "PUT", path, {"level": ""}).status_code, 204)
        self.assertEqual(self.room.desk("sorrel").json()["out_of"], 4)
        self.assertEqual(self.room.ask("linden", "PUT", path, {"level": "genius"}).status_code, 422)
        self.assertEqual(self.level("Sorrel", "easy"), 422)

    def test_a_student_is_not_told_their_level(self) -> None:
        self.level("Wren", "supported")
        self.assertNotIn("supported", self.room.desk("wren").text + self.room.ask("wren", "GET", "/api/desk").text)
        self.level("Wren", None)
        refused = self.room.ask(
            "wren", "PUT", f"/api/rounds/{self.room.round_id}/students/{self.room.ids['Wren']}/level", {"level": "core"}
        )
        self.assertEqual(refused.status_code, 403)
