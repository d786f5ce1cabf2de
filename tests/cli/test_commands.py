"""`hob mark` and `hob play` as they are called: exit status, table, JSON, and what is wrong."""

import csv
import io
import json
import shutil
import subprocess
import sys
import tempfile
import unittest
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import mock
from xml.etree import ElementTree

from hobtrial.cli import loading, marking
from hobtrial.cli.inputs import exercise_files
from hobtrial.demo.sample import HERE
from hobtrial.store import Classes, Rounds, Store
from tests.crew.faults import breaking, killed_after
from tests.support import BAKEHOUSE, ROOT, database

EXERCISE = HERE / "exercises" / BAKEHOUSE
CLASS = HERE / "class" / BAKEHOUSE


def hob(*arguments: object, cwd: Path = ROOT) -> subprocess.CompletedProcess[str]:
    """Runs a command as `hob` hands it over."""
    command = [sys.executable, "-m", "hobtrial", *map(str, arguments)]
    return subprocess.run(
        command,
        cwd=cwd,
        capture_output=True,
        text=True,
        env={"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin"},
        timeout=120,
    )


class Folder(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder)

    def file(self, name: str, content: bytes | str) -> Path:
        """A file in the test's folder."""
        path = self.folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(content if isinstance(content, bytes) else content.encode())
        return path


