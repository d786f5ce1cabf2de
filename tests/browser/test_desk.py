"""A lesson at a desk: from the card to what is handed in; and a network that goes away in the middle."""

import threading
from contextlib import ExitStack
from typing import Any

import uvicorn
from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from hobtrial.cli.demo import links_of_demo
from hobtrial.cli.serving import listen
from hobtrial.server import create_app
from tests.browser.support import Browsed, chromium, until
from tests.server.desks import ONE_TOO_MANY, RIGHT, Room
from tests.server.school import PASSWORD
from tests.support import database

OFFLINE = {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0}
ONLINE = {"offline": False, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}


class Lesson(Browsed):
    def setUp(self) -> None:
        dsn = database("lesson")
        stack = ExitStack()
        self.addCleanup(stack.close)
        self.room = Room(dsn, stack, workers=0)
        listener = listen(0)
        app = create_app(dsn, demo=links_of_demo())
        server = uvicorn.Server(uvicorn.Config(app, log_level="error", access_log=False))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()
        self.url = f"http://127.0.0.1:{listener.getsockname()[1]}"
        self.browser = chromium()
        self.browser.get(self.url)
        self.browser.delete_all_cookies()
        self.browser.execute_script("localStorage.clear()")
        Browsed.signed_in = ""

        def stop() -> None:
            self.network(there=True)
            self.browser.delete_all_cookies()
            server.should_exit = True
            thread.join(10)

        self.addCleanup(stop)
        self.come_in()

    def tearDown(self) -> None:
        """A browser without a network says so in its console, too."""
        self.browser.get_log("browser")  # type: ignore[no-untyped-call]

    def come_in(self) -> None:
        """Wren comes in with her card, and opens the exercise."""
        self.browser.get(self.url)
        self.one("form[aria-labelledby=by-card] input").click()
        self.press(self.room.word, Keys.TAB, self.room.cards["wren"], Keys.ENTER)
        self.one("main a", "Count the buns").click()
        self.one(".cm-content")

    def network(self, *, there: bool) -> None:
        self.browser.execute_cdp_cmd("Network.enable", {})
        self.browser.execute_cdp_cmd("Network.emulateNetworkConditions", ONLINE if there else OFFLINE)

    def write(self, script: str) -> None:
        self.one(".cm-content").click()
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
        self.browser.execute_cdp_cmd("Input.insertText", {"text": script})

    def kept(self) -> None:
        try:
            self.one("[data-keeping]", "kept at")
        except AssertionError:
            raise AssertionError(self.one("[data-keeping]").text) from None

    def with_ctrl(self, key: str, *, shift: bool = False) -> None:
        keys = ActionChains(self.browser).key_down(Keys.CONTROL)
        keys = keys.key_down(Keys.SHIFT).send_keys(key).key_up(Keys.SHIFT) if shift else keys.send_keys(key)
        keys.key_up(Keys.CONTROL).perform()

    def check(self) -> None:
        rows = self.all("[data-rows]")
        number = rows[0].get_attribute("data-rows") if rows else "none"
        self.with_ctrl(Keys.ENTER)
        until(lambda: self.one("[data-rows]").get_attribute("data-rows") not in (number, "none"), "no verdicts", 30)

    def found(self) -> WebElement:
        return until(lambda: self.all("[data-finding]"), "nothing was found", seconds=40)[0]

    def expect(self, words: str) -> None:
        """Says what is expected of the scenario that asks."""
        self.one("[data-expecting] input").send_keys(words + Keys.ENTER)
        until(lambda: not self.all("[data-expecting]"), "it still waits")

    def test_a_lesson(self) -> None:
        self.one("[data-keeping]", "kept")
        self.assertEqual(self.serious(), [])
        self.write("score = \n")
        self.one(".hob-seen")  # the fault stands at its line
        self.write(ONE_TOO_MANY)
        self.kept()
        self.plays_by_hand()
        self.check()
        self.one('[data-row="1"]', "say what you expect first")
        self.assertEqual(self.serious(), [])
        self.expect("3")
        self.one('[data-row="1"] [data-expected]', "not as you expected")
        self.one('h2[data-showing="scenario"]', "Won by two")
        self.a_nudge_and_a_pointer()
        self.write(RIGHT)
        self.check()
        self.assertEqual(self.all("[data-expecting]"), [])  # whoever foretold a run is not asked again
        self.one("[data-tried='3']", "3 of 3")
        self.one("[data-hand-in]").click()
        self.one("[data-handed-in]", "Handed in")
        self.assertEqual(self.serious(), [])
        self.the_teacher_sees_it()

    def plays_by_hand(self) -> None:
        self.with_ctrl(Keys.ENTER, shift=True)
        self.one('[data-game="playing"]')
        ActionChains(self.browser).key_down(Keys.ARROW_RIGHT).pause(1.2).key_up(Keys.ARROW_RIGHT).perform()
        until(lambda: "2" in self.value("score"), "no bun was met")
        until(lambda: self.all('[data-lane=player] [data-input="hold"]'), "the strip is not drawn")
        self.one("[data-hold]").click()
        self.one("[data-looked]")
        self.assertEqual(self.serious(), [])

    def a_nudge_and_a_pointer(self) -> None:
        self.found().find_element("xpath", ".//button[text()='Nudge']").click()
        self.one("[data-finding]", "score")
        self.assertNotIn("line 7", self.found().text.lower())
        self.one("[data-finding]", "Pointer, after 1 more try")
        self.write(ONE_TOO_MANY + "# again\n")
        self.check()
        self.expect("2")
        self.found()
        until(lambda: self.all("[data-finding] button[aria-pressed]"), "no steps")
        self.one("[data-finding] button", "Pointer").click()
        self.one(".hob-suspect", "if score > 2:")
        self.assertEqual(self.serious(), [])

    def the_teacher_sees_it(self) -> None:
        self.browser.get(f"{self.url}/me")
        self.one("button", "Sign out").click()
        name, password = self.one("form[aria-labelledby=by-name]").find_elements("tag name", "input")
        name.send_keys("Linden")
        password.send_keys(PASSWORD + Keys.ENTER)
        self.one("main a", "Count the buns").click()
        self.one("tbody tr", "Wren")

    def test_the_network_goes_away_in_the_middle_and_nothing_is_lost(self) -> None:
        self.network(there=False)
        self.write("score = 1\n")
        self.one("[data-keeping]", "not kept yet")
        self.network(there=True)
        self.kept()
        self.assertEqual(self.room.desk("wren").json()["text"]["source"], "score = 1\n")
        self.network(there=False)
        self.write("score = 2\n")
        self.one("[data-keeping]", "not kept yet")
        kept = self.room.desk("wren").json()["text"]["at"]
        self.room.desk("wren", "/text", "PUT", {"source": "score = 3\n", "at": kept})
        self.network(there=True)
        self.one("[data-clash]", "Another window kept another text")
        self.assertEqual(self.serious(), [])
        self.one("[data-clash] button", "Go on with this one").click()
        self.kept()
        self.assertEqual(self.room.desk("wren").json()["text"]["source"], "score = 2\n")
        self.network(there=False)
        self.write("score = 4\n")
        self.one("[data-keeping]", "not kept yet")
        self.network(there=True)
        self.browser.refresh()  # before it was sent, perhaps
        until(lambda: "score = 4" in self.one(".cm-content").text, "the text is lost")
        until(lambda: self.one("[data-keeping]").text.startswith("kept"), "it is not kept")
        told: dict[str, Any] = self.room.desk("wren").json()
        self.assertEqual(told["text"]["source"], "score = 4\n")

    def test_by_keyboard_alone(self) -> None:
        self.browser.get(self.url)
        self.one("main a", "Count the buns")
        self.tab_to("main a")
        self.press(Keys.ENTER)
        self.one(".cm-content")
        self.tab_to(".cm-content")
        self.with_ctrl("a")
        self.press(Keys.DELETE, "score = 1", Keys.ENTER)
        self.kept()
        self.check()
        self.one('h2[data-showing="scenario"]', "Two buns")  # what is broken opens by itself
        self.tab_to("[data-row='0'] button")
        self.press(Keys.ENTER)
        self.browser.execute_async_script("setTimeout(arguments[0], 700)")  # it is opened again
        self.press(Keys.HOME)
        until(lambda: self.one("[data-looked]").get_attribute("data-looked") == "0", "it does not go home")
        self.press(Keys.ARROW_RIGHT)
        until(lambda: self.one("[data-looked]").get_attribute("data-looked") == "1", "it does not step")
        self.press("b")
        until(lambda: self.one("[data-looked]").get_attribute("data-looked") not in ("0", "1"), "no broken check")
        self.found()
        self.tab_to("[data-finding] button")
        self.press(Keys.ENTER)
        until(lambda: self.all("[data-finding] button[aria-pressed=true]"), "no nudge")
        self.tab_to("[data-from]")
        self.tab_to("[data-hand-in]", most=120)
        self.press(Keys.ENTER)
        self.one("[data-handed-in]", "Handed in")

    def test_in_line_for_help_and_two_at_a_desk(self) -> None:
        self.one("button", "Ask for help").click()
        self.one("[data-asking='1']", "First in the line")
        self.one("button", "Take it back").click()
        self.one("button", "Ask for help")
        self.one("[role=tab]", "Tasks").click()
        self.one("[data-together] summary").click()
        card = self.one("[data-together] input")
        card.send_keys("nobody 12" + Keys.ENTER)
        self.one("[data-together] [role=alert]")
        card.send_keys(Keys.CONTROL + "a" + Keys.NULL + self.room.cards["sorrel"] + Keys.ENTER)
        self.one("[data-partner=Sorrel]")
        self.one("[data-hand-in]").click()
        self.one("[data-handed-in]")
        self.assertEqual(self.room.desk("sorrel").json()["tries"][0]["with_name"], "Wren")
