"""Woven = plain: a script means what it means in Python.

Each program of `programs.py` runs woven, both bodies, and as it is, in processes of their own with
other hash seeds; variables, printed text, exception type and message must be the same.
"""

import json
import os
import subprocess
import sys
import textwrap
import unittest
from collections.abc import Callable
from typing import Any
from unittest import mock

from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from hobtrial.core.script import Guards, Script, read, weave
from hobtrial.core.trial import KNOWN_FUNCTIONS
from tests.core.both_ways import plain, programs, woven
from tests.support import ROOT


def in_a_process(way: str, seed: str) -> dict[str, Any]:
    """The results of all programs, one way."""
    command = [sys.executable, "-W", "ignore", "-m", "tests.core.both_ways", way]
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "PYTHONHASHSEED": seed}
    done = subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, text=True, check=True)
    found: dict[str, Any] = json.loads(done.stdout)
    return found


class WovenIsPlain(unittest.TestCase):
    maxDiff = None

    def test_programs(self) -> None:
        expected = in_a_process("plain", "1")
        self.assertGreaterEqual(len(expected), 250)
        for way, seed in (("recording", "2"), ("counting", "3")):
            found = in_a_process(way, seed)
            for name, result in expected.items():
                with self.subTest(name, way=way):
                    self.assertEqual(found[name], result)

    @settings(max_examples=60, deadline=None, derandomize=True, database=None)
    @given(st.data())
    def test_generated_expressions(self, data: st.DataObject) -> None:
        source = "a, b, c = 3, -2, 7\n" + "\n".join(f"r{n} = {data.draw(expressions)}" for n in range(3))
        self.assertEqual(list(woven(source, record=True)), list(plain(source)))
        self.assertEqual(list(woven(source, record=False)), list(plain(source)))

    @settings(max_examples=60, deadline=None, derandomize=True, database=None)
    @given(st.data())
    def test_generated_programs(self, data: st.DataObject) -> None:
        source = "a, b, c = 3, -2, 7\nxs = [1, 2]\n" + "".join(data.draw(statements(2)) for _ in range(4))
        expected = list(plain(source))
        for record in (True, False):
            self.assertEqual(list(woven(source, record=record)), expected, source)

    @settings(
        max_examples=120,
        deadline=None,
        derandomize=True,
        database=None,
        suppress_health_check=[HealthCheck.filter_too_much, HealthCheck.too_slow],
    )
    @given(st.data())
    def test_generated_functions(self, data: st.DataObject) -> None:
        """`global`, `nonlocal`, `def` and `return` wherever Python takes them."""
        source = "a, b, c = 3, -2, 7\nxs = [1, 2]\n" + data.draw(function(2, "", nested=False))
        assume(_compiles(source))
        expected = list(plain(source))
        for record in (True, False):
            self.assertEqual(list(woven(source, record=record)), expected, source)

    def test_what_python_can_nest_is_compiled_or_turned_down(self) -> None:
        """Blocks, calls and operators inside one another, as deep as they are accepted."""
        shapes: dict[str, Callable[[int], str]] = {
            "for": lambda n: _blocks(n, "for i in [1]:"),
            "while": lambda n: _blocks(n, "while x:"),
            "if": lambda n: _blocks(n, "if x:"),
            "try": lambda n: _blocks(n, "try:", "except ValueError as e:"),
            "except": lambda n: _blocks(n, "try:\n{}    x = 1\n{}except ValueError as e:"),
            "def": lambda n: _blocks(n, "def f():"),
            "for in def": lambda n: "def f():\n    if x:\n" + textwrap.indent(_blocks(n, "for i in [1]:"), "        "),
            "sum": lambda n: "x = " + " + ".join(["x"] * n),
            "calls": lambda n: "x = " + "f(" * n + ")" * n,
            "lambda": lambda n: "x = " + "lambda: " * n + "x",
            "choice": lambda n: "x = " + "x if x else " * n + "x",
        }
        for name, shape in shapes.items():
            accepted = 0
            for depth in (*range(1, 25), 99, 150, 195):
                reading = read(shape(depth))
                if isinstance(reading, Script):
                    accepted = depth
                    with self.subTest(name, depth=depth):
                        both = weave(reading, KNOWN_FUNCTIONS)
                        self.assertTrue(all(piece.co_code for piece in (*both.recording, *both.counting)))
            self.assertGreaterEqual(accepted, 7, name)

    def test_planted_faults_of_the_weaving_are_caught(self) -> None:
        """The comparison can fail: a guard that means something else is told apart."""
        faults = {
            "add": lambda self, a, b: b + a,
            "read": lambda self, value, name: None,
            "walk": lambda self, values: list(values)[::-1],
            "call": lambda self, function, *values, **named: None,
            "show": lambda self, value, conversion, spec: "",
            "add_in_place": lambda self, a, b: a + b,
            "modulo": lambda self, a, b: 0,
        }
        for name, fault in faults.items():
            with self.subTest(name), mock.patch.object(Guards, name, fault):
                caught = [each for each, source in programs().items() if _differs(source)]
                self.assertNotEqual(caught, [])


