"""Playing by hand: keys, clicks, choices, a stop, the change of a script, and the game on the strip."""

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.support import Browsed, until

GAME = """
score = 0
offer("Ring")
question("Your name?")
@on(pressed("space"))
def up():
    global score
    score += 1
@on(picked("Ring"))
def ring():
    tell("rung")
@on(replied)
def named(text):
    oven.tell(text)
@on(clicked(oven))
def warm():
    win("warm")
@on(pressed("x"))
def stop():
    tell(1 / 0)
"""


class Playing(Browsed):
    def setUp(self) -> None:
        super().setUp()
        self.open("/exercises/1/play")
        self.one(".cm-content")
        self.one("p", "Choose “Play”")

    def write(self, script: str) -> None:
        """Puts a script in place of the one that stands there."""
        self.one(".cm-content").click()
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
        self.browser.execute_cdp_cmd("Input.insertText", {"text": script})

    def begin(self) -> None:
        """Plays the script as it stands."""
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(Keys.CONTROL).perform()
        self.one('[data-game="playing"]')

    def x_of(self, piece: str) -> float:
        """Where a piece stands on the screen."""
        return float(self.one(f'[data-piece="{piece}"]').rect["x"])

    def test_keys_go_to_the_game(self) -> None:
        self.write(GAME)
        self.begin()
        before = self.x_of("hob")
        ActionChains(self.browser).key_down(Keys.ARROW_RIGHT).pause(0.3).key_up(Keys.ARROW_RIGHT).perform()
        until(lambda: self.x_of("hob") > before + 10, "the hob does not move")
        self.press(" ")
        until(lambda: "1" in self.value("score"), "the score does not change")

    def test_choices_answers_and_clicks(self) -> None:
        self.write(GAME)
        self.begin()
        self.one("button", "Ring").click()
        self.one("ol li", "rung")
        self.one("[data-deeds] input").send_keys("Wren" + Keys.ENTER)
        self.one('[data-tells="oven"]', "Wren")
        self.one('[data-piece="oven"]').click()
        self.one("h2", "won")

    def test_a_stop_names_its_line_and_the_changed_script_can_be_played(self) -> None:
        self.write(GAME)
        self.begin()
        self.press("x")
        self.assertIn("stopped in line 20", self.one("[data-stopped]").text)
        self.assertTrue(self.one("[aria-label=Game] h2").text.endswith("stopped"))
        self.assertIn("tell(1 / 0)", self.one(".hob-suspect").text)
        self.write(GAME.replace("1 / 0", "1"))
        self.one("button", "Play the changed script").click()
        self.one('[data-game="playing"]')
        self.press("x")
        self.one("ol li", "1")

    def test_a_script_that_cannot_be_read_says_where(self) -> None:
        self.write("score = 0\nif score = 1:\n    pass")
        self.one("button", "Play").click()
        self.assertIn("Line 2", self.one("[role=alert]", "cannot be read yet").text)

    def test_what_was_played_is_seen_on_the_strip(self) -> None:
        self.write(GAME)
        self.begin()
        self.press(" ")
        until(lambda: "1" in self.value("score"), "the score does not change")
        self.one("button", "keep as a trial").click()
        self.one("a", "see it on the strip").click()
        self.one("[data-strip]")
        self.assertIn("space", self.one('[data-input="hold"]').text)
        self.press(Keys.END)
        self.assertIn("1", self.value("score"))

    def test_an_unsaved_script_survives_a_reload_and_can_be_dropped(self) -> None:
        self.write("score = 41")
        self.browser.refresh()
        until(lambda: "score = 41" in self.one(".cm-content").text, "the script is lost")
        self.one("button", "back to the script as it was").click()
        until(lambda: "What happens when" in self.one(".cm-content").text, "the starter is not back")

    def test_held_and_at_half_speed(self) -> None:
        self.write(GAME)
        self.begin()
        self.one('[aria-label="Hold"]').click()
        first = until(lambda: self.one("[data-scene]").get_attribute("data-scene"), "no frame")
        self.browser.execute_async_script("setTimeout(arguments[0], 300)")
        held = self.one("[data-scene]").get_attribute("data-scene")
        self.assertLessEqual(int(held or 0) - int(first or 0), 3)
        self.one('[aria-label="Speed ½"]').click()
        until(lambda: int(self.one("[data-scene]").get_attribute("data-scene") or 0) > int(held or 0) + 5, "it stands")

    def test_by_keyboard_and_readable(self) -> None:
        self.tab_to("[role=application]")
        self.begin()
        self.assertEqual(self.serious(), [])
