"""Woven = plain: a script means what it means in Python.

Each program of `programs.py` runs woven, both bodies, and as it is, in processes of their own with
other hash seeds; variables, printed text, exception type and message must be the same.
"""

import json
import os
import subprocess
import sys
import unittest
from typing import Any
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from hobtrial.core.script import Guards
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
