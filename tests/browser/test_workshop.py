"""The workshop: an exercise from an empty sheet to a set round, by mouse and by keyboard."""

import contextlib
import json
import time
import zipfile
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from urllib.request import Request

from selenium.common.exceptions import ElementNotInteractableException, StaleElementReferenceException
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select

from hobtrial.demo import exercise_folder
from tests.browser.support import Browsed, Found, address, client, until

REFERENCE = """score = 0
board("Soot", score)

@on(meets(hob, soot))
def sweep(which):
    global score
    if outcome() != "playing":
        return
    score += 1
    which.remove()
    board("Soot", score)
    if score >= 4:
        win("Swept")

@on(after(6))
def cold():
    if outcome() == "playing":
        lose("The oven is cold")
"""
BRIEF = """# Sweep before baking

`score` counts the soot that the hob has met, from 0; the scoreboard shows it under the label **Soot**.
Soot that was met is gone. The fourth soot wins: tell Swept. After six seconds it is lost: The oven is cold.
"""


class Workshop(Browsed):
    def setUp(self) -> None:
        super().setUp()
        self.choose("button", "a new exercise")
        self.one("[data-desk]")

    # ---- hands

    def choose(self, selector: str, words: str = "") -> None:
        """Clicks the first element of a selector with some words, however often it is drawn meanwhile."""

        def click() -> bool:
            try:
                self.one(selector, words).click()
            except (StaleElementReferenceException, ElementNotInteractableException):
                return False
            return True

        until(click, f"{selector} {words!r} cannot be clicked")

    def field(self, label: str, said: str, inside: str = "main") -> None:
        """Writes into a field and leaves it with Enter."""
        until(self.kept, "the change before is not kept")

        def write() -> None:
            found = self.labelled(label, inside)
            found.click()
            ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
            found.send_keys(said + Keys.ENTER)

        self.steadily(write)
        until(
            lambda: self.kept() and self.steadily(lambda: self.labelled(label, inside).get_attribute("value")) == said,
            f"{label} is not kept",
        )

    def labelled(self, label: str, inside: str = "main") -> WebElement:
        """The input behind a label."""

        def look() -> WebElement | None:
            with contextlib.suppress(StaleElementReferenceException):  # drawn again meanwhile
                for each in self.all(f"{inside} label"):
                    spans = each.find_elements(By.TAG_NAME, "span")
                    if spans and spans[0].text == label:
                        return each.find_element(By.CSS_SELECTOR, "input, select")
            return None

        found = until(look, f"no field {label!r}")
        assert found is not None
        return found

    def kept(self) -> bool:
        """Whether nothing is on its way to the server."""
        return "being kept" not in self.standing()

    def standing(self) -> str:
        """What is said beside the texts."""
        return self.steadily(lambda: self.one("section[aria-label=Texts] [role=status]").text)

    @staticmethod
    def steadily(do: Callable[[], Found]) -> Found:
        """Does something again where the page was drawn meanwhile."""
        for _ in range(20):
            with contextlib.suppress(StaleElementReferenceException):
                return do()
            time.sleep(0.1)
        return do()

    def write(self, which: str, text: str) -> None:
        """Writes one of the texts."""
        self.choose("section[aria-label=Texts] button", which)
        self.choose("section[aria-label=Texts] .cm-content")
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
        self.browser.execute_cdp_cmd("Input.insertText", {"text": text})
        until(lambda: self.draft()["texts"][which] == text, f"{which} is not kept") if "." in which else None

    def draft(self) -> dict[str, Any]:
        """The draft as the server has it."""
        number = self.browser.current_url.split("/drafts/")[1].split("?")[0]
        with client(address()).open(f"{address()}/api/drafts/{number}") as answer:
            found: dict[str, Any] = json.load(answer)
        return found

    def look(self, name: str) -> None:
        """Takes a piece from the list of looks."""
        before = len(self.all("[data-thing]"))
        if not self.all("ul[aria-label=Looks]"):
            self.choose("button", "a piece")
        next(each for each in self.all("ul[aria-label=Looks] button") if each.text == name).click()
        until(lambda: len(self.all("[data-thing]")) == before + 1, f"no {name} came")

    def x_on_strip(self, seconds: float) -> float:
        """Where a moment stands on the strip, from its left."""
        ticks = {
            each.text: float(each.get_attribute("x") or 0)
            for each in self.all("[data-strip] text.pencil")
            if each.text in ("0 s", "1")
        }
        return ticks["0 s"] + seconds * (ticks["1"] - ticks["0 s"])

    def on_lane(self, lane: str, seconds: float, to: float | None = None) -> None:
        """Clicks a lane at a moment, or drags along it."""
        until(self.kept, "the change before is not kept")
        self.steadily(lambda: self.hand_on(lane, seconds, to))
        self.one("[data-suggestions] button")

    def hand_on(self, lane: str, seconds: float, to: float | None) -> None:
        """The hand on the strip."""
        strip, row = self.one("[data-strip]"), self.one(f'[data-lane="{lane}"] > text')
        top = row.location["y"] + 2 - strip.location["y"]
        left = -strip.size["width"] / 2
        down = -strip.size["height"] / 2 + top + 8
        hands = ActionChains(self.browser)
        hands.move_to_element_with_offset(strip, int(left + self.x_on_strip(seconds)), int(down))
        if to is None:
            hands.click()
        else:
            hands.click_and_hold()
            hands.move_to_element_with_offset(strip, int(left + self.x_on_strip(to)), int(down)).release()
        hands.perform()

    def pin(self, words: str) -> None:
        """Pins the suggestion that has some words."""
        pins = len(self.all("[data-pin]"))
        self.choose("[data-suggestions] li button", words)
        until(lambda: len(self.all("[data-pin]")) == pins + 1, f"{words!r} is not pinned")

    def reason(self, why: str) -> None:
        """Says in the note of a check why it must be so."""
        self.field("because", why, "[data-check-note]")
        self.choose("[data-check-note] button", "Done")

    def record(self, *doings: tuple[str, float, float]) -> None:
        """Plays by hand: for each key how long nothing is done before, and how long it is down."""
        self.choose("button", "Play and record")
        self.one('[data-recording="playing"]')
        keys = ActionChains(self.browser)
        for key, before, down in doings:
            keys.pause(before).key_down(key).pause(down).key_up(key)
        keys.perform()
        self.choose("button", "Stop and keep it")
        self.one("button", "Play and record")

    # ---- the tests

    def test_an_exercise_is_made_and_set_by_mouse(self) -> None:
        self.field("title", "Sweep before baking")
        self.look("hob")
        self.look("soot")
        soot = self.one('[data-thing="soot"]')
        hob = self.one('[data-thing="hob"]')
        ActionChains(self.browser).drag_and_drop(soot, hob).perform()
        until(
            lambda: "at 4," in (self.one('[data-thing="soot"]').get_attribute("aria-label") or ""), "it was not moved"
        )
        self.field("x", "8")
        self.field("y", "2")
        self.choose("button", "three more in a row")
        until(lambda: len(self.all('[data-thing^="soot"]')) == 4, "there are not four")
        self.choose("button", "a variable")
        self.field("on the scoreboard", "Soot")
        self.write("reference.py".split(".")[0].capitalize(), REFERENCE)
        self.write("Brief", BRIEF)
        self.write("Starter", "score = 0\n")
        self.choose("section[aria-label=Texts] button", "Reference")
        until(
            lambda: "nothing is checked yet" in self.standing(),
            "it does not run",
        )

        self.field("name", "One by one", "[data-scenario]")
        self.record((Keys.ARROW_RIGHT, 0.3, 0.8))
        self.on_lane("score", 0.1)
        self.pin("score is 0 at")
        self.reason("Nothing is swept at the beginning.")
        self.field("until", "meets(hob, soot_2)", "[data-input-row='0']")
        self.field("seconds", "4", "[data-scenario]")
        self.on_lane("score", 2.5)
        self.pin("each time meets(hob, soot) comes: score goes up by 1")
        self.reason("Each soot counts one.")
        self.on_lane("outcome", 3.5)
        self.pin("the game goes on at the end")
        self.reason("Two soots are not enough.")

        self.choose("section[aria-label=Scenarios] button", "a scenario")
        self.field("name", "The fourth wins", "[data-scenario]")
        self.choose("[data-scenario] button", "holds a key")
        self.field("for", "3", "[data-input-row='0']")
        self.on_lane("outcome", 3)
        self.pin("came for the 4th time, the game is won")
        self.reason("The fourth soot wins.")
        self.on_lane("score", 5.5)
        self.pin("score is 4 at the end")
        self.reason("Four soots were swept.")
        self.on_lane("what came", 1.5)
        self.choose("[data-suggestions] button", "close")
        self.on_lane("score", 0.2, 5)
        self.pin("score never goes down")
        self.reason("What is swept stays swept.")
        self.on_lane("score", 3)
        self.pin("and the scoreboard shows it")
        self.reason("The scoreboard shows the soot.")

        self.choose("section[aria-label=Scenarios] button", "a scenario")
        self.field("name", "Too slow", "[data-scenario]")
        self.field("seconds", "7", "[data-scenario]")
        self.choose("[data-scenario] input[type=checkbox]")
        until(lambda: self.all("section[aria-label=Scenarios] em"), "it is not hidden")
        self.on_lane("outcome", 6.5)
        self.pin("the game is lost from here on")
        self.reason("After six seconds it is lost.")
        self.on_lane("outcome", 5.5)
        self.pin("the game goes on at")
        self.reason("Before six seconds it is not.")
        self.assertEqual(self.standing(), "runs, every check holds")

        self.proved()
        while self.all("[data-through]"):
            through = len(self.all("[data-through]"))
            self.choose("[data-through] button")
            until(lambda: self.all('[data-proof="waiting"], [data-proof="trying"]'), "the proof does not begin again")
            self.proved()
            self.assertLess(len(self.all("[data-through]")), through)
        self.assertRegex(self.one("[data-proof] p").text, r"^(\d+) of \1 planted slips are caught$")
        self.assertEqual(self.serious(), [])

        self.choose("button", "Set for a class")
        self.labelled_in_header().send_keys("7 Larch" + Keys.ENTER)
        until(lambda: "/rounds/" in self.browser.current_url, "no round was opened")
        self.one("h1, h2, nav", "Sweep before baking")

    def proved(self) -> None:
        """Waits for the proof, which lets everything else go first."""
        until(lambda: self.all('[data-proof="done"]'), "the proof does not end", seconds=300)

    def labelled_in_header(self) -> WebElement:
        """The field for the class."""
        return self.one("header form input")

    def test_by_keyboard_alone(self) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.to("button", "a piece")
        self.press(Keys.ENTER)
        self.to("ul[aria-label=Looks] button", "hob")
        self.press(Keys.ENTER)
        self.to('[data-thing="hob"]')
        self.press(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_UP)
        self.at("hob", "5, 2.5")
        self.with_shift(Keys.ARROW_DOWN)
        self.at("hob", "5, 2.4")
        self.to("header button", "undo")
        self.press(Keys.ENTER)
        self.at("hob", "5, 2.5")
        self.to("header button", "redo")
        self.press(Keys.ENTER)
        self.at("hob", "5, 2.4")
        self.browser.refresh()
        self.at("hob", "5, 2.4")
        self.to('[data-thing="hob"]')
        self.press(Keys.DELETE)
        until(lambda: not self.all("[data-thing]"), "it is not taken away")
        self.to("[data-cursor]")
        self.with_shift(Keys.ARROW_RIGHT)
        self.assertEqual(self.frame(), 15)
        self.press(Keys.ENTER)
        self.to("[data-suggestions] li button", "the game goes on at the end")
        self.press(Keys.ENTER)
        self.one("[data-check-note]")
        until(lambda: len(self.all("[data-pin]")) == 1, "it is not pinned")

    def to(self, selector: str, words: str = "") -> None:
        """Presses Tab until an element with some words has the focus."""
        look = (
            "const e = document.activeElement; return e.matches(arguments[0]) && e.textContent.includes(arguments[1])"
        )
        for _ in range(150):
            if self.browser.execute_script(look, selector, words):
                return
            self.press(Keys.TAB)
        raise AssertionError(f"Tab does not come to {selector} {words!r}")

    def at(self, piece: str, place: str) -> None:
        """Waits until a piece stands at a place."""
        label = f"{piece} at {place}"
        until(lambda: self.all(f'[data-thing][aria-label="{label}"]'), f"no {label}")

    def test_an_exercise_is_brought_in_from_a_zip_and_dragged_about(self) -> None:
        packed = Path(self.enterContext(TemporaryDirectory()), "loaf.zip")
        with zipfile.ZipFile(packed, "w") as archive:
            for name, data in exercise_folder("bakehouse-rush").items():
                archive.writestr(name, data)
        self.open("/")
        self.one("button", "bring one in")
        self.all("[data-bring]")[0].send_keys(str(packed))
        self.one('[data-thing="hob"]')
        before = self.draft()
        grip = self.one("[data-grip]")
        ActionChains(self.browser).click_and_hold(grip).move_by_offset(80, 0).release().perform()
        until(lambda: self.draft()["at"] == 1, "the bar was not drawn out")
        held = [d["rehearsal"]["settings"]["scenario"][0]["input"][0] for d in (before, self.draft())]
        self.assertEqual(held[0]["at"], held[1]["at"])
        self.assertGreater(held[1]["for"], held[0]["for"])
        self.choose("section[aria-label=Scenarios] button", "Soot from above")
        self.one("[data-strip]")
        pin = self.all("[data-pin]")[0]
        pin.click()
        self.field("marks", "3", "[data-check-note]")
        found = self.draft()["rehearsal"]
        self.assertEqual((found["out_of"], found["scenarios"][1]["checks"][0]["out_of"]), (22, 3))

    def test_what_is_written_is_undone_and_two_windows_lose_nothing(self) -> None:
        for words in ("One.\n", "Two.\n"):
            self.write("Brief", words)
            until(lambda: self.draft()["texts"]["brief.md"] == words, f"{words!r} is not kept")  # noqa: B023
        self.choose("header button", "undo")
        until(lambda: self.steadily(lambda: self.one(".cm-content").text) == "One.", "the text is not as it was")
        number, now = self.draft()["id"], self.draft()
        body = {"at": now["at"], "change": {"do": "write", "file": "brief.md", "text": "Other.\n"}}
        headers = {"content-type": "application/json", "origin": address()}
        client(address()).open(
            Request(f"{address()}/api/drafts/{number}/changes", json.dumps(body).encode(), headers)
        ).close()
        self.write("Brief", "Mine.\n")
        self.one("[role=alert]", "What you wrote is not kept yet")
        self.one("header [role=alert]", "was changed in another window")
        self.assertEqual(
            (self.draft()["texts"]["brief.md"], self.one(".cm-content").text.strip()), ("Other.\n", "Mine.")
        )
        self.choose("button", "take the other text")
        until(lambda: self.steadily(lambda: self.one(".cm-content").text) == "Other.", "the other text is not there")

    def test_settings_that_are_not_toml_are_mended_here(self) -> None:
        toml = exercise_folder("at-least")["exercise.toml"].decode()
        body = {"at": 0, "change": {"do": "write", "file": "exercise.toml", "text": "title = "}}
        headers = {"content-type": "application/json", "origin": address()}
        client(address()).open(
            Request(f"{address()}/api/drafts/{self.draft()['id']}/changes", json.dumps(body).encode(), headers)
        ).close()
        self.browser.refresh()
        self.one("[data-notices]", "exercise.toml is not TOML here")
        self.write("Settings", toml)
        self.one("[data-things]", "bellows")

    def test_a_check_becomes_one_of_another_kind(self) -> None:
        self.on_lane("outcome", 3)
        self.pin("the game goes on at")
        Select(self.labelled("when", "[data-check-note]")).select_by_value("end")
        until(lambda: "end" in self.draft()["rehearsal"]["settings"]["scenario"][0]["check"][0], "it is not changed")
        (check,) = self.draft()["rehearsal"]["settings"]["scenario"][0]["check"]
        self.assertEqual(check, {"end": True, "expect": "outcome == 'playing'", "marks": 1, "concept": "conditionals"})
