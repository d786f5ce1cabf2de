"""Checks: held, broken or not reached, with the frame and the values of every part."""

import unittest
from typing import Any

from hobtrial.core.exercise import Check
from hobtrial.core.judging import ExpectationError, Surroundings, judge, read_expectation
from hobtrial.core.judging.checks import read_check
from hobtrial.core.judging.names import read_arrangement
from hobtrial.core.script import Script
from hobtrial.core.trial import Trace, held_key, pressed_key
from hobtrial.core.words import UNSET
from tests.support import bakehouse, bun, run, scene

NAMES = Surroundings(frozenset({"score", "lives", "name"}), frozenset({"hob", "bun_1", "bun_2"}), frozenset({"bun"}))
SPEC = scene(bun("bun_1", 8), bun("bun_2", 11))
GAME = """
    score = 0
    board("Buns", "0")

    @on(meets(hob, bun))
    def shelve(which):
        global score
        score += 1
        board("Buns", f"{score}")
        which.remove()
        tell("A bun for the   shelf")
        if score == 2:
            win()

    @on(pressed("q"))
    def stop():
        x = 1 / 0
"""
WALK = held_key("right", 0, 2)


def verdict(check: dict[str, Any], *inputs: Any, script: str = GAME, frames: int = 60) -> tuple[Any, ...]:
    """Verdict, frame, values and reason of one check."""
    asked = read_check(Check.model_validate(check), NAMES)
    each = {asked.event: asked.about} if asked.kind == "each" and asked.event is not None else {}

    def played(text: str) -> Trace:
        given = inputs or (WALK,)
        return run(text, SPEC, given, frames=frames, observe=asked.needs, each=each, record=False)

    found = judge(asked, played(script), lambda: played(GAME))
    return found.verdict, found.frame, dict(found.values), found.reason


class Kinds(unittest.TestCase):
    # the hob is at 5, 0.2 squares a frame: it meets the buns in frames 10 and 25
    def test_at(self) -> None:
        self.assertEqual(verdict({"at": 0.5, "expect": "score == 1"}), ("held", 15, {"score": 1}, None))
        self.assertEqual(verdict({"at": 0.5, "expect": "score == 2"}), ("broken", 15, {"score": 1}, None))

    def test_by(self) -> None:
        self.assertEqual(verdict({"by": 1, "expect": "score == 2"}), ("held", 25, {"score": 2}, None))
        self.assertEqual(verdict({"by": 0.5, "expect": "score == 2"}), ("broken", 15, {"score": 1}, None))
        self.assertEqual(verdict({"by": 1, "from": 0.9, "expect": "score == 1"}), ("broken", 30, {"score": 2}, None))

    def test_always(self) -> None:
        self.assertEqual(verdict({"always": True, "expect": "score <= 2"}), ("held", None, {}, None))
        self.assertEqual(verdict({"always": True, "expect": "score < 2"}), ("broken", 25, {"score": 2}, None))
        self.assertEqual(verdict({"always": True, "until": 0.8, "expect": "score < 2"}), ("held", None, {}, None))

    def test_never(self) -> None:
        self.assertEqual(verdict({"never": True, "expect": "outcome == 'lost'"}), ("held", None, {}, None))
        self.assertEqual(
            verdict({"never": True, "expect": "outcome == 'won' and score == 2"}),
            ("broken", 25, {"outcome": "won", "score": 2}, None),
        )

    def test_end(self) -> None:
        self.assertEqual(verdict({"end": True, "expect": "outcome == 'won'"}), ("held", 60, {"outcome": "won"}, None))

    def test_what_a_stop_settles_and_what_it_does_not(self) -> None:
        stop = pressed_key("q", 0.5)
        self.assertEqual(verdict({"at": 0.4, "expect": "score == 1"}, WALK, stop)[0], "held")
        self.assertEqual(
            verdict({"at": 0.5, "expect": "score == 1"}, WALK, stop)[::3], ("not reached", "the script stopped before")
        )
        self.assertEqual(verdict({"by": 1, "expect": "score == 1"}, WALK, stop)[0], "held")
        self.assertEqual(verdict({"by": 1, "expect": "score == 2"}, WALK, stop)[0], "not reached")
        self.assertEqual(verdict({"always": True, "expect": "score < 1"}, WALK, stop)[0], "broken")
        self.assertEqual(verdict({"never": True, "expect": "score == 2"}, WALK, stop)[0], "not reached")
        self.assertEqual(verdict({"end": True, "expect": "score == 1"}, WALK, stop)[0], "not reached")


