"""A game by hand: what is new in each frame, and that what was played plays the same again."""

import unittest
from typing import Any

from hobtrial.core.exercise import Scenario
from hobtrial.core.judging import LiveGame, Start, names_for, open_exercise, read_shown
from hobtrial.core.reporting import replay
from hobtrial.core.words import UsageError

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
seed = 7
arrange = ["hob.x = 6"]
input = [{at = 0.1, hold = "right", for = 1}]
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
        self.game = LiveGame(self.prepared, self.prepared.reference, Start(seed=3))
        self.first = self.game.begin()

    def play(self, *frames: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [self.game.next(inputs) for inputs in frames]

    def test_it_begins_with_everything_and_then_tells_only_what_is_new(self) -> None:
        self.assertEqual(self.first["offers"], ["Ring"])
        self.assertEqual(self.first["values"], {"score": 0})
        self.assertEqual(self.first["pieces"]["bell"], ["bell", 20, 5, "bell", 1, 1, 0, None])
        news = self.play([], [down("right")], [])
        self.assertEqual(
            [set(each) for each in news], [{"frame"}, {"frame", "pieces", "inputs", "events"}, {"frame", "pieces"}]
        )
        self.assertEqual(news[1]["pieces"], {"hob": ["hob", 5.2, 1, "hob", 1, 1, 0, None]})
        self.assertEqual(
            [(each["index"], each["kind"], each["what"]) for each in news[1]["inputs"]], [(0, "hold", "right")]
        )

    def test_the_strip_hears_when_a_key_came_up_what_came_and_what_overlapped(self) -> None:
        news = self.play([down("right")], *[[]] * 8, [up("right"), down("z")], *[[]] * 2)
        ups = [each["up"] for one in news for each in one.get("inputs", ()) if each["index"] == 0]
        self.assertEqual(ups[-1], 9)
        events = [(each["event"]["text"], each["handlers"]) for one in news for each in one.get("events", ())]
        self.assertIn(('pressed("z")', []), events)
        overlaps = [(each["pair"], each["handled"]) for one in news for each in one.get("overlaps", ())]
        self.assertEqual(overlaps, [(["hob", "bun_1"], True)])

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
        files["exercise.toml"] = files["exercise.toml"].replace(b'arrange = ["hob.x = 6"]', b"")
        files["reference.py"] = b"score = int(input('First?'))\ntell(score)\nscore += int(input())\ntell(score)"
        prepared = open_exercise(files)
        game = LiveGame(prepared, prepared.reference, Start())
        self.assertEqual(game.begin()["questions"], [])
        news = [game.next(inputs) for inputs in ([], [], [did("answer", "2")], [], [did("answer", "5")])]
        self.assertEqual(news[0]["questions"], ["First?"])
        self.assertEqual((news[2]["story"][0]["text"], news[4]["story"][0]["text"]), ("2", "7"))
        scenario = Scenario.model_validate(game.as_scenario("Played by hand"))
        trace = prepared.play(prepared.reference, prepared.scenario_of(scenario), record=True)
        self.assertEqual(
            [(line.frame, line.text) for line in trace.story if line.text != "First?"], [(2, "2"), (4, "7")]
        )


class Beginnings(unittest.TestCase):
    """From a scenario's beginning, from a moment, with things put in place: always the state that a trial has there."""

    def setUp(self) -> None:
        self.prepared = open_exercise(EXERCISE)

    def game(self, start: Start, before: LiveGame | None = None, shown: tuple[str, ...] = ()) -> LiveGame:
        names = names_for(self.prepared, None)
        return LiveGame(self.prepared, self.prepared.reference, start, before=before, shown=read_shown(shown, names))

    def x(self, game: LiveGame) -> float:
        return float(game._run.state.scene.by_name["hob"].x)

    def test_a_scenario_s_beginning_has_what_it_puts_in_place_and_its_seed(self) -> None:
        game = self.game(Start(scenario=0))
        game.begin()
        self.assertEqual((self.x(game), game.plan.seed), (6, 7))
        game.next([])
        self.assertEqual(self.x(game), 6)  # its inputs are the player's now

    def test_a_moment_of_a_scenario_has_the_state_of_its_trial_there(self) -> None:
        trace = self.prepared.play(self.prepared.reference, self.prepared.scenarios[0], record=True)
        game = self.game(Start(scenario=0, frame=8))
        news = game.begin()
        at_8 = [value for frame, value in trace.pieces["hob"]["x"] if frame <= 8][-1]
        self.assertEqual((news["frame"], self.x(game), news["values"]), (8, at_8, {"score": 1}))
        self.assertEqual([(each["kind"], each["frame"]) for each in news["inputs"]], [("hold", 3)])
        game.next([])
        self.assertEqual(self.x(game), at_8)  # nobody holds the key any more

    def test_a_moment_of_the_game_before_again_and_again(self) -> None:
        first = self.game(Start())
        first.begin()
        for frame in range(12):
            first.next([down("right")] if frame == 2 else [])
        again = self.game(Start(again=True, frame=5, put=("score = 4",)), before=first)
        news = again.begin()
        self.assertEqual((news["frame"], self.x(again), news["values"]), (5, 5.8, {"score": 4}))
        third = self.game(Start(again=True, frame=7), before=again)
        self.assertEqual(third.begin()["values"], {"score": 4})  # what was put in place on the way is there, too

    def test_what_was_put_in_place_is_kept_with_the_game_and_plays_the_same_again(self) -> None:
        game = self.game(Start(scenario=0, put=("score = 3", "hob.x = 5")))
        game.begin()
        for frame in range(14):
            game.next([down("right")] if frame == 0 else [])
        self.assertEqual(game.put, [(-1, "score = 3"), (-1, "hob.x = 5")])
        self.assertEqual(game.as_scenario("x")["arrange"], ["hob.x = 6"])
        scenario = self.prepared.scenario_of(Scenario.model_validate(game.as_scenario("x")))
        source = EXERCISE["reference.py"].decode()
        trial = replay(self.prepared, source, scenario, put=game.put, shown=["hob.x", "draught"], beside=False)
        self.assertEqual(trial["samples"]["score"][-1][1], 4)
        self.assertEqual(trial["samples"]["hob.x"][-1][1], self.x(game))
        self.assertEqual([each["name"] for each in trial["variables"]], ["score", "hob.x", "draught"])
        self.assertEqual((trial["reference"], trial["parting"], trial["toml"]), (None, None, ""))

    def test_luck_and_seed_by_hand_go_before_those_of_the_scenario(self) -> None:
        game = self.game(Start(scenario=0, seed=9, luck=(3, 1)))
        self.assertEqual((game.plan.seed, game.plan.luck, game.as_scenario("x")["luck"]), (9, (3, 1), [3, 1]))

    def test_anything_of_the_script_and_the_scene_can_be_shown_and_goes_again(self) -> None:
        game = self.game(Start(), shown=("hob.x", "count(bun)"))
        self.assertEqual(game.begin()["values"], {"score": 0, "hob.x": 5, "count(bun)": 1})
        game.show(read_shown(["draught"], names_for(self.prepared, None)))
        self.assertEqual(game.next([])["values"], {"score": 0, "draught": 0})

    def test_what_cannot_be_put_or_shown_is_said_in_words(self) -> None:
        for line in ("nobody = 1", "score", "hob.name = 'x'", "score = open('x')", "win = 3"):
            with self.subTest(line), self.assertRaisesRegex(UsageError, "cannot be put in place. Write one of your"):
                self.game(Start(put=(line,)))
        for name in ("nobody", "hob", "score + 1", "hob.__class__", "open"):
            with self.subTest(name), self.assertRaisesRegex(UsageError, "is not something to show"):
                self.game(Start(), shown=(name,))
        with self.assertRaisesRegex(UsageError, "At most 8"):
            self.game(
                Start(),
                shown=tuple(f"{name}.{what}" for name in ("hob", "bell", "bun_1") for what in ("x", "y", "size")),
            )
