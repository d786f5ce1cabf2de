"""What is accepted, what is turned down, and in which words."""

import unittest

from hobtrial.core.script import Script, Unreadable, read
from hobtrial.core.script.read import LONGEST_SOURCE
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
}

REFUSED = {
    "import": ("import os", 1, "`import` is not part of this language"),
    "with": ("with x as y:\n    pass", 1, "`with` is not part"),
    "try": ("a = 1\ntry:\n    a = 2\nexcept Exception:\n    pass", 2, "`try` is not part"),
    "class": ("class Bun:\n    pass", 1, "`class` is not part"),
    "lambda": ("f = lambda: 3", 1, "`lambda` is not part"),
    "del": ("a = 1\ndel a", 2, "`del` is not part"),
    "comprehension": ("a = [x for x in [1]]", 1, "A list written as a loop"),
    "other decorator": ("@cache\ndef f():\n    pass", 1, "Only `@on(...)` can stand above a function"),
    "a name with an underscore": ("_secret = 1", 1, "`_secret` begins with `_`"),
    "an attribute with underscores": ("a = hob.__class__", 1, "`__class__` begins with `_`"),
    "star parameters": ("def f(*all):\n    pass", 1, "A parameter with `*`"),
    "double star parameters": ("def f(**all):\n    pass", 1, "A parameter with `**`"),
    "a slash among parameters": ("def f(a, /):\n    pass", 1, "A `/` among the parameters"),
    "star in a call": ("print(*[1])", 1, "`*` before a name"),
    "double star in a call": ("f(**{})", 1, "`**` in a call"),
    "is with a number": ("a = 1 is 2", 1, "`is` only goes with None, True and False"),
    "bytes": ('a = b"x"', 1, "A value of this kind"),
    "complex": ("a = 3j", 1, "A value of this kind"),
    "a format that is computed": ('a = f"{3:{4}}"', 1, "must be written out"),
    "a wide format": ('a = f"{3:9999}"', 1, "at most 200"),
    "a piece assigned at top level": ("hob = 3", 1, "`hob` stands in the scene"),
    "a kind assigned by a loop": ("for bun in [1]:\n    pass", 1, "`bun` stands in the scene"),
    "a piece declared global": ("def f():\n    global hob\n    hob = 1", 2, "`hob` stands in the scene"),
    "on bound": ("on = 3", 1, "`on` is what handlers are written with"),
    "an annotation of another type": ("a: Bun = 3", 1, "only be a built-in one"),
    "matrix product": ("a = 1 @ 2", 1, "`@` between values"),
    "letters that Python reads as others": ("ſcore = 1", 1, "has letters that Python reads as others"),
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
    "and as signs": ("if a && b:\n    pass", 1, "word-for-sign", "if a and b:"),
    "or as signs": ("if a || b:\n    pass", 1, "word-for-sign", "if a or b:"),
    "not as a sign": ("if !a:\n    pass", 1, "word-for-sign", "not a"),
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
