"""`hob play` as it is called: the story, a whole trace, live, and what is wrong."""

import io
import json
import re
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from urllib.request import urlopen

from hobtrial.cli import playing
from tests.cli.test_commands import CLASS, EXERCISE, Folder, hob
from tests.crew.faults import breaking
from tests.support import BAKEHOUSE, ROOT


class Play(Folder):
    def test_goes_on_after_a_script_that_ends_its_worker(self) -> None:
        traces, errors = self.folder / "traces", io.StringIO()
        first, second = self.file("a.py", "score = 1"), self.file("b.py", "score = 2")
        fault = breaking("hobtrial.crew.worker.replay", "SystemExit")
        with fault, redirect_stdout(io.StringIO()), redirect_stderr(errors):
            status = playing.play(EXERCISE, [first, second], None, traces)
        self.assertEqual(status, 3)
        self.assertEqual(errors.getvalue().count(": could not be played: "), 2)
        self.assertFalse(traces.exists())

    def test_a_whole_trace(self) -> None:
        done = hob("play", EXERCISE, "wren.py", "--scenario", "A full shelf", "--trace", self.folder / "t", cwd=CLASS)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertIn("wren.py: A full shelf, 181 frames, outcome playing", done.stdout)
        trace = json.loads((self.folder / "t" / "wren.py.json").read_text())
        self.assertEqual(
            list(trace),
            [
                "frames",
                "outcome",
                "stopped",
                "story",
                "changes",
                "tests",
                "events",
                "messages",
                "board",
                "offers",
                "sounds",
                "pieces",
                "lines",
                "thinned",
                "final",
            ],
        )
        self.assertIn(
            {"frame": 83, "line": 12, "handler": "shelve", "scope": "script", "name": "score", "old": 4, "new": 5},
            trace["changes"],
        )
        self.assertIn(
            {"frame": 83, "line": 15, "text": "score > 5", "parts": [{"text": "score", "value": 5}], "answer": False},
            trace["tests"],
        )
        self.assertIn(
            {
                "frame": 83,
                "event": {"kind": "meets", "about": ["hob", "bun_5"], "text": "meets(hob, bun_5)"},
                "handlers": ["shelve"],
                "waiting": 0,
            },
            trace["events"],
        )
        self.assertEqual(trace["lines"]["1"], [[-1, -1, 1]])
        self.assertEqual(trace["final"], {"score": 5, "lives": 3})

    def test_the_file_is_called_as_the_script_was_given(self) -> None:
        hob("play", EXERCISE, f"{BAKEHOUSE}/wren.py", "--trace", self.folder / "t", cwd=CLASS.parent)
        self.assertEqual([path.name for path in (self.folder / "t").iterdir()], [f"{BAKEHOUSE}__wren.py.json"])

    def test_live_serves_the_screen_for_files_on_disk(self) -> None:
        script = self.file("wren.py", "score = 1")
        command = [sys.executable, "-m", "hobtrial", "play", str(EXERCISE), str(script), "--live"]
        environment = {"PYTHONPATH": str(ROOT / "src"), "PATH": "/usr/bin:/bin", "PYTHONUNBUFFERED": "1"}
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment) as process:
            self.addCleanup(process.kill)
            assert process.stdout is not None
            address = re.search(r"http://\S+", process.stdout.readline())
            assert address is not None
            with urlopen(address[0].replace("/exercises/", "/api/exercises/")) as answer:
                self.assertEqual(json.load(answer)["script"], "score = 1")
            process.terminate()
            self.assertEqual(process.wait(60), 0)

    def test_live_takes_one_file(self) -> None:
        done = hob("play", EXERCISE, CLASS, "--live")
        self.assertEqual((done.returncode, done.stdout), (1, ""))
        self.assertIn("give one script, as a file, to play it live", done.stderr)

    def test_an_unknown_scenario_names_those_that_there_are(self) -> None:
        done = hob("play", EXERCISE, CLASS / "wren.py", "--scenario", "Nothing")
        self.assertEqual(done.returncode, 1)
        self.assertIn('there is no scenario "Nothing"; there are: Three buns in a row, Soot from above', done.stderr)

    def test_a_script_that_cannot_be_read(self) -> None:
        done = hob("play", EXERCISE, CLASS / "woad.py")
        self.assertEqual(done.returncode, 1)
        self.assertIn("woad.py, line 27: This `if` has a single `=`", done.stderr)
