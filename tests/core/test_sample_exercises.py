"""The sample exercises: fit to be set, in all forms, and solved by scripts that are built otherwise."""

import re
import unittest
from typing import get_args

from hobtrial.core.events import EventKind
from hobtrial.core.exercise.checks import DEEDS, KINDS
from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.core.scene import MotionSpec
from hobtrial.demo import exercise_folder, exercises, solution_of
from tests.support import report

CRAFT = ("handles", "assigns", "changes", "tests", "compares", "uses", "at most", "no number")
WAYS = ("cases", "steps", "wild", "predict", "luck", "only_if", "until", "arrange")


def opened() -> dict[str, tuple[Prepared, dict[str, bytes]]]:
    """All sample exercises with their files."""
    return {name: (open_exercise(exercise_folder(name)), exercise_folder(name)) for name in exercises()}


class Samples(unittest.TestCase):
    opened: dict[str, tuple[Prepared, dict[str, bytes]]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = opened()

    def test_each_reference_and_each_twin_earns_every_mark_without_a_finding(self) -> None:
        for name, (prepared, files) in self.opened.items():
            twin = solution_of(name, "otherwise").encode()
            self.assertNotEqual(twin, files["reference.py"])
            for source in (files["reference.py"], twin):
                with self.subTest(name, twin=source is twin):
                    found = report(prepared, name, source)
                    self.assertEqual((found["marks"], found["findings"]), (prepared.out_of, []))

    def test_each_starter_earns_at_most_a_fifth(self) -> None:
        for name, (prepared, files) in self.opened.items():
            with self.subTest(name):
                found = report(prepared, name, files["starter.py"], findings=False)
                self.assertIn(found["status"], ("marked", "stopped"))
                self.assertLessEqual(found["marks"], prepared.out_of / 5)

    def test_each_has_a_brief_craft_scenarios_and_enough_marks(self) -> None:
        for name, (prepared, files) in self.opened.items():
            with self.subTest(name):
                self.assertGreater(len(files["brief.md"]), 200)
                self.assertTrue(10 <= prepared.out_of <= 20)
                self.assertGreaterEqual(len(prepared.scenarios), 2)

    def test_every_event_motion_input_check_and_craft_form_is_used_by_one(self) -> None:
        tomls = "\n".join(files["exercise.toml"].decode() for _, files in self.opened.values())
        scripts = "\n".join(files["reference.py"].decode() for _, files in self.opened.values())
        handlers = " ".join(re.findall(r"@on\((.*)\)", scripts))
        unused = [kind for kind in get_args(EventKind) if not re.search(rf"\b{kind}\b", handlers)]
        unused += [name for name in MotionSpec.model_fields if not re.search(rf"\{{\s*{name} = |, {name} = ", tomls)]
        kinds = [kind for kind in KINDS if kind != "apart"]  # the samples have nothing that must not come too often
        unused += [key for key in (*DEEDS, *kinds, *WAYS) if not re.search(rf"\b{key} = |\.{key}\]", tomls)]
        unused += [form for form in CRAFT if f'expect = "{form} ' not in tomls]
        self.assertEqual(unused, [])
