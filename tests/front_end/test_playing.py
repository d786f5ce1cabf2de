"""The cursor of a trial, the game by hand and the order of a round: what each answers to its actions."""

import unittest
from typing import Any

from tests.front_end.support import answers, call

LOAD = {"do": "load", "last": 90, "frame": 3, "rate": 30}


class Playhead(unittest.TestCase):
    CASES: tuple[tuple[str, list[dict[str, Any]], int, bool], ...] = (
        ("opens where it is told", [LOAD], 3, False),
        ("opens within the trial", [{**LOAD, "frame": 400}], 90, False),
        ("steps back to the beginning and not before it", [LOAD, {"do": "step", "by": -5}], 0, False),
        ("goes where it is sent", [LOAD, {"do": "seek", "frame": 41.6}], 42, False),
        (
            "follows the clock, not the number of ticks",
            [LOAD, {"do": "toggle", "now": 1000}, {"do": "tick", "now": 1500}, {"do": "tick", "now": 2000}],
            33,
            True,
        ),
        (
            "half the speed, half as far",
            [LOAD, {"do": "speed", "speed": 0.5, "now": 0}, {"do": "toggle", "now": 0}, {"do": "tick", "now": 1000}],
            18,
            True,
        ),
        (
            "another speed goes on from where it is",
            [
                LOAD,
                {"do": "toggle", "now": 0},
                {"do": "tick", "now": 1000},
                {"do": "speed", "speed": 2, "now": 1000},
                {"do": "tick", "now": 1500},
            ],
            63,
            True,
        ),
        ("stands at the end", [LOAD, {"do": "toggle", "now": 0}, {"do": "tick", "now": 60_000}], 90, False),
        (
            "plays from the beginning after the end",
            [{**LOAD, "frame": 90}, {"do": "toggle", "now": 0}, {"do": "tick", "now": 100}],
            3,
            True,
        ),
        ("a seek ends the playing", [LOAD, {"do": "toggle", "now": 0}, {"do": "seek", "frame": 7}], 7, False),
        (
            "steps of a straight script go at their own rate",
            [{**LOAD, "frame": 0, "rate": 2}, {"do": "toggle", "now": 0}, {"do": "tick", "now": 2600}],
            5,
            True,
        ),
    )

    def test_where_it_is_and_whether_it_plays(self) -> None:
        found = answers(*(call("playhead", "reduce", {"export": "STILL"}, fold=case[1]) for case in self.CASES))
        for (words, _, frame, plays), head in zip(self.CASES, found, strict=True):
            with self.subTest(words):
                self.assertEqual((head["frame"], head["playing"] is not None), (frame, plays))


HOB = ["hob", 5, 1, "usual", 1, 1, 1, None]
BEGAN = {
    "say": "began",
    "source": "score = 0",
    "news": {"frame": 0, "pieces": {"hob": HOB}, "values": {"score": 0}, "offers": ["Ring"]},
}


