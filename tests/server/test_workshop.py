"""Drafts over HTTP: changes, undo and redo, two windows, in and out, suggestions, the proof, and setting a round."""

import io
import json
import time
import unittest
import zipfile
from typing import Any
from unittest import mock

from starlette.testclient import TestClient
from starlette.websockets import WebSocketDisconnect

from hobtrial.cli.demo import load
from hobtrial.core.judging import open_exercise
from hobtrial.crew import InternalError, WorkerGoneError
from hobtrial.crew.parcels import exercise_in
from hobtrial.demo import exercise_folder
from tests.server.served import served
from tests.support import BAKEHOUSE, database

HOST = "127.0.0.1:8765"
ORIGIN = {"origin": f"http://{HOST}"}
MOVED = {"do": "change", "table": "piece", "index": 1, "keys": {"at": [20, 4]}}


class Drafts(unittest.TestCase):
    dsn: str
    client: TestClient

    @classmethod
    def setUpClass(cls) -> None:
        cls.dsn = database("workshop")
        load(cls.dsn, [])
        cls.client = cls.enterClassContext(served(cls.dsn))

    def setUp(self) -> None:
        self.draft: int = self.post("/api/drafts", {"version_id": 1}).json()["id"]

    def post(self, path: str, body: Any) -> Any:
        return self.client.post(path, json=body, headers=ORIGIN)

    def change(self, at: int, change: dict[str, Any], scenario: int = 0) -> Any:
        return self.post(f"/api/drafts/{self.draft}/changes", {"at": at, "change": change, "scenario": scenario})

    def step(self, at: int, by: int) -> Any:
        return self.post(f"/api/drafts/{self.draft}/step", {"at": at, "by": by})

    def test_a_draft_is_as_its_exercise_and_can_be_played_at_once(self) -> None:
        found = self.client.get(f"/api/drafts/{self.draft}", params={"scenario": 2}).json()
        self.assertEqual((found["title"], found["at"], found["words"]), ("Bakehouse rush", 0, None))
        self.assertEqual((found["rehearsal"]["marks"], found["rehearsal"]["out_of"]), (20, 20))
        self.assertEqual(found["trial"]["scenario"], found["rehearsal"]["scenarios"][2]["name"])
        self.assertIn({"id": self.draft, "title": "Bakehouse rush"}, [
            {"id": each["id"], "title": each["title"]} for each in self.client.get("/api/drafts").json()
        ])  # fmt: skip

    def test_changes_are_undone_and_made_again_across_reloads(self) -> None:
        before = self.client.get(f"/api/drafts/{self.draft}/zip").content
        made = self.change(0, MOVED).json()
        self.assertEqual((made["at"], made["words"]), (1, "at of a piece changed"))
        self.assertEqual(made["rehearsal"]["settings"]["scene"]["piece"][1]["at"], [20, 4])
        back = self.step(1, -1).json()
        self.assertEqual((back["at"], back["last"], back["next_words"]), (0, 1, "at of a piece changed"))
        self.assertEqual(self.client.get(f"/api/drafts/{self.draft}/zip").content, before)
        self.assertEqual(self.step(0, 1).json()["rehearsal"]["settings"]["scene"]["piece"][1]["at"], [20, 4])
        self.assertEqual(self.step(1, 1).json()["at"], 1)  # there is nothing further
        self.step(1, -1)
        other = self.change(0, {"do": "set", "keys": {"title": "Otherwise"}}).json()
        self.assertEqual((other["at"], other["last"], other["title"]), (1, 1, "Otherwise"))

    def test_the_later_of_two_windows_is_told_and_nothing_is_lost(self) -> None:
        self.change(0, MOVED)
        late = self.change(0, {"do": "set", "keys": {"title": "Too late"}})
        self.assertEqual(late.status_code, 409)
        self.assertIn("was changed in another window", late.json()["detail"])
        now = self.client.get(f"/api/drafts/{self.draft}").json()
        self.assertEqual((now["title"], now["at"]), ("Bakehouse rush", 1))
        self.assertEqual(self.step(0, -1).status_code, 409)

    def test_what_changes_nothing_is_no_step(self) -> None:
        title = {"do": "set", "keys": {"title": "Bakehouse rush"}}
        self.assertEqual(self.change(0, title).json()["at"], 0)

    def test_a_change_of_what_is_not_there_is_refused_in_words(self) -> None:
        found = self.change(0, {"do": "remove", "table": "piece", "index": 99})
        self.assertEqual((found.status_code, found.json()["detail"]), (409, "That piece is not there any more."))
        self.assertEqual(self.change(0, {"do": "fly"}).status_code, 422)
        self.assertEqual(self.client.get("/api/drafts/99999").status_code, 404)
        self.assertEqual(self.client.get(f"/api/drafts/{10**12}").status_code, 404)

    def test_a_faulty_draft_opens_and_says_why(self) -> None:
        found = self.change(0, {"do": "write", "file": "reference.py", "text": "score = "}).json()
        self.assertFalse(found["rehearsal"]["playable"])
        self.assertEqual(found["trial"], None)
        self.assertEqual({each["file"] for each in found["rehearsal"]["notices"]}, {"reference.py"})
        refused = self.post(f"/api/drafts/{self.draft}/set", {"class_name": "7 Larch"})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("This draft cannot be set yet. reference.py, line 1", refused.json()["detail"])
        self.assertEqual(
            self.post(f"/api/drafts/{self.draft}/suggestions", {"what": "score", "first": 9, "last": 9}).status_code,
            409,
        )

    def test_a_reference_that_does_not_end_is_said_to(self) -> None:
        found = self.change(
            0, {"do": "write", "file": "reference.py", "text": "score = lives = 0\nwhile True:\n    pass\n"}
        ).json()
        self.assertLess(found["rehearsal"]["marks"], found["rehearsal"]["out_of"])
        self.assertTrue(any("reference itself" in each["text"] for each in found["rehearsal"]["notices"]))

    def test_a_reference_that_loses_a_mark_is_not_set(self) -> None:
        check = {"do": "change", "table": "check", "index": 1, "scenario": 0, "keys": {"expect": "score == 7"}}
        self.change(0, check)
        refused = self.post(f"/api/drafts/{self.draft}/set", {"class_name": "7 Larch"})
        self.assertEqual((refused.status_code, refused.json()["detail"][:31]), (409, "The reference earns 19.5 of 20 "))

    def unfit(self) -> str | None:
        """What the Bench says of the draft."""
        found = {each["id"]: each["unfit"] for each in self.client.get("/api/drafts").json()}
        said: str | None = found[self.draft]
        return said

    def test_the_bench_says_what_is_not_fit_to_be_set(self) -> None:
        self.assertIsNone(self.unfit())
        self.client.get(f"/api/drafts/{self.draft}")
        self.assertEqual(self.unfit(), "")
        check = {"do": "change", "table": "check", "index": 1, "scenario": 0, "keys": {"expect": "score == 7"}}
        self.change(0, check)
        self.assertRegex(self.unfit() or "", r"^The reference earns 19.5 of 20 marks\.")
        self.change(1, {"do": "write", "file": "reference.py", "text": "score = "})
        self.assertEqual(self.unfit(), "It cannot be played yet.")
        self.post(f"/api/drafts/{self.draft}/step", {"at": 2, "by": -1})
        self.assertRegex(self.unfit() or "", r"^The reference earns")

    def test_it_is_set_for_a_class(self) -> None:
        self.change(0, {"do": "set", "keys": {"title": "Bakehouse walk"}})
        made = self.post(f"/api/drafts/{self.draft}/set", {"class_name": "8 Birch"})
        self.assertEqual(made.status_code, 200)
        round_ = self.client.get(f"/api/rounds/{made.json()['id']}").json()
        self.assertEqual(
            (round_["title"], round_["class_name"], round_["version_number"]), ("Bakehouse walk", "8 Birch", 2)
        )
        again = self.post(f"/api/drafts/{self.draft}/set", {"class_name": "8 Birch"})
        self.assertEqual(again.json(), made.json())

    def test_out_as_a_zip_and_in_again(self) -> None:
        files = exercise_folder("at-least")
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as archive:
            for name, data in files.items():
                archive.writestr(f"at-least/{name}", data)
            archive.writestr("at-least/notes.txt", b"mine")
        found = self.client.post("/api/drafts/files", files=[("files", ("x.zip", packed.getvalue()))], headers=ORIGIN)
        brought = found.json()["id"]
        out = self.client.get(f"/api/drafts/{brought}/zip").content
        self.assertEqual(exercise_in([("out.zip", out)]), files)
        self.assertEqual(open_exercise(exercise_in([("out.zip", out)])).out_of, 13)
        loose = [("files", (f"folder/{name}", data)) for name, data in files.items()]
        self.assertEqual(self.client.post("/api/drafts/files", files=loose, headers=ORIGIN).status_code, 200)
        nothing = self.client.post("/api/drafts/files", files=[("files", ("a.py", b"x"))], headers=ORIGIN)
        self.assertEqual(nothing.status_code, 422)
        self.assertIn("There is no exercise.toml in it", nothing.json()["detail"])

    def test_a_scenario_in_many_ways_is_offered_and_not_added(self) -> None:
        before = self.client.get(f"/api/drafts/{self.draft}").json()
        wild = self.post(f"/api/drafts/{self.draft}/ways", {"scenario": 0, "way": "wild"})
        self.assertEqual(wild.status_code, 200)
        self.assertEqual(wild.json()["row"]["check"][0]["same"][-1], "outcome")
        none = self.post(f"/api/drafts/{self.draft}/ways", {"scenario": 77, "way": "wild"})
        self.assertEqual((none.status_code, "no such scenario" in none.json()["detail"]), (409, True))
        self.assertEqual(self.client.get(f"/api/drafts/{self.draft}").json()["at"], before["at"])

    def test_suggestions_hold_for_the_reference(self) -> None:
        found = self.post(
            f"/api/drafts/{self.draft}/suggestions", {"scenario": 0, "what": "score", "first": 70, "last": 70}
        )
        words = [each["words"] for each in found.json()]
        self.assertTrue(any(each.startswith("each time meets(hob, bun) comes") for each in words), words)

    def test_the_proof_runs_behind_and_begins_again_after_a_change(self) -> None:
        self.draft = self.post("/api/drafts", {"version_id": 2}).json()["id"]
        first = self.proved(self.draft)
        self.assertEqual(first["tried"], first["planted"])
        self.assertEqual((first["companions"], first["astray"]), (8, []))
        self.assertEqual(first["caught"] + first["same"] + len(first["through"]), first["planted"])
        kept = {"do": "remove", "table": "scenario", "index": 1}
        count = len(self.client.get(f"/api/drafts/{self.draft}").json()["rehearsal"]["scenarios"])
        self.change(0, {"do": "several", "changes": [kept] * (count - 1)})
        begun = self.client.get(f"/api/drafts/{self.draft}/proof").json()
        self.assertNotEqual(begun["state"], "done")
        second = self.proved(self.draft)
        self.assertLess(second["caught"], first["caught"])
        row = second["through"][0]["row"]
        now = self.change(
            1, {"do": "add", "table": "scenario", "row": {k: v for k, v in row.items() if v not in (None, [])}}
        )
        self.assertEqual(now.json()["rehearsal"]["marks"], now.json()["rehearsal"]["out_of"])

    def proved(self, draft: int) -> Any:
        """The proof of a draft once it has ended."""
        for _ in range(1500):
            found = self.client.get(f"/api/drafts/{draft}/proof").json()
            if found["state"] == "done":
                return found
            time.sleep(0.1)
        raise AssertionError("the proof did not end")

    def test_a_draft_goes_and_its_rounds_stay(self) -> None:
        round_ = self.post(f"/api/drafts/{self.draft}/set", {"class_name": "8 Alder"}).json()["id"]
        self.assertEqual(self.client.delete(f"/api/drafts/{self.draft}", headers=ORIGIN).status_code, 204)
        self.assertEqual(self.client.get(f"/api/drafts/{self.draft}").status_code, 404)
        self.assertEqual(self.client.get(f"/api/rounds/{round_}").status_code, 200)

    def test_a_game_by_hand_comes_back_as_inputs(self) -> None:
        with self.client.websocket_connect(f"ws://{HOST}/api/drafts/{self.draft}/live", headers=ORIGIN) as socket:
            source = exercise_folder(BAKEHOUSE)["reference.py"].decode()
            socket.send_json({"say": "begin", "source": source, "seed": 1, "scenario": 3})
            began = socket.receive_json()
            self.assertEqual(began["news"]["values"]["lives"], 1)  # as that scenario puts it in place
            socket.send_json({"say": "did", "inputs": [{"do": "down", "key": "right"}]})
            while socket.receive_json()["news"]["frame"] < 12:
                pass
            socket.send_json({"say": "keep"})
            while (said := socket.receive_json())["say"] != "kept":
                pass
        self.assertEqual(said["scenario"]["input"][0]["hold"], "right")

    def test_settings_that_are_not_toml_can_be_mended(self) -> None:
        files = exercise_folder("at-least") | {"exercise.toml": b"format = 1\ntitle = "}
        loose = [("files", (name, data)) for name, data in files.items()]
        self.draft = self.client.post("/api/drafts/files", files=loose, headers=ORIGIN).json()["id"]
        found = self.client.get(f"/api/drafts/{self.draft}").json()
        self.assertEqual((found["title"], found["rehearsal"]["settings"]), ("An exercise without a title", None))
        refused = self.change(0, {"do": "set", "keys": {"title": "New"}})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("is not TOML as it stands", refused.json()["detail"])
        toml = exercise_folder("at-least")["exercise.toml"].decode()
        mended = self.change(0, {"do": "write", "file": "exercise.toml", "text": toml}).json()
        self.assertEqual((mended["title"], mended["rehearsal"]["marks"]), ("Hot enough to bake", 13))

    def test_odd_values_are_refused_and_nothing_is_changed(self) -> None:
        for change in (
            {"do": "set", "keys": {"title": None, "seconds": [1, None]}},
            {"do": "set", "keys": {"a b": 1}},
            {"do": "set", "keys": {"title": json.loads("[" * 70 + "]" * 70)}},
        ):
            with self.subTest(**change):
                body = json.dumps({"at": 0, "change": change})
                found = self.client.post(
                    f"/api/drafts/{self.draft}/changes",
                    content=body,
                    headers={**ORIGIN, "content-type": "application/json"},
                )
                self.assertIn(found.status_code, (409, 422))
        self.assertEqual(self.client.get(f"/api/drafts/{self.draft}").json()["at"], 0)
        for name in ("\u0000", " ", "\u200b"):
            self.assertEqual(self.post(f"/api/drafts/{self.draft}/set", {"class_name": name}).status_code, 422)
        unseen = json.dumps({"at": 0, "change": {"do": "set", "keys": {"title": "Bake\ud800\u0000\u202ehouse"}}})
        headers = {**ORIGIN, "content-type": "application/json"}
        self.client.post(f"/api/drafts/{self.draft}/changes", content=unseen, headers=headers)
        made = self.post(f"/api/drafts/{self.draft}/set", {"class_name": "7 Larch"})
        self.assertEqual(self.client.get(f"/api/rounds/{made.json()['id']}").json()["title"], "Bakehouse")

    def test_what_is_too_large_is_not_taken(self) -> None:
        large = self.client.post("/api/drafts/files", files=[("files", ("a.py", b"x" * 9 * 2**20))], headers=ORIGIN)
        self.assertEqual(large.status_code, 422)
        self.assertIn("which no exercise has", large.json()["detail"])

    def test_a_machine_that_ends_the_worker_is_not_the_drafts_fault(self) -> None:
        crew = self.client.app.state.services.crew  # type: ignore[attr-defined]
        for error, words in (
            (WorkerGoneError("gone"), "says nothing about your draft"),
            (InternalError("0abc"), "0abc"),
        ):
            with mock.patch.object(type(crew), "rehearse", side_effect=error):
                found = self.client.get(f"/api/drafts/{self.draft}")
            self.assertEqual((found.status_code, found.json()["rehearsal"]), (200, None))
            self.assertIn(words, found.json()["unplayed"])
            self.assertEqual(found.json()["title"], "Bakehouse rush")

    def test_a_picture_of_its_own_can_do_nothing(self) -> None:
        picture = b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
        files = exercise_folder("at-least") | {"looks/kiln.svg": picture}
        loose = [("files", (name, data)) for name, data in files.items()]
        number = self.client.post("/api/drafts/files", files=loose, headers=ORIGIN).json()["id"]
        found = self.client.get(f"/api/drafts/{number}/looks/kiln.svg")
        self.assertEqual((found.content, found.headers["content-type"]), (picture, "image/svg+xml"))
        self.assertIn("default-src 'none'", found.headers["content-security-policy"])
        self.assertEqual(self.client.get(f"/api/drafts/{number}/looks/reference.svg").status_code, 404)

    def test_writes_come_from_its_own_pages_only(self) -> None:
        for method, path in (
            ("post", "/api/drafts"),
            ("post", f"/api/drafts/{self.draft}/changes"),
            ("post", f"/api/drafts/{self.draft}/step"),
            ("post", f"/api/drafts/{self.draft}/set"),
            ("delete", f"/api/drafts/{self.draft}"),
        ):
            with self.subTest(path):
                found = self.client.request(method, path, headers={"origin": "http://evil.example"})
                self.assertEqual(found.status_code, 403)
        socket = f"ws://{HOST}/api/drafts/{self.draft}/live"
        with self.assertRaises(WebSocketDisconnect), self.client.websocket_connect(
            socket, headers={"origin": "http://evil.example"}
        ) as heard:  # fmt: skip
            heard.receive_json()