class Expressions(unittest.TestCase):
    def held(self, expect: str, script: str = GAME) -> bool:
        return bool(verdict({"end": True, "expect": expect}, script=script)[0] == "held")

    def test_what_can_be_observed(self) -> None:
        for expect in (
            "score == 2", "hob.x == 17", "bun_1.removed", "not hob.removed", "count(bun) == 0", "board('Buns') == 2",
            "board('Buns') == '2'", "board('Buns') > 1", "told('a bun FOR the shelf')", "times(told('shelf')) == 2",
            "times(meets(hob, bun)) == 2", "times(meets(bun, hob)) == 2", "clock == 2", "near(hob.x, 16.9, 0.2)", "abs(-score) == 2",
            "1 < score < 3", "score in [1, 2]", "score + 1 == 3 and not score == 3", "min(score, 5) == 2",
        ):  # fmt: skip
            with self.subTest(expect):
                self.assertTrue(self.held(expect))

    def test_a_piece_has_variables_of_its_own(self) -> None:
        self.assertTrue(self.held("hob.lives == 3", "hob.lives = 3"))

    def test_a_value_that_makes_no_sense_is_the_reason(self) -> None:
        reasons = {
            "lives == 3": "`lives` has no value",
            "board('Lives') == 3": '`board("Lives")` is not on the scoreboard',
            "hob.lives > 1": "`hob.lives` has no value",
            "1 / (score - 2) > 0": "it divides by zero",
        }
        for expect, reason in reasons.items():
            self.assertEqual(verdict({"end": True, "expect": expect})[::3], ("broken", reason))
        self.assertEqual(
            verdict({"end": True, "expect": "name < score"}, script="name = 'x'\nscore = 1")[::3],
            ("broken", "it compares a number with a text"),
        )
        self.assertEqual(verdict({"never": True, "expect": "lives < 0"})[::3], ("broken", "`lives` has no value"))

    def test_what_is_turned_down(self) -> None:
        for expect, words in {
            "score = 3": "cannot be read",
            "scoer == 3": "`scoer`, which is not a variable",
            "hob == 3": "uses `hob` by itself",
            "count(hob) == 1": "counts `hob`, which is not a kind",
            "open('x')": "calls `open`",
            "score.real": "of something that is not a piece",
            "hob.__class__": "is not a property",
            "[x for x in [1]]": "which a check cannot",
            "2 ** 9999": "which a check cannot",
            "'x' * 10": "calculates with a text",
            "(lambda: 1)()": "calls something",
            "times(meets(hob, sack)) == 1": "`sack`, which is not in the scene",
            "times(pressed('spcae')) == 1": "`pressed` takes the name of a key in quotes",
            "times(every()) == 1": "`every` takes one value",
            "times(after(-1)) == 1": "from 0 to 1,000,000",
            "times(clicked(sack)) == 1": "`sack`, which is not in the scene",
            "x" * 600: "is longer than",
        }.items():
            with self.subTest(expect[:30]), self.assertRaises(ExpectationError) as caught:
                read_expectation(expect, NAMES)
            self.assertIn(words, str(caught.exception))

    def test_arranging(self) -> None:
        self.assertEqual(read_arrangement("hob.x = 5", NAMES).value, 5)
        self.assertEqual(read_arrangement("score = -1", NAMES).owner, None)
        for line in ("score", "hob = 3", "sack.x = 1", "score = hob", "nothing = 1", "hob.name = 'x'", "score == 3"):
            with self.subTest(line), self.assertRaises(ExpectationError):
                read_arrangement(line, NAMES)


