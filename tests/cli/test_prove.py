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
