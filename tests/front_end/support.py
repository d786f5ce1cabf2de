"""The front end's computing modules, bundled once by Vite and asked through Node."""

from __future__ import annotations

import functools
import json
import subprocess
from pathlib import Path
from tempfile import mkdtemp
from typing import Any, Final

from tests.support import ROOT

WEB: Final = ROOT / "web"
ANSWER: Final = Path(__file__).parent / "answer.mjs"


@functools.cache
def bundle() -> Path:
    """The folder with the bundled modules."""
    folder = Path(mkdtemp(prefix="hob-parts-"))
    command = ["npx", "vite", "build", "--config", "vite.parts.config.ts", "--outDir", str(folder)]
    subprocess.run(command, cwd=WEB, check=True, capture_output=True)
    return folder


def call(
    module: str,
    name: str,
    *args: Any,
    fold: list[Any] | None = None,
    then: list[list[Any]] | None = None,
) -> dict[str, Any]:
    """One question to a module; answer.mjs says what `fold`, `then` and special arguments mean."""
    return {"module": module, "name": name, "args": list(args), "fold": fold, "then": then}


def answers(*calls: dict[str, Any]) -> list[Any]:
    """What the modules answer, in the order of the calls."""
    done = subprocess.run(
        ["node", str(ANSWER), str(bundle())], input=json.dumps(calls), capture_output=True, text=True, check=False
    )
    if done.returncode != 0:
        raise AssertionError(done.stderr)
    return [json.loads(line) for line in done.stdout.splitlines()]
