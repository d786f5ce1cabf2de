"""Teachers, classes, students and their cards, over the web."""

import csv
import io
import json
import unittest
import zipfile
from contextlib import ExitStack
from typing import Any

from hobtrial.server.signing_in import PER_CLASS, PER_NAME
from hobtrial.store import Store
from tests.core.test_oneroster import inside, school, user
from tests.crew.test_parcels import packed
from tests.server.school import PASSWORD, School
from tests.server.served import ORIGIN
from tests.support import database


class AtSchool(unittest.TestCase):
    """Each test has a school of its own, without the sample class."""

    def setUp(self) -> None:
        self.school = School(database("people"), self.enterContext(ExitStack()))
        self.mine = self.school.things["linden"]

    def post(self, path: str, body: Any, who: str = "linden", method: str = "POST") -> Any:
        return self.school.post(who, path, body, method)

    def get(self, path: str, who: str = "linden") -> Any:
        return self.school.get(who, path)

    def role(self, who: str) -> str:
        return str(self.get("/api/me", who).json()["role"])

    def rows(self, query: str) -> list[dict[str, Any]]:
        """What stands in the database."""
        store = Store(self.school.dsn)
        with store.transaction() as connection:
            found = connection.execute(query.encode()).fetchall()
        store.close()
        return found


