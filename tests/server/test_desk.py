"""A student's desk as the server has it: texts, checks, predictions, help, handing in; and what is never told there."""

import json
import time
import unittest
from datetime import UTC, datetime, timedelta
from typing import Any

from tests.server.desks import ONE_TOO_MANY, RIGHT, Room
from tests.server.served import HOST, ORIGIN
from tests.support import database


class AtADesk(unittest.TestCase):
    room: Room

    @classmethod
    def setUpClass(cls) -> None:
        from contextlib import ExitStack

        stack = cls.enterClassContext(ExitStack())
        cls.room = Room(database("desk"), stack)

    def explained(self, who: str, checked_id: int) -> dict[str, Any]:
        for _ in range(600):
            found: dict[str, Any] = self.room.ask(who, "GET", f"/api/desk/checked/{checked_id}").json()
            if found["findings"] is not None:
                return found
            time.sleep(0.05)
        raise AssertionError("nothing was found")

    def test_a_text_is_kept_and_the_later_of_two_windows_is_told(self) -> None:
        first = self.room.desk("wren").json()
        self.assertEqual(
            (first["text"]["source"], first["hidden"], first["starter"]), ("score = 0\n", 1, "score = 0\n")
        )
        at = first["text"]["at"]
        kept = self.room.desk("wren", "/text", "PUT", {"source": "score = ", "at": at})
        self.assertEqual((kept.status_code, kept.json()["at"]), (200, at + 1))
        self.assertEqual([each["line"] for each in kept.json()["problems"]], [1])
        other = self.room.desk("wren", "/text", "PUT", {"source": "score = 5", "at": at})
        self.assertEqual((other.status_code, other.json()["text"]["source"]), (409, "score = "))
        same = self.room.desk("wren", "/text", "PUT", {"source": "score = ", "at": at})
        self.assertEqual((same.status_code, same.json()["at"]), (200, at + 1))  # an answer that got lost
        self.assertEqual(self.room.desk("wren").json()["text"]["source"], "score = ")
        self.assertEqual(self.room.desk("sorrel").json()["text"]["source"], "score = 0\n")

    def test_verdicts_come_first_and_a_scenario_that_asks_waits_for_what_is_expected(self) -> None:
        found = self.room.check("wren", ONE_TOO_MANY)
        two, won = found["scenarios"]
        self.assertEqual([each["verdict"] for each in two["checks"]], ["held"])
        self.assertEqual((two["small"]["name"], two["small"]["last"]), ("score", 60))
        self.assertEqual((won["waits"], won["checks"], won["small"]), (True, [], None))
        self.assertEqual((found["marks"], found["out_of"]), (2, 3))
        path = f"/api/desk/checked/{found['id']}/scenarios/1"
        self.assertEqual(self.room.ask("wren", "GET", path).status_code, 409)
        self.assertEqual(self.explained("wren", found["id"])["findings"], [])
        answer = self.room.ask("wren", "PUT", f"{path}/prediction", {"guesses": {"score": "3", "more": "x"}})
        self.assertEqual(answer.status_code, 204)
        told = self.explained("wren", found["id"])
        self.assertEqual(
            (told["scenarios"][1]["guesses"], told["scenarios"][1]["came"]), ({"score": "3"}, {"score": False})
        )
        self.assertEqual([each["verdict"] for each in told["scenarios"][1]["checks"]], ["broken"])
        trial = self.room.ask("wren", "GET", f"{path}?show=hob.x").json()
        self.assertEqual(
            (trial["reference"], [each["name"] for each in trial["variables"]]), (None, ["score", "hob.x"])
        )
        self.assertEqual(len(told["findings"]), 1)

    def test_help_comes_step_by_step_once_it_is_asked_for_and_allowed(self) -> None:
        texts = [f"{ONE_TOO_MANY}# {number}\n" for number in range(2)]
        found = self.foretold("sorrel", self.room.check("sorrel", texts[0])["id"])
        self.assertEqual((found["tries_until"], found["findings"][0]["step"]), ([0, 1, 2], 0))
        self.assertEqual((found["findings"][0]["nudge"], found["findings"][0]["happened"]), ("", []))
        path = f"/api/desk/checked/{found['id']}/help"
        nudged = self.room.ask("sorrel", "POST", path, {"index": 0, "step": 1}).json()["findings"][0]
        self.assertTrue(nudged["nudge"] and nudged["happened"])
        self.assertEqual((nudged["pointer"], nudged["title"], nudged["lines"], nudged["fix"]), (None, None, [], None))
        refused = self.room.ask("sorrel", "POST", path, {"index": 0, "step": 2})
        self.assertEqual((refused.status_code, refused.json()["detail"]), (409, "There is more help after 1 more try."))
        again = self.foretold("sorrel", self.room.check("sorrel", texts[1])["id"])
        self.assertEqual(again["findings"][0]["step"], 1)  # the same mistake: what was told stays told
        pointed = self.room.ask(
            "sorrel", "POST", f"/api/desk/checked/{again['id']}/help", {"index": 0, "step": 2}
        ).json()
        self.assertIn(7, pointed["findings"][0]["lines"])
        self.assertIsNone(pointed["findings"][0]["fix"])

    def foretold(self, who: str, checked_id: int) -> dict[str, Any]:
        path = f"/api/desk/checked/{checked_id}/scenarios/1/prediction"
        self.assertEqual(self.room.ask(who, "PUT", path, {"guesses": {"score": "7"}}).status_code, 204)
        return self.explained(who, checked_id)

    def test_who_looks_again_gets_what_is_new_and_nothing_else(self) -> None:
        found = self.foretold("wren", self.room.check("wren", ONE_TOO_MANY + "# looked at again\n")["id"])
        path = f"/api/desk/checked/{found['id']}"
        tag = self.room.ask("wren", "GET", path).headers["etag"]

        def look() -> tuple[int, str]:
            answer = self.room.ask("wren", "GET", path, seen=tag)
            return answer.status_code, answer.headers["etag"]

        self.assertEqual(look(), (304, tag))
        self.room.ask("wren", "POST", f"{path}/help", {"index": 0, "step": 1})
        status, tag = look()
        self.assertEqual(status, 200)
        self.assertEqual(look(), (304, tag))
        with self.room.store.transaction() as connection:
            connection.execute("UPDATE report SET made_at = clock_timestamp()")  # as if it was marked again
        status, tag = look()
        self.assertEqual(status, 200)
        newer = self.room.check("wren", ONE_TOO_MANY + "# another guess\n")["id"]
        status, tag = look()
        self.room.ask("wren", "PUT", f"/api/desk/checked/{newer}/scenarios/1/prediction", {"guesses": {"score": "9"}})
        self.assertEqual(look()[0], 200)
        stranger = self.room.ask("sorrel", "GET", path, seen=tag)
        self.assertEqual(stranger.status_code, 404)

    def test_whoever_foretold_a_run_is_not_asked_again(self) -> None:
        found = self.room.check("wren", ONE_TOO_MANY + "# once\n")
        path = f"/api/desk/checked/{found['id']}/scenarios/1/prediction"
        self.room.ask("wren", "PUT", path, {"guesses": {"score": "2"}})
        again = self.room.check("wren", ONE_TOO_MANY + "# twice\n")
        self.assertFalse(again["scenarios"][1]["waits"])

    def test_nothing_of_the_reference_or_of_hidden_scenarios_is_ever_told(self) -> None:
        found = self.room.check("sorrel", "score = 3\nboard('Buns', score)\n")
        told = [json.dumps(self.foretold("sorrel", found["id"])), json.dumps(self.room.desk("sorrel").json())]
        for number in (0, 1):
            answer = self.room.ask("sorrel", "GET", f"/api/desk/checked/{found['id']}/scenarios/{number}")
            self.assertEqual(answer.status_code, 200)
            told.append(answer.text)
        for secret in ("Secret", "Nothing was met", "shelve", "full"):
            self.assertNotIn(secret, " ".join(told))
        for number in (2, 3, -1):
            answer = self.room.ask("sorrel", "GET", f"/api/desk/checked/{found['id']}/scenarios/{number}")
            self.assertEqual(answer.status_code, 404)

    def test_what_is_handed_in_waits_until_it_is_given_back(self) -> None:
        found = self.room.check("wren", RIGHT)
        path = f"/api/desk/checked/{found['id']}/scenarios/1/prediction"
        self.room.ask("wren", "PUT", path, {"guesses": {"score": "2"}})
        made = self.room.desk("wren", "/hand-in", "POST", {"source": RIGHT}).json()
        self.assertFalse(made["late"])
        seen = self.room.ask("wren", "GET", f"/api/desk/submissions/{made['submission_id']}").json()
        self.assertEqual(
            (seen["source"], seen["marks"], seen["given_back"], seen["scenarios"]), (RIGHT, None, False, [])
        )
        for _ in range(600):
            rows = self.room.ask("linden", "GET", f"/api/rounds/{self.room.round_id}").json()["students"]
            row = next(each for each in rows if each["student"] == "Wren")
            if row["status"] != "waiting":
                break
            time.sleep(0.05)
        self.assertEqual(row["predicted"], [{"scenario": 1, "right": 1, "of": 1, "marks": 0, "out_of": 0}])

    def test_a_try_of_two_is_a_try_of_each(self) -> None:
        self.assertEqual(self.room.desk("sorrel", "/partner", "PUT", {"card": "not a card 12"}).status_code, 401)
        own = self.room.desk("sorrel", "/partner", "PUT", {"card": self.room.cards["sorrel"]})
        self.assertEqual(own.status_code, 409)
        self.assertEqual(
            self.room.desk("sorrel", "/partner", "PUT", {"card": self.room.cards["wren"]}).status_code, 204
        )
        self.assertEqual(self.room.desk("sorrel").json()["partner"], "Wren")
        self.room.desk("sorrel", "/hand-in", "POST", {"source": "score = 0 # of two\n"})
        tries = {who: self.room.desk(who).json()["tries"][-1]["with_name"] for who in ("wren", "sorrel")}
        self.assertEqual(tries, {"wren": "Sorrel", "sorrel": "Wren"})
        self.assertEqual(self.room.desk("sorrel", "/partner", "DELETE").status_code, 204)
        self.assertIsNone(self.room.desk("sorrel").json()["partner"])

    def test_a_text_that_was_handed_in_before_it_was_checked_has_small_strips_too(self) -> None:
        text = RIGHT + "# handed in first\n"
        self.room.desk("wren", "/hand-in", "POST", {"source": text})
        for _ in range(600):
            rows = self.room.ask("linden", "GET", f"/api/rounds/{self.room.round_id}").json()["students"]
            if all(row["status"] != "waiting" for row in rows):
                break
            time.sleep(0.05)
        found = self.room.check("wren", text)
        self.assertEqual(found["scenarios"][0]["small"]["name"], "score")
        self.assertIsNotNone(found["findings"])  # it was explained already

    def test_who_asks_for_help_stands_in_a_line(self) -> None:
        for who in ("sorrel", "wren"):
            self.room.desk(who)
            self.assertEqual(self.room.desk(who, "/asking", "PUT", {"wants": True}).status_code, 204)
        self.assertEqual(self.room.desk("wren").json()["asking"]["place"], 2)
        self.room.desk("sorrel", "/asking", "PUT", {"wants": False})
        self.assertEqual(self.room.desk("wren").json()["asking"]["place"], 1)
        self.room.desk("wren", "/asking", "PUT", {"wants": False})
        self.assertIsNone(self.room.desk("wren").json()["asking"])

    def test_late_is_late_and_closed_is_closed(self) -> None:
        with self.room.store.transaction() as connection:
            hour = timedelta(hours=1)
            now = datetime.now(UTC)
            connection.execute("UPDATE round SET due_at = %s, closes_at = %s", (now - hour, now + hour))
        self.assertTrue(self.room.desk("wren", "/hand-in", "POST", {"source": "score = 0 # late\n"}).json()["late"])
        self.assertTrue(self.room.desk("wren").json()["tries"][-1]["late"])
        with self.room.store.transaction() as connection:
            connection.execute("UPDATE round SET closes_at = %s", (now - hour,))
        closed = self.room.desk("wren", "/hand-in", "POST", {"source": "score = 1"})
        self.assertEqual(closed.status_code, 409)
        self.assertIn("closed", closed.json()["detail"])
        with self.room.store.transaction() as connection:  # a later date for one
            connection.execute(
                "INSERT INTO standing (round_id, student_id, due_at) VALUES (%s, %s, %s)",
                (self.room.round_id, self.room.ids["Wren"], now + hour),
            )
        open_again = self.room.desk("wren", "/hand-in", "POST", {"source": "score = 1"})
        self.assertEqual((open_again.status_code, open_again.json()["late"]), (200, False))
        with self.room.store.transaction() as connection:
            connection.execute("DELETE FROM standing")
            connection.execute("UPDATE round SET due_at = NULL, closes_at = NULL")

    def test_a_game_at_the_desk_knows_no_hidden_scenario_and_no_reference(self) -> None:
        path = f"ws://{HOST}/api/desk/rounds/{self.room.round_id}/live"
        with self.room.people["wren"].websocket_connect(path, headers=ORIGIN) as socket:
            begin = {"say": "begin", "source": RIGHT}
            for number in (2, 99):
                socket.send_json({**begin, "scenario": number})
                self.assertIn("no such scenario", socket.receive_json()["why"])
            socket.send_json({**begin, "scenario": 0, "frame": 20, "put": ["score = 1"]})
            began = socket.receive_json()
            self.assertEqual(
                (began["say"], began["news"]["frame"], began["news"]["values"]), ("began", 20, {"score": 1})
            )
            socket.send_json({"say": "pace", "speed": 0})
            socket.send_json({"say": "show", "names": ["hob.x"]})
            socket.send_json({"say": "keep"})
            socket.send_json({"say": "look"})
            for _ in range(100):
                message = socket.receive_json()
                if message["say"] == "looked":
                    break
                self.assertIn(message["say"], ("frame",))
            self.assertIsNone(message["trial"]["reference"])
            self.assertIn("hob.x", message["trial"]["samples"])
            socket.send_json({**begin, "put": ["nobody = 1"]})
            self.assertIn("cannot be put in place", socket.receive_json()["why"])
