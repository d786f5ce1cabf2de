"""What is accepted, what is turned down, and in which words."""

import unittest

from hobtrial.core.script import Script, Unreadable, read
from hobtrial.core.script.read import LONGEST_SOURCE, mend
from tests.support import text

TAKEN = frozenset({"hob", "bun"})

ACCEPTED = {
    "assignment to several targets": "a = b = 3\nc, d = 1, 2",
    "augmented assignment": "a = 1\na += 2\na -= 1\na *= 3",
    "annotation of a built-in type": "score: int = 0",
    "if, elif and else": "if True:\n    a = 1\nelif False:\n    a = 2\nelse:\n    a = 3",
    "conditional expression": "a = 1 if True else 2",
    "while with else": "a = 0\nwhile a < 3:\n    a += 1\nelse:\n    a = 9",
    "for over a list": "for each in [1, 2]:\n    pass",
    "function with defaults and keywords": "def f(a, b=2, *, c=3):\n    return a + b + c\nf(1, c=4)",
    "handler": "@on(meets(hob, bun))\ndef shelve(which):\n    which.remove()",
    "global": "a = 0\ndef f():\n    global a\n    a += 1",
    "chained comparison and in": "a = 1 < 2 < 3 and 2 in [1, 2]",
    "is with None": "a = None is None",
    "f-string with a constant format": 'a = f"{3.14159:.2f}"',
    "walrus": "if (a := 3) > 2:\n    pass",
    "slices and subscripts": "a = [1, 2, 3]\na[0] = a[1:][0]",
    "dict and set": 'a = {"x": 1}\nb = {1, 2}',
    "a lone underscore": "for _ in range(3):\n    pass",
    "a local may shadow a piece": "def f():\n    bun = 3\n    return bun",
    "match": "match 1:\n    case 1 | 2:\n        a = 1\n    case None:\n        a = 2\n    case -1 if True:\n        a = 3\n    case other:\n        a = other",
    "try with several exceptions": "try:\n    pass\nexcept (ValueError, KeyError) as e:\n    a = str(e)\nelse:\n    a = 1",
    "raise": 'def f():\n    raise ValueError("no")\ndef g():\n    raise GameError',
    "a bare raise": "try:\n    a = 1\nexcept Exception:\n    raise",
    "assert": "assert True, 'yes'",
    "lambda and nested functions": "def f():\n    n = 1\n    def g():\n        nonlocal n\n        n += 1\n    return lambda x: x + n",
    "comprehensions": "a = [x for x in [1] if x]\nb = {x for x in a}\nc = {x: 1 for x in a}",
    "a loop inside sum": "a = sum(x for x in [1, 2])\nb = any(x for x in [1]) or sorted(x for x in [2])",
    "imports": "import random, math as m\nfrom time import sleep\nfrom random import randint as dice",
    "an enumeration": "from enum import Enum, auto\nclass Stage(Enum):\n    'stages of bread'\n    DOUGH = 1\n    OVEN = auto()",
    "an enumeration by its module": "import enum\nclass Stage(enum.IntEnum):\n    A = -1",
    "the name of the file": "if __name__ == '__main__':\n    a = 1",
    "letters of other languages": "größe = 3",
    "a name that Python has and this language does not": "id = 3\nmap = [1]",
    "keyword-only parameters": "def f(*, a=1):\n    return a",
}