class Moments(unittest.TestCase):
    """Checks that hang on events, on what was before, or on the reference's run."""

    def test_after_counts_from_the_nth_time_that_an_event_came(self) -> None:
        after = {"after": "meets(hob, bun)", "expect": "score == 1"}
        self.assertEqual(verdict(after), ("held", 10, {"score": 1}, None))
        self.assertEqual(verdict({**after, "nth": 2}), ("broken", 25, {"score": 2}, None))
        self.assertEqual(verdict({**after, "later": 0.5}), ("broken", 25, {"score": 2}, None))
        self.assertEqual(verdict({**after, "nth": 3}), ("not reached", None, {}, "meets(hob, bun) came 2 times"))
        self.assertEqual(verdict({**after, "later": 3}), ("not reached", None, {}, "the trial ended before"))
        never = {"after": 'pressed("q")', "expect": "score == 1"}
        self.assertEqual(verdict(never), ("not reached", None, {}, 'pressed("q") never came'))

    def test_each_looks_when_the_events_own_handlers_have_ended(self) -> None:
        grows = {"each": "meets(hob, bun)", "expect": "score == was(score) + 1"}
        self.assertEqual(verdict(grows), ("held", None, {}, None))
        twice = GAME.replace("score += 1", "score += 1 + (score == 1)")
        self.assertEqual(
            verdict(grows, script=twice),
            ("broken", 25, {"score": 3, "was(score)": 1}, "the 2nd time that meets(hob, bun) came"),
        )

    def test_each_includes_the_messages_that_its_handlers_send(self) -> None:
        script = (
            GAME.replace("score += 1", 'send("one more")')
            + """
    @on(heard("one more"))
    def more():
        global score
        score += 1
"""
        )
        self.assertEqual(
            verdict({"each": "meets(hob, bun)", "expect": "score == was(score) + 1"}, script=script)[0], "held"
        )

    def test_each_gives_a_script_so_many_frames(self) -> None:
        script = GAME.replace("score += 1", "wait(0.1)\n        score += 1")
        grows = {"each": "meets(hob, bun)", "expect": "score > was(score)"}
        self.assertEqual(verdict(grows, script=script)[:2], ("broken", 10))
        self.assertEqual(verdict({**grows, "within": 3}, script=script)[0], "held")

    def test_was_is_a_frame_ago_and_first_before_anything_was_arranged(self) -> None:
        self.assertEqual(verdict({"never": True, "expect": "score < was(score)"})[0], "held")
        self.assertEqual(verdict({"at": 25 / 30, "expect": "score == was(score) + 1"})[0], "held")
        self.assertEqual(verdict({"end": True, "expect": "score == first(score)"})[2], {"score": 2, "first(score)": 0})

    def test_same_as_in_the_reference(self) -> None:
        same = {"same": ["score", "outcome"]}
        self.assertEqual(verdict(same), ("held", None, {}, None))
        late = GAME.replace("score += 1", "wait(0.1)\n        score += 1")
        self.assertEqual(verdict(same, script=late)[0], "held")
        self.assertEqual(verdict({**same, "within": 2}, script=late)[:2], ("broken", 10))
        wrong = GAME.replace("score += 1", "score += 2")
        self.assertEqual(
            verdict(same, script=wrong),
            ("broken", 10, {"score": 2, "reference": 1}, "`score` does not change as in the reference"),
        )

    def test_unchanged(self) -> None:
        still = {"unchanged": ["score"], "from": 0.4, "until": 0.8}
        self.assertEqual(verdict(still), ("held", None, {}, None))
        self.assertEqual(
            verdict({**still, "until": 1}), ("broken", 25, {"was(score)": 1, "score": 2}, "`score` changed")
        )

    def test_only_if(self) -> None:
        check = {"end": True, "expect": "score == 0"}
        self.assertEqual(
            verdict({**check, "only_if": "score > 5"}), ("not reached", None, {}, "`score > 5` was never so")
        )
        self.assertEqual(verdict({**check, "only_if": "score == 1"})[0], "broken")

    def test_what_is_turned_down(self) -> None:
        for check, words in (
            ({"after": "meets(hob)", "expect": "score == 1"}, "`after` 'meets(hob)' has `meets` with 1 names"),
            ({"each": "score", "expect": "score == 1"}, "`each` 'score' has an event that cannot be read"),
            ({"same": ["score + 1"]}, "`same` 'score + 1' is not one thing to look at"),
            ({"end": True, "expect": "was(first(score)) == 1"}, "has `first` inside `was`"),
            ({"end": True, "expect": "score == 1", "only_if": "x ="}, "`only_if` 'x =' cannot be read"),
        ):
            with self.subTest(words), self.assertRaises(ExpectationError) as caught:
                read_check(Check.model_validate(check), NAMES)
            self.assertIn(words, str(caught.exception))


class Arranged(unittest.TestCase):
    def test_a_variable_that_the_script_does_not_have_leaves_its_checks_not_reached(self) -> None:
        prepared = bakehouse()
        reading = prepared.read("score = 0")
        assert isinstance(reading, Script)
        woven = prepared.weave(reading)
        number = next(n for n, scenario in enumerate(prepared.scenarios) if scenario.plan.arrange)
        trace = prepared.play(woven, prepared.scenarios[number])
        self.assertEqual(trace.unarranged, ("lives",))
        verdicts = [judge(asked, trace, lambda: trace) for asked in prepared.scenarios[number].checks]
        self.assertEqual([v.verdict for v in verdicts], ["broken", "not reached"])
        self.assertIs(trace.final["lives"], UNSET)