class Mark(Folder):
    def test_table_json_and_status(self) -> None:
        out = self.folder / "report.json"
        done = hob("mark", EXERCISE, CLASS / "wren.py", CLASS / "heron.py", "--json", out)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertIn("Bakehouse rush, out of 20", done.stdout)
        self.assertIn("score > 5", done.stdout)
        self.assertIn("Read and run. Nothing to report.", done.stdout)
        report = json.loads(out.read_text())
        self.assertEqual(
            {key: report[key] for key in ("format", "exercise", "out_of", "cut_short")},
            {"format": 1, "exercise": "Bakehouse rush", "out_of": 20, "cut_short": False},
        )
        wren, heron = report["scripts"]
        self.assertEqual((wren["script"], wren["status"], wren["marks"]), (str(CLASS / "wren.py"), "marked", 15))
        self.assertEqual((heron["marks"], heron["findings"]), (20, []))
        self.assertEqual(set(wren["by_concept"]), {"variables", "events", "conditionals"})
        finding = wren["findings"][0]
        self.assertEqual(
            (finding["slip"], finding["lines"], finding["fix"]["after"], finding["fix"]["breaks"]),
            ("boundary", [15], "if score >= 5:", 0),
        )
        check = wren["scenarios"][2]["checks"][1]
        self.assertEqual((check["verdict"], check["frame"], check["values"]), ("broken", 120, {"outcome": "playing"}))

    def marked(self, where: str | None, *, killed: int | None = None) -> tuple[int, str, dict[str, bytes]]:
        """Exit status, stderr and files of marking a right script with a fault planted."""
        files = {kind: self.folder / f"report.{kind}" for kind in ("json", "csv", "junit")}
        fault = breaking(where, "AssertionError") if where else killed_after(killed or 0)
        errors = io.StringIO()
        with fault, redirect_stdout(io.StringIO()), redirect_stderr(errors):
            status = marking.mark(EXERCISE, [CLASS / "heron.py"], marking.Files(**files), 1)
        return status, errors.getvalue(), {kind: path.read_bytes() for kind, path in files.items()}

    def test_a_fault_of_ours_is_not_the_scripts(self) -> None:
        status, errors, files = self.marked("hobtrial.core.judging.marking.play_scenario")
        self.assertEqual(status, 3)
        self.assertRegex(
            errors, r"heron\.py: This is a fault of Hob Trial\. Tell whoever looks after the server: \w{8}"
        )
        (script,) = json.loads(files["json"])["scripts"]
        self.assertEqual((script["status"], script["marks"], script["fault"]["whose"]), ("unmarked", None, "ours"))
        self.assertEqual(script["findings"], [])
        (row,) = csv.DictReader(io.StringIO(files["csv"].decode("utf-8-sig")))
        self.assertEqual((row["status"], row["marks"], row["out of"]), ("unmarked", "", "20"))
        suite = ElementTree.fromstring(files["junit"]).find("testsuite")
        assert suite is not None
        self.assertEqual((suite.get("errors"), suite.get("failures")), ("1", "0"))

    def test_a_fault_of_the_machine_is_not_the_scripts(self) -> None:
        status, errors, files = self.marked(None, killed=1)
        self.assertEqual(status, 3)
        self.assertIn("The machine ended the worker over this script, twice.", errors)
        (script,) = json.loads(files["json"])["scripts"]
        self.assertEqual((script["status"], script["marks"], script["fault"]["whose"]), ("unmarked", None, "machine"))

    def test_marks_stand_where_only_the_explanation_fails(self) -> None:
        status, errors, files = self.marked("hobtrial.core.reporting.making.craft_findings")
        self.assertEqual(status, 3)
        self.assertIn("The marks are right, but the mistakes could not be looked for.", errors)
        (script,) = json.loads(files["json"])["scripts"]
        self.assertEqual((script["status"], script["marks"], script["unexplained"]["whose"]), ("marked", 20, "ours"))

    def test_two_runs_write_the_same_bytes(self) -> None:
        for name in ("a.json", "b.json"):
            hob("mark", EXERCISE, CLASS, "--json", self.folder / name, "--jobs", 1 if name == "a.json" else 2)
        self.assertEqual((self.folder / "a.json").read_bytes(), (self.folder / "b.json").read_bytes())

    def test_scripts_that_cannot_be_read_are_marked_all_the_same(self) -> None:
        self.file("s/empty.py", "")
        self.file("s/latin.py", "a = 'kühl'".encode("latin-1"))
        self.file("s/picture.py", b"\x89PNG\x00\x00")
        self.file("s/loop.py", "while True:\n    pass\n")
        self.file("s/refused.py", "import os\n")
        out = self.folder / "r.json"
        done = hob("mark", EXERCISE, self.folder / "s", "--json", out)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        found = {
            Path(each["script"]).stem: (each["status"], each["marks"], each["findings"][0]["slip"])
            for each in json.loads(out.read_text())["scripts"]
        }
        self.assertEqual(
            found,
            {
                "empty": ("unreadable", 0, "unreadable"),
                "latin": ("unreadable", 0, "unreadable"),
                "picture": ("unreadable", 0, "unreadable"),
                "loop": ("stopped", 0, "endless-loop"),
                "refused": ("unreadable", 0, "unreadable"),
            },
        )

    def test_a_zip_of_an_exercise_and_of_scripts(self) -> None:
        for name, files in (("exercise.zip", EXERCISE.iterdir()), ("scripts.zip", CLASS.glob("w*.py"))):
            packed = io.BytesIO()
            with zipfile.ZipFile(packed, "w") as archive:
                for file in files:
                    archive.write(file, f"folder/{file.name}")
            self.file(name, packed.getvalue())
        done = hob("mark", self.folder / "exercise.zip", self.folder / "scripts.zip", "--json", self.folder / "r.json")
        self.assertEqual(done.returncode, 0, done.stderr)
        scripts = json.loads((self.folder / "r.json").read_text())["scripts"]
        self.assertEqual(
            [each["script"] for each in scripts],
            [f"{self.folder}/scripts.zip/folder/{name}.py" for name in ("woad", "wren")],
        )

    def test_what_cannot_be_used_is_one_line_each_and_status_1(self) -> None:
        self.file("fake.zip", "no zip")
        out = self.folder / "r.json"
        done = hob(
            "mark", EXERCISE, self.folder / "nothing.py", CLASS / "wren.py", self.folder / "fake.zip", "--json", out
        )
        self.assertEqual(done.returncode, 1)
        self.assertEqual(
            done.stderr.splitlines(),
            [
                f"{self.folder}/nothing.py: there is no such file or folder",
                f"{self.folder}/fake.zip is called .zip and is not a zip",
            ],
        )
        self.assertEqual(len(json.loads(out.read_text())["scripts"]), 1)

    def test_an_exercise_with_faults_tells_all_of_them(self) -> None:
        toml = (
            (EXERCISE / "exercise.toml")
            .read_text()
            .replace('title = "Bakehouse rush"', 'title = "Bakehouse rush"\ncolour = 3')
            .replace("score == 3", "scoer == 3")
        )
        self.file("e/exercise.toml", toml)
        done = hob("mark", self.folder / "e", CLASS / "wren.py")
        self.assertEqual(done.returncode, 1)
        self.assertEqual(len(done.stderr.splitlines()), 2, done.stderr)
        self.assertIn("exercise.toml, line 3: `colour` is not a key here", done.stderr)
        self.assertIn("reference.py: this file is missing", done.stderr)
        self.assertNotIn("Traceback", done.stderr)

    def test_no_exercise_at_all(self) -> None:
        done = hob("mark", self.folder / "nowhere", CLASS / "wren.py")
        self.assertEqual((done.returncode, len(done.stderr.splitlines())), (1, 1))
        self.assertIn("there is no such exercise", done.stderr)

    def test_wrong_usage_is_status_2(self) -> None:
        self.assertEqual(hob("mark").returncode, 2)
        self.assertEqual(hob("mark", EXERCISE, CLASS / "wren.py", "--colour").returncode, 2)
        self.assertEqual(hob("nonsense").returncode, 2)


