"""`hob dev`: the server and the front end for people who change them; each is taken up again when its files change."""

from __future__ import annotations

import os
import subprocess
from dataclasses import replace
from typing import Final

import uvicorn
from fastapi import FastAPI
from uvicorn.supervisors import ChangeReload

from ..core.words import HobError
from ..server import DemoLinks, create_app
from .demo import links_of_demo, load, only_one, step, ways_in
from .home import ROOT, home
from .logs import set_up
from .marking import complain
from .records import VARIABLE, database_of, named_database, needed_database
from .serving import listen

APPLICATION: Final = f"{__name__}:application"
"""Where the reloading server finds what it serves."""
LINKS: Final = "HOB_DEV_LINKS"
"""The environment variable that carries the ends of the demo's links from one reload to the next."""


def application() -> FastAPI:
    """The application on the database that the environment names; made again after every change."""
    set_up(1)
    tokens = os.environ.get(LINKS, "").split()
    return create_app(needed_database(), demo=replace_tokens(*tokens) if len(tokens) == 2 else None)


def replace_tokens(teacher: str, student: str) -> DemoLinks:
    """The links of the demo with the ends that were printed when all began."""
    return replace(links_of_demo(), teacher_token=teacher, student_token=student)


def run(*, port: int) -> int:
    """Serves both until Ctrl-C. Gives the exit status."""
    folder = home()
    folder.mkdir(parents=True, exist_ok=True)
    try:
        with only_one(folder / "lock"):
            own = named_database() is None
            with step("PostgreSQL and tables"):
                address = database_of(folder)
            if own:
                with step("the demo: a class and its scripts"):
                    load(address)
                links = links_of_demo()
                os.environ[LINKS] = f"{links.teacher_token} {links.student_token}"
                for what, end in ways_in(links):
                    print(f"{what}: {end}")
            os.environ[VARIABLE] = address
            _serve(port)
    except HobError as error:
        complain(str(error).split("\n"))
        return 1
    return 0


def _serve(port: int) -> None:
    listener = listen(port)
    here = f"http://127.0.0.1:{listener.getsockname()[1]}"
    print(f"The server is at {here}; the front end says below where it is, and asks that server.", flush=True)
    pages = subprocess.Popen(
        ["npm", "--prefix", str(ROOT / "web"), "run", "--silent", "dev"], env={**os.environ, "HOB_SERVER": here}
    )
    try:
        config = uvicorn.Config(
            APPLICATION, factory=True, reload=True, reload_dirs=[str(ROOT / "src")], log_level="info", access_log=False
        )
        ChangeReload(config, target=uvicorn.Server(config).run, sockets=[listener]).run()
    finally:
        pages.terminate()
        pages.wait()
