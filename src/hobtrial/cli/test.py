"""`hob check`: the checks of the code. `hob test`: these, then all tests, and a last line that counts them."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
import unittest
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Final

from .home import ROOT

CHECKS: Final[dict[str, list[str]]] = {
    "ruff": [sys.executable, "-m", "ruff", "check", "src", "tests", "bench"],
    "ruff format": [sys.executable, "-m", "ruff", "format", "--check", "src", "tests", "bench"],
    "mypy": [sys.executable, "-m", "mypy"],
    "shellcheck": ["shellcheck", "hob", ".githooks/pre-commit"],
    "import-linter": [str(Path(sys.executable).parent / "lint-imports"), "--no-cache"],
    "tsc and eslint": ["npm", "--prefix", "web", "run", "--silent", "check"],
    "types of the API": ["npm", "--prefix", "web", "run", "--silent", "types:check"],
}


BESIDE: Final = ("tests.browser.", "tests.server.")
"""Tests that run beside the others, in a process and on a database of their own: much of their time is waiting."""


@dataclass(frozen=True, slots=True)
class Count:
    """How many tests passed, failed and were skipped."""

    passed: int = 0
    failed: int = 0
    skipped: int = 0

    def __add__(self, other: Count) -> Count:
        return Count(self.passed + other.passed, self.failed + other.failed, self.skipped + other.skipped)

    def __str__(self) -> str:
        skipped = f", {self.skipped} skipped" if self.skipped else ""
        return f"{self.passed} passed, {self.failed} failed{skipped}"


def check() -> int:
    """Runs the checks. Gives the exit status."""
    failed = [name for name, command in CHECKS.items() if not _check(name, command)]
    print(Count(len(CHECKS) - len(failed), len(failed)))
    return 1 if failed else 0


def run(*, quick: bool, only: str | None) -> int:
    """Runs everything, or with `quick` all but the checks and the browser. Gives the exit status."""
    if quick or only:
        count = _run(lambda name: (not quick or ".browser." not in name) and (only is None or only in name), only)
    else:
        count = _everything()
    print(count)
    return 1 if count.failed or not count.passed else 0


def beside(result: Path) -> int:
    """Runs the tests that run beside the others and leaves their count in a file, as JSON."""
    count = _run(lambda name: name.startswith(BESIDE))
    result.write_text(json.dumps(asdict(count)), encoding="utf-8")
    return 1 if count.failed else 0


def _everything() -> Count:
    with tempfile.TemporaryDirectory() as folder:
        result, log = Path(folder, "count.json"), Path(folder, "log")
        with log.open("w") as stream:
            other = subprocess.Popen(
                [sys.executable, "-m", "hobtrial", "test", "--beside", str(result)], stdout=stream, stderr=stream
            )
            try:
                failed = [name for name, command in CHECKS.items() if not _check(name, command)]
                count = Count(len(CHECKS) - len(failed), len(failed)) + _run(lambda name: not name.startswith(BESIDE))
                other.wait()
            finally:
                other.terminate()
                other.wait()
        print(log.read_text(encoding="utf-8", errors="replace"))
        ended = Count(**json.loads(result.read_text(encoding="utf-8"))) if result.is_file() else Count(failed=1)
    for name in failed:
        print(f"failed: {name}")
    return count + ended


def _run(wanted: Callable[[str], bool], only: str | None = None) -> Count:
    """Runs the tests whose names are wanted."""
    sys.path.insert(0, str(ROOT))
    suite = unittest.TestSuite(
        test
        for test in _flat(unittest.TestLoader().discover(str(ROOT / "tests"), top_level_dir=str(ROOT)))
        if wanted(test.id())
    )
    result = unittest.TextTestRunner(verbosity=1 if only is None else 2, buffer=True).run(suite)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    return Count(result.testsRun - bad - len(result.skipped), bad, len(result.skipped))


def _check(name: str, command: list[str]) -> bool:
    begin = time.monotonic()
    done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
    print(f"{name}: {'passed' if done.returncode == 0 else 'FAILED'}, {time.monotonic() - begin:.0f} s", flush=True)
    if done.returncode != 0:
        print(done.stdout + done.stderr)
    return done.returncode == 0


def _flat(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _flat(test)
        else:
            yield test
