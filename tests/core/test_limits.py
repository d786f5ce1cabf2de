"""Nothing that a script does lasts or grows without end; what it showed until then is kept."""

import unittest

from tests.support import run, told

HOSTILE = {
    "endless while": ("n = 1\nwhile n > 0:\n    pass", "loop", "nothing inside it changes `n`"),
    "while True": ("while True:\n    a = 1", "loop", "nothing inside it ends it"),
    "a break that is never reached": (
        "while True:\n    if False:\n        break",
        "loop",
        "its `break` was never reached",
    ),
    "a test that never becomes false": ("n = 0\nwhile n != 7:\n    n += 2", "loop", "its test never became false"),
    "a long for": ("for a in range(100_000):\n    pass\nfor b in range(9):\n    pass", "loop", "100,000 times"),
    "endless recursion": ("def f():\n    f()\nf()", "depth", "100 deep"),
    "two functions in a circle": ("def f():\n    g()\ndef g():\n    f()\nf()", "depth", "100 deep"),
    "a huge range": ("for a in range(10**12):\n    pass", "range", "more than 100,000 numbers"),
    "in over a huge range": ("a = 0.5 in range(10**12)", "range", "more than 100,000 numbers"),
    "a list of a huge range": ("a = list(range(10**9))", "range", "more than 100,000 numbers"),
    "a sum of a huge range": ("a = sum(range(10**9))", "range", "more than 100,000 numbers"),
    "a huge power": ("a = 9 ** 9 ** 9", "number", "A power would have more than"),
    "a power in steps": ("a = 10\nfor i in range(50):\n    a = a * a", "number", "beyond 4,000 bits"),
    "a huge shift": ("a = 1 << 10**9", "number", "shifted by at most 64"),
    "repeated text": ('a = "x" * 10**10', "text", "A product would have more than 10,000 parts"),
    "doubled text": ('a = "x"\nfor i in range(99):\n    a = a + a', "text", "beyond 10,000 characters"),
    "doubled text in place": ('a = "x"\nfor i in range(99):\n    a += a', "text", "beyond 10,000 characters"),
    "doubled list": ("a = [1]\nfor i in range(99):\n    a += a", "collection", "beyond 10,000 entries"),
    "repeated list": ("a = [0] * 10**9", "collection", "A product would have more than"),
    "padding": ('a = "x".ljust(10**9)', "text", "at most 10,000"),
    "a wide format": ('a = "%999999d" % 1', "text", "A width in a text is at most 200"),
    "a starred format": ('a = "%*d" % (999999, 1)', "text", "A width in a text is at most 200"),
    "replace": ('a = ("x" * 9999).replace("x", "y" * 9999)', "text", "at most 10,000"),
    "join": ('a = ("x" * 9999).join(["a"] * 9999)', "text", "at most 10,000"),
    "appending": ("a = []\nfor i in range(20_000):\n    a.append(i)", "collection", "beyond 10,000 entries"),
    "a flood of lines": ("for i in range(5000):\n    tell(i)", "story", "beyond 2,000 lines"),
    "a line without end": ('while True:\n    print("xxxxxxxxxx", end="")', "text", "beyond 10,000 characters"),
    "round": ("a = round(5, -10**9)", "number", "at most 200 digits"),
    "a method that is not listed": (
        'hob.format = 1\na = "{0.x}".format(1)',
        "refused",
        "`.format` of a str is not part",
    ),
    "an attribute of a number": ("a = (5).real", "refused", "`.real` of an int is not part"),
    "an attribute of a function": ("a = print.im_self", "AttributeError", "no attribute"),
    "a method of a type": ("a = int.from_bytes", "refused", "`.from_bytes` of a type is not part"),
    "making a class": ('a = type(type(3))("X")', "refused", "cannot be called here"),
    "storing on a list": ("a = [1]\na.x = 3", "refused", "Only pieces and `game` can hold"),
    "an exec that is not there": ('exec("a = 1")', "NameError", "'exec' is not defined"),
    "an open that is not there": ('open("x")', "NameError", "'open' is not defined"),
}


class Limits(unittest.TestCase):
    def test_every_one_is_met(self) -> None:
        for name, (script, kind, words) in HOSTILE.items():
            for record in (True, False):
                with self.subTest(name, record=record):
                    stop = run(script, frames=3, record=record).stopped
                    assert stop is not None
                    self.assertEqual(stop.kind, kind)
                    self.assertIn(words, stop.message)

    def test_the_line_of_the_loop_and_what_was_told_before(self) -> None:
        trace = run('tell("first")\nn = 0\nwhile n < 5:\n    m = 1')
        assert trace.stopped is not None
        self.assertEqual((trace.stopped.line, told(trace)), (3, ["first"]))

    def test_the_budget_is_a_handlers_own_and_the_trial_has_one_too(self) -> None:
        script = "@on(frame)\ndef work():\n    for i in range(90_000):\n        pass"
        trace = run(script, frames=60, record=False)
        assert trace.stopped is not None
        self.assertEqual((trace.stopped.kind, trace.stopped.frame), ("loop", 22))

    def test_a_heavy_loop_is_recorded_only_in_part_and_this_is_said(self) -> None:
        trace = run("a = 0\nfor i in range(5000):\n    a += i")
        self.assertLess(len(trace.changes), 300)
        self.assertEqual(len(trace.thinned), 1)
        self.assertIn("after 200 records the rest was left out", trace.thinned[0])


class Traces(unittest.TestCase):
    def test_tests_carry_the_values_of_their_parts(self) -> None:
        trace = run("score = 5\nlives = 2\nif score > 5 and lives > 0 or not lives == 2:\n    pass")
        (test,) = trace.tests
        self.assertEqual(test.text, "score > 5 and lives > 0 or not lives == 2")
        self.assertEqual((test.parts, test.answer), ((("score", 5), ("lives", 2)), False))

    def test_a_call_inside_a_test_has_its_own_record(self) -> None:
        trace = run(
            "def f(n):\n    if n > 1:\n        return f(n - 1) > 0\n    return 1\nif f(2) > 0 and 3 > f(1):\n    pass"
        )
        self.assertEqual([(t.line, t.parts) for t in trace.tests if t.line == 5], [(5, (("f(2)", True), ("f(1)", 1)))])
        self.assertEqual([t.parts[0] for t in trace.tests if t.line == 2], [("n", 2), ("n", 1), ("n", 1)])

    def test_lines_are_counted_by_frame(self) -> None:
        trace = run("n = 0\nwhile n < 3:\n    n += 1\nfor i in [1, 2]:\n    pass\nif n == 9:\n    n = 0")
        self.assertEqual({line: spans[0] for line, spans in trace.lines.items()}, {
            1: (-1, -1, 1), 2: (-1, -1, 4), 3: (-1, -1, 3), 4: (-1, -1, 3), 5: (-1, -1, 2), 6: (-1, -1, 1),
        })  # fmt: skip

    def test_the_same_trial_gives_the_same_trace(self) -> None:
        script = 'a = {3, 1, 2}\nb = {"x": [1]}\nprint(hob, bun_1, a == {1, 2, 3})'
        from hobtrial.core.trial import trace_json
        from tests.support import bun, scene

        first, second = (trace_json(run(script, scene(bun("bun_1", 9)))) for _ in range(2))
        self.assertEqual(first, second)
