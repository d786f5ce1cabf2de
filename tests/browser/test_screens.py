"""The Bench, the Round and the Trial as people use them, with the mouse and by keyboard."""

import base64
import re
import time

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.support import Browsed, address, until


class WithTheMouse(Browsed):
    def test_from_the_bench_to_the_explanation(self) -> None:
        self.one("a", "Bakehouse rush").click()
        self.one("table")
        self.assertEqual(len(self.all("tbody tr")), 24)
        self.one("section button", "A test is off at its boundary").click()
        until(lambda: len(self.all("tbody tr")) == 4, "the group does not keep its students")
        self.assertEqual(
            [row.text.split("\n")[0].split()[0] for row in self.all("tbody tr")], ["Clover", "Tansy", "Wren", "Fennel"]
        )
        self.one("a", "Open a typical trial").click()
        self.one("[data-strip]")
        self.assertEqual(self.frame(), 83)
        self.assertIn("here the run and the reference part: outcome", self.one("[data-parting]").text)
        self.assertIn(
            "Line 29 asked 5 < score. score was 5, so the answer was no.", self.one("#help-text").text.replace("\n", "")
        )
        self.one("[role=tab]", "Fix").click()
        self.assertIn("if 5 <= score:", self.one("#help-text").text)
        self.one("[role=tab]", "Nudge").click()
        self.assertIn("What should happen when score is exactly 5?", self.one("#help-text").text)

    def test_groups_can_be_let_go(self) -> None:
        self.open("/rounds/1")
        button = self.one("section button", "What should happen once")
        button.click()
        until(lambda: len(self.all("tbody tr")) == 2, "the group does not keep its students")
        self.assertIn("group=", self.browser.current_url)
        self.one("button", "Show all 24").click()
        until(lambda: len(self.all("tbody tr")) == 24, "not all are shown again")

    def test_orders(self) -> None:
        self.open("/rounds/1")
        self.one("table")
        self.assertEqual(self.all("tbody th")[0].text, "Knapweed")
        self.one("thead button", "Student").click()
        self.assertEqual([cell.text for cell in self.all("tbody th")][:3], ["Bramble", "Clover", "Dunnock"])

    def test_the_strip_can_be_dragged_and_its_pins_lead_to_their_moment(self) -> None:
        self.open("/tries/{Wren}/scenarios/2")
        strip = self.one("[data-strip]")
        left = -strip.size["width"] // 2
        drag = ActionChains(self.browser).move_to_element_with_offset(strip, left + 300, 20).click_and_hold()
        drag.perform()
        first = self.frame()
        ActionChains(self.browser).move_to_element_with_offset(strip, left + 500, 20).perform()
        ActionChains(self.browser).move_to_element_with_offset(strip, left + 700, 20).release().perform()
        until(lambda: self.frame() > first, "the cursor does not follow the pointer")
        self.one('[data-pin="1"]').click()
        self.assertEqual(self.frame(), 120)
        self.assertIn("outcome == 'won' broken", self.one("[data-check]").text)

    def test_scene_values_story_and_script_follow_the_cursor(self) -> None:
        self.open("/tries/{Wren}/scenarios/4")
        self.one("[data-strip]")
        self.press(Keys.END)
        self.assertIn("6", self.value("score"))
        self.assertIn("reference: 5", self.value("score"))
        self.assertEqual(len(self.all('[data-piece^="bun"]')), 0)
        self.assertIn("The shelf is full", self.one('[aria-label="What happened"]').text)
        self.press(Keys.HOME)
        self.assertEqual(len(self.all('[data-piece^="bun"]')), 6)
        self.assertNotIn("The shelf is full", self.one('[aria-label="What happened"]').text)
        until(lambda: self.all(".hob-suspect"), "the finding's line is not marked")

    def test_playing_follows_the_clock(self) -> None:
        self.open("/tries/{Wren}/scenarios/4")
        self.one("[data-strip]")
        self.press(Keys.HOME)
        self.one('[aria-label="Speed 2"]').click()
        begin = time.monotonic()
        self.one('[aria-label="Play"]').click()
        until(lambda: self.frame() > 60, "it does not play")
        self.one('[aria-label="Pause"]').click()
        passed, frame = time.monotonic() - begin, self.frame()
        self.assertLessEqual(frame, passed * 60 + 1)
        self.assertEqual(self.frame(), frame)

    def test_the_neighbour_and_another_scenario(self) -> None:
        self.open("/tries/{Wren}/scenarios/2")
        self.one("a", "Yarrow").click()
        self.one("nav", "Yarrow")
        until(lambda: "the script stopped" in self.one("[data-strip]").text, "the stop is not drawn")
        self.one("select").send_keys("Soot")
        until(lambda: self.browser.current_url.endswith("/scenarios/1"), "the scenario did not change")

    def test_a_script_that_cannot_be_read(self) -> None:
        self.open("/rounds/1")
        self.one("tbody a", "cannot be read").click()
        problem = self.one("[data-problem]")
        self.assertIn("Line 15. A line that begins with if ends with a colon.", problem.text)
        self.assertIn("20 checks hold", self.one('[aria-label="What happened"]').text)

    def test_marking_again_fills_the_cells_in(self) -> None:
        self.open("/rounds/1")
        self.one("button", "Mark again").click()
        self.one("progress")
        until(lambda: "waits to be marked" in self.one("tbody").text, "no cell waits")
        until(lambda: not self.all("progress"), "the marking does not end", seconds=60)
        self.assertNotIn("waits to be marked", self.one("tbody").text)
        self.assertIn("marked in", self.one("header").text)

    def test_the_brief_on_paper_is_one_page(self) -> None:
        self.one("a", "on paper").click()
        self.one("[data-paper]", "Words that you can use")
        for version in range(1, 4):
            self.open(f"/exercises/{version}/paper")
            words = self.one("[data-paper] section").text
            self.assertIn("board(", words)
            self.assertNotIn("spawn(", words)
            printed = self.browser.execute_cdp_cmd("Page.printToPDF", {"paperWidth": 8.27, "paperHeight": 11.69})
            self.assertEqual(len(re.findall(rb"/Type\s*/Page\b", base64.b64decode(printed["data"]))), 1)

    def test_what_is_not_there_says_so(self) -> None:
        self.open("/rounds/99")
        self.assertIn("There is no such round. Choose one on the bench.", self.one("[role=alert]").text)
        self.open("/nothing")
        self.one("a", "To the first page").click()
        self.one("h1", "Rounds")