class OtherPrograms(Folder):
    def test_csv_and_junit_say_the_same_as_the_report_and_are_the_same_again(self) -> None:
        names = ("out.json", "out.csv", "out.xml")
        script = self.file("=wren.py", (CLASS / "wren.py").read_bytes())
        written = []
        for _ in range(2):
            options = zip(("--json", "--csv", "--junit"), names, strict=True)
            done = hob(
                "mark",
                EXERCISE,
                script.name,
                CLASS / "woad.py",
                *(part for pair in options for part in pair),
                cwd=self.folder,
            )
            self.assertEqual((done.returncode, done.stderr), (0, ""))
            written.append([(self.folder / name).read_bytes() for name in names])
        self.assertEqual(written[0], written[1])
        rows = list(csv.DictReader(io.StringIO((self.folder / "out.csv").read_text("utf-8-sig"))))
        self.assertEqual(
            (rows[0]["script"], rows[0]["status"], rows[0]["marks"], rows[0]["A full shelf"]),
            ("'=wren.py", "marked", "15", "1"),
        )
        self.assertEqual((rows[1]["status"], rows[1]["first finding"][:6]), ("unreadable", "The sc"))
        suites = ElementTree.parse(self.folder / "out.xml").getroot()
        self.assertEqual([suite.get("name") for suite in suites], ["=wren.py", str(CLASS / "woad.py")])
        failed = [case.get("name") for case in suites[0] if case.find("failure") is not None]
        self.assertIn("by: outcome == 'won'", failed)
        self.assertEqual([case.get("name") for case in suites[1]], ["can be read"])

    def test_a_new_exercise_runs_at_once(self) -> None:
        folder = self.folder / "my-game"
        self.assertEqual(hob("new", folder).returncode, 0)
        done = hob("mark", folder, folder / "reference.py")
        self.assertIn("My game, out of 4", done.stdout)
        self.assertIn("Read and run. Nothing to report.", done.stdout)
        again = hob("new", folder)
        self.assertEqual((again.returncode, again.stderr), (1, f"{folder} is there already; choose another name\n"))

    def test_looks_belong_to_an_exercise_as_a_folder_and_zipped(self) -> None:
        hob("new", self.folder / "game")
        self.file("game/looks/hob.svg", "<svg xmlns='http://www.w3.org/2000/svg'/>")
        with zipfile.ZipFile(self.folder / "game.zip", "w") as archive:
            for path in (self.folder / "game").rglob("*.*"):
                archive.write(path, f"deep/{path.relative_to(self.folder)}")
        self.assertIn("looks/hob.svg", exercise_files(self.folder / "game"))
        self.assertEqual(exercise_files(self.folder / "game.zip"), exercise_files(self.folder / "game"))


class Load(Folder):
    def test_scripts_are_handed_in_by_their_names(self) -> None:
        dsn = database("loaded")
        self.file("in/wren_3.py", "score = 1")
        self.file("in/sorel.py", "score = 2")
        names = self.file("class.csv", "name\nWren\nSorrel\n")
        stderr, stdout = io.StringIO(), io.StringIO()
        with (
            mock.patch.dict("os.environ", {"HOB_DATABASE": dsn}),
            redirect_stderr(stderr),
            redirect_stdout(stdout),
        ):
            status = loading.load(EXERCISE, "8 Beech", [self.folder / "in"], names, None)
        self.assertEqual(
            (status, stdout.getvalue()), (1, "1 of 2 scripts were handed in for 8 Beech: Bakehouse rush\n")
        )
        self.assertIn("sorel.py: no student has just that name; nothing was handed in for it", stderr.getvalue())
        store = Store(dsn)
        with store.transaction() as connection:
            self.assertEqual(
                [(row["student"], row["number"]) for row in Rounds.submissions(connection, 1)], [("Wren", 1)]
            )
            self.assertEqual(Classes.names(connection, 1), ["Sorrel", "Wren"])
        store.close()


class Logs(Folder):
    def test_one_line_an_event_and_more_when_asked(self) -> None:
        script = self.file("a.py", "score = 1")
        quiet, told = hob("mark", EXERCISE, script), hob("-vv", "mark", EXERCISE, script)
        self.assertEqual(quiet.stderr, "")
        events = [json.loads(line) for line in told.stderr.splitlines()]
        self.assertEqual({each["event"] for each in events}, {"scenario"})
        self.assertEqual({each["level"] for each in events}, {"debug"})
        self.assertTrue(all(each["seconds"] >= 0 and each["timestamp"] for each in events))
