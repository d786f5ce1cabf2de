"""`hob prove`: a table for people, JSON for programs, and its exit status."""

import json

from tests.cli.test_commands import Folder, hob
from tests.slips.support import folder


class Prove(Folder):
    def exercise(self) -> str:
        """A small exercise with a check too few."""
        place = self.folder / "first-count"
        place.mkdir()
        for name, content in folder("first-count").items():
            (place / name).parent.mkdir(exist_ok=True)
            (place / name).write_bytes(content)
        toml = (place / "exercise.toml").read_text()
        (place / "exercise.toml").write_text(toml.replace("board('Sacks') == 5", "sacks == 5"))
        return str(place)

    def test_table_and_json(self) -> None:
        done = hob("prove", self.exercise(), "--json", self.folder / "proof.json", "--jobs", 2)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertIn(
            "How many sacks?: the reference earns 11 of 11 marks, an empty script 0, the starter 0.", done.stdout
        )
        self.assertIn("stale-display", done.stdout)
        found = json.loads((self.folder / "proof.json").read_text())
        self.assertEqual(sum(found["summary"].values()), len(found["planted"]))
        through = [each for each in found["planted"] if each["verdict"] == "through"]
        self.assertIn("stale-display", {each["slip"] for each in through})
        self.assertTrue(all(each["scenario"].startswith("[[scenario]]") for each in through))

    def test_companions_are_tried(self) -> None:
        place = self.exercise()
        (self.folder / "first-count" / "wrong" / "none.py").write_text("# boundary\nsacks = 0\n")
        done = hob("prove", place)
        self.assertIn("wrong/none.py has boundary, and the first thing said of it is", done.stdout.replace("\n", " "))
        self.assertIn("8 of 9 companions come out as they must", done.stdout)

    def test_a_reference_that_loses_a_mark_is_named_and_ends_with_1(self) -> None:
        place = self.exercise()
        toml = self.folder / "first-count" / "exercise.toml"
        toml.write_text(toml.read_text().replace('expect = "sacks == 5', 'expect = "sacks == 6'))
        for command in (("prove", place), ("mark", place, self.folder / "first-count" / "reference.py")):
            done = hob(*command)
            self.assertEqual(done.returncode, 1, command[0])
            self.assertIn("does not hold for the reference itself: `sacks` was 5.", done.stderr)

    def test_the_same_bytes_again(self) -> None:
        place = self.exercise()
        written = []
        for name in ("a.json", "b.json"):
            hob("prove", place, "--json", self.folder / name)
            written.append((self.folder / name).read_bytes())
        self.assertEqual(written[0], written[1])

    def test_what_cannot_be_used(self) -> None:
        done = hob("prove", self.folder / "nowhere")
        self.assertEqual(done.returncode, 1)
        self.assertIn("nowhere", done.stderr)


del Folder
