"""The lesson as the server has it: times, excuses, the class at work, giving back, the ledger and its files."""

import csv
import io
import json
import time
import unittest
from contextlib import ExitStack
from datetime import UTC, datetime, timedelta
from typing import Any

from odfdo import Document
from openpyxl import load_workbook

from hobtrial.server.ledger import _next, _weakest
from hobtrial.server.lesson_views import ConceptOverTime
from tests.server.desks import ONE_TOO_MANY, RIGHT, Room
from tests.support import database


class Lesson(unittest.TestCase):
    room: Room

    @classmethod
    def setUpClass(cls) -> None:
        cls.room = Room(database("lesson_records"), cls.enterClassContext(ExitStack()))

    def ask(self, method: str, path: str, body: Any = None, who: str = "linden") -> Any:
        return self.room.ask(who, method, path, body)

    def round(self) -> dict[str, Any]:
        found: dict[str, Any] = self.ask("GET", f"/api/rounds/{self.room.round_id}").json()
        return found

    def hand_in(self, who: str, source: str) -> int:
        made = int(self.room.desk(who, "/hand-in", "POST", {"source": source}).json()["submission_id"])
        for _ in range(600):
            if all(each["status"] != "waiting" for each in self.round()["students"]):
                return made
            time.sleep(0.05)
        raise AssertionError("not marked")

    def test_who_has_handed_in_nothing_is_in_the_round_and_can_be_excused(self) -> None:
        before = {each["student"] for each in self.round()["without"]}
        self.assertIn("Sorrel", before | {each["student"] for each in self.round()["students"]})
        path = f"/api/rounds/{self.room.round_id}/students/{self.room.ids['Sorrel']}/standing"
        self.assertEqual(self.ask("PUT", path, {"excused": True}).status_code, 204)
        self.assertTrue(self.room.desk("sorrel").json()["excused"])
        self.assertEqual(self.ask("PUT", path, {"excused": False, "due_at": "2031-01-01T10:00:00"}).status_code, 422)
        self.assertEqual(self.ask("PUT", path, {"excused": False}).status_code, 204)
        wrong = f"/api/rounds/{self.room.round_id}/students/999999/standing"
        self.assertEqual(self.ask("PUT", wrong, {"excused": True}).status_code, 404)

    def test_a_round_opens_is_due_and_closes(self) -> None:
        path = f"/api/rounds/{self.room.round_id}/times"
        soon = (datetime.now(UTC) + timedelta(hours=1)).isoformat()
        late = (datetime.now(UTC) + timedelta(hours=2)).isoformat()
        self.assertEqual(self.ask("PUT", path, {"opens_at": soon}).status_code, 204)
        self.assertEqual(self.room.desk("wren").status_code, 404)
        self.assertEqual([each["id"] for each in self.ask("GET", "/api/desk", who="wren").json()["rounds"]], [])
        self.assertEqual(self.ask("PUT", path, {"due_at": late, "closes_at": soon}).status_code, 422)
        self.assertEqual(self.ask("PUT", path, {"due_at": soon, "closes_at": late}).status_code, 204)
        self.assertIsNotNone(self.room.desk("wren").json()["due_at"])
        self.assertEqual(self.ask("PUT", path, {}).status_code, 204)

    def test_marks_are_told_once_they_are_given_back_and_answered_in_one_line(self) -> None:
        made = self.hand_in("wren", ONE_TOO_MANY)
        own = f"/api/desk/submissions/{made}"
        hidden = self.ask("GET", own, who="wren").json()
        self.assertEqual(
            (hidden["marks"], hidden["findings"], hidden["scenarios"], hidden["comment"]), (None, [], [], "")
        )
        self.assertEqual(self.ask("GET", f"{own}/scenarios/0", who="wren").status_code, 404)
        self.ask("PUT", f"/api/rounds/{self.room.round_id}/times", {"shows_hidden": True})
        self.assertEqual(
            [each["name"] for each in self.ask("GET", own, who="wren").json()["scenarios"]], ["A hidden scenario"]
        )
        self.ask("PUT", f"/api/rounds/{self.room.round_id}/times", {})
        self.ask("PUT", f"/api/submissions/{made}/own", {"marks": 3.5, "comment": "Look at the boundary."})
        back = f"/api/rounds/{self.room.round_id}/give-back"
        self.assertEqual(self.ask("POST", back, {"student_id": self.room.ids["Wren"]}).status_code, 204)
        told = self.ask("GET", own, who="wren").json()
        self.assertEqual((told["marks"], told["own_marks"], told["comment"]), (3, 3.5, "Look at the boundary."))
        self.assertEqual(len(told["findings"]), 1)
        trial = self.ask("GET", f"{own}/scenarios/0", who="wren")
        self.assertEqual((trial.status_code, trial.json()["reference"]), (200, None))
        self.assertEqual(self.ask("GET", f"{own}/scenarios/2", who="wren").status_code, 404)
        self.assertEqual(self.ask("PUT", f"{own}/reply", {"reply": "I see:\n  more than"}, who="wren").status_code, 204)
        row = next(each for each in self.round()["students"] if each["student"] == "Wren")
        self.assertEqual((row["reply"], row["given_back"]), ("I see: more than", True))
        sheet = next(
            each
            for each in self.ask("GET", f"/api/rounds/{self.room.round_id}/sheets").json()
            if each["student"] == "Wren"
        )
        self.assertEqual((sheet["findings"], sheet["marks"]), (told["findings"], told["marks"]))
        self.assertNotIn("Secret", json.dumps(sheet))
        self.ask("POST", back, {"back": False})
        self.assertIsNone(self.ask("GET", own, who="wren").json()["marks"])

    def test_a_class_at_work_is_seen_with_its_line_and_its_findings(self) -> None:
        self.room.desk("sorrel")
        for number in range(4):
            found = self.room.check("sorrel", f"{ONE_TOO_MANY}# at work {number}\n")
            for _ in range(600):
                if self.ask("GET", f"/api/desk/checked/{found['id']}", who="sorrel").json()["findings"] is not None:
                    break
                time.sleep(0.05)
        self.room.desk("sorrel", "/asking", "PUT", {"wants": True})
        seen = self.ask("GET", f"/api/rounds/{self.room.round_id}/work").json()
        sorrel = next(each for each in seen["students"] if each["student"] == "Sorrel")
        self.assertEqual((sorrel["doing"], sorrel["tries"], sorrel["stuck"]["why"]), ("checks", 4, "same"))
        self.assertEqual(sorrel["stuck"]["tries"], 4)
        self.assertIsNotNone(sorrel["asks_since"])
        self.assertEqual([marks for _, marks in sorrel["line"]], [3, 3, 3, 3])
        self.assertGreaterEqual(seen["ideas"][0]["students"], 1)
        path = f"/api/rounds/{self.room.round_id}/students/{self.room.ids['Sorrel']}/desk"
        self.assertEqual(self.ask("GET", path).json()["student"], "Sorrel")
        self.ask("PUT", f"/api/rounds/{self.room.round_id}/times", {"watches": False})
        self.assertEqual(self.ask("GET", path).status_code, 409)
        self.ask("PUT", f"/api/rounds/{self.room.round_id}/times", {})
        self.room.desk("sorrel", "/asking", "PUT", {"wants": False})

    def test_the_ledger_and_its_files_say_the_same(self) -> None:
        self.hand_in("sorrel", RIGHT)
        view = self.ask("GET", f"/api/classes/{self.room.class_id}/ledger").json()
        self.assertEqual([each["title"] for each in view["rounds"]], ["Count the buns"])
        self.assertEqual([each["concept"] for each in view["concepts"]], sorted({"conditionals", "variables"}))
        cells = {each["name"]: each["cells"][0] for each in view["students"]}
        self.assertEqual(cells["Sorrel"]["marks"], 4)
        files = {
            form: self.ask("GET", f"/api/classes/{self.room.class_id}/ledger.{form}").content
            for form in ("csv", "ods", "xlsx")
        }
        table = list(csv.reader(io.StringIO(files["csv"].decode("utf-8-sig"))))
        self.assertEqual(table[0][:3], ["Student", "Count the buns (of 4)", "Count the buns, computed"])
        sheet = load_workbook(io.BytesIO(files["xlsx"]))["Ledger"]
        rows = [["" if cell is None else str(cell) for cell in row] for row in sheet.iter_rows(values_only=True)]
        self.assertEqual(rows, table)
        ods = Document(io.BytesIO(files["ods"])).body.get_table(0)
        assert ods is not None
        found = [["" if cell is None else str(cell) for cell in row] for row in ods.get_values()]
        self.assertEqual(found, table)
        self.assertEqual(self.ask("GET", f"/api/classes/{self.room.class_id}/ledger.exe").status_code, 422)

    def test_names_that_look_like_formulas_are_only_names(self) -> None:
        self.ask("POST", f"/api/classes/{self.room.class_id}/students", {"names": ["=1+1"]})
        text = self.ask("GET", f"/api/classes/{self.room.class_id}/ledger.csv").content.decode("utf-8-sig")
        self.assertIn("'=1+1", text)

    def test_a_round_more_closely(self) -> None:
        self.hand_in("sorrel", RIGHT)
        seen = self.ask("GET", f"/api/rounds/{self.room.round_id}/closer").json()
        self.assertEqual([each["expect"] for each in seen["items"]], ["score == 2", "outcome == 'won'", "score == 0"])
        self.assertEqual(seen["alike"], [])

    def test_a_round_is_copied_to_another_class_of_ones_own(self) -> None:
        class_id = self.ask("POST", "/api/classes", {"name": "7 Hazel"}).json()["id"]
        made = self.ask("POST", f"/api/rounds/{self.room.round_id}/copy", {"class_id": class_id})
        self.assertEqual(made.status_code, 200)
        self.assertNotEqual(made.json()["id"], self.room.round_id)
        self.assertEqual(self.ask("POST", f"/api/rounds/{self.room.round_id}/copy", {"class_id": 999}).status_code, 404)


class WhatNext(unittest.TestCase):
    def test_the_concept_of_which_least_was_earned_lately_and_exercises_for_it(self) -> None:
        concepts = [
            ConceptOverTime(concept="events", shares=[0.1, 0.9, 0.9, 0.9]),
            ConceptOverTime(concept="variables", shares=[0.9, None, 0.6, 0.5]),
            ConceptOverTime(concept="craft", shares=[None, None, None, None]),
        ]
        self.assertEqual((_weakest(concepts), _weakest([])), ("variables", None))
        exercises = [
            {"version_id": number, "title": title, "concepts": which}
            for number, (title, which) in enumerate(
                [("Set", ["variables"]), ("New", ["variables", "events"]), ("Other", ["events"]), ("Old", None)]
            )
        ]
        found = _next("variables", exercises, {"Set"})
        self.assertEqual([(each.version_id, each.title) for each in found], [(1, "New")])
        self.assertEqual(_next(None, exercises, set()), [])
