"""The workshop: an exercise from an empty sheet to a set round, by mouse and by keyboard."""

import json
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory
from urllib.request import Request

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from hobtrial.demo import exercise_folder
from tests.browser.support import address, client, until
from tests.browser.workshop_hands import ByKeyboard, ByMouse


class Mouse(ByMouse):
    def test_an_exercise_is_made_and_set(self) -> None:
        self.make_and_set()

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


class Keyboard(ByKeyboard):
    def test_an_exercise_is_made_and_set(self) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.make_and_set()

    def test_small_steps(self) -> None:
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