class Sessions(AtSchool):
    def test_the_right_words_and_nothing_else(self) -> None:
        word, card = self.school.cards["wren"]
        other = self.school.cards["sorrel"]
        for given in ((word, other[1]), (other[0], card), ("", ""), (word, ""), (word, card[:-1]), ("no-such", card)):
            answer = self.post("/api/sign-in/student", {"class_word": given[0], "card": given[1]}, "nobody")
            self.assertEqual(answer.status_code, 401, given)
            self.assertEqual(answer.json()["detail"][:18], "That is not right.")
        self.assertEqual(self.role("nobody"), "nobody")
        typed = {"class_word": f" {word.upper()} ", "card": card.replace("-", " ").title()}
        self.assertEqual(self.post("/api/sign-in/student", typed, "nobody").status_code, 204)
        self.assertEqual(self.get("/api/me", "nobody").json()["name"], "Wren")

    def test_teachers_and_unknown_names_hear_the_same(self) -> None:
        for name, password in (("Hazel", "wrong password"), ("Nobody", PASSWORD), ("Wren", PASSWORD)):
            answer = self.post("/api/sign-in/teacher", {"name": name, "password": password}, "nobody")
            self.assertEqual(
                (answer.status_code, answer.json()["detail"]),
                (401, "That name and that password do not belong together."),
            )

    def test_a_new_card_ends_the_old_one_and_the_session(self) -> None:
        self.assertEqual(self.role("wren"), "student")
        body = {"student_ids": [self.mine.student_id]}
        made = self.post(f"/api/classes/{self.mine.class_id}/cards", body).json()
        self.assertEqual(self.role("wren"), "nobody")
        self.assertEqual(self.school.come_in("wren"), 401)
        self.school.cards["wren"] = made["word"], made["cards"][0]["card"]
        self.assertEqual(self.school.come_in("wren"), 204)

    def test_signing_out_ends_what_the_browser_had(self) -> None:
        kept = self.school.clients["wren"].cookies
        self.assertEqual(self.post("/api/sign-out", None, "wren").status_code, 204)
        self.school.clients["wren"].cookies = kept
        self.assertEqual(self.role("wren"), "nobody")

    def test_a_session_ends_after_twelve_hours(self) -> None:
        store = Store(self.school.dsn)
        with store.transaction() as connection:
            [row] = connection.execute("SELECT max(ends_at - made_at) AS lasts FROM session").fetchall()
            self.assertEqual(row["lasts"].total_seconds(), 12 * 60 * 60)
            connection.execute("UPDATE session SET ends_at = now() - interval '1 second'")
        store.close()
        self.assertEqual({self.role(who) for who in ("linden", "hazel", "wren")}, {"nobody"})

    def test_another_password_ends_all_other_sessions(self) -> None:
        elsewhere = {"name": "Hazel", "password": PASSWORD}
        self.assertEqual(self.post("/api/sign-in/teacher", elsewhere, "nobody").status_code, 204)
        for old, new, status in (
            ("wrong", "a new password", 409),
            (PASSWORD, "short", 409),
            (PASSWORD, "hazelnut tree", 204),
        ):
            answer = self.post("/api/me/password", {"old": old, "new": new}, "hazel", "PUT")
            self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual((self.role("hazel"), self.role("nobody")), ("teacher", "nobody"))

    def test_tries_are_limited_and_the_end_can_be_waited_for(self) -> None:
        word, card = self.school.cards["wren"]
        wrong = {"class_word": word, "card": "no-such-card-00"}
        statuses = [self.post("/api/sign-in/student", wrong, "nobody").status_code for _ in range(PER_CLASS + 2)]
        self.assertEqual(statuses, [401] * PER_CLASS + [429] * 2)
        right = {"class_word": word, "card": card}
        self.assertEqual(self.post("/api/sign-in/student", right, "nobody").status_code, 429)
        self.assertEqual(self.school.come_in("sorrel"), 204)  # another class is not locked out
        store = Store(self.school.dsn)
        with store.transaction() as connection:
            connection.execute("UPDATE sign_in_try SET at = at - interval '16 minutes'")
        store.close()
        self.assertEqual(self.post("/api/sign-in/student", right, "nobody").status_code, 204)

    def test_a_teachers_name_is_limited_too_and_who_comes_in_counts_for_nothing(self) -> None:
        right, wrong = ({"name": "Hazel", "password": password} for password in (PASSWORD, "wrong password"))
        for _ in range(PER_NAME - 1):
            self.assertEqual(self.post("/api/sign-in/teacher", wrong, "nobody").status_code, 401)
        for _ in range(3):
            self.assertEqual(self.post("/api/sign-in/teacher", right, "hazel").status_code, 204)
        found = [self.post("/api/sign-in/teacher", wrong, "nobody").status_code for _ in range(2)]
        self.assertEqual(found, [401, 429])

    def test_only_hashes_are_kept(self) -> None:
        kept = json.dumps(
            [self.rows(f"SELECT * FROM {table}") for table in ("student", "session", "teacher")], default=str
        )
        _, card = self.school.cards["wren"]
        self.assertNotIn(card, kept)
        self.assertNotIn(PASSWORD, kept)
        self.assertNotIn(dict(self.school.clients["wren"].cookies)["hob"], kept)
        self.assertIn("$argon2id$", kept)

    def test_a_link_of_the_demo_is_its_own(self) -> None:
        for token in ("", "x", "ü" * 20):
            self.assertEqual(self.post("/api/sign-in/demo", {"token": token}, "nobody").status_code, 401)

    def test_behind_tls_the_cookie_is_for_this_host_alone(self) -> None:
        client = self.school.clients["nobody"].client
        body = {"name": "Hazel", "password": PASSWORD}
        secure = {"origin": "https://127.0.0.1:8765"}
        answer = client.post("https://127.0.0.1:8765/api/sign-in/teacher", json=body, headers=secure)
        cookie = answer.headers["set-cookie"]
        self.assertTrue(cookie.startswith("__Host-hob="))
        for part in ("HttpOnly", "Secure", "Path=/", "SameSite=lax"):
            self.assertIn(part, cookie)
        self.assertNotIn("Domain", cookie)


