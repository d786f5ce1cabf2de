"""Findings in the browser: tied to lines and moments, tried, withdrawn, shown to the class."""

from selenium.webdriver.common.action_chains import ActionChains

from tests.browser.support import Browsed, until


class OnTheTrial(Browsed):
    def open_trial(self, student: str, scenario: str) -> None:
        self.open("/rounds/1")
        self.one(f'td a[aria-label^="{student}, {scenario}"]').click()
        self.one(".cm-line")

    def test_the_tested_values_stand_behind_the_suspicious_line(self) -> None:
        self.open_trial("Wren", "A full shelf")
        self.assertEqual(self.one(".hob-seen").text, "score was 5: no")

    def test_lines_moments_and_pins_are_tied_together(self) -> None:
        self.open_trial("Wren", "A full shelf")
        self.assertEqual(self.all("[data-tied]"), [])
        line = self.one("p[aria-label='Where it is seen'] button", "line 15")
        ActionChains(self.browser).move_to_element(line).perform()
        until(lambda: self.all("[data-tied]"), "no moment is marked on the strip")
        self.assertIn("if score > 5:", self.one(".hob-tied").text)
        pin = self.one("[data-pin] text", "outcome == 'won'")
        ActionChains(self.browser).move_to_element(pin).perform()
        self.assertIn("if score > 5:", self.one(".hob-tied").text)

    def test_the_same_by_keyboard(self) -> None:
        self.open_trial("Wren", "A full shelf")
        self.tab_to("p[aria-label='Where it is seen'] button")
        until(lambda: self.all("[data-tied]"), "no moment is marked on the strip")
        self.tab_to("#help-Nudge")
        until(lambda: not self.all("[data-tied]"), "the moments stay marked")

    def test_a_change_is_tried(self) -> None:
        self.open_trial("Wren", "A full shelf")
        self.one("#help-Fix").click()
        self.one("button", "Try this change").click()
        self.assertEqual(self.one("[data-tried]").get_attribute("data-tried"), "20")
        self.assertIn("20 of 20 instead of 15", self.one("[data-tried]").text)

    def test_the_submission_before_can_stand_beside(self) -> None:
        self.open_trial("Vetch", "Three buns")
        self.one("select[aria-label='In pencil beside it'] option", "try").click()
        until(lambda: "beside=earlier" in self.browser.current_url, "the address does not say so")
        self.one("[data-strip]")

    def test_a_finding_is_withdrawn_and_put_back(self) -> None:
        self.open_trial("Pipit", "Three buns")
        self.one("button", "Withdraw this finding for Pipit").click()
        self.assertIn("Withdrawn for Pipit", self.one("[data-withdrawn='student']").text)
        self.one("button", "Put this finding back").click()
        self.one("[data-withdrawn='']")

    def test_a_finding_of_another_scenario_leads_there(self) -> None:
        self.open("/tries/{Wren}/scenarios/0")
        self.one("p", "Not in this scenario; seen in").find_element("link text", "A full shelf").click()
        until(lambda: self.browser.current_url.endswith("/scenarios/2"), "the link leads elsewhere")
        self.one("#help-text", "score was 5")


class OnTheRound(Browsed):
    def test_a_group_is_shown_to_the_class(self) -> None:
        self.open("/rounds/1")
        self.one("section button[aria-pressed]", "is off at its boundary").click()
        self.one("a", "Sheet for the class").click()
        sheet = self.one("[data-sheet]")
        self.assertIn("What should happen when score is exactly 5?", sheet.text)
        strip = self.one("[data-sheet] [data-strip]")
        self.assertEqual(strip.find_elements("css selector", "[tabindex], [role=button], [role=slider]"), [])
        self.assertNotIn("Wren", sheet.text)
        self.assertEqual(self.serious(), [])

    def test_a_group_is_withdrawn_and_put_back(self) -> None:
        self.open("/rounds/1")
        self.one("section button[aria-pressed]")
        before = len(self.all("section button[aria-pressed]"))
        self.one("section button[aria-pressed]", "A loop that does not end").click()
        self.one("button", "Withdraw this finding").click()
        self.one("h3", "Withdrawn")
        until(lambda: len(self.all("section button[aria-pressed]")) == before - 1, "the group is still there")
        self.one("button", "Put back").click()
        until(lambda: len(self.all("section button[aria-pressed]")) == before, "the group does not come back")
