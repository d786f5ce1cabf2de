"""The wording of findings: plain words, short sentences, one entry a slip, a page made from it."""

import re
import string
import unittest
from collections.abc import Iterator

from hobtrial.core.explaining import catalogue
from hobtrial.core.explaining.catalogue import fill, texts
from hobtrial.core.explaining.finding import Edit
from hobtrial.core.explaining.slips.order import NARROWER, RECOGNISED, TRIED, narrower
from hobtrial.core.explaining.slips.order import SLIPS as RECOGNISERS
from hobtrial.core.explaining.slips.slip import Group
from hobtrial.core.explaining.slips_page import page, recognitions
from hobtrial.core.explaining.wording import SLIPS
from tests.support import ROOT

LONGEST = 20
"""Words of a sentence."""


def templates() -> Iterator[tuple[str, str]]:
    """Every text of the catalogue, with where it is from."""
    for slip, entry in SLIPS.items():
        for name in ("title", "nudge", "pointer", "note", "nudge_plain", "pointer_plain", "for_class"):
            yield f"{slip}.{name}", getattr(entry, name)
        for fact, variant in entry.variants.items():
            for name in ("title", "nudge", "pointer", "note", "for_class"):
                yield f"{slip}.{fact}.{name}", getattr(variant, name)
    for name in ("SUMMARIES", "QUESTIONS", "UNREADABLE"):
        for key, text in getattr(catalogue, name).items():
            yield f"{name}.{key}", text
    yield "HIDDEN_NAME", catalogue.HIDDEN_NAME
    yield "NO_HANDLERS", catalogue.NO_HANDLERS


def prose(text: str) -> str:
    """A text with pieces of script, facts and quotations as one word each."""
    return re.sub(r"`[^`]*`|\{\w+\}|\"[^\"]*\"", " x ", text)


class Wording(unittest.TestCase):
    def test_only_words_of_the_list(self) -> None:
        listed = (ROOT / "docs" / "word-list.txt").read_text(encoding="utf-8").split("\n")
        known = {line for line in listed if line and not line.startswith("#")}
        for where, text in templates():
            words = {word.lower() for word in re.findall(r"[A-Za-z]+(?:'[a-z]+)?", prose(text))}
            self.assertLessEqual(words, known, where)

    def test_sentences_are_short_and_calm(self) -> None:
        for where, text in templates():
            self.assertNotIn("!", prose(text), where)
            for sentence in re.split(r"(?<=[.?:])\s", prose(text)):
                self.assertLessEqual(len(sentence.split()), LONGEST, f"{where}: {sentence}")

    def test_a_nudge_asks_and_names_no_line(self) -> None:
        for slip, entry in SLIPS.items():
            for text in filter(None, (entry.nudge, entry.nudge_plain)):
                self.assertNotIn("{line}", text, slip)
                self.assertTrue("?" in text or text == "{question}", slip)

    def test_every_slip_that_is_tried_has_its_entry_with_an_example(self) -> None:
        self.assertLessEqual(set(RECOGNISERS), set(SLIPS))
        self.assertEqual({slip for slip in RECOGNISERS if not all(SLIPS[slip].example)}, set())

    def test_texts_that_have_no_values_have_plain_ones(self) -> None:
        """What a run may not hold (`old`, `new`, `answer`, `times`) is asked for only where a plain text can stand in."""
        for slip, entry in SLIPS.items():
            asked = {name for _, name, _, _ in string.Formatter().parse(entry.pointer) if name}
            if asked & {"old", "seen", "answer"} and slip not in ("boundary", "set-for-change", "always-true"):
                self.assertTrue(entry.pointer_plain, slip)

    def test_the_plain_text_stands_in(self) -> None:
        facts = {"met": "score < 5", "line": 3, "right": "score >= 5"}
        self.assertEqual(
            texts(SLIPS["flipped"], facts).pointer, "Line 3 asks `score < 5`. It says yes when it should say no."
        )
        seen = {**facts, "values": (("score", 4),), "answer": "yes"}
        self.assertEqual(
            texts(SLIPS["flipped"], seen).pointer,
            "Line 3 asked `score < 5`. `score` was 4, so the answer was yes.",
        )
        gap = texts(SLIPS["no-call"], {"met": "win", "right": "win()"}).pointer
        self.assertEqual(gap, "Line … names `win` and does not call it. Nothing happens.")
        with self.assertRaisesRegex(KeyError, "the catalogue asks for"):
            fill("{nothing}", {})


class Order(unittest.TestCase):
    """Which of two slips stands alone is a strict order, written down once, and every part of it says something."""

    def edits(self) -> list[Edit]:
        """An edit of each slip in each group that it is tried in."""
        found = [Edit(slip.id, (), "", group=slip.group) for slip in RECOGNISERS.values()]
        return found + [Edit(slip.id, (), "", group=Group.REFERENCE) for slip in RECOGNISERS.values() if slip.broad]

    def test_it_is_strict(self) -> None:
        edits = self.edits()
        below = {id(a): [b for b in edits if narrower(a, b)] for a in edits}
        for a in edits:
            self.assertFalse(narrower(a, a), a.slip)
            for b in below[id(a)]:
                self.assertFalse(narrower(b, a), (a.slip, b.slip))
                for c in below[id(b)]:
                    self.assertTrue(narrower(a, c), (a.slip, b.slip, c.slip))

    def test_every_pair_says_something(self) -> None:
        groups = {slip.id: {slip.group, *([Group.REFERENCE] if slip.broad else [])} for slip in RECOGNISERS.values()}
        for first, second in NARROWER:
            self.assertTrue(groups[first] & groups[second], (first, second))
            self.assertFalse(_follows(first, second, [pair for pair in NARROWER if pair != (first, second)]))

    def test_every_slip_is_in_its_place_and_nothing_else_is(self) -> None:
        with_edits = {slip.id for slip in RECOGNISERS.values() if slip.edits is not None}
        self.assertEqual((set(TRIED), len(TRIED)), (with_edits, len(with_edits)))
        self.assertEqual(set(RECOGNISED), {slip.id for slip in RECOGNISERS.values() if slip.recognise is not None})
        self.assertTrue(all(slip.edits or slip.recognise for slip in RECOGNISERS.values()))


def _follows(first: str, second: str, pairs: list[tuple[str, str]]) -> bool:
    """Whether one can be reached from the other."""
    return any(a == first and (b == second or _follows(b, second, pairs)) for a, b in pairs)


class Page(unittest.TestCase):
    def test_the_page_is_made_from_the_catalogue(self) -> None:
        self.assertEqual((ROOT / "docs" / "slips.md").read_text(encoding="utf-8"), page())

    def test_every_file_says_how_it_recognises(self) -> None:
        self.assertTrue(all(text.endswith(".") for text in recognitions().values()))