class Teachers(AtSchool):
    def test_the_owner_adds_and_removes(self) -> None:
        self.assertEqual(self.post("/api/teachers", {"name": "Alder", "password": "short"}).status_code, 409)
        added = self.post("/api/teachers", {"name": "Alder", "password": "under the alders"})
        self.assertEqual(added.status_code, 201)
        again = self.post("/api/teachers", {"name": "aLDER", "password": "under the alders"})
        self.assertEqual((again.status_code, again.json()["detail"][:30]), (409, "There is a teacher called aLDE"))
        hazels = self.school.things["hazel"]
        [hazel] = [each["id"] for each in self.get("/api/teachers").json() if each["name"] == "Hazel"]
        self.assertEqual(self.get(f"/api/classes/{hazels.class_id}").status_code, 404)
        self.assertEqual(self.post(f"/api/teachers/{hazel}", None, method="DELETE").status_code, 204)
        self.assertEqual(self.role("hazel"), "nobody")
        self.assertEqual(self.get(f"/api/classes/{hazels.class_id}").status_code, 200)
        self.assertEqual(self.get(f"/api/drafts/{hazels.draft_id}").status_code, 200)

    def test_a_forgotten_password(self) -> None:
        given = {"new": "a hedge of hazels"}
        self.assertEqual(self.post("/api/teachers/2/password", given, method="PUT").status_code, 204)
        self.assertEqual(self.role("hazel"), "nobody")
        body = {"name": "Hazel", "password": given["new"]}
        self.assertEqual(self.post("/api/sign-in/teacher", body, "hazel").status_code, 204)

    def test_there_is_always_an_owner(self) -> None:
        self.assertEqual(self.post("/api/teachers/1", None, method="DELETE").status_code, 409)


class Classes(AtSchool):
    def test_a_class_is_shared_and_keeps_a_teacher(self) -> None:
        path = f"/api/classes/{self.mine.class_id}"
        self.assertEqual(self.get(path, "hazel").status_code, 404)
        self.assertEqual(self.post(f"{path}/teachers/2", None, method="PUT").status_code, 204)
        self.assertEqual(self.get(path, "hazel").status_code, 200)
        self.assertEqual(self.get(f"/api/submissions/{self.mine.submission_id}", "hazel").status_code, 200)
        self.assertEqual(self.post(f"{path}/teachers/1", None, "hazel", "DELETE").status_code, 204)
        self.assertEqual(self.get(path).status_code, 404)
        self.assertEqual(self.post(f"{path}/teachers/2", None, "hazel", "DELETE").status_code, 409)

    def test_put_away_it_rests_and_comes_back_whole(self) -> None:
        path = f"/api/classes/{self.mine.class_id}"
        before = self.get(f"/api/rounds/{self.mine.round_id}").json()
        self.assertEqual(self.post(path, {"put_away": True}, method="PUT").status_code, 204)
        self.assertEqual((self.role("wren"), self.school.come_in("wren")), ("nobody", 401))
        self.assertEqual(self.get("/api/bench").json()["rounds"], [])
        self.post(path, {"put_away": False}, method="PUT")
        self.assertEqual(self.school.come_in("wren"), 204)
        self.assertEqual(self.get(f"/api/rounds/{self.mine.round_id}").json(), before)

    def test_students_come_late_leave_come_back_and_move(self) -> None:
        path = f"/api/classes/{self.mine.class_id}"
        self.assertEqual(self.post(f"{path}/students", {"names": ["Fennel", "Wren"]}).json(), {"added": 1})
        student = f"/api/students/{self.mine.student_id}"
        self.assertEqual(self.post(student, {"left": True}, method="PUT").status_code, 204)
        self.assertEqual((self.role("wren"), self.school.come_in("wren")), ("nobody", 401))
        self.assertNotIn("Wren", self.get(f"{path}/students.csv").text)
        self.assertEqual(self.get(f"/api/submissions/{self.mine.submission_id}").json()["student"], "Wren")
        self.post(student, {"left": False}, method="PUT")
        taken = self.post(student, {"name": "Teasel"}, method="PUT")
        self.assertEqual((taken.status_code, "called Teasel already" in taken.json()["detail"]), (409, True))
        self.assertEqual(self.post(student, {"name": "Wren the younger"}, method="PUT").status_code, 204)
        other = self.post("/api/classes", {"name": "8 Beech"}).json()["id"]
        self.assertEqual(self.post(student, {"class_id": other}, method="PUT").status_code, 204)
        [moved] = self.get(f"/api/classes/{other}").json()["students"]
        self.assertEqual((moved["name"], moved["tries"], moved["has_card"]), ("Wren the younger", 1, False))

    def test_names_are_cleaned_of_what_nobody_sees(self) -> None:
        path = f"/api/classes/{self.mine.class_id}"
        self.assertEqual(self.post(f"{path}/students", {"names": ["Fen\u200bnel\u202e\u0000"]}).status_code, 200)
        self.assertEqual(self.post(f"{path}/students", {"names": ["\u200b\u202e"]}).status_code, 422)
        names = [each["name"] for each in self.get(path).json()["students"]]
        self.assertIn("Fennel", names)

    def test_a_class_has_at_most_five_hundred(self) -> None:
        path = f"/api/classes/{self.mine.class_id}/students"
        self.assertEqual(self.post(path, {"names": [f"n{number}" for number in range(499)]}).status_code, 409)
        self.assertEqual(len(self.get(f"/api/classes/{self.mine.class_id}").json()["students"]), 2)

    def test_a_second_class_of_one_name(self) -> None:
        self.assertEqual(self.post("/api/classes", {"name": "8 Beech"}).status_code, 201)
        self.assertEqual(self.post("/api/classes", {"name": "8 Beech"}).status_code, 409)
        self.assertEqual(self.post("/api/classes", {"name": "8 Beech"}, "hazel").status_code, 201)


