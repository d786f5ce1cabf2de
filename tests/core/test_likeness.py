"""Scripts that share unusual runs are asked about, whatever their names, order and comments; those who wrote the same
short thing by themselves are not."""

import re
import unittest

from hobtrial.core.likeness import alike, fingerprints, tokens
from hobtrial.demo import exercise_folder, exercises, hand_ins, tries

OWN = '''
score = 0
streak = [0, 0, 0]
def longest(row):
    best, now = 0, 0
    for each in row:
        now = now + 1 if each else 0
        if now > best:
            best = now
    return best
@on(meets(hob, bun))
def shelve(which):
    global score
    streak.append(1)
    while len(streak) > 7 and streak[0] == 0:
        streak.pop(0)
    score = sum(streak) + longest(streak) * 0
    which.remove()
    if score >= 5 and longest(streak) > 2 or score > 9:
        win("full")
@on(meets(hob, soot))
def burn(which):
    streak.append(0)
    which.remove()
    if streak[-3:] == [0, 0, 0]:
        lose("sooty")
'''  # fmt: skip


def disguised(source: str) -> str:
    """The same with other names, the functions the other way round, other numbers of blank lines and comments."""
    for name, other in (
        ("streak", "row_of_buns"),
        ("longest", "how_long"),
        ("best", "top"),
        ("shelve", "f"),
        ("burn", "g"),
    ):
        source = re.sub(rf"\b{name}\b", other, source)
    head, *handlers = re.split(r"(?m)^(?=@on)", source)
    return "# by me\n" + head + "".join(f"\n# {number}\n{each}" for number, each in enumerate(reversed(handlers)))


def given(name: str) -> list[str]:
    folder = exercise_folder(name)
    beside = ("starter.py", "brief.md", "reference.py")
    return [data.decode() for file, data in folder.items() if file in beside or file.startswith("also/")]


def of_class(name: str) -> dict[str, str]:
    handed = {file: source.decode("utf-8", "replace") for file, source in hand_ins(name).items()}
    return handed or {each.student: each.source for each in tries(name)}


class Alike(unittest.TestCase):
    def test_a_disguised_copy_is_found_among_a_class(self) -> None:
        scripts = {**of_class("bakehouse-rush"), "first": OWN, "second": disguised(OWN)}
        found = alike(scripts, given("bakehouse-rush"))
        self.assertEqual([{pair.first, pair.second} for pair in found], [{"first", "second"}])
        self.assertGreater(found[0].share, 0.7)
        self.assertIn("streak", OWN.split("\n")[found[0].lines[0][0] - 1] + OWN)

    def test_a_copy_of_the_larger_part_is_found_and_of_a_few_lines_is_not(self) -> None:
        half = "\n".join(disguised(OWN).split("\n")[:-8]) + "\n@on(frame)\ndef h():\n    board('x', 1)\n"
        self.assertEqual(len(alike({"first": OWN, "second": half})), 1)
        few = (
            "score = 0\nlives = 3\n"
            + "\n".join(OWN.split("\n")[3:6])
            + "\n@on(meets(hob, bun))\ndef f(w):\n    w.remove()\n"
        )
        self.assertEqual(alike({"first": OWN, "second": few}, given("bakehouse-rush")), [])

    def test_independent_solutions_of_short_exercises_are_not_named(self) -> None:
        for name in exercises():
            with self.subTest(name):
                self.assertEqual(alike(of_class(name), given(name)), [])

    def test_what_everybody_was_given_counts_for_nothing(self) -> None:
        self.assertEqual(alike({"first": OWN, "second": disguised(OWN)}, [OWN]), [])
        brief = f"# Do it\nUse this:\n```python\n{OWN}```\n"
        self.assertEqual(alike({"first": OWN, "second": OWN}, [brief]), [])

    def test_what_many_wrote_the_same_way_is_what_the_exercise_asks_for(self) -> None:
        many = {f"student {number}": OWN for number in range(5)}
        self.assertEqual(alike({**many, **{f"other {number}": f"x = {number}" for number in range(5)}}), [])

    def test_texts_that_python_cannot_read_are_looked_at_as_far_as_they_go(self) -> None:
        self.assertEqual([text for text, _ in tokens("score = (1\n")], ["name", "=", "(", "number"])
        for source in ("", "   ", "'''", "\x00", "def f(:\n\t x"):
            self.assertIsInstance(fingerprints(source), list)