REFUSED = {
    "import of another module": ("import os", 1, "`os` cannot be imported here"),
    "import of a part that is not listed": ("from random import seed", 1, "`seed` of `random` is not part"),
    "import of everything": ("from math import *", 1, "`*` of `math` is not part"),
    "import from beside": ("from . import game", 1, "There are no files beside this one"),
    "import of a future": ("from __future__ import annotations", 1, "`__future__` cannot be imported"),
    "import as a piece": ("import random as hob", 1, "`hob` stands in the scene"),
    "with": ("with x as y:\n    pass", 1, "`with` is not part"),
    "a bare except": ("try:\n    a = 2\nexcept:\n    pass", 3, "A bare `except` is not part"),
    "finally": ("try:\n    a = 2\nfinally:\n    a = 3", 1, "`finally` is not part"),
    "except of another exception": (
        "try:\n    a = 2\nexcept OSError:\n    pass",
        3,
        "Here stands the name of an exception",
    ),
    "except of a computed exception": (
        "x = 1\ntry:\n    a = 2\nexcept x:\n    pass",
        4,
        "Here stands the name of an exception",
    ),
    "raise of a value": ("raise 3", 1, "Here stands the name of an exception"),
    "raise of a kept exception": (
        "try:\n    a = 1\nexcept ValueError as e:\n    raise e",
        4,
        "Here stands the name of an exception",
    ),
    "raise from": ("try:\n    a = 1\nexcept ValueError as e:\n    raise KeyError from e", 4, "`from` after `raise`"),
    "an exception as a value": ("a = ValueError", 1, "`ValueError` only stands after"),
    "an exception called": ("a = ValueError('x')", 1, "`ValueError` only stands after"),
    "an exception's name bound": ("KeyError = 3", 1, "`KeyError` is Python's own"),
    "an exception's name as a parameter": ("def f(Exception):\n    pass", 1, "`Exception` is Python's own"),
    "an exception group": ("try:\n    a = 1\nexcept* ValueError:\n    pass", 1, "is not part of this language"),
    "class": ("class Bun:\n    pass", 1, "`class` is only part of this language for an enumeration"),
    "class with another base": ("class Bun(int):\n    pass", 1, "`class` is only part"),
    "class with keywords": (
        "from enum import Enum\nclass B(Enum, metaclass=type):\n    A = 1",
        2,
        "Only `class Name(Enum)`",
    ),
    "an enumeration that was not imported": ("class B(Enum):\n    A = 1", 1, "`class` is only part"),
    "a method in an enumeration": (
        "from enum import Enum\nclass B(Enum):\n    def f(self):\n        pass",
        3,
        "has only members with a constant value",
    ),
    "a computed member": (
        "from enum import Enum\nclass B(Enum):\n    A = len('x')",
        3,
        "has only members with a constant value",
    ),
    "Enum bound": ("Enum = 3", 1, "`Enum` is Python's own"),
    "auto bound": ("for auto in [1]:\n    pass", 1, "`auto` is Python's own"),
    "del": ("a = 1\ndel a", 2, "`del` is not part"),
    "yield": ("def f():\n    yield 1", 2, "`yield` is not part"),
    "async": ("async def f():\n    pass", 1, "`async` is not part"),
    "a loop as a value": ("a = (x for x in [1])", 1, "A loop inside an expression only stands in"),
    "a loop inside another call": ("print(x for x in [1])", 1, "A loop inside an expression only stands in"),
    "a loop inside a sum of one's own": (
        "def sum(x):\n    return x\nsum(x for x in [1])",
        3,
        "A loop inside an expression only stands in",
    ),
    "a pattern of a class": ("match 1:\n    case int():\n        pass", 2, "A class as a pattern"),
    "a pattern of a list": ("match 1:\n    case [1, 2]:\n        pass", 2, "A list as a pattern"),
    "a pattern of a dict": ("match 1:\n    case {}:\n        pass", 2, "A dict as a pattern"),
    "a capture with a guard": (
        "match 1:\n    case x if x > 1:\n        pass",
        2,
        "takes everything, so it can only be the last, without `if`",
    ),
    "as in a pattern": ("match 1:\n    case 1 as x:\n        pass", 2, "`as` in a pattern"),
    "other decorator": ("@cache\ndef f():\n    pass", 1, "Only `@on(...)` can stand above a function"),
    "a handler inside a function": (
        "def f():\n    @on(frame)\n    def g():\n        pass",
        2,
        "A handler stands at the left edge",
    ),
    "a name with an underscore": ("_secret = 1", 1, "`_secret` begins with `_`"),
    "an attribute with underscores": ("a = hob.__class__", 1, "`__class__` begins with `_`"),
    "a builtin with underscores": ("__import__('os')", 1, "`__import__` begins with `_`"),
    "a name of the weaving": ("__b = [10**9]", 1, "`__b` begins with `_`"),
    "a keyword argument with underscores": ("f(__x=1)", 1, "`__x` begins with `_`"),
    "star parameters": ("def f(*all):\n    pass", 1, "A parameter with `*`"),
    "double star parameters": ("def f(**all):\n    pass", 1, "A parameter with `**`"),
    "star parameters of a lambda": ("f = lambda *a: 1", 1, "A parameter with `*`"),
    "a slash among parameters": ("def f(a, /):\n    pass", 1, "A `/` among the parameters"),
    "star in a call": ("print(*[1])", 1, "`*` before a value"),
    "star in an assignment": ("a, *b = [1, 2]", 1, "`*` before a value"),
    "double star in a call": ("f(**{})", 1, "`**` in a call"),
    "double star in a dict": ("a = {**{}}", 1, "`**` in a dict"),
    "is with a number": ("a = 1 is 2", 1, "`is` only goes with None, True, False and members of an enumeration"),
    "is with a variable": ("a = 1\nb = a\nc = a is b", 3, "`is` only goes with None, True, False and members"),
    "format": ('n = 3\na = "{} buns".format(n)', 2, "`.format` is not part of this language"),
    "a method that is not listed": ('a = "x y".partition(" ")', 1, "`.partition` is not part of this language"),
    "loops nested deeper than can be woven": (
        "".join(f"{'    ' * level}for i in [1]:\n" for level in range(16)) + "    " * 16 + "pass",
        16,
        "More than 15 loops and `try`s stand inside one another",
    ),
    "bytes": ('a = b"x"', 1, "A value of this kind"),
    "complex": ("a = 3j", 1, "A value of this kind"),
    "dots": ("a = ...", 1, "A value of this kind"),
    "a format that is computed": ('a = f"{3:{4}}"', 1, "must be written out"),
    "a wide format": ('a = f"{3:9999}"', 1, "at most 200"),
    "a piece assigned at top level": ("hob = 3", 1, "`hob` stands in the scene"),
    "a piece bound by :=": ("if (hob := 3):\n    pass", 1, "`hob` stands in the scene"),
    "a piece as a function": ("def bun():\n    pass", 1, "`bun` stands in the scene"),
    "a kind assigned by a loop": ("for bun in [1]:\n    pass", 1, "`bun` stands in the scene"),
    "a piece declared global": ("def f():\n    global hob\n    hob = 1", 2, "`hob` stands in the scene"),
    "on bound": ("on = 3", 1, "`on` is what handlers are written with"),
    "on as a local": ("def f():\n    on = 3", 2, "`on` is what handlers are written with"),
    "an annotation of another type": ("a: Bun = 3", 1, "only be a built-in one"),
    "an annotation that runs something": ("def f(a: print('x')):\n    pass", 1, "only be a built-in one"),
    "matrix product": ("a = 1 @ 2", 1, "`@` between values"),
    "input in a game of handlers": ("a = input('name?')", 1, "`input` stops everything"),
    "wait at the left edge": ("wait(1)", 1, "`wait` stands inside a handler"),
    "letters that Python reads as others": ("ſcore = 1", 1, "has letters that Python reads as others"),
    "a name in letters from elsewhere": ("a = 𝐥𝐞𝐧('x')", 1, "has letters that Python reads as others"),
}

