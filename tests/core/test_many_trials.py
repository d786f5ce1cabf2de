"""Cases, orders, wild runs and luck: many trials of one scenario, and chance that is none."""

import unittest
from typing import Any

from hobtrial.core.exercise import ExerciseError, Scenario, scenario_text
from hobtrial.core.judging import open_exercise, play_all, written_back
from hobtrial.core.script import Script
from hobtrial.demo import exercise_folder
from tests.support import SMALL, exercise, marked, report, run, text, told

FIVE = """
    score = 0
    @on(pressed("space"))
    def up():
        global score
        score += 1
        if score >= 5:
            win()
"""
CASES = """
    [[scenario]]
    name = "The boundary"
    cases = [
        {arrange = ["score = 3"], expect = "outcome == 'playing'"},
        {arrange = ["score = 4"], expect = "outcome == 'won'", marks = 2, because = "Five is enough."},
        {arrange = ["score = 5"], expect = "outcome == 'won'"},
    ]
    case_at = 1.5
    [[scenario.input]]
    at = 0.5
    press = "space"
    [[scenario.check]]
    always = true
    expect = "score < 7"
"""
ORDERS = """
    [[scenario]]
    name = "Whatever the order"
    orders = "all"
    [scenario.steps]
    oven = [{at = 0.1, click = "bell"}]
    walk = [{at = 0.1, hold = "right", for = 0.3}]
    [[scenario.check]]
    end = true
    expect = "score == 2"
"""
WILD = """
    [[scenario]]
    name = "Anything"
    wild = {runs = 40, seconds = 3, keys = ["right", "space"]}
    [[scenario.check]]
    always = true
    expect = "score <= 1"
    marks = 2
    [[scenario.check]]
    same = ["score"]
"""
ONCE = """
    score = 0
    @on(meets(hob, bun))
    def up(which):
        global score
        score += 1
        which.remove()
"""

CHEAT = """
    @on(pressed("space"))
    def cheat():
        global score
        if score == 1:
            score = 2
"""


def checks(report: dict[str, Any]) -> list[tuple[str, str, int | None]]:
    """Kind, verdict and trial of each check of the first scenario."""
    return [(each["kind"], each["verdict"], each.get("trial")) for each in report["scenarios"][0]["checks"]]


class Cases(unittest.TestCase):
    def test_each_row_is_a_trial_and_a_check_of_its_own(self) -> None:
        prepared = exercise(CASES, FIVE)
        self.assertEqual(prepared.out_of, 5)
        self.assertEqual(prepared.scenarios[0].labels, ("score = 3", "score = 4", "score = 5"))
        right = marked(prepared, FIVE)
        self.assertEqual((right["marks"], right["scenarios"][0]["trials"]), (5, 3))
        wrong = marked(prepared, FIVE.replace(">= 5", "> 5"))
        self.assertEqual(
            checks(wrong), [("always", "held", 0), ("case", "held", 0), ("case", "broken", 1), ("case", "held", 2)]
        )
        self.assertEqual((wrong["marks"], wrong["findings"][0]["slip"]), (3, "boundary"))

    def test_a_check_over_all_trials_is_broken_with_its_trial(self) -> None:
        script = FIVE.replace("score += 1", "score += 2")
        self.assertEqual(checks(marked(exercise(CASES, FIVE), script))[0], ("always", "broken", 2))


