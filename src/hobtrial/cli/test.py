"""`hob check`: the checks of the code. `hob test`: these, then all tests, and a last line that counts them."""

from __future__ import annotations

import subprocess
import sys
import time
import unittest
from collections.abc import Iterator
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


def check() -> int:
    """Runs the checks. Gives the exit status."""
    failed = [name for name, command in CHECKS.items() if not _check(name, command)]
    print(f"{len(CHECKS) - len(failed)} passed, {len(failed)} failed")
    return 1 if failed else 0


def run(*, quick: bool, only: str | None) -> int:
    """Runs everything, or with `quick` all but the checks and the browser. Gives the exit status."""
    failed = [] if quick or only else [name for name, command in CHECKS.items() if not _check(name, command)]
    sys.path.insert(0, str(ROOT))
    loader = unittest.TestLoader()
    suite = unittest.TestSuite(
        _chosen(loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT)), quick=quick, only=only)
    )
    result = unittest.TextTestRunner(verbosity=1 if only is None else 2, buffer=True).run(suite)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    checked = 0 if quick or only else len(CHECKS)
    for name in failed:
        print(f"failed: {name}")
    skipped = f", {len(result.skipped)} skipped" if result.skipped else ""
    passed = result.testsRun - bad - len(result.skipped) + checked - len(failed)
    print(f"{passed} passed, {bad + len(failed)} failed{skipped}")
    return 1 if bad or failed or not result.testsRun else 0


def _check(name: str, command: list[str]) -> bool:
    begin = time.monotonic()
    done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
    print(f"{name}: {'passed' if done.returncode == 0 else 'FAILED'}, {time.monotonic() - begin:.0f} s", flush=True)
    if done.returncode != 0:
        print(done.stdout + done.stderr)
    return done.returncode == 0


def _chosen(suite: unittest.TestSuite, *, quick: bool, only: str | None) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _chosen(test, quick=quick, only=only)
        elif not (quick and ".browser." in test.id()) and (only is None or only in test.id()):
            yield test