SYNTAX = {
    "colon after if": ("a = 1\nif a == 1\n    a = 2", 2, "missing-colon", "if a == 1:"),
    "colon after def": ("def f()\n    pass", 1, "missing-colon", "def f():"),
    "colon after else": ("if 1:\n    pass\nelse\n    pass", 3, "missing-colon", "else:"),
    "colon after a comment": ("if 1 # now\n    pass", 1, "missing-colon", "if 1:"),
    "single equals in if": ("a = 1\nif a = 1:\n    pass", 2, "assign-for-compare", "if a == 1:"),
    "single equals in while": ("while a = 1:\n    pass", 1, "assign-for-compare", "while a == 1:"),
    "single equals in elif": ("if 1:\n    pass\nelif a = 2:\n    pass", 3, "assign-for-compare", "elif a == 2:"),
    "else if": ("if 1:\n    pass\nelse if 2:\n    pass", 3, "else-if", "elif 2:"),
    "elseif": ("if 1:\n    pass\nelseif 2:\n    pass", 3, "else-if", "elif 2:"),
    "else with a test": ("if 1:\n    pass\nelse x > 3:\n    pass", 3, "else-if", "elif x > 3:"),
    "more or equal, turned round": ("if a => 1:\n    pass", 1, "turned-sign", "if a >= 1:"),
    "less or equal, turned round": ("if a =< 1:\n    pass", 1, "turned-sign", "if a <= 1:"),
    "global with a capital": ("def f():\n    Global a\n    a = 1", 2, "capital", "global a"),
    "global with a value": (
        "def f():\n    global a += 1",
        2,
        "global-with-value",
        "Write `global a` in one line and `a += 1` in the next.",
    ),
    "and as signs": ("if a && b:\n    pass", 1, "word-for-sign", "if a and b:"),
    "or as signs": ("if a || b:\n    pass", 1, "word-for-sign", "if a or b:"),
    "not as a sign": ("if !a:\n    pass", 1, "word-for-sign", "if not a:"),
    "plus plus": ("def f():\n    score++", 2, "plus-plus", "score += 1"),
    "minus minus": ("lives--", 1, "plus-plus", "lives -= 1"),
    "braces": ("if a {\n    b = 1\n}", 1, "braces", "End the line with `:` and indent what belongs to it."),
    "text not closed": ('tell("Ding)', 1, "missing-quote", "Close it with the quote that it began with."),
    "bracket not closed": ("a = (1 + 2\nb = 3", 1, "missing-bracket", "Put `)` where it ends."),
    "bracket too many": ("a = 1)", 1, "extra-bracket", "Remove it, or open one where it should begin."),
    "empty block": ("if True:\na = 1", 1, "empty-block", "Indent what belongs to it by four spaces, or write `pass`."),
    "empty function": (
        "def f():\n\nf()",
        1,
        "empty-block",
        "Indent what belongs to it by four spaces, or write `pass`.",
    ),
    "indented too far": ("a = 1\n   b = 2", 2, "uneven-indent", "Lines of one block begin in the same column."),
    "indented unevenly": (
        "if 1:\n    a = 1\n  b = 2",
        3,
        "uneven-indent",
        "Lines of one block begin in the same column.",
    ),
    "quotes from a document": ("tell(“Ding”)", 1, "curly-quotes", 'tell("Ding")'),
    "capital If": ("If a == 1:\n    pass", 1, "capital", "if a == 1:"),
    "capital Def": ("Def f():\n    pass", 1, "capital", "def f():"),
    "something else": ("a = = 1", 1, "not-python", "Compare it with a line that works, one sign after the other."),
}


