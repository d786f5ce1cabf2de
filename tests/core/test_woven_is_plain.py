"""Woven = plain: a script means what it means in Python.

Each program runs woven, both bodies, and as it is; variables, printed text, exception type and
message must be the same.
"""

import contextlib
import io
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from hobtrial.core.trial import variable
from hobtrial.core.words import UNSET
from tests.support import run, text, told

PROGRAMS = {
    "order of evaluation": """
        log = []
        def say(x):
            log.append(x)
            return x
        a = [0, 0, 0]
        a[say(1)] = say(2)
        b = say(3) + say(4) * say(5)
        c = say(6) if say(0) else say(7)
    """,
    "short circuits": """
        log = []
        def yes(x):
            log.append(x)
            return True
        def no(x):
            log.append(x)
            return False
        a = no(1) and yes(2) or yes(3) and not no(4)
        if yes(5) or no(6):
            b = 1
        elif yes(7):
            b = 2
    """,
    "chained comparisons": """
        a = 1 < 2 < 3, 3 > 2 > 2, 1 == 1 != 2
        n = 5
        if 0 < n <= 5:
            b = "in"
    """,
    "augmented assignment keeps identity": """
        a = [1]
        b = a
        a += [2]
        c = a is not None
        d = [3] * 2
        d *= 2
        s = "x"
        s += "y"
        s *= 3
    """,
    "while, break, continue, else": """
        n = 0
        found = []
        while n < 10:
            n += 1
            if n == 3:
                continue
            if n == 7:
                break
            found.append(n)
        else:
            found.append("else")
        for x in range(3):
            pass
        else:
            found.append("done")
    """,
    "nested loops": """
        total = 0
        pairs = []
        for i in range(4):
            for j in range(i):
                if (i + j) % 2:
                    continue
                total += i * j
                pairs.append((i, j))
    """,
    "unpacking": """
        a, b = 1, 2
        (c, d), e = (3, 4), 5
        a, b = b, a
        x = y = [0]
        x[0] += 5
        for k, (m, n) in [(1, (2, 3))]:
            o = k + m + n
    """,
    "loop targets that are places": """
        a = [0, 0]
        for a[1] in range(5):
            pass
    """,
    "functions": """
        def f(a, b=2, *, c=3):
            "says nothing"
            return a + b * c
        r = f(1), f(1, 1), f(1, c=1), f(b=0, a=5)
        def fact(n):
            return 1 if n < 2 else n * fact(n - 1)
        g = fact(10)
        h = f
        i = h(1)
    """,
    "globals and locals": """
        score = 0
        def up():
            global score
            score += 1
            lives = 9
            return lives
        up()
        up()
        lives = up()
    """,
    "walrus": """
        a = (n := 5) + n
        if (m := a - 3) > 2:
            b = m
        def f():
            return (z := 4) + z
        c = f()
    """,
    "texts": """
        name = "hob"
        a = f"{name!r:>8}|{3.14159:.2f}|{5:03d}|{name}"
        b = "%s is %d" % (name, 3)
        c = name.upper() + "-" * 3 + name[::-1]
        d = " a b ".strip().split()
        e = ",".join(["x", "y"])
        f = "aXbX".replace("X", "--"), "7".zfill(3), "a".center(5, "*")
    """,
    "numbers": """
        a = 7 // 2, 7 % 3, -7 // 2, 2 ** 10, 1 / 3, 5 & 3, 5 | 3, 5 ^ 3, ~5, 1 << 4, 16 >> 2
        b = abs(-3), round(2.567, 1), int("12"), float("1.5"), max(3, 1), min([4, 2]), sum([1, 2])
        c = 0.1 + 0.2
        d = True + True
    """,
    "collections": """
        a = sorted([3, 1, 2], reverse=True)
        b = list(range(3)) + list("ab")
        c = {"x": 1}
        c["y"] = 2
        c["x"] += 5
        d = list(c.items()), c.get("z", 0), len(c), "x" in c
        e = tuple(reversed([1, 2])), list(enumerate("ab")), list(zip([1], [2])), any([0, 1]), all([])
        f = {1, 2} | {3}
        g = [1, 2, 3][-2:]
        h = list("b"), str(12), dict(a=1), bool([])
    """,
    "isinstance and type": """
        a = isinstance(1, int), isinstance("x", str), isinstance([], list), type(3) == int, type("") == str
    """,
    "printing": """
        print("a", 1, None, [1, "x"], sep="-")
        print("b", end="")
        print("c")
        print()
        print("d", end="")
    """,
    "a name without a value": "a = 1\nb = missing\nc = 2",
    "a local before its value": """
        score = 0
        def up():
            score += 1
        up()
    """,
    "division by zero": "a = 1\nb = a / 0",
    "text and number": 'a = "1" + 1',
    "text and number in place": 'a = "1"\na += 1',
    "number and text in place": 'a = 1\na += "1"',
    "an index too far": "a = [1]\nb = a[3]",
    "a missing key": 'a = {"x": 1}\nb = a["y"]',
    "an attribute that is not there": 'a = "x"\nb = a.nothing',
    "too few values": "a, b = 1,",
    "too many values": "a, b = 1, 2, 3",
    "a call with too little": "def f(a):\n    return a\nf()",
    "a call of a number": "a = 3\na()",
    "a list that is not there": "for x in 5:\n    pass",
    "comparing text with a number": 'a = "3" > 2',
    "an int of a word": 'a = int("three")',
    "recursion that ends": """
        def down(n):
            if n > 0:
                return down(n - 1) + 1
            return 0
        a = down(50)
    """,
    "a nested conditional": 'n = 15\na = "fizzbuzz" if n % 15 == 0 else "fizz" if n % 3 == 0 else n',
    "not in and is not": "a = 3 not in [1], None is not None, True is True",
    "a global set in an if": "def f():\n    if True:\n        global q\n        q = 2\nf()",
}


