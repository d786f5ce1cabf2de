"""Every bench still runs; what it measures is not looked at here."""

import os
import re
import subprocess
import sys
import unittest

from tests.support import ROOT

WITH_A_BROWSER = {"playing"}
"""Run by the browser tests' own process."""
NO_BENCHES = {"__init__", "plain", "harness", "screenshots", "browser"}
"""What benches are made of, and what takes the pictures."""


def run_short(name: str) -> str:
    """What a bench prints in a short run."""
    done = subprocess.run(
        [sys.executable, "-m", f"bench.{name}", "--short"],
        cwd=ROOT,
        env={**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"},
        capture_output=True,
        text=True,
        timeout=300,
    )
    if done.returncode != 0:
        raise AssertionError(f"bench.{name}: {done.stderr[-2000:]}")
    return done.stdout


class Benches(unittest.TestCase):
    def test_each_runs_and_prints_ratios(self) -> None:
        names = {path.stem for path in (ROOT / "bench").glob("*.py")} - NO_BENCHES - WITH_A_BROWSER
        self.assertGreaterEqual(len(names), 7)
        for name in sorted(names):
            with self.subTest(name):
                self.assertRegex(run_short(name), re.compile(r"\d (×|%|frames)|\d% "))
