"""What people bring in: exercises as folders and zips, and what is too large to be read."""

import copy
import io
import os
import unittest
import zipfile

from hobtrial.core.words import UsageError
from hobtrial.crew.parcels import LARGEST_EXERCISE, exercise_in, scripts_in
from hobtrial.demo import exercise_folder


def packed(files: dict[str, bytes]) -> bytes:
    """A zip of some files."""
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return stream.getvalue()


class Exercises(unittest.TestCase):
    FILES = exercise_folder("at-least")

    def test_the_folder_stands_anywhere_in_it(self) -> None:
        for head in ("", "at-least/", "a/b/at-least/"):
            inside = {f"{head}{name}": data for name, data in self.FILES.items()} | {f"{head}notes.txt": b"mine"}
            with self.subTest(head):
                self.assertEqual(exercise_in([("x.zip", packed(inside))]), self.FILES)
                self.assertEqual(exercise_in(inside.items()), self.FILES)

    def test_the_outermost_exercise_counts(self) -> None:
        inside = self.FILES | {f"old/{name}": b"" for name in self.FILES}
        self.assertEqual(exercise_in([("x.zip", packed(inside))]), self.FILES)

    def test_without_settings_there_is_no_exercise(self) -> None:
        for files in ({"reference.py": b""}, {}):
            with self.subTest(files=files), self.assertRaisesRegex(UsageError, "there is no exercise.toml in it"):
                exercise_in([("x.zip", packed(files))])

    def test_what_is_too_large(self) -> None:
        pictures = {f"looks/p{number}.svg": bytes([number]) * (LARGEST_EXERCISE // 8) for number in range(9)}
        with self.assertRaisesRegex(UsageError, "this exercise has [0-9,]+ bytes; at most"):
            exercise_in((self.FILES | pictures).items())


class Scripts(unittest.TestCase):
    def test_a_zip_that_is_very_large_when_unzipped_is_left_out(self) -> None:
        text = bytes(range(256)) * 16_000  # four megabytes, which a zip makes small
        bomb = packed({f"s{number}.py": text for number in range(9)})
        self.assertLess(len(bomb), 2**20)
        found = scripts_in([("bomb.zip", bomb), ("wren.py", b"a = 1")])
        self.assertEqual(found.scripts, {"wren.py": b"a = 1"})
        self.assertRegex(found.left_out[0][1], r"bomb.zip has more than [0-9,]+ bytes with everything before it")

    def test_all_files_of_a_request_share_what_may_come(self) -> None:
        zips = [(f"{number}.zip", packed({f"{number}.py": bytes([number]) * 6_000_000})) for number in range(8)]
        packed_so_tightly = [(name, data) for name, data in zips if len(data) < 100_000]
        self.assertEqual(scripts_in(packed_so_tightly).scripts, {})  # each is denser than a script can be
        plain = [(f"{number}.py", bytes([number]) * 6_000_000) for number in range(8)]
        self.assertEqual(sorted(scripts_in(plain).scripts), [f"{number}.py" for number in range(5)])

    def test_entries_that_lie_over_one_another(self) -> None:
        stream = io.BytesIO(packed({"a.py": b"a = 1\n" * 2000}))
        with zipfile.ZipFile(stream, "a") as archive:
            for number in range(200):
                double = copy.copy(archive.infolist()[0])
                double.filename = f"s{number}.py"
                archive.filelist.append(double)
                archive.NameToInfo[double.filename] = double
            archive._didModify = True  # type: ignore[attr-defined]
        found = scripts_in([("over.zip", stream.getvalue())])
        self.assertEqual((found.scripts, len(found.left_out)), ({}, 1))
        self.assertIn("entries that lie over one another", found.left_out[0][1])

    def test_a_damaged_zip_is_never_more_than_a_sentence(self) -> None:
        whole = packed({"a.py": b"a = 1\n" * 50, "b.py": os.urandom(3000)})
        for place in range(0, len(whole), 7):
            for damaged in (whole[:place], whole[:place] + b"\xff\x00\xff" + whole[place + 3 :]):
                scripts_in([("x.zip", damaged)])  # raises nothing

    def test_a_class_is_read(self) -> None:
        files = {f"{number}/game.py": b"score = %d" % number for number in range(30)}
        self.assertEqual(scripts_in([("class.zip", packed(files))]).scripts, files)

    def test_stray_files_are_named_and_litter_is_not(self) -> None:
        inside = {"wren.py": b"a = 1", "notes.txt": b"-", "__MACOSX/._wren.py": b"-", ".DS_Store": b"-"}
        found = scripts_in([("class.zip", packed(inside)), ("picture.png", b"-"), ("sorrel.py", b"b = 2")])
        self.assertEqual(sorted(found.scripts), ["sorrel.py", "wren.py"])
        self.assertEqual(
            found.left_out,
            (
                ("class.zip/notes.txt", "notes.txt is not a script; hand in .py files"),
                ("picture.png", "picture.png is not a script; hand in .py files, or a zip of them"),
            ),
        )

    def test_two_of_one_name_are_both_there(self) -> None:
        found = scripts_in([("wren.py", b"a = 1"), ("wren.py", b"a = 2"), ("wren.py", b"a = 1")])
        self.assertEqual(found.scripts, {"wren.py": b"a = 1", "wren (2).py": b"a = 2"})
        zips = [(f"{group}.zip", packed({"wren.py": group.encode()})) for group in ("a", "b")]
        self.assertEqual(scripts_in(zips).scripts, {"wren.py": b"a", "b.zip/wren.py": b"b"})