def plain(source: str) -> tuple[dict[str, Any], list[str], tuple[str, str] | None]:
    """Variables, printed lines and exception of a program as Python runs it."""
    out, names, error = io.StringIO(), {}, None
    with contextlib.redirect_stdout(out):
        try:
            exec(compile(source, "<plain>", "exec"), names)
        except Exception as caught:
            error = (type(caught).__name__, str(caught))
    lines = out.getvalue().split("\n")
    if lines and lines[-1] == "":
        lines.pop()
    return {key: repr(value) for key, value in names.items() if _shown(key, value)}, lines, error


def woven(source: str, *, record: bool) -> tuple[dict[str, Any], list[str], tuple[str, str] | None]:
    """The same of a program that was woven."""
    names = list(plain(source)[0])
    trace = run(source, frames=0, record=record, observe=[variable(name) for name in names])
    stop = trace.stopped
    values = {name: repr(value) for name, value in trace.final.items() if value is not UNSET}
    return values, told(trace), (stop.kind, stop.message) if stop else None


def _shown(key: str, value: object) -> bool:
    return not key.startswith("__") and not callable(value) and not isinstance(value, set)


class WovenIsPlain(unittest.TestCase):
    maxDiff = None

    def test_programs(self) -> None:
        for name, source in PROGRAMS.items():
            for record in (True, False):
                with self.subTest(name, record=record):
                    self.assertEqual(woven(text(source), record=record), plain(text(source)))

    @settings(max_examples=60, deadline=None, derandomize=True, database=None)
    @given(st.data())
    def test_generated_expressions(self, data: st.DataObject) -> None:
        source = "a, b, c = 3, -2, 7\n" + "\n".join(f"r{n} = {data.draw(expressions)}" for n in range(3))
        self.assertEqual(woven(source, record=True), plain(source))
        self.assertEqual(woven(source, record=False), plain(source))

    def test_a_planted_fault_is_caught(self) -> None:
        """The comparison above can fail: a weaving that forgets the order of `and` is told apart."""
        source = text(PROGRAMS["short circuits"])
        wrong = source.replace("no(1) and yes(2)", "yes(2) and no(1)")
        self.assertNotEqual(woven(wrong, record=True), plain(source))


atoms = st.sampled_from(["a", "b", "c", "0", "1", "5", "2.5", "True", "(a < b)", "max(a, b)"])
operators = st.sampled_from(["+", "-", "*", "//", "%", "<", "<=", "==", "!=", "and", "or"])
expressions = st.recursive(
    atoms,
    lambda inner: st.one_of(
        st.builds("({} {} {})".format, inner, operators, inner),
        st.builds("(not {})".format, inner),
        st.builds("({} if {} else {})".format, inner, inner, inner),
    ),
    max_leaves=12,
)
