"""Whose a file is by its name, and class lists as CSV."""

import unittest

from hobtrial.core.roster import match, name_from_file, read_list
from hobtrial.core.words import UsageError

CLASS = ["Wren", "Sorrel", "Réné", "Sea Holly", "Holly"]


def whose(*files: str) -> list[str | None]:
    """The sure owners of files."""
    return [found.student for found in match(files, CLASS)]


class Files(unittest.TestCase):
    def test_a_name_in_the_file_or_its_folder(self) -> None:
        self.assertEqual(
            whose("wren.py", "task3_SORREL_v2.py", "rene-final.py", "7b/Sea Holly.py"), ["Wren", "Sorrel", "Réné", None]
        )
        self.assertEqual(whose("Wren/game.py", "hand-in/sorrel/main.py"), ["Wren", "Sorrel"])

    def test_what_is_doubtful_names_who_it_may_be(self) -> None:
        (found,) = match(["wrenn.py"], CLASS)
        self.assertEqual(
            (found.student, found.candidates, found.why), (None, ("Wren",), "no student has just that name")
        )
        (found,) = match(["sea_holly.py"], CLASS)
        self.assertEqual((found.candidates, found.why), (("Sea Holly", "Holly"), "several students have that name"))
        self.assertEqual([each.student for each in match(["wren1.py", "wren_2.py"], CLASS)], [None, None])
        self.assertEqual(match(["xyz.py"], CLASS)[0].candidates, ())
        self.assertEqual(whose("wrench.py"), [None])

    def test_a_new_students_name(self) -> None:
        self.assertEqual(
            [name_from_file(file) for file in ("wren_2.py", "7b/sea holly.py", "12.py")],
            ["Wren", "Sea holly", "Nameless"],
        )


class Lists(unittest.TestCase):
    def test_the_column_of_names(self) -> None:
        self.assertEqual(read_list("\ufeffname;x\nWren"), ["name;x", "Wren"])
        self.assertEqual(read_list("nr,Name\n1,Wren\n2,Sorrel\n\n"), ["Wren", "Sorrel"])
        self.assertEqual(read_list("Wren\r\n'=Sorrel\r\n"), ["Wren", "=Sorrel"])

    def test_what_is_wrong_says_where(self) -> None:
        for text, words in (
            ("", "is empty"),
            ("name\nWren\nWren", "line 2: Wren stands in the list twice"),
            ("name,x\n,1", "line 2: a name has"),
        ):
            with self.subTest(words), self.assertRaisesRegex(UsageError, words):
                read_list(text)
