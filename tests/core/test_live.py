"""A game by hand: what is new in each frame, and that what was played plays the same again."""

import unittest
from typing import Any

from hobtrial.core.exercise import Scenario
from hobtrial.core.judging import LiveGame, open_exercise

EXERCISE = {
    "exercise.toml": b"""
format = 1
title = "By hand"
[scene]
[[scene.piece]]
name = "hob"
at = [5, 1]
motion = {steered = {speed = 6}}
[[scene.piece]]
name = "bell"
at = [20, 5]
[[scene.piece]]
name = "bun_1"
kind = "bun"
at = [7, 1]
[[fact]]
name = "draught"
start = 0
range = [0, 9]
[[variable]]
name = "score"
[[scenario]]
name = "One"
""",
    "reference.py": b"""
score = 0
offer("Ring")
question("Name?")
@on(meets(hob, bun))
def shelve(which):
    global score
    score += 1
    which.remove()
    board("Buns", score)
@on(clicked(bell))
def ring():
    tell("ding")
    sound("ding")
@on(picked("Ring"))
def rung():
    win("rung")
@on(replied)
def named(text):
    bell.tell(text)
@on(pressed("x"))
def wrong():
    tell(1 / draught)
""",
}


def down(key: str) -> dict[str, Any]:
    return {"do": "down", "key": key}


def up(key: str) -> dict[str, Any]:
    return {"do": "up", "key": key}


def did(kind: str, what: str = "", value: Any = None) -> dict[str, Any]:
    return {"do": kind, "what": what, "value": value}


class Games(unittest.TestCase):
    def setUp(self) -> None:
        self.prepared = open_exercise(EXERCISE)
        self.game = LiveGame(self.prepared, self.prepared.reference, seed=3)
        self.first = self.game.begin()

    def play(self, *frames: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [self.game.next(inputs) for inputs in frames]

    def test_it_begins_with_everything_and_then_tells_only_what_is_new(self) -> None:
        self.assertEqual(self.first["offers"], ["Ring"])
        self.assertEqual(self.first["values"], {"score": 0})
        self.assertEqual(self.first["pieces"]["bell"], ["bell", 20, 5, "bell", 1, 1, 0, None])
        self.assertEqual(
            self.play([], [down("right")]),
            [{"frame": 0}, {"frame": 1, "pieces": {"hob": ["hob", 5.2, 1, "hob", 1, 1, 0, None]}}],
        )

    def test_keys_clicks_choices_answers_and_dials(self) -> None:
        news = self.play(
            [did("click", value=[20.2, 5.1])],
            [did("answer", "Wren")],
            [did("set", "draught", 4)],
            [did("pick", "Ring")],
        )
        self.assertEqual((news[0]["story"][0]["text"], news[0]["sounds"]), ("ding", ["ding"]))
        self.assertEqual((news[1]["story"][0]["who"], news[1]["questions"]), ("bell", []))
        self.assertEqual(news[2]["facts"], {"draught": 4})
        self.assertEqual((news[3]["outcome"], news[3]["offers"]), ("won", []))

    def test_a_removed_piece_is_gone_and_the_board_shows(self) -> None:
        news = self.play([down("right")], *[[]] * 8)
        met = next(each for each in news if "board" in each)
        self.assertEqual((met["pieces"]["bun_1"], met["values"]), (None, {"score": 1}))

    def test_a_tap_within_one_frame_is_down_for_that_frame(self) -> None:
        self.play([down("right"), up("right")], [], [])
        self.assertEqual([(each.frame, each.up) for each in self.game.played], [(0, 1)])
        self.assertEqual(self.game.as_scenario("x")["input"], [{"at": 0.0, "hold": "right", "for": 0.033333}])

    def test_a_stop_says_its_line_and_nothing_goes_on(self) -> None:
        news = self.play([down("x")], [down("right")])
        self.assertEqual((news[0]["stopped"]["line"], news[0]["over"]), (23, True))
        self.assertNotIn("pieces", news[1])

    def test_what_was_played_plays_the_same_again(self) -> None:
        self.play(
            [down("right")],
            [],
            [down("up"), up("right")],
            [up("up"), down("right")],
            [did("click", "bell")],
            *[[]] * 6,
            [did("pick", "Ring")],
            [did("answer", "Wren"), up("right")],
            [],
            [],
        )
        scenario = Scenario.model_validate(self.game.as_scenario("Played by hand"))
        trace = self.prepared.play(self.prepared.reference, self.prepared.scenario_of(scenario), record=True)
        self.assertEqual([(line.frame, line.text) for line in trace.story], [(4, "ding"), (11, "rung"), (12, "Wren")])
        body = self.game._run.state.scene.by_name["hob"]
        self.assertEqual((trace.pieces["hob"]["x"][-1][1], trace.pieces["hob"]["y"][-1][1]), (body.x, body.y))
        self.assertEqual(trace.last_frame, self.game._run.frame)

    def test_what_no_exercise_could_ask_for_is_not_played(self) -> None:
        nonsense = [
            did("set", "win", 3), did("set", "__b", 3), did("set", "draught", 99), did("set", "draught", "x"),
            did("set", "draught", None), did("set", "draught", True), did("click", value="ab"), did("click", "nobody"),
            did("click"), did("pick", " "), did("type", ""), did("dance", "x"),
        ]  # fmt: skip
        news = self.game.next(nonsense)
        self.assertEqual((self.game.played, news), ([], {"frame": 0}))

    def test_a_straight_script_waits_for_answers_and_plays_the_same_again(self) -> None:
        files = dict(EXERCISE)
        files["exercise.toml"] = files["exercise.toml"].replace(b"[scene]", b'style = "straight"\n[scene]', 1)
        files["reference.py"] = b"score = int(input('First?'))\ntell(score)\nscore += int(input())\ntell(score)"
        prepared = open_exercise(files)
        game = LiveGame(prepared, prepared.reference, seed=1)
        self.assertEqual(game.begin()["questions"], [])
        news = [game.next(inputs) for inputs in ([], [], [did("answer", "2")], [], [did("answer", "5")])]
        self.assertEqual(news[0]["questions"], ["First?"])
        self.assertEqual((news[2]["story"][0]["text"], news[4]["story"][0]["text"]), ("2", "7"))
        scenario = Scenario.model_validate(game.as_scenario("Played by hand"))
        trace = prepared.play(prepared.reference, prepared.scenario_of(scenario), record=True)
        self.assertEqual(
            [(line.frame, line.text) for line in trace.story if line.text != "First?"], [(2, "2"), (4, "7")]
        )
