"""Handlers that wait, straight scripts that ask, and the trace of values that change in place."""

import unittest

from hobtrial.core.judging import open_exercise
from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import read, weave
from hobtrial.core.script.read import Script
from hobtrial.core.trial import KNOWN_FUNCTIONS, Options, Plan, held_key, play, pressed_key, trace_json, variable
from tests.support import bun, run, scene, text, told


def lines(trace: object) -> list[tuple[int, str]]:
    """Frame and text of each line of the story."""
    return [(line.frame, line.text) for line in trace.story]  # type: ignore[attr-defined]


class Waiting(unittest.TestCase):
    def test_the_game_goes_on_meanwhile(self) -> None:
        script = """
            @on(pressed("a"))
            def slow():
                tell("begin")
                wait(0.5)
                tell("end")

            @on(pressed("b"))
            def quick():
                tell("b")
        """
        trace = run(script, inputs=(pressed_key("a", 0.1), pressed_key("b", 0.3)))
        self.assertEqual(lines(trace), [(3, "begin"), (9, "b"), (18, "end")])

    def test_at_least_one_frame_later_and_at_its_rounded_time(self) -> None:
        script = "@on(pressed('a'))\ndef f():\n    for s in [0, 0.01, 0.05, 1/3]:\n        wait(s)\n        tell(s)"
        self.assertEqual([frame for frame, _ in lines(run(script, inputs=(pressed_key("a", 0),)))], [1, 2, 4, 14])

    def test_in_what_a_handler_calls_and_with_its_locals(self) -> None:
        script = """
            def pause(n):
                for i in range(n):
                    wait(0.1)
                    tell(f"{n}.{i}")
                return n

            @on(pressed("a"), pressed("b"))
            def f():
                a = pause(2)
                b = pause(1)
                tell(a + b)
        """
        trace = run(script, inputs=(pressed_key("a", 0), pressed_key("b", 0.05)))
        self.assertEqual(
            lines(trace), [(3, "2.0"), (5, "2.0"), (6, "2.1"), (8, "2.1"), (9, "1.0"), (9, "3"), (11, "1.0"), (11, "3")]
        )

    def test_a_momentary_event_starts_as_often_as_it_comes_an_every_frame_one_not_again(self) -> None:
        script = """
            @on(pressed("a"))
            def once():
                wait(1)
                tell("pressed")

            @on(held("b"))
            def each():
                tell("held")
                wait(0.2)
        """
        trace = run(script, inputs=(pressed_key("a", 0), pressed_key("a", 0.2), held_key("b", 0, 0.5)))
        self.assertEqual([frame for frame, what in lines(trace) if what == "pressed"], [30, 36])
        self.assertEqual([frame for frame, what in lines(trace) if what == "held"], [0, 6, 12])

    def test_an_every_frame_handler_waits_for_each_pair_by_itself(self) -> None:
        script = "@on(overlaps(hob, bun))\ndef f(b):\n    tell(b.name)\n    wait(1)"
        trace = run(script, scene(bun("bun_1", 5.2), bun("bun_2", 5.4)), frames=10)
        self.assertEqual(lines(trace), [(0, "bun_1"), (0, "bun_2")])

    def test_they_go_on_by_due_time_and_then_age(self) -> None:
        script = """
            @on(pressed("a"))
            def f():
                wait(0.2)
                tell("f")

            @on(pressed("b"))
            def g():
                wait(0.1)
                tell("g")
        """
        trace = run(script, inputs=(pressed_key("a", 0), pressed_key("b", 0.1)))
        self.assertEqual(lines(trace), [(6, "f"), (6, "g")])

    def test_stop_waits_ends_all_and_no_further_line_runs(self) -> None:
        script = """
            @on(pressed("a"))
            def f():
                try:
                    wait(0.5)
                except Exception:
                    tell("caught")
                tell("late")

            @on(pressed("b"))
            def g():
                stop_waits()
                tell("stopped")
        """
        self.assertEqual(told(run(script, inputs=(pressed_key("a", 0), pressed_key("b", 0.2)))), ["stopped"])

    def test_after_the_end_of_the_trial_nothing_runs(self) -> None:
        trace = run("@on(pressed('a'))\ndef f():\n    tell(1)\n    wait(9)\n    tell(2)", inputs=(pressed_key("a", 0),))
        self.assertEqual(told(trace), ["1"])

    def test_time_sleep_is_wait(self) -> None:
        script = "import time\nfrom time import sleep as nap\n@on(pressed('a'))\ndef f():\n    time.sleep(0.1)\n    nap(0.1)\n    tell('up')"
        self.assertEqual(lines(run(script, inputs=(pressed_key("a", 0),))), [(6, "up")])

    def test_sleep_under_another_name(self) -> None:
        for line, use in (("from time import sleep as nap", "nap(0.1)"), ("import time as t", "t.sleep(0.1)")):
            trace = run(
                f"{line}\n@on(pressed('a'))\ndef f():\n    {use}\n    tell('up')", inputs=(pressed_key("a", 0),)
            )
            self.assertEqual(lines(trace), [(3, "up")])

    def test_changes_after_a_wait_belong_to_the_event_that_began_it(self) -> None:
        trace = run(
            "n = 0\n@on(pressed('a'))\ndef f():\n    global n\n    wait(0.5)\n    n = 1",
            inputs=(pressed_key("a", 0.1),),
        )
        change = next(each for each in trace.changes if each.name == "n" and each.frame >= 0)
        self.assertEqual(
            (change.frame, change.handler, str(trace.events[change.cause].event)), (18, "f", 'pressed("a")')
        )

    def test_an_exception_after_a_wait_has_its_line_and_handler(self) -> None:
        stop = run("@on(pressed('a'))\ndef f():\n    wait(0.1)\n    1 / 0", inputs=(pressed_key("a", 0),)).stopped
        assert stop is not None
        self.assertEqual((stop.frame, stop.line, stop.handler, stop.kind), (3, 4, "f", "ZeroDivisionError"))

    def test_what_wait_does_not_take(self) -> None:
        for given in ("-1", "'2'", "True", "1e9", "None"):
            stop = run(f"@on(start)\ndef f():\n    wait({given})").stopped
            assert stop is not None
            self.assertIn("`wait` takes a number of seconds from 0", stop.message)
        stop = run("def f():\n    wait(1)\nf()").stopped
        assert stop is not None
        self.assertIn("while the file is read the game has not begun", stop.message)

    def test_too_many_that_wait(self) -> None:
        stop = run("@on(frame)\ndef f():\n    wait(99)\n" * 501, frames=3).stopped
        assert stop is not None
        self.assertEqual((stop.kind, stop.message), ("waits", "More than 500 handlers wait at the same time."))


