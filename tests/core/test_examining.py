"""What makes one edit likelier than another: its cost, what was recorded, drawn runs, and texts that are nearly the same."""

import ast
import unittest
from typing import Any

from hobtrial.core.explaining.asked import nearly, numbers_asked, texts_asked, uses
from hobtrial.core.explaining.cost import MOVED, cost
from hobtrial.core.explaining.recorded import UNKNOWN, answer
from hobtrial.core.judging import Examination, open_exercise
from hobtrial.core.judging.drawn import EXAMINED, UNEXPECTED, drawn_plans, examining_plans
from hobtrial.core.trial import OUTCOME, variable
from hobtrial.demo import exercise_folder, exercises
from tests.support import accepted, bakehouse, report

REFERENCE = exercise_folder("bakehouse-rush")["reference.py"].decode()


class Cost(unittest.TestCase):
    def test_each_token_that_is_changed_or_written_costs_one(self) -> None:
        for before, after, price in (
            ("score > 5", "score >= 5", 1),
            ("score > 5", "score > 6", 1),
            ("score += 1", "score -= 1", 1),
            ("x = 1", "x = 1 + y", 2),
            ('tell("Full")', 'tell("The shelf is full")', 1),
            ('tell("{x}")', 'tell(f"{x}")', 1),
            ("a\nb", "b\na", MOVED),
            ("a\nb\nc", "a\nc", 1),
            ("if a:\n    b", "if a:\nb", 1),
            ("def f():\n    n = 1", "def f():\n    global n\n    n = 1", 1),
            ("a = 1\nb = 1", "a = 2\nb = 2", 1),
        ):
            with self.subTest(before, after=after):
                self.assertEqual(cost(before, after), price)

    def test_a_copied_nest_of_lines_costs_more_than_a_number(self) -> None:
        nest = 'if bread == "rye":\n    price = 3\nelse:\n    price = 4'
        self.assertGreater(cost("price = 2", nest), 5 * cost("price = 2", "price = 3"))


class Recorded(unittest.TestCase):
    def of(self, test: str, **values: Any) -> Any:
        return answer(ast.parse(test, mode="eval").body, values)

    def test_answers_are_pythons_own(self) -> None:
        for a in (-1, 0, 3):
            for b in (0, 3, "x", True):
                for test in ("a == b", "a != b", "a == 3 and b == 3", "a or b == 3", "not a == b", "a + 1 > 0"):
                    with self.subTest(test, a=a, b=b):
                        self.assertEqual(bool(self.of(test, a=a, b=b)), bool(eval(test, {"a": a, "b": b})))

    def test_what_was_not_recorded_is_unknown_unless_it_does_not_matter(self) -> None:
        self.assertIs(self.of("a > 1"), UNKNOWN)
        self.assertIs(self.of("a > b", a=1, b="x"), UNKNOWN)
        self.assertIs(self.of("f(a) > 1", a=1), UNKNOWN)
        self.assertIs(self.of("a > 1 and b", a=2), UNKNOWN)
        self.assertFalse(self.of("a > 1 and b", a=0))
        self.assertTrue(self.of("a > 1 or b", a=2))

    def test_a_part_is_found_by_its_text(self) -> None:
        test = ast.parse("hob.overlaps(bowl) and stage == 2", mode="eval").body
        self.assertTrue(answer(test, {"hob.overlaps(bowl)": True, "stage": 2}))


