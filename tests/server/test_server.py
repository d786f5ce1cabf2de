"""The server: what the screens are given, and who is turned away."""

import tempfile
import time
import unittest
from pathlib import Path
from typing import Any
from urllib.parse import quote

from starlette.testclient import TestClient

from hobtrial.cli.demo import load
from hobtrial.server import create_app
from hobtrial.server.describe import description
from tests.server.served import HOST, ORIGIN, served
from tests.support import BAKEHOUSE, ROOT, database


class Served(unittest.TestCase):
    client: TestClient
    shared: TestClient | None = None
    """The client of all classes of this file that are served the sample class."""

    @classmethod
    def setUpClass(cls) -> None:
        if Served.shared is None:
            dsn = database("served")
            load(dsn, [BAKEHOUSE])
            Served.shared = unittest.enterModuleContext(served(dsn))
        cls.client = Served.shared
        cls.wait_until_marked()

    @classmethod
    def wait_until_marked(cls) -> dict[str, Any]:
        """The round, once all its scripts are marked."""
        for _ in range(1500):
            found: dict[str, Any] = cls.client.get("/api/rounds/1").json()
            if found["done"] == len(found["students"]):
                return found
            time.sleep(0.1)
        raise AssertionError("the round was not marked")

    def post(self, path: str, **headers: str) -> Any:
        """Posts with headers; names with `_` for `-`."""
        return self.client.post(path, headers={name.replace("_", "-"): value for name, value in headers.items()})


