"""Every example of the page on the exercise format is read, and every key that there is stands on it."""

import json
import re
import unittest

from hobtrial.core.exercise import Settings, load, save, schema, with_scenario
from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.demo import exercise_folder, exercises
from tests.support import ROOT

PAGE = (ROOT / "docs" / "exercise-format.md").read_text(encoding="utf-8")
FIRST, *FURTHER = re.findall(r"```toml\n(.*?)```", PAGE, re.S)
REFERENCE = re.search(r"```python\n(.*?)```", PAGE, re.S)
assert REFERENCE is not None


def opened(toml: str) -> Prepared:
    """An example with the page's reference."""
    assert REFERENCE is not None
    return open_exercise({"exercise.toml": toml.encode(), "reference.py": REFERENCE[1].encode()})


class Page(unittest.TestCase):
    def test_every_example_is_read(self) -> None:
        self.assertEqual(opened(FIRST).exercise.title, "Buns")
        for further in FURTHER:
            with self.subTest(further[:50]):
                opened(FIRST + further)

    def test_the_reference_earns_the_marks_of_the_checks(self) -> None:
        from tests.support import report

        assert REFERENCE is not None
        for further in FURTHER:
            prepared = opened(FIRST + further)
            broken = [
                check
                for scenario in report(prepared, "", REFERENCE[1], findings=False)["scenarios"]
                for check in scenario["checks"]
                if check["verdict"] == "broken"
            ]
            with self.subTest(further[:50]):
                self.assertEqual(broken, [])

    def test_every_key_stands_on_the_page(self) -> None:
        made = json.dumps(schema())
        keys = set(re.findall(r'"([a-z_]+)": \{"(?:type|anyOf|\$ref|items|default|const|maxLength|minLength)', made))
        models = {name.casefold() for name in schema()["$defs"]}
        missing = [key for key in sorted(keys - models) if not re.search(rf"\b{key}\b", PAGE)]
        self.assertEqual([key for key in missing if key not in ("still", "items")], [])

    def test_the_published_schema_is_that_of_the_program(self) -> None:
        published = json.loads((ROOT / "docs" / "exercise.schema.json").read_text(encoding="utf-8"))
        self.assertEqual(published, schema())
        self.assertIn("scenario", published["properties"])


class BothWays(unittest.TestCase):
    def test_reading_and_writing_lose_nothing(self) -> None:
        for name in exercises():
            files = exercise_folder(name)
            with self.subTest(name):
                self.assertEqual(save(load(files)), files)
        picture = b'<svg xmlns="http://www.w3.org/2000/svg"/>'
        files = {**exercise_folder("first-count"), "looks/hob.svg": picture}
        self.assertEqual(save(load(files))["looks/hob.svg"], picture)

    def test_a_scenario_is_added_and_comments_stay(self) -> None:
        scenario = {"name": "Found", "seed": 3, "arrange": [], "input": [{"at": 0.5, "press": "space"}], "check": []}
        text = with_scenario(FIRST, scenario)
        self.assertTrue(text.startswith(FIRST.rstrip("\n")))
        self.assertIn("# of one trial, 10 where nothing is said", text)
        added = opened(text).exercise.settings.scenario[-1]
        self.assertEqual((added.name, added.seed, added.input[0].press), ("Found", 3, "space"))

    def test_a_picture_that_is_none(self) -> None:
        from hobtrial.core.exercise import ExerciseError

        files = {**exercise_folder("first-count"), "looks/hob.svg": b"GIF89a"}
        with self.assertRaisesRegex(ExerciseError, r"looks/hob.svg: is not an SVG picture"):
            load(files)
        self.assertIsInstance(load(exercise_folder("first-count")).settings, Settings)