class Data(AtSchool):
    def test_everything_of_a_student_as_one_zip(self) -> None:
        found = self.get(f"/api/students/{self.mine.student_id}/data.zip")
        with zipfile.ZipFile(io.BytesIO(found.content)) as archive:
            told = json.loads(archive.read("student.json"))
            [tried] = told["tries"]
            self.assertEqual((told["name"], tried["exercise"], tried["number"]), ("Wren", "Bakehouse rush", 1))
            self.assertEqual(archive.read(tried["file"]), f"score = {self.mine.class_id}".encode())
        self.assertNotIn("Teasel", json.dumps(told))

    def test_deleting_leaves_nothing_of_theirs(self) -> None:
        own = {"marks": 3, "comment": "About Wren"}
        self.post(f"/api/submissions/{self.mine.submission_id}/own", own, method="PUT")
        self.do(
            "INSERT INTO report (version_id, digest, status, marks, out_of, whole, made_by) "
            "SELECT version_id, digest, 'marked', 1, 2, jsonb_build_object('name', 'Wren.py'), 1 "
            f"FROM submission JOIN round ON round.id = round_id WHERE submission.id = {self.mine.submission_id}"
        )
        self.assertEqual(self.post(f"/api/students/{self.mine.student_id}", None, method="DELETE").status_code, 204)
        self.assertEqual(self.role("wren"), "nobody")
        for table in ("student", "submission", "own_mark", "report", "session", "prediction"):
            kept = json.dumps(self.rows(f"SELECT * FROM {table}"), default=str)
            self.assertNotIn("Wren", kept, table)
        self.assertEqual(len(self.rows("SELECT id FROM submission")), 1)  # the neighbour's

    def do(self, statement: str) -> None:
        store = Store(self.school.dsn)
        with store.transaction() as connection:
            connection.execute(statement.encode())
        store.close()

    def test_deleting_a_class_leaves_the_neighbours_alone(self) -> None:
        self.assertEqual(self.post(f"/api/classes/{self.mine.class_id}", None, method="DELETE").status_code, 204)
        self.assertEqual(self.get("/api/classes").json(), [])
        self.assertEqual(
            [row["name"] for row in self.rows("SELECT name FROM student ORDER BY name")], ["Sorrel", "Teasel"]
        )
        self.assertEqual(len(self.rows("SELECT id FROM round")), 1)