class Drawn(unittest.TestCase):
    def test_each_exercise_has_as_many_runs_the_same_ones_each_time(self) -> None:
        for name in exercises():
            prepared = open_exercise(exercise_folder(name))
            plans = examining_plans(prepared)
            self.assertGreater(len(plans), EXAMINED // 3, name)
            self.assertEqual(plans, examining_plans(open_exercise(exercise_folder(name))), name)
            self.assertEqual(len(set(plans)), len(plans), name)

    def test_they_are_what_one_player_can_do(self) -> None:
        for name in exercises():
            prepared = open_exercise(exercise_folder(name))
            for plan in (*examining_plans(prepared), *drawn_plans(prepared)):
                self.assertEqual(list(plan.inputs), sorted(plan.inputs, key=lambda each: each.frame))
                down: dict[str, int] = {}
                for each in plan.inputs:
                    deed = each.what if each.kind in ("press", "hold") else each.kind
                    self.assertGreater(each.frame, down.get(deed, -1), (name, plan.inputs))
                    down[deed] = max(each.up, each.frame)

    def test_runs_that_examine_begin_as_the_game_does(self) -> None:
        for name in exercises():
            plans = examining_plans(open_exercise(exercise_folder(name)))
            self.assertEqual({plan.arrange for plan in plans}, {()}, name)

    def test_a_proof_begins_close_to_what_is_tested_too(self) -> None:
        lines = {line.text for plan in drawn_plans(bakehouse()) for line in plan.arrange}
        self.assertLessEqual({"score = 4", "lives = 1"}, lines)

    def test_a_deed_comes_more_often_than_in_the_scenarios(self) -> None:
        prepared = open_exercise(exercise_folder("first-count"))
        most = max(len(plan.inputs) for scenario in prepared.scenarios for plan in scenario.plans)
        self.assertGreater(max(len(plan.inputs) for plan in examining_plans(prepared)), most)

    def test_questions_get_an_answer_that_nobody_waits_for_too(self) -> None:
        prepared = open_exercise(exercise_folder("bread-choices"))
        given = {text for plan in examining_plans(prepared) for _, text in plan.answers}
        self.assertLessEqual({"rye", UNEXPECTED}, given)


class Examined(unittest.TestCase):
    def answer(self, source: str, handed_in: str = REFERENCE, about: str = "score") -> str:
        prepared = bakehouse()
        examination = Examination(prepared, prepared.weave(accepted(handed_in)))
        return examination.answer(prepared.weave(accepted(source)), frozenset({variable(about), OUTCOME}))

    def test_what_goes_as_the_reference_goes_agrees(self) -> None:
        self.assertEqual(self.answer(REFERENCE), "agrees")
        self.assertEqual(self.answer(REFERENCE.replace("score >= 5", "not score < 5")), "agrees")

    def test_luck_in_the_scenarios_is_met_in_drawn_runs(self) -> None:
        lucky = REFERENCE.replace("    score += 1\n", "    score = min(score + 1, 2)\n")
        self.assertEqual(self.answer(lucky), "parts")
        wrong = REFERENCE.replace("    score += 1\n", "    score = 1\n")
        self.assertEqual(self.answer(lucky, handed_in=wrong), "parts")

    def test_harm_done_to_something_else_tells_against_it(self) -> None:
        self.assertEqual(self.answer(REFERENCE.replace("lives -= 1", "lives -= 2")), "parts")

    def test_what_was_wrong_before_is_not_the_changes_fault(self) -> None:
        already = REFERENCE.replace("lives -= 1", "lives -= 2")
        self.assertEqual(self.answer(already, handed_in=already, about="score"), "agrees")

    def test_something_else_that_is_wrong_beside_it_is_told_apart(self) -> None:
        stays = REFERENCE.replace("    lives -= 1\n    which.remove()\n", "    lives -= 1\n")
        self.assertNotEqual(stays, REFERENCE)
        wrong = stays.replace("lives -= 1", "lives -= 2")
        self.assertEqual(self.answer(stays, handed_in=wrong, about="lives"), "beside")


class Texts(unittest.TestCase):
    def test_nearly_the_same(self) -> None:
        for a, b in (
            ("Live", "Lives"),
            ("Sack", "Sacks"),
            ("Too sooty", "To sooty!"),
            ("Go down", "go Down"),
            ("knock", "nock"),
            ("Good morning,", "Good morning"),
            ("won", "Won"),
        ):
            with self.subTest(a, b=b):
                self.assertTrue(nearly(a, b) and nearly(b, a))

    def test_not_nearly(self) -> None:
        for a, b in (
            ("rye", "wheat"),
            ("Buns", "Lives"),
            ("x", "y"),
            ("bun_1", "bun_2"),
            ("Full", "Full"),
            ("bang", "clank"),
        ):
            with self.subTest(a, b=b):
                self.assertFalse(nearly(a, b))

    def test_what_each_text_is_for(self) -> None:
        script = accepted(
            'board("Buns", 1)\nhob.look = "hob"\n@on(pressed("space"))\ndef f():\n    tell("a" + str(1))\n    send("b")\n'
            '    if outcome() == "won":\n        print(f"c {1}")'
        )
        found = {text: use for _, text, use in uses(script.tree)}
        self.assertEqual(
            found,
            {"Buns": "label", "hob": "look", "space": "key", "a": "told", "b": "message", "won": "word", "c ": "told"},
        )

    def test_what_an_exercise_asks_for(self) -> None:
        asked = texts_asked(bakehouse())
        self.assertIn("The shelf is full", asked["told"])
        self.assertEqual(set(asked["label"]), {"Buns", "Lives"})
        self.assertIn("space", asked["key"])
        self.assertLessEqual({"bun", "soot", "won"}, set(asked["word"]))
        self.assertLessEqual({3, 5}, numbers_asked(bakehouse()))


class Found(unittest.TestCase):
    """Mistakes of texts, parameters, loops and pauses, each from the first finding of a whole report."""

    def first(self, exercise: str, *changes: tuple[str, str]) -> dict[str, Any]:
        source = exercise_folder(exercise)["reference.py"].decode()
        for old, new in changes:
            assert old in source, old
            source = source.replace(old, new)
        found: dict[str, Any] = report(open_exercise(exercise_folder(exercise)), "x.py", source)["findings"][0]
        return found

    def test_each(self) -> None:
        for exercise, old, new, slip, pointer in (
            (
                "three-lives",
                '"Too sooty"',
                '"To sooty"',
                "no-feedback",
                'Line 13 has "To sooty". It should be "Too sooty".',
            ),
            ("bread-choices", 'f"Good', '"Good', "text-and-number", 'Here it should be `f"Good morning, {name}"`.'),
            ("bread-choices", "price = 4", "price = 5", "wrong-amount", "The number asked for is 4."),
            (
                "set-or-change",
                "    height += 2",
                "    wait(1)\n    height += 2",
                "update-order",
                "So line 16 runs too late.",
            ),
            (
                "first-count",
                '    sacks += 1\n    board("Sacks", sacks)',
                '    sacks += 1\n    return\n    board("Sacks", sacks)',
                "update-order",
                "So line 10 below it never runs.",
            ),
            (
                "at-least",
                "    heat += 35",
                "    for i in range(1, 35):\n        heat += 1",
                "wrong-amount",
                "Line 8 goes round 34 times. It should go round 35 times.",
            ),
            (
                "loaf-in-order",
                "hob.overlaps(bowl)",
                "hob.x == bowl.x",
                "exact-only",
                "Two pieces hardly ever stand in just the same place.",
            ),
        ):
            with self.subTest(new):
                found = self.first(exercise, (old, new))
                self.assertEqual((found["slip"], found["confidence"]), (slip, "shown"))
                self.assertIn(pointer, found["pointer"])

    def test_a_value_that_is_turned_over(self) -> None:
        both = ("@on(meets(hob, hatch))", "@on(meets(hob, hatch), parts(hob, hatch))")
        found = self.first("all-three", both, ("closed = True", "closed = not closed"))
        self.assertEqual((found["slip"], found["confidence"]), ("change-for-set", "shown"))
        self.assertIn("made `closed` False", found["pointer"])

    def test_code_of_the_reference_is_at_most_likely(self) -> None:
        found = self.first("bakehouse-rush", ('@on(pressed("space"))\ndef ring():\n    tell("Ding")\n', ""))
        self.assertEqual((found["slip"], found["confidence"]), ("no-handler", "likely"))

    def test_values_of_a_second_mistake_are_from_the_script_as_handed_in(self) -> None:
        source = REFERENCE.replace("score += 1", "score += 2").replace("lives -= 1", "lives += 1")
        for finding in report(bakehouse(), "x.py", source)["findings"]:
            for line in finding["lines"]:
                self.assertIn(
                    source.split("\n")[line - 1].strip()[:5], finding["excerpt"] + source.split("\n")[line - 1]
                )
            self.assertNotIn("reference", finding["pointer"].lower())
