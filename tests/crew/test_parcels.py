"""What people bring in: exercises as folders and zips, and what is too large to be read."""

import io
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


class Zips(unittest.TestCase):
    def test_one_that_is_very_large_when_unzipped_is_not_read(self) -> None:
        text = bytes(range(256)) * 16_000  # four megabytes, which a zip makes small
        bomb = packed({f"s{number}.py": text for number in range(9)})
        self.assertLess(len(bomb), 2**20)
        with self.assertRaisesRegex(UsageError, r"bomb.zip has more than [0-9,]+ bytes when unzipped"):
            list(scripts_in([("bomb.zip", bomb)]))

    def test_a_class_is_read(self) -> None:
        files = {f"{number}/game.py": b"score = %d" % number for number in range(30)}
        self.assertEqual(dict(scripts_in([("class.zip", packed(files))])), files)
