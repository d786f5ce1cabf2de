"""What a teacher does with findings: withdraws them, shows them to the class, tries the change, prints the sheet."""

import time
import unittest
from typing import Any
from urllib.parse import quote

from starlette.testclient import TestClient

from hobtrial.cli.demo import load
from hobtrial.core.reporting import idea_of
from hobtrial.demo import tries
from tests.crew.faults import breaking
from tests.server.served import ORIGIN, served
from tests.server.test_server import Served
from tests.support import BAKEHOUSE, database


class Explained(Served):
    dsn: str
    looked_at: tuple[str, TestClient] | None = None
    """The database and the client of the classes that only look."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.dsn = database("explained")
        load(cls.dsn, [BAKEHOUSE])
        cls.client = cls.enterClassContext(served(cls.dsn))
        cls.wait_until_marked()

    def round(self) -> dict[str, Any]:
        found: dict[str, Any] = self.client.get("/api/rounds/1").json()
        return found

    def row(self, student: str) -> dict[str, Any]:
        return next(row for row in self.round()["students"] if row["student"] == student)

    def attempt(self, student: str) -> dict[str, Any]:
        found: dict[str, Any] = self.client.get(f"/api/submissions/{self.row(student)['submission_id']}").json()
        return found

    def withdraw(self, key: str, submission_id: int | None, withdrawn: bool) -> int:
        body = {"key": key, "submission_id": submission_id, "withdrawn": withdrawn}
        return self.client.put("/api/rounds/1/withdrawn", json=body, headers=ORIGIN).status_code


class OnlyLooking(Explained):
    @classmethod
    def setUpClass(cls) -> None:
        looked_at = OnlyLooking.looked_at
        if looked_at is None:
            dsn = database("looked_at")
            load(dsn, [BAKEHOUSE])
            client = unittest.enterModuleContext(served(dsn))
            looked_at = OnlyLooking.looked_at = dsn, client
        cls.dsn, cls.client = looked_at
        cls.wait_until_marked()


class Withdrawing(Explained):
    def test_for_one_student(self) -> None:
        key, wren = self.attempt("Wren")["findings"][0]["key"], self.row("Wren")["submission_id"]
        self.assertEqual(self.withdraw(key, wren, True), 204)
        self.assertEqual((self.row("Wren")["groups"], self.row("Wren")["first"]), ([], None))
        self.assertEqual(self.row("Wren")["marks"], 15)
        self.assertEqual(self.attempt("Wren")["findings"][0]["withdrawn"], "student")
        self.assertEqual(self.attempt("Clover")["findings"][0]["withdrawn"], "")
        group = next(each for each in self.round()["groups"] if each["key"] == idea_of(key))
        self.assertEqual((len(group["submission_ids"]), group["withdrawn"]), (3, False))
        self.assertEqual(self.withdraw(key, wren, False), 204)
        self.assertEqual(self.row("Wren")["groups"], [idea_of(key)])

    def test_for_everybody_and_kept_when_marked_again(self) -> None:
        key = self.attempt("Vetch")["findings"][0]["key"]
        self.assertEqual(self.withdraw(key, None, True), 204)
        self.assertEqual(self.withdraw(key, None, True), 204)
        self.client.post("/api/rounds/1/mark", headers=ORIGIN)
        self.wait_until_marked()
        keys = [each["key"] for each in self.round()["groups"] if each["withdrawn"]]
        self.assertEqual(keys, [idea_of(key)])
        self.assertEqual(self.row("Vetch")["groups"], [])
        self.assertEqual(self.row("Pipit")["groups"], [], "the same idea is withdrawn for everybody")
        self.assertEqual(self.attempt("Vetch")["findings"][0]["withdrawn"], "group")
        self.assertEqual(self.withdraw(key, None, False), 204)
        self.assertEqual(self.row("Vetch")["groups"], [idea_of(key)])

    def test_what_is_not_there(self) -> None:
        self.assertEqual(self.withdraw("x", 9999, True), 404)
        body = {"key": "x", "withdrawn": True}
        self.assertEqual(self.client.put("/api/rounds/77/withdrawn", json=body, headers=ORIGIN).status_code, 404)
        self.assertEqual(self.client.put("/api/rounds/1/withdrawn", json=body).status_code, 403)


class Sheets(OnlyLooking):
    def test_a_sheet_has_the_lines_and_the_question_and_nobodys_name(self) -> None:
        group = next(
            each for each in self.round()["groups"] if each["slip"] == "boundary" and len(each["submission_ids"]) == 4
        )
        answer = self.client.get(f"/api/rounds/1/sheet?key={quote(group['key'])}")
        found = answer.json()
        self.assertEqual((found["title"], found["scripts"], found["of"]), (group["title"], 4, 24))
        self.assertEqual(found["question"], "What should happen when `score` is exactly 5?")
        self.assertEqual([line["about"] for line in found["lines"]].count(True), 1)
        names = {row["student"].casefold() for row in self.round()["students"]}
        self.assertFalse([name for name in names if name in answer.text.casefold()])
        self.assertEqual(self.client.get("/api/rounds/1/sheet?key=none").status_code, 404)


class Changes(OnlyLooking):
    def test_a_fix_is_tried_and_nothing_is_kept(self) -> None:
        wren = self.row("Wren")["submission_id"]
        found = self.client.post(f"/api/submissions/{wren}/findings/0/change", headers=ORIGIN).json()
        self.assertEqual((found["marks_before"], found["marks"], found["out_of"]), (15, 20, 20))
        self.assertEqual({(each["before"], each["after"]) for each in found["checks"]}, {("broken", "held")})
        self.assertIn("    if score >= 5:", found["source"])
        self.assertEqual((self.row("Wren")["marks"], self.row("Wren")["number"]), (15, 1))

    def test_a_text_that_cannot_be_read_is_mended_too(self) -> None:
        woad = self.row("Woad")["submission_id"]
        found = self.client.post(f"/api/submissions/{woad}/findings/0/change", headers=ORIGIN).json()
        self.assertEqual((found["marks_before"], found["marks"] > 0), (0, True))
        self.assertEqual(
            self.client.post(f"/api/submissions/{woad}/findings/7/change", headers=ORIGIN).status_code, 404
        )

    def test_the_submission_before_stands_beside(self) -> None:
        vetch = self.attempt("Vetch")
        self.assertEqual(vetch["earlier"]["number"], vetch["number"] - 1)
        own = self.client.get(f"/api/submissions/{vetch['id']}/scenarios/0").json()
        beside = self.client.get(f"/api/submissions/{vetch['id']}/scenarios/0?earlier=true").json()
        self.assertEqual(own["trace"], beside["trace"])
        self.assertNotEqual(own["reference"]["samples"], beside["reference"]["samples"])
        self.assertIsNone(self.attempt("Wren")["earlier"])


class Feedback(Explained):
    def sheet(self, student: str) -> dict[str, Any]:
        answer = self.client.get("/api/rounds/1/sheets")
        self.assertEqual(answer.status_code, 200)
        found: dict[str, Any] = next(each for each in answer.json() if each["student"] == student)
        return found

    def test_a_first_try_has_the_question_and_not_the_answer(self) -> None:
        sheet = self.sheet("Wren")
        questions = [each["nudge"] for each in sheet["findings"]]
        self.assertIn("What should happen when `score` is exactly 5?", questions)
        self.assertEqual((sheet["marks"], sheet["out_of"]), (15, 20))
        self.assertEqual([each for each in sheet["findings"] if each["pointer"] or each["lines"] or each["fix"]], [])

    def test_nothing_to_report(self) -> None:
        self.assertEqual(self.sheet("Rowan")["findings"], [])

    def test_what_is_withdrawn_is_not_on_it_and_a_comment_is(self) -> None:
        found = self.attempt("Tansy")
        self.withdraw(found["findings"][0]["key"], found["id"], True)
        own = {"marks": 18, "comment": "<b>Nearly</b> there"}
        self.client.put(f"/api/submissions/{found['id']}/own", json=own, headers=ORIGIN)
        sheet = self.sheet("Tansy")
        self.assertNotIn("exactly 5", str(sheet["findings"]))
        self.assertEqual((sheet["own_marks"], sheet["comment"]), (18, "<b>Nearly</b> there"))

    def test_nobody(self) -> None:
        self.assertEqual(self.client.get("/api/rounds/999/sheets").status_code, 404)


class Predictions(Served):
    @classmethod
    def setUpClass(cls) -> None:
        dsn = database("predicted")
        load(dsn, ["bread-choices"])
        cls.client = cls.enterClassContext(served(dsn))
        cls.wait_until_marked()

    def test_they_are_kept_with_the_try_and_counted_on_the_round(self) -> None:
        def row() -> dict[str, Any]:
            rows = self.client.get("/api/rounds/1").json()["students"]
            return next(each for each in rows if each["student"] == right)

        right = next(each.student for each in tries("bread-choices") if not each.mistakes and each.number == 1)
        path = f"/api/submissions/{row()['submission_id']}/scenarios/0/prediction"
        guesses = {"guesses": {"price": "3", "coins": "5"}}
        self.assertEqual(self.client.put(path, json=guesses, headers=ORIGIN).status_code, 204)
        self.assertEqual(row()["predicted"], [{"scenario": 0, "right": 1, "of": 2, "marks": 0.5, "out_of": 1}])
        kept = self.client.get(f"/api/submissions/{row()['submission_id']}").json()["predictions"]
        self.assertEqual(kept, {"0": {"price": "3", "coins": "5"}})
        self.client.put(path, json={"guesses": {"price": "3", "coins": "4"}}, headers=ORIGIN)
        self.assertEqual(row()["predicted"], [{"scenario": 0, "right": 2, "of": 2, "marks": 1, "out_of": 1}])
        nowhere = path.replace("scenarios/0", "scenarios/99")
        self.assertEqual(self.client.put(nowhere, json=guesses, headers=ORIGIN).status_code, 404)


class NotTheScriptsFault(unittest.TestCase):
    def test_a_script_that_cannot_be_marked_has_no_marks_and_can_be_marked_again(self) -> None:
        dsn = database("faulty")
        load(dsn, [BAKEHOUSE])
        fault = breaking("hobtrial.core.judging.marking.play_scenario", "AssertionError")
        with fault, served(dsn) as broken:
            row = self.wait_for(broken, "Wren", "unmarked")
            self.assertEqual((row["marks"], row["verdicts"], row["fault"]["whose"]), (None, [], "ours"))
            self.assertIn("Tell whoever looks after the server", row["fault"]["message"])
            attempt = broken.get(f"/api/submissions/{row['submission_id']}").json()
            self.assertEqual((attempt["status"], attempt["fault"]["id"]), ("unmarked", row["fault"]["id"]))
            sheet = next(each for each in broken.get("/api/rounds/1/sheets").json() if each["student"] == "Wren")
            self.assertIn("Tell whoever looks after the server", sheet["unmarked"])
            self.assertEqual((sheet["marks"], sheet["findings"]), (None, []))
            self.assertEqual(broken.get(f"/api/submissions/{row['submission_id']}/scenarios/0").status_code, 200)
            woad = self.wait_for(broken, "Woad", "unreadable")  # nothing of it is played, so it is marked
            self.assertEqual(woad["marks"], 0)
            self.assertEqual(
                broken.post(f"/api/submissions/{row['submission_id']}/mark", headers=ORIGIN).status_code, 202
            )
            self.assertEqual(broken.post("/api/submissions/9999/mark", headers=ORIGIN).status_code, 404)
            self.wait_for(broken, "Wren", "unmarked")
        with served(dsn) as client:
            self.assertEqual(self.wait_for(client, "Wren", "marked")["marks"], 15)

    def wait_for(self, client: TestClient, student: str, status: str) -> dict[str, Any]:
        """The row of a student, once it has a status."""
        for _ in range(1500):
            rows = client.get("/api/rounds/1").json()["students"]
            row: dict[str, Any] = next(each for each in rows if each["student"] == student)
            if row["status"] == status:
                return row
            time.sleep(0.1)
        raise AssertionError(f"{student} is {row['status']}, not {status}")


del Served, Explained