class Screens(Served):
    def test_bench(self) -> None:
        (found,) = self.client.get("/api/bench").json()["rounds"]
        self.assertEqual(
            (found["title"], found["class_name"], found["scripts"], found["marked"], found["out_of"]),
            ("Bakehouse rush", "7 Larch", 24, 24, 20),
        )
        self.assertEqual(found["spread"], sorted(found["spread"]))

    def test_round(self) -> None:
        found = self.client.get("/api/rounds/1").json()
        wren = next(row for row in found["students"] if row["student"] == "Wren")
        self.assertEqual(
            (wren["status"], wren["marks"], wren["verdicts"][2]), ("marked", 15, ["held", "broken", "broken"])
        )
        group = next(group for group in found["groups"] if wren["submission_id"] in group["submission_ids"])
        self.assertEqual(
            (group["title"], len(group["submission_ids"]), wren["groups"]),
            ("A test is off at its boundary", 4, [group["key"]]),
        )
        self.assertEqual((found["trials"], found["game_seconds"]), (168, 1056))

    def test_a_round_that_is_as_it_was_is_not_sent_again(self) -> None:
        tag = self.client.get("/api/rounds/1").headers["etag"]
        self.assertEqual(self.client.get("/api/rounds/1", headers={"if-none-match": tag}).status_code, 304)
        submission = self.client.get("/api/rounds/1").json()["students"][0]["submission_id"]
        own = {"marks": 3, "comment": "Well seen."}
        path = f"/api/submissions/{submission}/own"
        self.assertEqual(self.client.put(path, json=own, headers=ORIGIN).status_code, 204)
        again = self.client.get("/api/rounds/1", headers={"if-none-match": tag})
        self.assertEqual((again.status_code, again.json()["students"][0]["own_marks"]), (200, 3))
        self.client.put(path, json={"marks": None, "comment": ""}, headers=ORIGIN)
        self.assertNotEqual(self.client.get("/api/rounds/1").headers["etag"], again.headers["etag"])

    def test_try_and_trial(self) -> None:
        rows = self.client.get("/api/rounds/1").json()["students"]
        wren = next(row for row in rows if row["student"] == "Wren")["submission_id"]
        found = self.client.get(f"/api/submissions/{wren}").json()
        self.assertEqual(
            (found["student"], found["previous"]["student"], found["next"]["student"]), ("Wren", "Woad", "Yarrow")
        )
        self.assertEqual(found["findings"][0]["others"], 2)
        trial = self.client.get(f"/api/submissions/{wren}/scenarios/2").json()
        self.assertEqual(
            (trial["scenario"], trial["parting"]["frame"], trial["trace"]["frames"]), ("A full shelf", 83, 181)
        )
        self.assertEqual(trial["checks"][1]["about"], ["outcome"])

    def test_what_is_not_there(self) -> None:
        for path, words in {
            "/api/rounds/99": "There is no such round",
            "/api/submissions/999": "There is no such try",
            "/api/submissions/999/scenarios/0": "There is no such try",
            "/api/submissions/1/scenarios/77": "there is no number 77",
            "/api/nothing": "There is nothing at this address",
        }.items():
            found = self.client.get(path)
            self.assertEqual(found.status_code, 404, path)
            self.assertIn(words, found.json()["detail"])
        self.assertIn("This request cannot be read", self.client.get("/api/rounds/x").json()["detail"])

    def test_marking_again_gives_the_same_marks(self) -> None:
        before = self.client.get("/api/rounds/1").json()
        answer = self.post("/api/rounds/1/mark", Origin=f"http://{HOST}")
        self.assertEqual((answer.status_code, answer.json()), (202, {"waiting": 28}))
        after = self.wait_until_marked()
        marks = [
            [(row["student"], row["marks"], row["verdicts"]) for row in each["students"]] for each in (before, after)
        ]
        self.assertEqual(marks[0], marks[1])
        self.assertEqual([group["key"] for group in before["groups"]], [group["key"] for group in after["groups"]])

    def test_every_screens_address_is_the_page(self) -> None:
        for path in ("/", "/rounds/1", "/tries/1/scenarios/0"):
            found = self.client.get(path)
            self.assertEqual((found.status_code, found.headers["content-type"][:9]), (200, "text/html"))

    def test_no_address_leads_out_of_the_front_end(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            pages = Path(folder, "web", "dist")
            (pages / "assets").mkdir(parents=True)
            (pages / "index.html").write_text("the page")
            (pages / "icon.svg").write_text("an icon")
            Path(folder, "secret.txt").write_text("a secret")
            (pages / "way-out.txt").symlink_to(Path(folder, "secret.txt"))
            client = TestClient(create_app(front_end=pages), base_url=f"http://{HOST}")
            self.assertEqual(client.get("/icon.svg").text, "an icon")
            out = (
                "%2e%2e/%2e%2e/secret.txt",
                "..%2f..%2fsecret.txt",
                "assets/..%2f..%2f..%2fsecret.txt",
                "way-out.txt",
            )
            for path in (*out, "%2f" + quote(f"{folder}/secret.txt", safe="")):
                found = client.get(f"/{path}")
                self.assertNotIn("a secret", found.text, path)
                self.assertIn((found.status_code, found.text == "the page"), ((200, True), (404, False)), path)


class TurnedAway(Served):
    def test_another_host(self) -> None:
        for host in ("evil.example", "evil.example:8765", "127.0.0.1.evil.example", ""):
            found = self.client.get("/api/bench", headers={"Host": host})
            self.assertEqual(found.status_code, 403, host)
            self.assertIn("does not answer to the name", found.json()["detail"])
        self.assertEqual(self.client.get("/api/bench", headers={"Host": "localhost:1"}).status_code, 200)

    def test_a_write_from_another_page_or_from_none(self) -> None:
        for origin in ("http://evil.example", "null", "http://127.0.0.1:9999", "http://localhost:8765", ""):
            found = self.post("/api/rounds/1/mark", Origin=origin)
            self.assertEqual(found.status_code, 403, origin)
        self.assertEqual(self.post("/api/rounds/1/mark").status_code, 403)
        self.assertEqual(self.client.get("/api/rounds/1").json()["done"], 24)

    def test_every_answer_has_its_policy(self) -> None:
        for path in ("/", "/api/bench", "/api/nothing"):
            headers = self.client.get(path).headers
            self.assertIn("script-src 'self'", headers["content-security-policy"])
            self.assertEqual(headers["x-content-type-options"], "nosniff")


class Description(unittest.TestCase):
    def test_the_front_ends_types_are_made_from_the_present_description(self) -> None:
        kept = (ROOT / "web" / "openapi.json").read_text(encoding="utf-8")
        self.assertEqual(
            kept, description(), "run: python -m hobtrial.server.describe > web/openapi.json, then npm run types"
        )