class Orders(unittest.TestCase):
    REFERENCE = """
        score = 0
        @on(clicked(bell), meets(hob, bun))
        def up():
            global score
            score += 1
    """

    def test_the_same_doings_in_every_order(self) -> None:
        toml = ORDERS.replace("for = 0.3", "for = 0.6")
        prepared = exercise(toml, self.REFERENCE)
        self.assertEqual(prepared.scenarios[0].labels, ("oven, walk", "walk, oven"))
        starts = [[given.frame for given in plan.inputs] for plan in prepared.scenarios[0].plans]
        self.assertEqual(starts, [[3, 6], [3, 24]])
        self.assertEqual(marked(prepared, self.REFERENCE)["marks"], 1)
        script = self.REFERENCE.replace("score += 1", "score += 1 if clock() < 0.75 else 2")
        self.assertEqual(checks(marked(prepared, script)), [("end", "broken", 1)])

    def test_too_many_orders_and_wrong_ones(self) -> None:
        five = "\n".join(f"    s{n} = []" for n in range(5))
        for toml, words in (
            (ORDERS.replace("    oven = [", five + "\n    oven = ["), "7 steps have 5,040 orders; at most 24"),
            (ORDERS.replace(", for = 0.3", ', until = "meets(hob, bun)"'), "the step `walk` holds a key without `for`"),
            (ORDERS.replace('"all"', '[["oven"]]'), "the order oven must name each of oven, walk once"),
            (ORDERS.replace('orders = "all"', ""), "`steps` and `orders` go together"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ExerciseError, words):
                exercise(toml, self.REFERENCE)


class Wild(unittest.TestCase):
    def test_the_same_inputs_for_every_script_and_every_time(self) -> None:
        first, second = (exercise(WILD, ONCE).scenarios[0] for _ in range(2))
        self.assertEqual(first.plans, second.plans)
        self.assertEqual(len(first.plans), 40)
        self.assertGreater(len({plan.inputs for plan in first.plans}), 30)

    def test_the_reference_holds_and_a_find_is_cut_down_to_the_shortest_inputs(self) -> None:
        prepared = exercise(WILD, ONCE)
        self.assertEqual(marked(prepared, ONCE)["marks"], 3)
        script = ONCE + CHEAT
        found = marked(prepared, script)
        self.assertEqual(
            [(kind, verdict) for kind, verdict, _ in checks(found)], [("always", "broken"), ("same", "broken")]
        )
        evidence = found["scenarios"][0]["checks"][0]["shortest"]
        self.assertIn("2 inputs are enough: hold right", evidence["words"])
        self.assertIn("press space", evidence["words"])
        self.assertEqual(marked(prepared, script), found)

    def test_a_find_can_be_played_as_an_ordinary_scenario(self) -> None:
        prepared = exercise(WILD, ONCE)
        reading = prepared.read(text(ONCE + CHEAT))
        assert isinstance(reading, Script)
        scenario = marked(prepared, ONCE + CHEAT)["scenarios"][0]["checks"][0]["shortest"]["scenario"]
        scenario = prepared.scenario_of(Scenario.model_validate(scenario))
        self.assertEqual(prepared.play(prepared.weave(reading), scenario).final["score"], 2)

    def test_only_some_kinds_of_checks_go_with_it(self) -> None:
        with self.assertRaisesRegex(ExerciseError, "checks of always, never, each and same, not `end`"):
            exercise(WILD.replace("always = true", "end = true"), ONCE)
        with self.assertRaisesRegex(ExerciseError, "needs some `keys`, `clicks` or `picks`"):
            exercise(WILD.replace('keys = ["right", "space"]', "keys = []"), ONCE)


class Luck(unittest.TestCase):
    DRAW = "import random\ntell([random.randint(1, 6), random.choice('abc'), random.random(), random.randrange(0, 10, 3), random.uniform(2, 3)])"

    def told(self, script: str, luck: Any) -> str:
        trace = run(script, plan={"luck": luck}, frames=0)
        return trace.stopped.message if trace.stopped else told(trace)[0]

    def test_the_ends_of_what_is_possible(self) -> None:
        self.assertEqual(self.told(self.DRAW, "lowest"), "[1, 'a', 0.0, 0, 2]")
        self.assertEqual(self.told(self.DRAW, "highest"), "[6, 'c', 0.9999999999999999, 9, 3]")

    def test_a_list_is_used_up_in_order_and_begins_again(self) -> None:
        self.assertEqual(
            self.told("from random import randint as r\ntell([r(1, 6) for n in range(4)])", (2, 5, 1)), "[2, 5, 1, 2]"
        )

    def test_a_value_that_is_not_possible_ends_the_trial(self) -> None:
        self.assertEqual(
            self.told("import random\nrandom.randint(1, 5)", (6,)),
            "The scenario's luck is 6, and `randint(1, 5)` cannot give that.",
        )

    def test_shuffle_and_sample(self) -> None:
        script = "import random\nxs = [1, 2, 3]\nrandom.shuffle(xs)\ntell([xs, random.sample([4, 5, 6], 2)])"
        self.assertEqual(self.told(script, "lowest"), "[[1, 2, 3], [4, 5]]")
        self.assertEqual(self.told(script, "highest"), "[[3, 2, 1], [5, 6]]")
        self.assertEqual(self.told(script, (3, 1, 2, 6, 4)), "[[3, 1, 2], [6, 4]]")

    def test_a_scenario_has_it_and_same_needs_it(self) -> None:
        toml = """
            [[scenario]]
            name = "Lucky"
            luck = [4]
            [[scenario.check]]
            end = true
            expect = "score == 4"
            [[scenario.check]]
            same = ["score"]
        """
        dice = "import random\nscore = random.randint(1, 6)"
        self.assertEqual(marked(exercise(toml, dice), dice)["marks"], 2)
        with self.assertRaisesRegex(ExerciseError, "give the scenario a `luck`"):
            exercise(toml.replace("luck = [4]", ""), dice)


class TasksAndCraft(unittest.TestCase):
    def test_marks_by_task_and_craft(self) -> None:
        toml = """
            tasks = [{id = "count", text = "Count"}, {id = "write", text = "Write well"}]
            [[craft]]
            expect = "changes score"
            marks = 0.5
            concept = "variables"
            task = "write"
            [[scenario]]
            name = "One"
            task = "count"
            [[scenario.input]]
            at = 0.5
            press = "space"
            [[scenario.check]]
            end = true
            expect = "score == 1"
            marks = 2
            concept = "events"
        """
        toml = toml.replace("tasks =", "tasks =", 1)
        prepared = exercise(
            "", FIVE, "tasks = [{id = 'count', text = 'Count'}, {id = 'write', text = 'Write'}]\n" + _head(toml)
        )
        found = marked(prepared, FIVE.replace("score += 1", "score = 1"))
        self.assertEqual((found["marks"], found["out_of"]), (2, 2.5))
        self.assertEqual(found["by_task"], {"count": {"marks": 2, "out_of": 2}, "write": {"marks": 0, "out_of": 0.5}})
        self.assertEqual(found["by_concept"]["variables"], {"marks": 0, "out_of": 0.5})
        self.assertEqual(
            [(each["expect"], each["verdict"], each["reason"]) for each in found["craft"]],
            [("changes score", "broken", "nothing changes `score` from what it was")],
        )
        unreadable = marked(prepared, "score =")
        self.assertEqual((unreadable["marks"], unreadable["craft"][0]["verdict"]), (0, "not reached"))

    def test_all_scenarios_are_played_to_their_end(self) -> None:
        prepared = exercise(CASES, FIVE)
        self.assertEqual([len(run.verdicts) for run in play_all(prepared, prepared.reference)], [4])


def _head(toml: str) -> str:
    """The small exercise with further tables, whose top-level keys stand before the others."""
    return SMALL + text(toml[toml.index("[[craft]]") - 12 :])


class Inputs(unittest.TestCase):
    def test_a_key_is_held_until_an_event_comes(self) -> None:
        prepared = exercise(
            """
            [[scenario]]
            name = "Until"
            [[scenario.input]]
            at = 0.2
            hold = "right"
            until = "meets(hob, bun)"
            [[scenario.check]]
            end = true
            expect = "near(hob.x, 7.2, 0.01)"
            """,
            ONCE,
        )
        trace = prepared.reference_trace(prepared.scenarios[0])
        self.assertEqual(trace.keys, ((6, "right", True), (17, "right", False)))
        self.assertEqual(marked(prepared, ONCE)["marks"], 1)

    def test_an_answer_after_another_is_there_at_once(self) -> None:
        toml = """
            style = "straight"
        """
        straight = SMALL.replace("seconds = 2", f"seconds = 2{toml.rstrip()}".replace("            ", ""))
        prepared = exercise(
            """
            [[scenario]]
            name = "PreparedCheck"
            [[scenario.input]]
            at = 0.5
            answer = "2"
            [[scenario.input]]
            at = "answer 1"
            answer = "3"
            [[scenario.check]]
            at = 0.5
            expect = "score == 5"
            """,
            "score = int(input()) + int(input())",
            straight,
        )
        self.assertEqual(marked(prepared, "score = int(input()) + int(input())")["marks"], 1)


class WrittenBack(unittest.TestCase):
    def test_any_trial_is_an_ordinary_scenario_that_comes_out_the_same(self) -> None:
        for toml, reference in ((CASES, FIVE), (ORDERS, Orders.REFERENCE), (WILD, ONCE)):
            prepared = exercise(toml, reference)
            scenario = prepared.scenarios[0]
            for trial in range(min(len(scenario.plans), 6)):
                again = exercise(scenario_text(written_back(scenario, trial)), reference).scenarios[0]
                with self.subTest(scenario.spec.name, trial=trial):
                    plan, wanted = again.plan, scenario.plans[trial]
                    self.assertEqual([each.frame for each in plan.inputs], [each.frame for each in wanted.inputs])
                    self.assertEqual(
                        prepared.play_plan(prepared.reference, scenario, plan).samples,
                        prepared.play(prepared.reference, scenario, trial).samples,
                    )

    def test_predictions_name_variables_and_a_time_of_the_trial(self) -> None:
        for predict, words in (
            ("{names = ['scoer'], at = 1}", "`scoer`"),
            ("{names = ['score'], at = 9}", "after the end"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ExerciseError, words):
                exercise(f"[[scenario]]\nname = 'P'\npredict = {predict}", "score = 0")


class Advice(unittest.TestCase):
    def test_a_variable_that_the_checks_cannot_see_is_named(self) -> None:
        prepared = exercise(CASES, FIVE)
        (found,) = marked(
            prepared, FIVE.replace("score = 0", "score = 0\n    outcome = 3\n    clock = 1").replace("win()", "pass")
        )["advice"]
        self.assertEqual(found["kind"], "hidden-name")
        self.assertIn("The checks read `outcome` as the game's own.", found["text"])


class Timers(unittest.TestCase):
    def test_a_timer_that_nobody_waits_for_came_all_the_same(self) -> None:
        toml = """
            [[scenario]]
            name = "Time goes by"
            [[scenario.check]]
            end = true
            expect = "score == 2"
        """
        every = "score = 0\n@on(every(0.9))\ndef up():\n    global score\n    score += 1"
        (finding,) = marked(exercise(toml, every), "score = 0\n@on(pressed('a'))\ndef f():\n    pass")["findings"]
        self.assertEqual(finding["pointer"], "In the game 0.9 seconds had gone by. No handler waits for that.")


class Fixes(unittest.TestCase):
    def test_a_fix_mends_what_it_says_in_all_wild_trials(self) -> None:
        prepared = open_exercise(exercise_folder("three-lives"))
        wrong = prepared.exercise.reference.replace("if lives > 0:", "if lives >= 0:")
        found = report(prepared, "wren.py", wrong)
        fix = found["findings"][0]["fix"]
        lines = wrong.split("\n")
        for change in fix["changes"]:
            line = lines[change["line"] - 1]
            lines[change["line"] - 1] = line.replace(change["before"].strip(), change["after"].strip())
        before, after = (
            [check["verdict"] for scenario in each["scenarios"] for check in scenario["checks"]]
            for each in (found, report(prepared, "wren.py", "\n".join(lines), findings=False))
        )
        mended = sum(old != "held" and new == "held" for old, new in zip(before, after, strict=True))
        self.assertEqual((mended, fix["breaks"]), (fix["mends"], 0))
        self.assertGreater(mended, 0)