class Game(unittest.TestCase):
    def heard(self, *said: dict[str, Any]) -> dict[str, Any]:
        [game] = answers(call("game", "hear", {"export": "EMPTY"}, fold=[{"say": "joined"}, *said]))
        found: dict[str, Any] = game
        return found

    def test_it_begins_with_what_the_server_says(self) -> None:
        game = self.heard(BEGAN)
        self.assertEqual((game["status"], game["source"], game["values"]), ("playing", "score = 0", {"score": 0}))
        self.assertEqual(game["pieces"]["hob"]["x"], 5)
        self.assertEqual(game["moment"]["offers"], ["Ring"])

    def test_what_a_frame_does_not_mention_stays(self) -> None:
        game = self.heard(BEGAN, {"say": "frame", "news": {"frame": 1, "values": {"score": 1}}})
        self.assertEqual((game["values"], game["moment"]["offers"]), ({"score": 1}, ["Ring"]))
        self.assertEqual([each["name"] for each in game["moment"]["pieces"]], ["hob"])

    def test_a_piece_that_went_is_gone(self) -> None:
        game = self.heard(BEGAN, {"say": "frame", "news": {"frame": 1, "pieces": {"hob": None}}})
        self.assertEqual((game["pieces"], game["moment"]["pieces"]), ({}, []))

    def test_what_a_piece_tells_stands_beside_it_for_two_seconds(self) -> None:
        told = {"frame": 10, "who": "oven", "text": "Hot!", "line": 3}
        said = [BEGAN, {"say": "frame", "news": {"frame": 10, "story": [told]}}]
        for frame, telling in ((69, ["Hot!"]), (70, [])):
            game = self.heard(*said, {"say": "frame", "news": {"frame": frame}})
            self.assertEqual([each["text"] for each in game["moment"]["telling"]], telling)
            self.assertEqual([each["text"] for each in game["story"]], ["Hot!"])

    def test_how_it_ends(self) -> None:
        over = {"say": "frame", "news": {"frame": 9, "over": True, "outcome": "won"}}
        self.assertEqual(self.heard(BEGAN, over)["status"], "over")
        self.assertEqual(self.heard(BEGAN, over, {"say": "frame", "news": {"frame": 10}})["status"], "over")
        self.assertEqual(self.heard(BEGAN, {"say": "left"})["status"], "ended")
        ended = self.heard(BEGAN, {"say": "ended", "why": "Too long."}, {"say": "left"})
        self.assertEqual((ended["status"], ended["why"]), ("ended", "Too long."))

    def test_a_script_that_cannot_be_read_has_its_problems_and_no_game(self) -> None:
        problem = {"line": 2, "what": "Here stands one equals sign."}
        game = self.heard(BEGAN, {"say": "unread", "problems": [problem]})
        self.assertEqual((game["status"], game["problems"], game["pieces"]), ("unread", [problem], {}))

    def test_a_kept_game_goes_on_under_its_number(self) -> None:
        game = self.heard(BEGAN, {"say": "kept", "id": 7})
        self.assertEqual((game["status"], game["kept"]), ("playing", 7))


class Order(unittest.TestCase):
    ROWS = tuple(
        {"student": student, "marks": marks}
        for student, marks in (("Wren", 4), ("Alder", None), ("Sedge", 0), ("Fern", 4))
    )

    def test_the_worst_first_and_who_waits_last(self) -> None:
        worst, name = answers(call("order", "sorted", self.ROWS, "worst"), call("order", "sorted", self.ROWS, "name"))
        self.assertEqual([each["student"] for each in worst], ["Sedge", "Fern", "Wren", "Alder"])
        self.assertEqual([each["student"] for each in name], ["Alder", "Fern", "Sedge", "Wren"])


class Words(unittest.TestCase):
    CASES = (
        (call("values", "clock", 83), "2.77 s"),
        (call("values", "clock", -1), "reading"),
        (call("values", "clock", 3, "step"), "step 3"),
        (call("values", "clock", 0, "step"), "the beginning"),
        (call("values", "show", True), "True"),
        (call("values", "show", None), "None"),
        (call("values", "show", 0.1 + 0.2), "0.3"),
        (call("values", "show", {"unset": True}), "unset"),
        (call("values", "show", [1, "a"]), '[1,"a"]'),
        (call("values", "shorten", "a good loaf", 6), "a goo…"),
        (call("values", "shorten", "a loaf", 6), "a loaf"),
        (call("values", "sentence", "the run parts here"), "The run parts here."),
        (call("values", "valueAt", [[0, 1], [5, 2]], 4), 1),
        (call("values", "valueAt", [[0, 1], [5, 2]], 5), 2),
        (call("values", "valueAt", [[3, 1]], 2), {"unset": True}),
        (call("values", "same", 1, "1"), False),
        (call("values", "count", 1, "step"), "1 step"),
        (call("values", "count", 2, "try", "tries"), "2 tries"),
    )

    def test_values_and_times_in_a_few_characters(self) -> None:
        for (asked, expected), found in zip(self.CASES, answers(*(asked for asked, _ in self.CASES)), strict=True):
            with self.subTest(asked["name"], args=asked["args"]):
                self.assertEqual(found, expected)
