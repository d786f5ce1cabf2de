"""Hands for the workshop: by mouse and by keyboard, and the whole way of an author with either."""

import contextlib
import json
import time
from collections.abc import Callable
from typing import Any

from selenium.common.exceptions import ElementNotInteractableException, StaleElementReferenceException
from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

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


class ByMouse(Browsed):
    """What a hand does with a mouse, and the whole way of an author."""

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

    def place(self, thing: str) -> None:
        """Moves a piece, and leaves it chosen."""
        ActionChains(self.browser).drag_and_drop(
            self.one(f'[data-thing="{thing}"]'), self.one('[data-thing="hob"]')
        ).perform()
        until(
            lambda: "at 4," in (self.one(f'[data-thing="{thing}"]').get_attribute("aria-label") or ""),
            "it was not moved",
        )

    def proved(self) -> None:
        """Waits for the proof, which lets everything else go first."""
        until(lambda: self.all('[data-proof="done"]'), "the proof does not end", seconds=300)

    def labelled_in_header(self) -> WebElement:
        """The field for the class."""
        return self.one("header form input")

    def at(self, piece: str, place: str) -> None:
        """Waits until a piece stands at a place."""
        label = f"{piece} at {place}"
        until(lambda: self.all(f'[data-thing][aria-label="{label}"]'), f"no {label}")

    def make_and_set(self) -> None:
        """From an empty sheet to a set round: three scenarios, one of them hidden, and a proof with no way through."""
        self.field("title", "Sweep before baking")
        self.look("hob")
        self.look("soot")
        self.place("soot")
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


FOCUSABLE = """
const able = [...document.querySelectorAll('a[href],button,input,select,textarea,summary,[tabindex],[contenteditable]')]
  .filter((e) => e.tabIndex >= 0 && !e.disabled && e.getClientRects().length);
const [target, selector, words] = arguments;
const there = able.findIndex((e) => (target ? e === target : e.matches(selector) && e.textContent.includes(words)));
return there < 0 ? null : there - able.indexOf(document.activeElement);
"""
"""How many presses of Tab it is to an element, by the order of the page."""


class ByKeyboard(ByMouse):
    """The same with the keyboard alone: Tab, Enter, Space, arrows, and what is typed."""

    def to(self, selector: str, words: str = "", target: WebElement | None = None) -> None:
        """Presses Tab until an element has the focus: one with some words, or a certain one."""

        def there() -> bool:
            with contextlib.suppress(StaleElementReferenceException):
                way = self.browser.execute_script(FOCUSABLE, target, selector, words)
                if way == 0:
                    return True
                if way is not None:
                    hands = ActionChains(self.browser)
                    hands = hands.key_down(Keys.SHIFT) if way < 0 else hands
                    hands.send_keys(Keys.TAB * min(abs(way), 40))
                    (hands.key_up(Keys.SHIFT) if way < 0 else hands).perform()
            return False

        until(there, f"Tab does not come to {selector} {words!r}")

    def choose(self, selector: str, words: str = "") -> None:
        """Comes to an element and presses it."""
        self.to(selector, words)
        self.press(Keys.SPACE if "checkbox" in selector else Keys.ENTER)

    def field(self, label: str, said: str, inside: str = "main") -> None:
        """Comes to a field, writes into it and leaves it with Enter."""
        until(self.kept, "the change before is not kept")
        self.to("", target=self.labelled(label, inside))
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
        self.press(said + Keys.ENTER)
        until(
            lambda: self.kept() and self.steadily(lambda: self.labelled(label, inside).get_attribute("value")) == said,
            f"{label} is not kept",
        )

    def place(self, thing: str) -> None:
        """Moves a piece by half a square, and leaves it chosen."""
        before = self.one(f'[data-thing="{thing}"]').get_attribute("aria-label")
        self.to(f'[data-thing="{thing}"]')
        self.press(Keys.ARROW_LEFT)
        until(lambda: self.one(f'[data-thing="{thing}"]').get_attribute("aria-label") != before, "it was not moved")

    def look(self, name: str) -> None:
        """Takes a piece from the list of looks."""
        before = len(self.all("[data-thing]"))
        if not self.all("ul[aria-label=Looks]"):
            self.choose("button", "a piece")
        self.one("ul[aria-label=Looks] button", name)
        self.to("", target=next(each for each in self.all("ul[aria-label=Looks] button") if each.text == name))
        self.press(Keys.ENTER)
        until(lambda: len(self.all("[data-thing]")) == before + 1, f"no {name} came")

    def on_lane(self, lane: str, seconds: float, to: float | None = None) -> None:
        """Comes to a moment of the strip, or goes along it, and asks what must be so."""
        until(self.kept, "the change before is not kept")
        self.seek(seconds)
        if to is not None:
            self.choose("[data-work-strip] button", "along from here")
            self.seek(to)
        self.to("[data-work-strip] select")
        self.press(lane)
        self.choose("[data-work-strip] button", "what must be so?")
        self.one("[data-suggestions] button")

    def seek(self, seconds: float) -> None:
        """Moves the cursor of the strip."""
        self.to("[data-cursor]")
        far, near = divmod(round(seconds * 30), 15)
        keys = ActionChains(self.browser).send_keys(Keys.HOME).key_down(Keys.SHIFT)
        keys.send_keys(Keys.ARROW_RIGHT * far).key_up(Keys.SHIFT).send_keys(Keys.ARROW_RIGHT * near).perform()
        until(lambda: self.frame() == round(seconds * 30), "the cursor is not there")