def straight(script: str, answers: tuple[tuple[int, str], ...] = (), frames: int = 90) -> object:
    """Plays a script from top to bottom."""
    reading = read(text(script), straight=True)
    assert isinstance(reading, Script), reading
    plan = Plan(frames, answers=answers)
    return play(weave(reading, KNOWN_FUNCTIONS), SceneSpec(), plan, Options(observe=(variable("name"),), record=True))


class Straight(unittest.TestCase):
    def test_it_runs_once_from_frame_0_and_waits_for_answers(self) -> None:
        script = """
            name = input("Who are you?")
            print("Good day,", name)
            wait(1)
            again = input()
            print(again.upper())
        """
        trace = straight(script, ((15, "Wren"), (20, "bye")))
        self.assertEqual(lines(trace), [(0, "Who are you?"), (15, "Good day, Wren"), (45, "BYE")])
        self.assertEqual((trace.final["name"], trace.last_frame), ("Wren", 90))  # type: ignore[attr-defined]

    def test_one_answer_too_few_ends_the_run(self) -> None:
        trace = straight('a = input("one")\nb = input("two")\nprint("never")', ((0, "x"),))
        stop = trace.stopped  # type: ignore[attr-defined]
        self.assertEqual(
            (stop.kind, stop.line, stop.message), ("input", 2, "The script asked once more than the scenario answers.")
        )
        self.assertEqual(told(trace), ["one", "two"])  # type: ignore[arg-type]

    def test_an_exercise_of_straight_scripts(self) -> None:
        toml = """
            format = 1
            title = "Straight"
            style = "straight"
            seconds = 3
            [scene]
            [[variable]]
            name = "name"
            [[scenario]]
            name = "One"
            [[scenario.input]]
            at = 1
            answer = "Wren"
            [[scenario.check]]
            end = true
            expect = "told('Good day, Wren') and name == 'Wren'"
        """
        reference = b'name = input("Who are you?")\nprint("Good day,", name)\n'
        prepared = open_exercise({"exercise.toml": text(toml).encode(), "reference.py": reference})
        self.assertEqual(prepared.reference_trace(prepared.scenarios[0]).outcome, "playing")
        self.assertEqual([line.frame for line in prepared.reference_trace(prepared.scenarios[0]).story], [0, 30])


