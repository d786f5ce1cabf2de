"""Playing by hand: keys, clicks, choices, a stop, the change of a script, and the game on the strip."""

from selenium.webdriver import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

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
        self.one("[data-play]")

    def write(self, script: str) -> None:
        """Puts a script in place of the one that stands there."""
        self.one(".cm-content").click()
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
        self.browser.execute_cdp_cmd("Input.insertText", {"text": script})

    def begin(self) -> None:
        """Plays the script as it stands."""
        keys = ActionChains(self.browser).key_down(Keys.CONTROL).key_down(Keys.SHIFT).send_keys(Keys.ENTER)
        keys.key_up(Keys.SHIFT).key_up(Keys.CONTROL).perform()
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
        self.one('[data-value="outcome"]', "won")

    def test_a_stop_names_its_line_and_the_changed_script_can_be_played(self) -> None:
        self.write(GAME)
        self.begin()
        self.press("x")
        told = self.one("[data-stopped]").text
        self.assertIn("Line 20 divides by zero.", told)
        self.assertLess(told.index("divides by zero"), told.index("ZeroDivisionError"))  # plain words first
        self.assertIn("tell(1 / 0)", self.one(".hob-suspect").text)
        self.write(GAME.replace("1 / 0", "1"))
        self.one("[data-play]", "Again").click()
        self.one('[data-game="playing"]')
        self.press("x")
        self.one("ol li", "1")

    def test_a_script_that_cannot_be_read_says_where(self) -> None:
        self.write("score = 0\nif score = 1:\n    pass")
        self.one(".hob-seen", "==")  # at its line, while it is written
        self.one("[data-play]").click()
        self.assertIn("Line 2", self.one("[role=alert]", "cannot be read yet").text)

    def test_what_was_played_is_seen_on_the_strip(self) -> None:
        self.write(GAME)
        self.begin()
        self.press(" ")
        until(lambda: "1" in self.value("score"), "the score does not change")
        self.one("button", "keep this game as a trial").click()
        self.one("a", "see it beside the reference").click()
        self.one("[data-lane=score] [data-line]")
        self.assertIn("space", self.one('[data-input="hold"]').text)
        self.press(Keys.END)
        self.assertIn("1", self.value("score"))

    def test_an_unsaved_script_survives_a_reload_and_can_be_dropped(self) -> None:
        self.write("score = 41")
        self.browser.refresh()
        until(lambda: "score = 41" in self.one(".cm-content").text, "the script is lost")
        Select(self.one("[aria-label='Get back …']")).select_by_visible_text("the script as it was")
        until(lambda: "What happens when" in self.one(".cm-content").text, "the starter is not back")

    def test_held_and_at_half_speed(self) -> None:
        self.write(GAME)
        self.begin()
        self.press(" ")
        until(lambda: "1" in self.value("score"), "the score does not change")
        self.one('[aria-label="Speed ½"]').click()
        self.one("[data-hold]").click()
        self.one('h2[data-showing="game"]', "By hand")
        held = int(self.one("[data-looked]").get_attribute("data-looked") or 0)
        self.one("[data-go-on]").click()
        until(lambda: int(self.one("[data-scene]").get_attribute("data-scene") or 0) > held + 5, "it stands")

    def test_by_keyboard_and_readable(self) -> None:
        self.tab_to("[role=application]")
        self.begin()
        self.assertEqual(self.serious(), [])

    def test_a_held_game_is_a_trial_and_goes_on_from_any_moment_of_it(self) -> None:
        self.write(GAME)
        self.begin()
        for _ in range(2):
            self.press(" ")
            self.browser.execute_async_script("setTimeout(arguments[0], 200)")
        until(lambda: "2" in self.value("score"), "the score does not change")
        self.one("[data-hold]").click()
        self.one("[data-looked]")
        self.assertEqual(len(self.all('[data-input="hold"]')), 2)
        self.one("[data-cursor]").click()
        self.press(Keys.HOME)
        self.with_shift(Keys.ARROW_RIGHT)
        self.assertIn("1", self.value("score"))
        self.assertIn("score became 1", self.one("[data-said]").get_attribute("textContent") or "")
        self.assertGreater(len(self.all(".hob-running")), 0)
        self.one("[data-from-here]").click()
        self.one('[data-game="playing"]')
        until(lambda: "1" in self.value("score"), "it does not begin there")
        self.assertEqual(len(self.all("[data-lane=score] [data-line]")), 1)

    def test_anything_is_put_in_place_and_on_show_and_goes_again(self) -> None:
        self.write(GAME)
        self.one("[data-by-hand] summary").click()
        fields = self.all("[data-by-hand] input")
        fields[0].send_keys("4")
        self.one("[data-play]").click()
        until(lambda: "4" in self.value("score"), "nothing was put in place")
        show = self.one("[data-on-show] input")
        show.send_keys("hob.x" + Keys.ENTER)
        self.one('[data-lane="hob.x"]')
        show.send_keys("nonsense + 1" + Keys.ENTER)
        self.assertIn("is not something to show", self.one("[data-on-show] [role=alert]").text)
        self.one("button[title='take hob.x off show']").click()
        until(lambda: not self.all('[data-lane="hob.x"]'), "it stays")

    def test_a_teacher_checks_and_sees_every_scenario_beside_the_reference(self) -> None:
        self.write("score = 0\n@on(meets(hob, bun))\ndef f(which):\n    global score\n    score += 1\n")
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(Keys.CONTROL).perform()
        self.one("[data-row] [data-small]")
        self.assertEqual(len(self.all("[data-row]")), 7)  # the hidden one, too
        self.one("[data-lane=outcome]", "reference")
        until(lambda: self.all("[data-finding]"), "nothing was found", seconds=40)