class Lists(AtSchool):
    PUPILS = (user("u1", "Wren", "Ash"), user("u2", "Wren", "Birch"), user("u3", "Clover"))

    def read(self, files: dict[str, bytes], **said: Any) -> Any:
        client = self.school.clients["linden"]
        return client.request(
            "POST",
            "/api/lists",
            files={"file": ("list.zip", packed(files))},
            data={"said": json.dumps(said)},
            headers=ORIGIN,
        )

    def names(self, class_id: int) -> list[tuple[str, bool]]:
        """Who is in a class, and whether they have left."""
        found = self.get(f"/api/classes/{class_id}").json()["students"]
        return [(each["name"], each["left_at"] is not None) for each in found]

    def test_nothing_is_taken_before_it_is_said_and_only_what_is_chosen(self) -> None:
        files = school(list(self.PUPILS), [inside(each["sourcedId"]) for each in self.PUPILS])
        before = self.get("/api/classes").json()
        shown = self.read(files, classes=["c1"]).json()
        self.assertEqual((shown["done"], [each["chosen"] for each in shown["classes"]]), (False, [True, False]))
        self.assertEqual([each["name"] for each in shown["classes"][0]["students"]], ["Clover", "Wren A", "Wren B"])
        self.assertEqual(self.get("/api/classes").json(), before)
        self.assertTrue(self.read(files, classes=["c1"], take=True).json()["done"])
        [larch] = [each for each in self.get("/api/classes").json() if each["name"] == "7 Larch"]
        self.assertEqual((larch["students"], len(self.get("/api/classes").json())), (3, len(before) + 1))

    def test_names_that_clash_are_asked_about(self) -> None:
        same = [user("u1", "Wren", "Ash"), user("u2", "Wren", "Aspen")]
        files = school(same, [inside(each["sourcedId"]) for each in same])
        shown = self.read(files, classes=["c1"], take=True).json()
        self.assertEqual(shown["done"], False)
        self.assertEqual({each["clash"] for each in shown["classes"][0]["students"]}, {"two have this name"})
        taken = self.read(files, classes=["c1"], take=True, names={"u2": "Wren the second"}).json()
        self.assertTrue(taken["done"])

    def test_who_changes_their_name_leaves_comes_late_and_comes_back(self) -> None:
        def take(*pupils: dict[str, str]) -> Any:
            files = school(list(pupils), [inside(each["sourcedId"]) for each in pupils])
            return self.read(files, classes=["c1"], take=True).json()["classes"][0]

        take(user("u1", "Wren"), user("u2", "Sorrel"))
        class_id = next(each["id"] for each in self.get("/api/classes").json() if each["name"] == "7 Larch")
        second = take(user("u1", "Rowan"), user("u3", "Fennel"))
        self.assertEqual(
            {each["name"]: each["what"] for each in second["students"]}, {"Rowan": "renamed", "Fennel": "new"}
        )
        self.assertEqual((second["students"][1]["before"], second["leaving"]), ("Wren", ["Sorrel"]))
        self.assertEqual(self.names(class_id), [("Fennel", False), ("Rowan", False), ("Sorrel", True)])
        third = take(user("u1", "Rowan"), user("u2", "Sorrel"), user("u3", "Fennel"))
        self.assertEqual([each["what"] for each in third["students"]], ["same", "same", "back"])
        self.assertEqual(self.names(class_id), [("Fennel", False), ("Rowan", False), ("Sorrel", False)])

    def test_a_name_that_the_teacher_chose_stays(self) -> None:
        one = [user("u1", "Wren", "Ash")]
        files = school(one, [inside("u1")])
        self.read(files, classes=["c1"], take=True, names={"u1": "Wren Tall"})
        self.assertEqual(self.read(files, classes=["c1"]).json()["classes"][0]["students"][0]["name"], "Wren Tall")

    def test_a_list_that_cannot_be_read(self) -> None:
        found = self.read({"users.csv": b"x"}, take=True)
        self.assertEqual((found.status_code, found.json()["detail"]), (422, "users.csv has no column sourcedId."))

    def test_marks_go_out_as_results(self) -> None:
        self.post(f"/api/submissions/{self.mine.submission_id}/own", {"marks": 7.5, "comment": ""}, method="PUT")
        found = self.get(f"/api/classes/{self.mine.class_id}/results.zip")
        with zipfile.ZipFile(io.BytesIO(found.content)) as archive:
            [result] = csv.DictReader(io.StringIO(archive.read("results.csv").decode()))
        self.assertEqual((result["score"], result["studentSourcedId"]), ("7.5", f"hob-student-{self.mine.student_id}"))
