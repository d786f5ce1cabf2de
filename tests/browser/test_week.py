"""A week with a class: set, at work, close, give back, follow up, the ledger, and its file opened again by a library."""

import io
import threading
import time
from contextlib import ExitStack

import uvicorn
from openpyxl import load_workbook

from hobtrial.cli.demo import links_of_demo
from hobtrial.cli.serving import listen
from hobtrial.server import create_app
from tests.browser.support import Browsed, chromium, until
from tests.server.desks import ONE_TOO_MANY, RIGHT, Room
from tests.server.school import PASSWORD
from tests.support import database


class Week(Browsed):
    def setUp(self) -> None:
        dsn = database("week")
        stack = ExitStack()
        self.addCleanup(stack.close)
        self.room = Room(dsn, stack)
        listener = listen(0)
        app = create_app(dsn, demo=links_of_demo())
        server = uvicorn.Server(uvicorn.Config(app, log_level="error", access_log=False))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()
        self.url = f"http://127.0.0.1:{listener.getsockname()[1]}"
        self.browser = chromium()
        self.browser.get(self.url)
        self.browser.delete_all_cookies()
        Browsed.signed_in = ""

        def stop() -> None:
            self.browser.get("about:blank")  # its stream of events ends
            self.browser.delete_all_cookies()
            server.should_exit = True
            thread.join(10)

        self.addCleanup(stop)
        self.browser.get(self.url)
        name, password = self.one("form[aria-labelledby=by-name]").find_elements("tag name", "input")
        name.send_keys("Linden")
        password.send_keys(PASSWORD + "\n")
        self.one("main a", "Count the buns")

    def go(self, path: str) -> None:
        self.browser.get(self.url + path)

    def hand_in(self, who: str, source: str) -> int:
        made = int(self.room.desk(who, "/hand-in", "POST", {"source": source}).json()["submission_id"])
        until(
            lambda: all(
                each["status"] != "waiting"
                for each in self.room.ask("linden", "GET", f"/api/rounds/{self.room.round_id}").json()["students"]
            ),
            "not marked",
            seconds=60,
        )
        return made

    def test_a_week(self) -> None:
        self.it_is_set_with_a_date()
        self.the_class_works_on_it()
        self.it_is_handed_in_and_given_back()
        self.a_follow_up_helps()
        self.the_ledger_is_taken_along()

    def it_is_set_with_a_date(self) -> None:
        self.go(f"/rounds/{self.room.round_id}")
        self.one("[data-without]", "Sorrel")
        self.one("[data-dates] summary").click()
        due = self.all("[data-dates] input[type=datetime-local]")[1]
        self.browser.execute_script(
            "const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;"
            "set.call(arguments[0], '2031-05-01T15:00'); arguments[0].dispatchEvent(new Event('input', {bubbles: true}))",
            due,
        )
        self.one("[data-dates] button", "Keep").click()
        until(lambda: self.room.desk("wren").json()["due_at"], "it has no date")
        self.assertEqual(self.serious(), [])

    def the_class_works_on_it(self) -> None:
        self.go(f"/rounds/{self.room.round_id}/work")
        self.one("[data-standing]")
        self.room.desk("sorrel")
        found = self.room.check("sorrel", ONE_TOO_MANY)
        self.room.ask(
            "sorrel", "PUT", f"/api/desk/checked/{found['id']}/scenarios/1/prediction", {"guesses": {"score": "1"}}
        )
        self.room.desk("sorrel", "/asking", "PUT", {"wants": True})
        self.one("[data-waits=Sorrel]", "asks for help")  # by itself
        self.one("[data-idea='1']")
        self.one("[data-at-work=Sorrel] button").click()
        self.one("[data-open-desk=Sorrel]")
        self.assertEqual(self.serious(), [])
        self.one("[data-open-desk] button", "Close").click()
        self.one("[data-idea] a", "on the projector").click()
        sheet = self.one("[data-sheet]")
        self.assertNotIn("Sorrel", sheet.text)

    def it_is_handed_in_and_given_back(self) -> None:
        made = self.hand_in("sorrel", ONE_TOO_MANY)
        self.hand_in("wren", RIGHT)
        self.go(f"/rounds/{self.room.round_id}")
        self.one("[data-not-given-back] button", "Give it all back").click()
        self.one("[data-given-back]")
        told = self.room.ask("sorrel", "GET", f"/api/desk/submissions/{made}").json()
        self.assertEqual((told["given_back"], told["marks"]), (True, 3))
        self.room.ask("sorrel", "PUT", f"/api/desk/submissions/{made}/reply", {"reply": "I see it now"})
        self.go(f"/rounds/{self.room.round_id}/sheets")
        until(lambda: len(self.all("[data-feedback]")) == 2, "not everybody has a sheet")
        until(lambda: self.all("[data-feedback] [data-strip]"), "no strip on the sheet")
        self.assertEqual(self.serious(), [])

    def a_follow_up_helps(self) -> None:
        self.go(f"/rounds/{self.room.round_id}")
        self.one("section[aria-labelledby=groups-title] li button").click()
        self.one("[data-make-follow-up]").click()
        link = self.one("[data-follow-up='1']", "nobody has handed it in yet")
        number = int((link.get_attribute("href") or "").rsplit("/", 1)[1])
        mine = [each["id"] for each in self.room.ask("sorrel", "GET", "/api/desk").json()["rounds"]]
        others = [each["id"] for each in self.room.ask("wren", "GET", "/api/desk").json()["rounds"]]
        self.assertIn(number, mine)
        self.assertNotIn(number, others)
        self.assertEqual(self.room.ask("wren", "GET", f"/api/desk/rounds/{number}").status_code, 404)
        self.room.ask("sorrel", "POST", f"/api/desk/rounds/{number}/hand-in", {"source": RIGHT})
        for _ in range(200):
            row = self.room.ask("linden", "GET", f"/api/rounds/{number}").json()["students"][0]
            if row["status"] != "waiting":
                break
            time.sleep(0.1)
        self.browser.refresh()  # the group is still chosen: it stands in the address
        self.one("[data-follow-up='1']", "it helped 1")

    def the_ledger_is_taken_along(self) -> None:
        self.go(f"/classes/{self.room.class_id}/ledger?order=marks")
        table = self.one("[data-ledger]")
        self.assertEqual(self.serious(), [])
        shown = [row.text.split()[0] for row in table.find_elements("css selector", "tbody tr")]
        self.assertEqual(shown, ["Sorrel", "Wren"])  # least first, as the address says
        packed = self.room.ask("linden", "GET", f"/api/classes/{self.room.class_id}/ledger.xlsx").content
        rows = list(load_workbook(io.BytesIO(packed))["Ledger"].iter_rows(values_only=True))
        self.assertEqual([row[:3] for row in rows[1:]], [("Sorrel", 3, 3), ("Wren", 4, 4)])
        self.go(f"/rounds/{self.room.round_id}/closer")
        self.one("[data-alike='0']")
        self.assertEqual(self.serious(), [])