def _compiles(source: str) -> bool:
    try:
        compile(source, "<generated>", "exec")
    except SyntaxError:
        return False
    return True


def _blocks(depth: int, head: str, tail: str = "") -> str:
    """A statement inside so many blocks."""
    leads = ["    " * level for level in range(depth + 1)]
    down = "".join(f"{lead}{head.replace('{}', lead)}\n" for lead in leads[:-1])
    up = "".join(f"{lead}{tail}\n{lead}    pass\n" for lead in reversed(leads[:-1])) if tail else ""
    return f"{down}{leads[-1]}x = [1]\n{leads[-1]}x.append(1)\n{up}"


def _differs(source: str) -> bool:
    try:
        return list(woven(source, record=False)) != list(plain(source))
    except Exception:  # a fault may also break the run itself
        return True


def statements(depth: int, indent: str = "") -> st.SearchStrategy[str]:
    """Statements at an indentation, with blocks of so many levels inside them."""
    simple = st.one_of(
        st.builds((indent + "{} = {}\n").format, names, expressions),
        st.builds((indent + "{} {}= {}\n").format, names, st.sampled_from("+-*"), atoms),
        st.builds((indent + "xs.append({})\n").format, expressions),
        st.builds((indent + "xs[{}] = {}\n").format, st.sampled_from(["0", "-1", "len(xs) - 1", "5"]), atoms),
        st.builds((indent + "xs += [{}]\n").format, atoms),
        st.builds((indent + "print({}, f'{{{}}}', xs)\n").format, names, names),
        st.builds((indent + "a, b = {}, {}\n").format, atoms, atoms),
        st.builds((indent + "c = sum(x for x in xs if x != {})\n").format, atoms),
    )
    if depth == 0:
        return simple
    inner = statements(depth - 1, indent + "    ")
    return st.one_of(
        simple,
        st.builds((indent + "if {}:\n{}" + indent + "else:\n{}").format, expressions, inner, inner),
        st.builds(
            (indent + "for {} in range({}):\n{}" + indent + "else:\n{}").format,
            names,
            st.sampled_from("0123"),
            inner,
            inner,
        ),
        st.builds(
            (indent + "try:\n{}" + indent + "except (ZeroDivisionError, IndexError, TypeError) as e:\n{}").format,
            inner,
            inner,
        ),
        st.builds((indent + "n = 0\n" + indent + "while n < 3:\n" + indent + "    n += 1\n{}").format, inner),
    )


def function(depth: int, indent: str, *, nested: bool) -> st.SearchStrategy[str]:
    """A function and its call; declarations, functions and `return` stand anywhere in it."""
    name = f"f{len(indent) // 4}"
    body = st.lists(inside(depth, indent + "    ", nested=nested), min_size=1, max_size=4).map("".join)
    call = st.sampled_from([f"{name}(1)\n", f"a = {name}(2)\n", f"xs.append({name}(0))\n"])
    return st.builds((indent + "def " + name + "(p):\n" + "{}" + indent + "{}").format, body, call)


def inside(depth: int, indent: str, *, nested: bool) -> st.SearchStrategy[str]:
    """A statement of a function."""
    declared = ["global a\n", "global b, xs\n", "global late\n", *(["nonlocal p\n"] if nested else [])]
    lines = [*declared, "return p\n", "return\n", "late = p\n", "p += 1\n", "a = p\n", "b = [p]\n", "print(p, c)\n"]
    simple = st.sampled_from([indent + line for line in lines])
    if depth == 0:
        return simple
    inner = st.lists(inside(depth - 1, indent + "    ", nested=nested), min_size=1, max_size=3).map("".join)
    turn = f"k{depth}"
    return st.one_of(
        simple,
        function(depth - 1, indent, nested=True),
        st.builds((indent + "for " + turn + " in range({}):\n{}").format, st.sampled_from("012"), inner),
        st.builds(
            (
                indent + turn + " = 0\n" + indent + "while " + turn + " < 2:\n" + indent + "    " + turn + " += 1\n{}"
            ).format,
            inner,
        ),
        st.builds((indent + "if p > {}:\n{}" + indent + "else:\n{}").format, st.sampled_from("01"), inner, inner),
        st.builds((indent + "try:\n{}" + indent + "except (NameError, TypeError) as e:\n{}").format, inner, inner),
    )


names = st.sampled_from(["a", "b", "c"])
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
