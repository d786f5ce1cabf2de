"""The wording of findings: plain words, short sentences, one entry a slip, a page made from it."""

import re
import string
import unittest
from collections.abc import Iterator

from hobtrial.core.explaining import catalogue
from hobtrial.core.explaining.catalogue import fill, texts
from hobtrial.core.explaining.slips.order import GROUPS, NARROWER
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
    for name in ("CAUSES", "SUMMARIES", "QUESTIONS", "UNREADABLE"):
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
        tried = {module.SLIP for group in GROUPS for module in group}
        self.assertLessEqual(tried, set(SLIPS))
        self.assertLessEqual({slip for pair in NARROWER for slip in pair}, tried)
        self.assertEqual({slip for slip in tried if not all(SLIPS[slip].example)}, set())

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


class Page(unittest.TestCase):
    def test_the_page_is_made_from_the_catalogue(self) -> None:
        self.assertEqual((ROOT / "docs" / "slips.md").read_text(encoding="utf-8"), page())

    def test_every_file_says_how_it_recognises(self) -> None:
        self.assertTrue(all(text.endswith(".") for text in recognitions().values()))
