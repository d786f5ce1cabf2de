"""The application: routers, guard, the built front end, and a worker of its own."""

from __future__ import annotations

import asyncio
import contextlib
import hashlib
import traceback
from collections.abc import AsyncIterator, Callable, Iterable
from pathlib import Path
from typing import Final

import structlog
from fastapi import APIRouter, Depends, FastAPI, HTTPException, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, HTMLResponse, JSONResponse, Response
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.types import Lifespan

from ..crew import Crew, InternalError, Marker, Players, Queue
from ..store import AwayError, Store
from . import (
    bench,
    checked,
    classes,
    desk,
    handing_in,
    health,
    ledger,
    lesson,
    lists,
    live,
    markers,
    play,
    sheet,
    signing_in,
    student,
    teachers,
    trial,
    workshop,
)
from . import round as round_
from .access import admit
from .classroom import Classroom
from .demo_links import DemoLinks
from .deps import PlayServices, Services
from .guard import Guard
from .logbook import Logbook
from .marking import Marking
from .openapi import described
from .plays import DiskPlays, StoredPlays
from .proofs import Proofs
from .settings import Settings

FRONT_END: Final = Path(__file__).resolve().parents[3] / "web" / "dist"
REPLAYS: Final = 2
"""Workers that play trials for people who look at them; the queue has its own."""
CHECKS: Final = 2
"""Workers that read and mark what students check at their desks: nobody waits there for what is explained."""
MARKING_NICE: Final = 15
PROVING_NICE: Final = 19
"""How much marking rounds and proving let everybody go first who waits for an answer."""
PACKED: Final = 4
"""How hard answers are packed, of 9: more takes three times as long and saves a twentieth."""
STOP_SECONDS: Final = 2
"""How long a proof may take to come to the end of its planted slip when the server stops."""

ROUTERS: Final = (
    health.router,
    signing_in.router,
    teachers.router,
    markers.router,
    classes.router,
    lists.router,
    student.router,
    desk.router,
    checked.router,
    bench.router,
    round_.router,
    sheet.router,
    handing_in.router,
    lesson.router,
    ledger.router,
    trial.router,
    workshop.router,
    play.router,
    live.router,
)

log = structlog.get_logger()


def create_app(
    dsn: str | None = None,
    settings: Settings | None = None,
    *,
    demo: DemoLinks | None = None,
    front_end: Path = FRONT_END,
) -> FastAPI:
    """The application on a database; without one it only describes itself. With `demo`, its links let people in."""
    settings = settings or Settings()

    @contextlib.asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        assert dsn is not None
        store, queue = Store(dsn), Queue(dsn)
        workers = settings.workers
        async with (
            Crew(REPLAYS) as looking,
            Crew(CHECKS) as checking,
            Crew(max(workers, 1), MARKING_NICE) as crew,
            Crew(1, PROVING_NICE) as proving,
            Players() as players,
        ):
            marker = Marker(store, looking)
            marking = Marking(store, Marker(store, crew), workers, settings.retention_months)
            proofs = Proofs(proving, store)
            plays = StoredPlays(store, marker)
            app.state.services = Services(
                looking, players, plays, store, queue, marker, checking, proofs, marking, Classroom(), demo
            )
            tasks = [asyncio.create_task(each) for each in (looking.warm_up(), checking.warm_up(), marking.run())]
            try:
                yield
            finally:
                with contextlib.suppress(TimeoutError):
                    await asyncio.wait_for(proofs.end(), STOP_SECONDS)
                for task in tasks:
                    task.cancel()
                await asyncio.gather(*tasks, return_exceptions=True)
        queue.close()
        store.close()

    return _application(lifespan if dsn else None, *ROUTERS, admit=admit, pages=front_end, hosts=settings.hosts)


def create_disk_app(
    files: dict[str, bytes], read_script: Callable[[], bytes], *, front_end: Path = FRONT_END
) -> FastAPI:
    """The Play screen alone, for an exercise and a script on disk; it needs no database."""

    @contextlib.asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        async with Crew(1) as crew, Players() as players:
            app.state.services = PlayServices(crew, players, DiskPlays(crew, files, read_script))
            yield

    return _application(lifespan, play.router, live.router, admit=None, pages=front_end)


def _application(
    lifespan: Lifespan[FastAPI] | None,
    *routers: APIRouter,
    admit: Callable[..., None] | None,
    pages: Path,
    hosts: Iterable[str] = (),
) -> FastAPI:
    app = FastAPI(
        title="Hob Trial",
        version="1",
        lifespan=lifespan,
        openapi_url="/api/openapi.json",
        docs_url=None,
        redoc_url=None,
    )
    for router in routers:
        app.include_router(router, dependencies=[Depends(admit)] if admit is not None else None)
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=PACKED)
    app.add_middleware(Guard, hosts=hosts)
    app.add_middleware(Logbook)
    app.add_exception_handler(RequestValidationError, _not_understood)
    app.add_exception_handler(AwayError, _away)
    app.add_exception_handler(InternalError, _our_fault)
    app.add_exception_handler(Exception, _our_fault)
    _serve_front_end(app, pages)
    if admit is not None:
        app.openapi = lambda: described(app)  # type: ignore[method-assign]
    return app


async def _not_understood(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    places = "; ".join(f"{'.'.join(str(part) for part in each['loc'])}: {each['msg']}" for each in error.errors())
    return JSONResponse({"detail": f"This request cannot be read: {places}."}, 422)


async def _away(request: Request, error: Exception) -> Response:
    """The database does not answer: the page says so, and asks again by itself."""
    log.warning("the records cannot be reached", path=request.url.path)
    return JSONResponse({"detail": str(error)}, 503, {"retry-after": "2"})


async def _our_fault(request: Request, error: Exception) -> Response:
    """Whatever went wrong in this program: in the log with its traceback, and on the page its number."""
    if not isinstance(error, InternalError):
        trace = "".join(traceback.format_exception(error))
        error = InternalError(hashlib.sha256(trace.encode()).hexdigest()[:8])
        log.error("internal error", id=error.id, method=request.method, path=request.url.path, traceback=trace)
    return JSONResponse({"detail": str(error)}, 500)


def _serve_front_end(app: FastAPI, folder: Path) -> None:
    """The built files; every address that is none of theirs is a screen, which the page itself finds."""
    if (folder / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=folder / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/") or not (folder / "index.html").is_file():
            raise HTTPException(404, "There is nothing at this address.")
        known = _file_at(folder, path)
        if known is not None:
            return FileResponse(known)
        return HTMLResponse((folder / "index.html").read_bytes(), headers={"cache-control": "no-cache"})


def _file_at(folder: Path, path: str) -> Path | None:
    """The file of the front end at an address; nothing where there is none, or the address is no name of a file."""
    try:
        known = (folder / path).resolve()
        there = bool(path) and known.is_file() and known.is_relative_to(folder.resolve())
    except (OSError, ValueError):  # too long, or with a NUL in it
        return None
    return known if there else None
