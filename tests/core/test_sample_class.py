"""The sample class: which lines hold each student's mistake, and what the first finding says.

The list below was written by reading the scripts. A finding names the slip, in its lines; nobody who is right is told anything.
"""

import unittest
from typing import Any

from hobtrial.core.explaining.finding import Edit
from hobtrial.core.script.tree import Span, apply
from tests import sample
from tests.support import BAKEHOUSE, bakehouse, report, sample_class

RIGHT = {"finch", "heron", "nettle", "rowan"}

MISTAKES: dict[str, tuple[str, set[int]]] = {
    # student: (the slip, the lines that hold it)
    "bramble": ("acts-after-end", {10, 20}),
    "clover": ("boundary", {29}),
    "dunnock": ("acts-after-end", {19}),
    "fennel": ("boundary", {27}),
    "iris": ("missing-global", {24}),
    "jay": ("missing-global", {11}),
    "knapweed": ("unreadable", {15}),
    "linnet": ("acts-after-end", {24}),
    "mallow": ("misspelt-name", {2, 4}),
    "oxlip": ("wrong-event", {31}),
    "pipit": ("set-for-change", {12}),
    "quince": ("missing-global", {15}),
    "siskin": ("every-frame", {18}),
    "sorrel": ("endless-loop", {14}),
    "tansy": ("boundary", {9}),
    "teasel": ("every-frame", {19}),
    "vetch": ("set-for-change", {22}),
    "woad": ("unreadable", {27}),
    "wren": ("boundary", {15}),
    "yarrow": ("misspelt-name", {12}),
}


class SampleClass(unittest.TestCase):
    reports: dict[str, dict[str, Any]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.reports = {name: sample.reports()[BAKEHOUSE, f"{name}.py"].as_json() for name in sample_class()}

    def test_the_list_is_complete(self) -> None:
        self.assertEqual(set(self.reports), RIGHT | set(MISTAKES))
        self.assertEqual(len(self.reports), 24)

    def test_right_scripts_earn_every_mark_and_hear_nothing(self) -> None:
        for name in RIGHT:
            found = self.reports[name]
            self.assertEqual((found["marks"], found["findings"], found["status"]), (20, [], "marked"), name)

    def test_the_first_finding_names_the_slip_in_its_lines(self) -> None:
        for name, (slip, lines) in MISTAKES.items():
            with self.subTest(name):
                finding = self.reports[name]["findings"][0]
                self.assertEqual((finding["slip"], finding["confidence"]), (slip, "shown"))
                self.assertLessEqual(set(finding["lines"]), lines)

    def test_every_lost_mark_is_explained_once(self) -> None:
        for name, found in self.reports.items():
            lost = sum(finding["marks_lost"] for finding in found["findings"])
            self.assertEqual(lost, found["out_of"] - found["marks"], name)

    def test_a_shown_fix_mends_what_it_says_and_breaks_nothing(self) -> None:
        for name, found in self.reports.items():
            for finding in found["findings"]:
                if finding["fix"] is None:
                    continue
                lines = sample_class()[name].split("\n")
                for change in finding["fix"]["changes"]:
                    index = change["line"] - 1
                    self.assertEqual(lines[index].strip(), change["before"], name)
                    lines[index] = lines[index].replace(change["before"], change["after"])
                again = report(bakehouse(), name, "\n".join(lines))
                self.assertEqual(len(held(again) - held(found)), finding["fix"]["mends"], name)
                self.assertEqual(len(held(found) - held(again)), finding["fix"]["breaks"], name)

    def test_whole_sentences(self) -> None:
        pointers = {name: self.reports[name]["findings"][0]["pointer"] for name in MISTAKES}
        self.assertEqual(pointers["wren"], "Line 15 asked `score > 5`. `score` was 5, so the answer was no.")
        self.assertEqual(pointers["clover"], "Line 29 asked `5 < score`. `score` was 5, so the answer was no.")
        self.assertEqual(pointers["pipit"], "Line 12 set `score` to 1. It was 1 before, and that was forgotten.")
        self.assertEqual(pointers["vetch"], "Line 22 set `lives` to -1. It was 3 before, and that was forgotten.")
        self.assertEqual(
            pointers["teasel"],
            "Line 19 waits for `overlaps(hob, soot)`. It changed `lives` 3 times, one right after the other.",
        )
        self.assertEqual(pointers["yarrow"], "Line 12 writes `Score`. The name that is meant seems to be `score`.")
        self.assertEqual(
            pointers["jay"],
            "Line 11 stores `score` inside `shelve`. Without `global` that is another `score`.",
        )
        self.assertEqual(
            pointers["bramble"],
            "At 6.63 s line 20 made `lives` 2. The game was over by then.",
        )
        self.assertEqual(
            pointers["sorrel"], "This loop went round 100,000 times in one frame: nothing inside it changes `score`."
        )
        self.assertEqual(
            [finding["pointer"] for finding in self.reports["oxlip"]["findings"]],
            [
                'Line 31 waits for `pressed("enter")`. The event that is meant is `pressed("space")`.',
                'The script says `"Hearts"`. The brief asks for the name `"Lives"`.',
            ],
        )

    def test_nudges_name_no_line(self) -> None:
        for found in self.reports.values():
            for finding in found["findings"]:
                self.assertNotRegex(finding["nudge"], r"[Ll]ine \d")
                self.assertTrue(finding["nudge"].endswith("?") or finding["slip"] == "unreadable", finding["nudge"])

    def test_sentences_are_short_and_calm(self) -> None:
        for found in self.reports.values():
            for finding in found["findings"]:
                for text in (
                    finding["title"],
                    finding["nudge"],
                    finding["pointer"],
                    finding["note"],
                    *finding["happened"],
                ):
                    self.assertNotIn("!", text.replace("`!`", "").replace("!=", ""))
                    for sentence in text.split(". "):
                        self.assertLessEqual(len(sentence.split()), 20, sentence)


def held(found: dict[str, Any]) -> set[tuple[str, str]]:
    """The checks of a report that hold."""
    return {(s["name"], c["expect"]) for s in found["scenarios"] for c in s["checks"] if c["verdict"] == "held"}


class Edits(unittest.TestCase):
    def test_spans_are_replaced_from_the_right(self) -> None:
        edit = Edit("x", (Span(1, 0, 1, "long"), Span(1, 4, 5, "c")), "x")
        self.assertEqual(apply("a = b\nd", edit.spans), "long = c\nd")
