"""What tests share: small scenes, scripts as text, a database of their own."""

from __future__ import annotations

import atexit
import functools
import os
import socket
import tempfile
import textwrap
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.core.reporting import explained, mark
from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import Script, Unreadable, read, weave
from hobtrial.core.trial import KNOWN_FUNCTIONS, Observable, Options, Plan, PlayerInput, Trace, play
from hobtrial.crew import prepare_queue
from hobtrial.demo import exercise_folder, hand_ins
from hobtrial.store import Cluster, migrate

ROOT = Path(__file__).resolve().parents[1]
BAKEHOUSE = "bakehouse-rush"

HOB = {"name": "hob", "at": [5, 1], "motion": {"steered": {"speed": 6, "axes": "x"}}}


def text(source: str) -> str:
    """A script written with the indentation of its test."""
    return textwrap.dedent(source).lstrip("\n")


def scene(*pieces: dict[str, Any], spawners: Iterable[dict[str, Any]] = (), **more: Any) -> SceneSpec:
    """A scene of 32 × 18 squares with a hob at (5, 1) and some pieces."""
    return SceneSpec.model_validate({"piece": [HOB, *pieces], "spawner": list(spawners), **more})


def piece(name: str, x: float, y: float = 1, motion: dict[str, Any] | None = None, **more: Any) -> dict[str, Any]:
    """Any piece, with its motion."""
    return {"name": name, "at": [x, y], **({"motion": motion} if motion else {}), **more}


def bun(name: str, x: float) -> dict[str, Any]:
    """A bun on the floor."""
    return {"name": name, "kind": "bun", "at": [x, 1]}


def accepted(source: str, names: frozenset[str] = frozenset()) -> Script:
    """A script that must be readable."""
    reading = read(text(source), names)
    if isinstance(reading, Unreadable):
        raise AssertionError(f"turned down: {reading.problems}")
    return reading


def run(
    source: str,
    spec: SceneSpec | None = None,
    inputs: tuple[PlayerInput, ...] = (),
    *,
    frames: int = 60,
    observe: Iterable[Observable] = (),
    record: bool = True,
    plan: dict[str, Any] | None = None,
    **more: Any,
) -> Trace:
    """Plays a script; by default for two seconds and with the whole trace. `plan` are further parts of its Plan."""
    spec = spec or scene()
    woven = weave(accepted(source, spec.names), KNOWN_FUNCTIONS)
    options = Options(observe=tuple(observe), record=record, **more)
    return play(woven, spec, Plan(frames, inputs=inputs, **(plan or {})), options)


def report(prepared: Prepared, name: str, source: str | bytes, *, findings: bool = True) -> dict[str, Any]:
    """The report of a script as JSON; on request without the explanation, which takes most of the time."""
    marked = mark(prepared, name, source)
    return (explained(marked) if findings else marked.report).as_json()


SMALL = """
format = 1
title = "Small"
seconds = 2
[scene]
[[scene.piece]]
name = "hob"
at = [5, 1]
motion = {steered = {speed = 6, axes = "x"}}
[[scene.piece]]
name = "bun_1"
kind = "bun"
at = [8, 1]
[[scene.piece]]
name = "bell"
at = [20, 5]
[[variable]]
name = "score"
"""


def exercise(rest: str, reference: str, toml: str = SMALL) -> Prepared:
    """A small exercise with further tables, made ready."""
    return open_exercise({"exercise.toml": (toml + text(rest)).encode(), "reference.py": text(reference).encode()})


def marked(prepared: Prepared, source: str) -> dict[str, Any]:
    """The report of a script."""
    return report(prepared, "wren.py", text(source))


def path(trace: Trace, name: str, *properties: str) -> list[Any]:
    """The values that a property of a piece took, or pairs of them frame by frame."""
    histories = [dict(trace.pieces[name][each]) for each in properties or ("x",)]
    values: list[Any] = []
    now = [history[min(history)] for history in histories]
    for frame in range(trace.last_frame + 1):
        now = [history.get(frame, before) for history, before in zip(histories, now, strict=True)]
        values.append(now[0] if len(now) == 1 else tuple(now))
    return values


def told(trace: Trace) -> list[str]:
    """The lines of the story."""
    return [line.text for line in trace.story]


@functools.cache
def bakehouse() -> Prepared:
    """The sample exercise, made ready."""
    return open_exercise(exercise_folder(BAKEHOUSE))


@functools.cache
def sample_class() -> dict[str, str]:
    """The scripts of the sample class, by student."""
    return {name.removesuffix(".py"): source.decode() for name, source in hand_ins(BAKEHOUSE).items()}


@functools.cache
def _cluster() -> Cluster:
    folder = Path(tempfile.mkdtemp(prefix="hob-test-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "postgresql", throwaway=True)
    cluster.start()
    atexit.register(cluster.stop)
    return cluster


def database(name: str) -> str:
    """The address of an empty database with all tables, made again."""
    return _made(name, f"TEMPLATE {_template()}")


@functools.cache
def _template() -> str:
    """A database with all tables, of which the others are copies: making tables takes longer than copying them."""
    name = "with_tables"
    dsn = _made(name, "")
    migrate(dsn)
    prepare_queue(dsn)
    return name


def _made(name: str, like: str) -> str:
    """A database made again; gives its address."""
    import psycopg

    cluster = _cluster()
    with psycopg.connect(cluster.dsn, autocommit=True) as link:
        link.execute(f"DROP DATABASE IF EXISTS {name} WITH (FORCE)".encode())
        link.execute(f"CREATE DATABASE {name} {like}".encode())
    return cluster.dsn.rsplit("/", 1)[0] + f"/{name}"


def as_root() -> bool:
    """Whether the tests run as root."""
    return os.geteuid() == 0


def quiet_port() -> int:
    """A free port below those that the system gives to whoever connects: nobody takes it before it is listened at."""
    for port in range(20_000 + os.getpid() % 8_000, 32_000):
        with socket.socket() as found:
            try:
                found.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise AssertionError("no port is free")