class InPlace(unittest.TestCase):
    def changes(self, script: str) -> list[tuple[int, str, str, object]]:
        """Line, scope, name and new value of every change."""
        found = trace_json(run(script))["changes"]
        return [(each["line"], each["scope"], each["name"], each["new"]) for each in found]

    def test_methods_and_subscripts_change_the_variable_they_began_from(self) -> None:
        script = "xs = [1]\nxs.append(2)\nxs[0] = 9\nd = {}\nd['a'] = {}\nd['a']['b'] = 1\ny = xs.pop()"
        self.assertEqual(
            self.changes(script),
            [
                (1, "script", "xs", [1]), (2, "script", "xs", [1, 2]), (3, "script", "xs", [9, 2]), (4, "script", "d", {}),
                (5, "script", "d", {"a": {}}), (6, "script", "d", {"a": {"b": 1}}), (7, "script", "y", 2), (7, "script", "xs", [9]),
            ],
        )  # fmt: skip

    def test_what_pieces_and_game_hold(self) -> None:
        script = "game.bag = []\ngame.bag.append(1)\nhob.bag = {}\nhob.bag['x'] = 1"
        self.assertEqual(
            [change[2:] for change in self.changes(script)],
            [("game.bag", []), ("game.bag", [1]), ("hob.bag", {}), ("hob.bag", {"x": 1})],
        )

    def test_locals_have_their_function_as_scope(self) -> None:
        script = "def f(a):\n    b = [a]\n    b.append(2)\n    def g():\n        nonlocal a\n        a += 1\n    g()\n    return b\nf(1)"
        self.assertEqual(
            self.changes(script), [(1, "f", "a", 1), (2, "f", "b", [1]), (3, "f", "b", [1, 2]), (6, "f", "a", 2)]
        )

    def test_names_of_a_comprehension_do_not_leak(self) -> None:
        self.assertEqual(
            self.changes("x = 5\na = [x for x in range(3)]"), [(1, "script", "x", 5), (2, "script", "a", [0, 1, 2])]
        )

    def test_values_as_json(self) -> None:
        script = "from enum import Enum\nclass S(Enum):\n    A = 1\na = S.A\nb = (1, 2)\nc = hob\nd = {2, 1}\ne = 1e999\nf = None"
        found = {name: new for _, _, name, new in self.changes(script)}
        self.assertEqual(
            found,
            {
                "a": {"text": "S.A"},
                "b": {"text": "(1, 2)"},
                "c": {"text": "hob"},
                "d": {"text": "{1, 2}"},
                "e": {"text": "inf"},
                "f": None,
            },
        )
