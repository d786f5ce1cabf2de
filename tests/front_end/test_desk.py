"""A game that is drawn while it is played, where one begins, what is said of a moment, the words of the language."""

import unittest
from typing import Any

from hobtrial.core.script import words_used
from tests.front_end.support import answers, call
from tests.support import ROOT

SCENE = {"pieces": [{"name": "hob", "kind": "hob", "zone": False}], "kinds": [{"kind": "bun"}]}
PLAYED = {"version": 1, "scene": SCENE, "variables": [{"name": "score", "meaning": "", "label": None}]}
BEGAN = {"say": "began", "source": "score = 0", "names": ["score"], "seed": 3}


def frame(number: int, **news: Any) -> dict[str, Any]:
    return {"say": "frame", "news": {"frame": number, **news}}


class Drawn(unittest.TestCase):
    def drawn(self, *said: dict[str, Any], base: dict[str, Any] | None = None) -> dict[str, Any]:
        game = {"answer": call("game", "hear", {"export": "EMPTY"}, fold=list(said)), "module": "game"}
        del game["module"]
        [trial] = answers(call("liveTrial", "liveTrial", {"answer": game["answer"]}, PLAYED, base))
        found: dict[str, Any] = trial
        return found

    def test_values_and_keys_are_drawn_as_they_come(self) -> None:
        down = {"index": 0, "kind": "hold", "frame": 2, "what": "right", "value": None, "up": 10**9, "until": None}
        said = [
            {**BEGAN, "news": {"frame": -1, "values": {"score": 0}, "outcome": "playing"}},
            frame(2, inputs=[down]),
            frame(5, values={"score": 1}),
            frame(6, values={"score": 1}),
        ]
        trial = self.drawn(*said)
        self.assertEqual(trial["samples"], {"score": [[0, 0], [5, 1]], "outcome": [[0, "playing"]]})
        self.assertEqual([(each["frame"], each["up"]) for each in trial["inputs"]], [(2, 7)])
        trial = self.drawn(*said, frame(9, inputs=[{**down, "up": 8}]))
        self.assertEqual([(each["frame"], each["up"]) for each in trial["inputs"]], [(2, 8)])

    def test_the_strip_grows_in_steps_so_that_it_does_not_slip(self) -> None:
        began = {**BEGAN, "news": {"frame": -1, "values": {}}}
        lasts = [self.drawn(began, frame(number))["last_frame"] for number in (0, 200, 290, 431)]
        self.assertEqual(lasts, [300, 300, 450, 600])

    def test_what_lies_before_a_moment_is_that_of_the_run_it_begins_in(self) -> None:
        base = {"frame": 50, "trial": {"samples": {"score": [[0, 0], [40, 1], [60, 2]]}}}
        trial = self.drawn(
            {**BEGAN, "news": {"frame": 50, "values": {"score": 1}}}, frame(70, values={"score": 9}), base=base
        )
        self.assertEqual(trial["samples"]["score"], [[0, 0], [40, 1], [50, 1], [70, 9]])


class Beginning(unittest.TestCase):
    def test_lines_that_are_put_in_place(self) -> None:
        hand = {"values": {"lives": " 1 ", "score": ""}, "more": "hob.x = 5; bun_1.x = 2\n", "luck": "", "seed": "7"}
        wish = {"scenario": 2, "frame": 30, "again": False}
        lines, message = answers(
            call("beginning", "linesOf", hand), call("beginning", "beginMessage", "x = 1", wish, hand)
        )
        self.assertEqual(lines, ["lives = 1", "hob.x = 5", "bun_1.x = 2"])
        self.assertEqual((message["put"], message["seed"], message["luck"], message["frame"]), (lines, 7, None, 30))
        [odd] = answers(call("beginning", "beginMessage", "", wish, {**hand, "seed": "seven", "luck": "highest"}))
        self.assertEqual((odd["seed"], odd["luck"]), (None, "highest"))

    def test_what_can_be_put_on_show(self) -> None:
        [found] = answers(call("beginning", "showable", SCENE, ["score", "speed"], ["score", "hob.x"]))
        self.assertEqual(found, ["speed", "hob.y", "count(bun)", "clock"])


class Saying(unittest.TestCase):
    def test_what_happened_is_a_sentence_that_can_be_heard(self) -> None:
        trial = {
            "unit": "frame",
            "overlaps": [{"pair": ["hob", "bun_5"], "first": 83, "last": 90, "handled": True}],
            "variables": [{"name": "score"}],
            "samples": {"score": [[0, 0], [83, 5]], "outcome": [[0, "playing"], [90, "won"]]},
            "trace": {"story": [{"frame": 90, "text": "Full"}], "stopped": None},
        }
        said = answers(*(call("saying", "saidAt", trial, at) for at in (83, 84, 90)))
        self.assertEqual(
            said,
            [
                "At 2.77 s hob met bun_5, score became 5. The game goes on.",
                "At 2.80 s. The game goes on.",
                "At 3.00 s “Full”. The game is won.",
            ],
        )


class Words(unittest.TestCase):
    def test_every_row_of_the_sheet_gives_words_with_a_meaning(self) -> None:
        text = (ROOT / "docs" / "script-sheet.md").read_text()
        read = call("sheet", "readSheet", text)
        [sheet, words] = answers(read, call("sheet", "wordsOf", {"answer": read}))
        self.assertEqual([part["title"] for part in sheet["parts"]], ["events", "asking", "doing", "Python"])
        found = {each["text"]: each["does"] for each in words}
        self.assertEqual(found["every(2)"], "every two seconds")
        self.assertEqual(found['released("a")'], "it comes up")
        bare = [each["text"] for each in words if not each["does"]]
        self.assertEqual(bare, sheet["parts"][3]["rows"][-1]["words"])  # the one row that says nothing more
        self.assertIn("@on(meets(hob, bun))", sheet["example"])

    def test_what_a_script_needs_of_the_sheet(self) -> None:
        read = call("sheet", "readSheet", (ROOT / "docs" / "script-sheet.md").read_text())
        used = list(words_used("n = 0\n@on(meets(hob, bun))\ndef f(b):\n    b.remove()\n    tell(f'{n}')\n"))
        [parts] = answers(read, call("sheet", "neededOf", {"answer": read}, used))[1:]
        words = {part["title"]: [word["text"] for word in part["words"]] for part in parts}
        self.assertEqual(words["events"], ["meets(a, b)"])
        self.assertEqual(words["doing"], ['tell("…")', "bun_1.remove()"])
        self.assertEqual(words["Python"], ["def", "=", 'f"{name} has {score}"'])
