"""A first day at a school: from an empty server to a student who is in, and a teacher who is turned away."""

import tempfile
import threading
from pathlib import Path

import uvicorn
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.select import Select

from hobtrial.cli.serving import listen
from hobtrial.server import create_app
from hobtrial.store import Sessions, Store
from tests.browser.support import Browsed, address, chromium, links, until
from tests.core.test_oneroster import inside, school, user
from tests.crew.test_parcels import packed
from tests.support import database

PUPILS = (user("u1", "Wren", "Ash"), user("u2", "Wren", "Aspen"), user("u3", "Clover", "Elm"))
OWNERS, COLLEAGUES = "a quiet linden", "a hedge of hazel"


class FirstDay(Browsed):
    def setUp(self) -> None:
        dsn = database("first_day")
        listener = listen(0)
        server = uvicorn.Server(uvicorn.Config(create_app(dsn), log_level="error", access_log=False))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()
        self.url = f"http://127.0.0.1:{listener.getsockname()[1]}"
        store = Store(dsn)
        with store.transaction() as connection:
            self.first = Sessions.first_link(connection)
        store.close()
        self.browser = chromium()
        self.browser.get(self.url)
        self.browser.delete_all_cookies()
        Browsed.signed_in = ""

        def stop() -> None:
            self.browser.delete_all_cookies()
            server.should_exit = True
            thread.join(10)

        self.addCleanup(stop)

    def go(self, path: str) -> None:
        """Goes to an address of this server."""
        self.browser.get(self.url + path)
        self.browser.refresh() if "#" in path else None

    def fill(self, **fields: str) -> None:
        """Writes into fields by the beginning of their labels; `_` stands for a space."""
        for label, words in fields.items():
            self.labelled(label.replace("_", " ")).send_keys(words)

    def labelled(self, label: str) -> WebElement:
        return next(
            each.find_element(By.CSS_SELECTOR, "input, textarea, select")
            for each in until(lambda: self.all("label"), "there is no form")
            if each.text.startswith(label)
        )

    def click(self, words: str, within: str = "") -> None:
        """Clicks a button or a link that reads so."""
        found = until(
            lambda: [each for each in self.all(f"{within} button, {within} a") if each.text.strip().startswith(words)],
            f"nothing reads {words!r}",
        )
        found[0].click()

    def sign_out(self) -> None:
        self.go("/me")
        self.click("Sign out")
        self.one("form[aria-labelledby=by-card]")

    def by_name(self, name: str, password: str) -> None:
        form = self.one("form[aria-labelledby=by-name]")
        for field, words in zip(form.find_elements(By.TAG_NAME, "input"), (name, password), strict=True):
            field.send_keys(words)
        field.send_keys(Keys.ENTER)

    def by_card(self, word: str, card: str) -> None:
        """By keyboard alone."""
        self.one("form[aria-labelledby=by-card] input").click()
        self.press(word, Keys.TAB, card, Keys.ENTER)

    def cards(self) -> tuple[str, dict[str, str]]:
        """The word of the class, and the card of each student, as they are printed."""
        until(lambda: self.all("[data-card]"), "no cards", seconds=30)
        lines = [each.text.split("\n") for each in self.all("[data-card]")]
        return lines[0][3], {each[0]: each[5] for each in lines}

    def test_from_an_empty_server_to_a_lesson(self) -> None:
        self.one("main", "The server printed a link for the first teacher")
        self.assertEqual(self.serious(), [])
        self.go(f"/sign-in#first={self.first}")
        self.fill(Name="Linden", Password=OWNERS, The_same=OWNERS)
        self.click("Begin")
        self.one("h1", "Rounds")
        self.take_over_a_list()
        word, cards = self.make_cards()
        self.add_a_colleague()
        self.a_student_comes_in(word, cards["Clover"])
        self.a_card_is_replaced(word, cards["Clover"])
        self.the_colleague_is_turned_away_until_the_class_is_shared()

    def take_over_a_list(self) -> None:
        self.go("/classes")
        self.one("main", "You have no class yet")
        self.click("Take over a school")
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder, "school.zip")
            file.write_bytes(packed(school(list(PUPILS), [inside(each["sourcedId"]) for each in PUPILS])))
            until(lambda: self.all("[data-list]"), "nothing to choose")[0].send_keys(str(file))
            self.one("section[aria-label='7 Larch'] input[type=checkbox]").click()
            self.one("section[aria-label='7 Larch']", "two have this name")
            second = self.all("section[aria-label='7 Larch'] input[aria-label]")[2]
            second.send_keys(" the second", Keys.TAB)
            until(lambda: "two have this name" not in self.one("main").text, "it still clashes")
            self.assertEqual(self.serious(), [])
            self.click("Take over 1 class")
            self.one("[role=status]", "7 Larch: 3 students")
        self.click("To your classes")
        self.click("7 Larch", "main")
        self.assertEqual(
            [each.get_attribute("data-student") for each in until(lambda: self.all("[data-student]"), "nobody")],
            ["Clover", "Wren A", "Wren A the second"],
        )
        self.assertEqual(self.serious(), [])

    def make_cards(self) -> tuple[str, dict[str, str]]:
        self.click("Make 3 cards")
        found = self.cards()
        self.assertEqual((len(found[1]), self.serious()), (3, []))
        self.click("They are printed")
        self.one("main", f"The word of the class is {found[0]}")
        return found

    def add_a_colleague(self) -> None:
        self.go("/teachers")
        self.fill(Name="Hazel", **{"A password to begin with": COLLEAGUES})
        self.click("Add")
        self.one("[data-teacher=Hazel]", "0 classes")
        self.assertEqual(self.serious(), [])
        self.sign_out()

    def a_student_comes_in(self, word: str, card: str) -> None:
        self.by_card(word, card[:-2] + "xx")
        self.one("[role=alert]", "That is not right.")
        self.go("/")
        self.by_card(word.upper(), card.replace("-", " "))
        self.one("h1", "Set for you")
        self.one("header", "Clover")
        self.one("main", "Nothing is set for you yet")
        self.assertEqual(self.serious(), [])
        self.go("/classes/1")
        self.one("main", "There is nothing at this address")
        self.sign_out()

    def a_card_is_replaced(self, word: str, lost: str) -> None:
        self.by_name("linden", OWNERS)
        self.one("h1", "Rounds")
        self.go("/classes/1")
        self.one("[data-student=Clover] button").click()
        self.click("a new card")
        self.click("make it")
        _, [(_, card)] = (found := self.cards())[0], list(found[1].items())
        self.click("They are printed")
        self.sign_out()
        self.by_card(word, lost)
        self.one("[role=alert]", "That is not right.")
        self.go("/")
        self.by_card(word, card)
        self.one("h1", "Set for you")
        self.sign_out()

    def the_colleague_is_turned_away_until_the_class_is_shared(self) -> None:
        self.by_name("Hazel", COLLEAGUES)
        self.one("h1", "Rounds")
        self.go("/classes/1")
        self.one("[role=alert]", "There is no such class.")
        self.sign_out()
        self.by_name("Linden", OWNERS)
        self.one("h1", "Rounds")
        self.go("/classes/1")
        Select(
            until(lambda: self.all("section[aria-labelledby=shared] select"), "nobody to share with")[0]
        ).select_by_visible_text("Hazel")
        self.one("section[aria-labelledby=shared] li", "Hazel")
        self.sign_out()
        self.by_name("Hazel", COLLEAGUES)
        self.one("h1", "Rounds")
        self.go("/classes/1")
        self.one("[data-student=Clover]")

    def test_the_door_on_a_phone(self) -> None:
        size = {"width": 360, "height": 640, "deviceScaleFactor": 2, "mobile": True}
        self.browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
        try:
            self.go("/")
            self.one("form[aria-labelledby=by-card]")
            wide = self.browser.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 360)
            self.assertEqual(self.serious(), [])
        finally:
            size = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
            self.browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)


