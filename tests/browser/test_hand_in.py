"""Handing in on the Round, opening one on the Bench, trials of a scenario, craft and own marks."""

import tempfile
from pathlib import Path

from selenium.webdriver.support.select import Select

from hobtrial.demo import exercise_folder
from tests.browser.support import Browsed, until

HOT = exercise_folder("at-least")["reference.py"].decode()


class HandingIn(Browsed):
    def setUp(self) -> None:
        super().setUp()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def file(self, name: str, text: str) -> str:
        """A file to hand in."""
        path = self.folder / name
        path.write_text(text)
        return str(path)

    def hand_in(self, *files: str) -> None:
        """Chooses files, as the dialog would."""
        self.one("button", "Hand in scripts")
        self.all("[data-hand-in]")[0].send_keys("\n".join(files))

    def add_students(self, *names: str) -> None:
        """Goes to the class, adds students from a list, and comes back."""
        self.one("a", "The class").click()
        self.one("form button", "from a CSV list")
        self.all("[data-names]")[0].send_keys(self.file("class.csv", "\n".join(["name", *names, ""])))
        self.one("[role=status]", f"{len(names)} student")
        self.browser.back()
        self.one("button", "Hand in scripts")

    def open_round(self, title: str, class_name: str) -> None:
        """Opens a round on the Bench."""
        self.open("/")
        self.one(f'[aria-label="open a round of {title}"]').click()
        field = self.one("form input")
        field.clear()
        field.send_keys(class_name)
        self.one("form button", "Open").click()
        self.one("button", "Hand in scripts")

    def test_from_an_empty_round_to_a_boundary_case_and_an_own_mark(self) -> None:
        self.open_round("Hot enough to bake", "9 Rowan")
        self.one("p", "Nobody in this class has handed in a script yet")
        self.hand_in(self.file("finch.py", HOT.replace(">= 200", "> 200")))
        Select(self.one("form select")).select_by_visible_text("leave it out")
        self.one("form button", "Hand these in").click()
        self.one("[role=status]", "0 scripts handed in")
        self.add_students("Finch", "Oxlip")
        self.hand_in(self.file("finch.py", HOT.replace(">= 200", "> 200")), self.file("oxlp.py", HOT))
        self.assertIn("no student has just that name", self.one("form li", "oxlp.py").text)
        self.one("form button", "Hand these in").click()
        until(lambda: len(self.all("tbody tr")) == 2, "the two scripts are not there")
        self.one("tbody tr", "12")
        self.assertIn("hidden, 3 trials", self.one("thead").text)
        self.one('a[aria-label^="Finch, One below"]').click()
        self.one("[data-strip]")
        self.assertEqual(Select(self.one('[aria-label="Trial"]')).first_selected_option.text, "heat = 165")
        self.assertIn("heat was 200, so the answer was no", self.one("#help-text").text.replace("\n", ""))
        Select(self.one('[aria-label="Trial"]')).select_by_visible_text("heat = 166")
        until(lambda: "trial=2" in self.browser.current_url, "the trial is not another one")
        until(lambda: "201" in self.value("heat") or "166" in self.value("heat"), "the case is not played")
        self.one("summary", "Mark it yourself").click()
        self.one('details input[type="number"]').send_keys("12")
        self.one("details button", "Keep").click()
        self.one("summary", "Your own mark: 12")
        self.browser.back()
        self.assertEqual(self.serious(), [])

    def test_a_wild_find_opens_with_the_shortest_inputs(self) -> None:
        self.open_round("Soot on the floor", "9 Rowan")
        script = exercise_folder("three-lives")["reference.py"].decode()
        wrong = script.replace("which.remove()", "pass").replace("if lives > 0:", "if True:")
        self.hand_in(self.file("sorrel.py", wrong))
        Select(self.one("form select"))
        self.browser.execute_script("document.querySelector('form').requestSubmit()")
        self.add_students("Sorrel")
        self.hand_in(self.file("sorrel.py", wrong))
        self.one("tbody tr", "Sorrel")
        until(lambda: self.all('a[aria-label^="Sorrel, Whatever"]'), "the script is not marked", seconds=60)
        self.one('a[aria-label^="Sorrel, Whatever"]').click()
        self.one("[data-strip]")
        self.assertEqual(
            Select(self.one('[aria-label="Trial"]')).first_selected_option.text, "the shortest that breaks a check"
        )

    def test_what_is_no_script_says_so(self) -> None:
        self.open("/rounds/1")
        self.hand_in(self.file("notes.txt", "no script"))
        self.one("[data-left-out]", "notes.txt was left out: notes.txt is not a script; hand in .py files, or a zip")


class Drawn(Browsed):
    def test_the_scene_draws_zones_places_looks_and_what_is_told(self) -> None:
        self.open("/exercises/9/play")
        self.one("p", "Choose “Play”")
        self.one("button", "Play").click()
        self.one('[data-game="playing"]')
        self.assertIn("hatch", self.one('[data-piece="hatch"]').text)
        self.assertEqual(self.one('[data-piece="oven"]').get_attribute("data-look"), "oven")

    def test_a_dial_turns_a_fact(self) -> None:
        self.open("/exercises/12/play")
        self.one("p", "Choose “Play”")
        self.one("button", "Play").click()
        self.one('[data-game="playing"]')
        dial = self.one('[data-deeds] input[type="range"]')
        dial.send_keys("\ue014" * 3)
        until(lambda: "3" in self.one("[data-deeds] label", "draught").text, "the dial does not turn")