class Reading(unittest.TestCase):
    def test_accepts(self) -> None:
        for name, source in ACCEPTED.items():
            with self.subTest(name):
                reading = read(source, TAKEN)
                self.assertIsInstance(reading, Script, getattr(reading, "problems", ""))

    def test_turns_down_with_line_and_reason(self) -> None:
        for name, (source, line, words) in REFUSED.items():
            with self.subTest(name):
                reading = read(source, TAKEN)
                self.assertIsInstance(reading, Unreadable)
                assert isinstance(reading, Unreadable)
                problem = reading.problems[0]
                self.assertEqual((problem.line, problem.kind), (line, "refused"))
                self.assertIn(words, problem.message)

    def test_explains_what_is_not_python(self) -> None:
        for name, (source, line, kind, instead) in SYNTAX.items():
            with self.subTest(name):
                reading = read(source, TAKEN)
                assert isinstance(reading, Unreadable)
                problem = reading.problems[0]
                self.assertEqual((problem.line, problem.kind, problem.instead), (line, kind, instead))
                self.assertIn("(Python says: ", problem.message)

    def test_an_event_without_its_at_sign(self) -> None:
        reading = read('on(pressed("space"))\ndef f():\n    pass', TAKEN)
        assert isinstance(reading, Unreadable)
        problem = reading.problems[0]
        self.assertEqual((problem.line, problem.kind, problem.instead), (1, "missing-at", '@on(pressed("space"))'))
        mended = mend(reading.text, problem)
        self.assertIsInstance(read(mended or "", TAKEN), Script)

    def test_two_faults_of_one_file_are_told_at_once(self) -> None:
        faults = {
            "missing-colon": ("if a == 1", "if a == 1:"),
            "assign-for-compare": ("if a = 1:", "if a == 1:"),
            "word-for-sign": ("if a && b:", "if a and b:"),
            "capital": ("If a == 1:", "if a == 1:"),
            "curly-quotes": ("if a == “x”:", 'if a == "x":'),
        }
        for kind, (line, right) in faults.items():
            for other, (second, _) in faults.items():
                with self.subTest(kind, other=other):
                    reading = read(f"a = b = 1\n{line}\n    a = 2\n\n\ndef f():\n    {second}\n        a = 3\n")
                    assert isinstance(reading, Unreadable)
                    self.assertEqual([(p.line, p.kind) for p in reading.problems], [(2, kind), (7, other)])
                    self.assertEqual(reading.problems[0].instead, right)

    def test_a_fault_is_found_in_other_places_and_beside_other_things(self) -> None:
        frames = (
            "x = 1  # if x = 1\n{}",
            "def g():\n    pass\n\n\n{}\n\nz = '('\n",
            "a = {'x': [1]}\ntell('if a = 1 && b')\n{}",
        )
        for name, (source, line, kind, _) in SYNTAX.items():
            for frame in frames:
                with self.subTest(name, frame=frame):
                    reading = read(frame.replace("{}", source))
                    assert isinstance(reading, Unreadable)
                    problem = reading.problems[0]
                    self.assertEqual(
                        (problem.kind, problem.line), (kind, line + frame[: frame.index("{}")].count("\n"))
                    )

    def test_all_refusals_are_told_at_once(self) -> None:
        reading = read(
            text("""
            import os
            a = 1
            class B:
                pass
            del a
        """)
        )
        assert isinstance(reading, Unreadable)
        self.assertEqual([problem.line for problem in reading.problems], [1, 3, 5])

    def test_an_exercise_can_leave_constructs_out(self) -> None:
        narrow = frozenset({"while", "list", "and"})
        for source, word in (
            ("while True:\n    pass", "while"),
            ("a = [x for x in 'a']", "list"),
            ("a = 1 and 2", "and"),
        ):
            reading = read(source, narrow=narrow)
            assert isinstance(reading, Unreadable)
            self.assertEqual(reading.problems[0].message, f"`{word}` is left out of this exercise.")
        self.assertIsInstance(read("for x in 'ab':\n    pass", narrow=narrow), Script)

    def test_straight_scripts_may_ask_and_wait(self) -> None:
        self.assertIsInstance(read("a = input('name?')\nwait(1)", straight=True), Script)

    def test_signs_inside_texts_and_comments_are_left_alone(self) -> None:
        self.assertIsInstance(read('a = "&& || ++ = {"  # if x = 1 && !b'), Script)