class AtTheDemo(Browsed):
    def test_the_links_let_in_and_a_student_sees_their_own(self) -> None:
        self.one("header", "Linden")
        self.sign_in(links().student_token)
        self.one("h1", "Set for you")
        self.one("main a", "Bakehouse rush").click()
        self.one("[data-handed-in]").click()
        self.one("[data-feedback]", "Your teacher has not given it back yet")
        self.assertEqual(self.serious(), [])
        self.open("/own/{straight_Wren}")
        self.one("[data-feedback]", "A hidden scenario")
        self.one("[data-feedback]", "What to look at")
        self.assertEqual(self.serious(), [])
        self.browser.get(f"{address()}/sign-in#demo={links().teacher_token}")  # as another one, without signing out
        self.one("h1", "Rounds")
        self.browser.get(f"{address()}/sign-in")
        self.one("h1", "Rounds")
        Browsed.signed_in = links().teacher_token

    def test_a_session_that_ends_at_work_is_taken_up_again_over_the_work(self) -> None:
        self.open("/classes/1")
        self.one("textarea").send_keys("Sedge")
        kept = self.browser.get_cookie("hob")
        self.browser.delete_cookie("hob")
        next(each for each in self.all("button") if each.text == "Add 1 student").click()
        self.one("[data-sign-in-again]", "You are signed out")
        self.assertEqual(self.one("textarea").get_attribute("value"), "Sedge")
        assert kept is not None
        self.browser.add_cookie(kept)
        Browsed.signed_in = ""

    def test_a_server_that_is_away_is_waited_for_and_nothing_typed_is_lost(self) -> None:
        self.open("/classes/1")
        self.one("textarea").send_keys("Sedge")
        self.offline(True)
        try:
            next(each for each in self.all("button") if each.text == "Add 1 student").click()
            self.one("[data-away]", "The server does not answer just now.")
            self.assertEqual(self.one("textarea").get_attribute("value"), "Sedge")
        finally:
            self.offline(False)
        until(lambda: not self.all("[data-away]"), "it does not come back by itself")
        self.assertEqual(self.one("textarea").get_attribute("value"), "Sedge")
        self.one("[data-student=Wren]")
        self.browser.get_log("browser")  # type: ignore[no-untyped-call]

    def offline(self, off: bool) -> None:
        """Takes the network from the browser, or gives it back."""
        self.browser.execute_cdp_cmd("Network.enable", {})
        conditions = {"offline": off, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
        self.browser.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)