class ByKeyboard(Browsed):
    def test_from_the_bench_to_the_explanation(self) -> None:
        self.one("a", "Bakehouse rush")
        self.tab_to('a[href="/rounds/1"]')
        self.press(Keys.ENTER)
        self.one("section button")
        buttons = (self.tab_to("section button").text for _ in range(40))
        self.assertTrue(any("A test is off" in text for text in buttons), "Tab does not come to the group")
        self.press(Keys.ENTER)
        until(lambda: len(self.all("tbody tr")) == 4, "the group does not keep its students")
        self.press(Keys.ESCAPE)
        until(lambda: len(self.all("tbody tr")) == 24, "Escape does not show all again")
        self.open("/rounds/1")
        self.one("table")
        self.tab_to("[data-cell]")
        for _ in range(24):
            if (self.browser.switch_to.active_element.get_attribute("aria-label") or "").startswith("Wren,"):
                break
            self.press(Keys.ARROW_DOWN)
        self.press(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
        self.assertEqual(
            self.browser.switch_to.active_element.get_attribute("aria-label"), "Wren, A full shelf: 1 held, 2 broken"
        )
        self.press(Keys.ENTER)
        self.one("[data-strip]")
        self.press("b")
        self.assertIn("broken", self.one("[data-check]").text)
        self.assertIn("Line 15 asked score > 5", self.one("#help-text").text)
        self.press("w")
        self.assertIn("if score >= 5:", self.one("#help-text").text)

    def test_the_keys_of_the_trial(self) -> None:
        self.open("/tries/{Wren}/scenarios/2")
        self.one("[data-strip]")
        self.press(Keys.HOME)
        self.press(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_LEFT)
        self.assertEqual(self.frame(), 1)
        self.with_shift(Keys.ARROW_RIGHT)
        self.assertEqual((self.frame(), self.value("score").split("\n")[1]), (20, "1"))
        self.with_shift(Keys.ARROW_RIGHT)
        self.with_shift(Keys.ARROW_LEFT)
        self.assertEqual(self.frame(), 20)
        seen = []
        for _ in range(3):
            self.press("b")
            seen.append((self.frame(), self.one("[data-check] code").text))
        self.assertEqual(
            seen, [(120, "outcome == 'won'"), (180, 'told("The shelf is full")'), (120, "outcome == 'won'")]
        )
        self.press(" ")
        until(lambda: self.frame() > 121, "space does not play")
        self.press(" ")
        frame = self.frame()
        time.sleep(0.2)
        self.assertEqual(self.frame(), frame)

    def test_each_screen_lists_its_keys(self) -> None:
        for path, words in (
            ("/", "chooses a round"),
            ("/rounds/1", "opens the trial of a cell"),
            ("/tries/{Wren}/scenarios/2", "to the next broken check"),
        ):
            self.open(path)
            self.one("header")
            self.press("?")
            self.one("dialog[open]", words)
            self.press(Keys.ESCAPE)
            until(lambda: not self.all("dialog[open]"), "the keys do not close")

    def test_pins_can_be_reached_and_chosen(self) -> None:
        self.open("/tries/{Wren}/scenarios/2")
        self.one("[data-strip]")
        pin = self.tab_to('[data-pin="1"]')
        self.assertIn("broken: outcome == 'won' by 4.00 s; outcome was playing", pin.accessible_name)
        self.press(Keys.ENTER)
        self.assertEqual(self.frame(), 120)


class BySteps(Browsed):
    """A script that runs from top to bottom, shown by what it did."""

    def test_questions_answers_and_what_was_told_stand_on_lanes_of_their_own(self) -> None:
        self.open("/tries/{straight_Wren}/scenarios/0")
        self.one("[data-strip]")
        told = [each.get_attribute("aria-label") for each in self.all('[data-words="told"]')]
        self.assertEqual(told, ["told: Good morning, Wren, step 4", "told: That is too much, step 10"])
        answered = [each.text for each in self.all('[data-words="answered"]')]
        self.assertEqual(answered, ["Wren", "rye", "2"])

    def test_it_is_walked_step_by_step(self) -> None:
        self.open("/tries/{straight_Wren}/scenarios/0")
        self.one("[data-strip]")
        self.press(Keys.HOME)
        self.one("h2", "Before the first of 10 steps")
        self.assertIn("unset", self.value("coins"))
        self.press(Keys.ARROW_RIGHT)
        self.one("h2", "Step 1 of 10")
        self.assertIn("10", self.value("coins"))
        self.press(Keys.END)
        self.one("ol li", "That is too much")


class ForEverybody(Browsed):
    PATHS = (
        "/",
        "/rounds/1",
        "/tries/{Wren}/scenarios/2",
        "/tries/{Yarrow}/scenarios/0",
        "/tries/{Woad}/scenarios/0",
        "/tries/{straight_Wren}/scenarios/0",
        "/exercises/1/play",
        "/exercises/1/paper",
        "/rounds/1/sheets?student=Wren",
        "/rounds/1/work",
        "/rounds/1/closer",
        "/marking",
        "/classes/1/ledger",
        "/nothing",
    )

    def further_paths(self) -> list[str]:
        """A sheet for the class, and a game that was kept."""
        self.open("/rounds/1")
        self.one("section button[aria-pressed]", "is off at its boundary").click()
        sheet = self.one("a", "Sheet for the class").get_attribute("href")
        self.open("/exercises/1/play")
        self.one("button", "Play").click()
        self.one('[data-game="playing"]')
        self.one("button", "keep this game as a trial").click()
        kept = self.one("a", "see it beside the reference").get_attribute("href")
        return [str(each).removeprefix(address()) for each in (sheet, kept)]

    def test_axe_finds_nothing_in_either_theme_or_size(self) -> None:
        paths = [*self.PATHS, *self.further_paths()]
        for theme, size in (("paper", "usual"), ("slate", "usual"), ("paper", "large")):
            appearance = f'{{"theme":"{theme}","size":"{size}"}}'
            self.browser.execute_script("localStorage.setItem('hob-appearance', arguments[0])", appearance)
            for path in paths:
                with self.subTest(path, theme=theme, size=size):
                    self.open(path)
                    self.one("main")
                    until(
                        lambda: not self.all("main [role=status]") and "Fetching" not in self.one("main").text,
                        "it goes on loading",
                    )
                    self.assertEqual(self.serious(), [])

    def test_theme_and_size_are_kept(self) -> None:
        self.one('[aria-label="Dark theme"]').click()
        self.one('[aria-label="Large, for the projector"]').click()
        self.open("/rounds/1")
        root = self.one("html")
        self.assertEqual((root.get_attribute("data-theme"), root.get_attribute("data-size")), ("slate", "large"))

    def test_nothing_is_wider_than_the_window(self) -> None:
        for path in (*self.PATHS, *self.further_paths()):
            self.open(path)
            self.one("main")
            time.sleep(0.3)
            wide = self.browser.execute_script("return document.documentElement.scrollWidth")
            self.assertLessEqual(wide, 1280, path)
