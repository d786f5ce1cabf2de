"""`hob demo`: a PostgreSQL cluster of its own, the sample class, and the server, until Ctrl-C."""

from __future__ import annotations

import asyncio
import fcntl
import shutil
import sys
import time
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from ..core.words import HobError
from ..crew import Crew, ReadVersion, read_version
from ..demo import CLASS_NAME, STUDENT, TEACHER, exercises, load_demo
from ..server import DemoLinks, create_app
from ..server.settings import read_settings
from ..store import Cluster, Store
from .home import home
from .records import make_ready
from .serving import listen, serve_until_stopped
from .siblings import siblings


def run(*, reset: bool, yes: bool, port: int) -> int:
    """Serves the demo. Gives the exit status."""
    folder = home()
    folder.mkdir(parents=True, exist_ok=True)
    try:
        with only_one(folder / "lock"):
            if reset and not yes and not _agreed():
                print("Nothing was forgotten.")
                return 1
            return _serve(folder, reset=reset, port=port)
    except HobError as error:
        print(error)
        return 1


def _serve(folder: Path, *, reset: bool, port: int) -> int:
    cluster = Cluster(folder / "postgresql")
    if reset:
        with step("forgot everything that was kept"):
            cluster.stop()
            shutil.rmtree(folder / "postgresql", ignore_errors=True)
    with step("PostgreSQL on loopback"):
        cluster.start()
    try:
        with step("tables"):
            make_ready(cluster.dsn)
        with step("the demo: a class and its scripts"):
            load(cluster.dsn)
        links = links_of_demo()
        settings = read_settings()
        listener = listen(port)
        with siblings(settings.processes - 1, cluster.dsn, settings, listener, demo=links):
            serve_until_stopped(
                create_app(cluster.dsn, settings, demo=links),
                listener,
                asked=port,
                stays="; the data stays",
                links=ways_in(links),
            )
    finally:
        with step("stopped"):
            cluster.stop()
    return 0


def links_of_demo() -> DemoLinks:
    """As whom the demo lets somebody in."""
    return DemoLinks(TEACHER, CLASS_NAME, STUDENT)


def ways_in(links: DemoLinks) -> list[tuple[str, str]]:
    """The links of the demo, each with what it is."""
    return [
        (f"As {links.teacher}, the sample teacher", f"/sign-in#demo={links.teacher_token}"),
        (f"As {links.student}, a sample student", f"/sign-in#demo={links.student_token}"),
    ]


def _agreed() -> bool:
    """Whether everything that was kept may be forgotten."""
    if not sys.stdin.isatty():
        raise HobError("--reset forgets everything that was kept here. Say --yes, too, if that is meant.")
    return input("Forget everything that was kept here (yes or no)? ").strip().casefold() == "yes"


def load(dsn: str, classes: Iterable[str] | None = None) -> None:
    """Loads the sample class into a database; only its rounds of some exercises where that is said."""

    def read(folders: list[dict[str, bytes]]) -> list[ReadVersion]:
        async def ask() -> list[ReadVersion]:
            async with Crew(1) as crew:
                found = [await read_version(crew, files) for files in folders]
            for part in crew.missing:
                print(f"(of the two walls round scripts, one part is missing here: {part}) ", end="")
            return found

        return asyncio.run(ask())

    store = Store(dsn)
    load_demo(store, read, exercises() if classes is None else classes)
    store.close()


@contextmanager
def only_one(path: Path) -> Iterator[None]:
    """Keeps two programs from using the same records. Raises `HobError` when another does."""
    with path.open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise HobError("The demo of this checkout is already running; stop it there first, with Ctrl-C.") from None
        yield


@contextmanager
def step(what: str) -> Iterator[None]:
    """Says what is done and how long it took."""
    begin = time.monotonic()
    print(f"{what} … ", end="", flush=True)
    yield
    print(f"{time.monotonic() - begin:.1f} s", flush=True)