class Bytes(unittest.TestCase):
    def kind_of(self, source: bytes) -> str:
        reading = read(source)
        assert isinstance(reading, Unreadable)
        return reading.problems[0].kind

    def test_a_mark_at_the_beginning_and_other_line_ends_are_taken(self) -> None:
        reading = read(b"\xef\xbb\xbfa = 1\r\nb = 2\rc = 3\n")
        assert isinstance(reading, Script)
        self.assertEqual(reading.text, "a = 1\nb = 2\nc = 3\n")

    def test_an_encoding_line_is_ignored(self) -> None:
        self.assertIsInstance(read("# -*- coding: latin-1 -*-\na = 'ü'\n".encode()), Script)

    def test_latin_1_is_told_with_its_line(self) -> None:
        reading = read(b"a = 1\nb = 'k\xfchl'\n")
        assert isinstance(reading, Unreadable)
        problem = reading.problems[0]
        self.assertEqual((problem.kind, problem.line, problem.column), ("not-utf-8", 2, 7))

    def test_files_that_are_no_scripts(self) -> None:
        self.assertEqual(self.kind_of(b""), "empty")
        self.assertEqual(self.kind_of(b" \n\n"), "empty")
        self.assertEqual(self.kind_of(b"PK\x03\x04\x00\x00"), "not-text")
        self.assertEqual(self.kind_of(b"a = 1\n" * LONGEST_SOURCE), "too-long")

    def test_deep_nesting_is_told_and_not_tried(self) -> None:
        self.assertEqual(self.kind_of(b"a = " + b"(" * 5000 + b"1" + b")" * 5000), "not-python")
        self.assertEqual(self.kind_of(b"a = " + b"-" * 30000 + b"1"), "too-deep")
        self.assertEqual(self.kind_of(b"a = " + b"+".join([b"1"] * 3000)), "too-deep")


if __name__ == "__main__":
    unittest.main()
