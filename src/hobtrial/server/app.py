"""The application: routers, guard, the built front end, and a worker of its own."""

from __future__ import annotations

import asyncio
import contextlib
import hashlib
import traceback
from collections.abc import AsyncIterator, Callable
from pathlib import Path
from typing import Final

import structlog
from fastapi import APIRouter, FastAPI, HTTPException, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse, Response
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.types import Lifespan

from ..crew import Crew, InternalError, Marker, Players, Queue, WorkerGoneError, work
from ..store import Store
from . import bench, handing_in, live, play, sheet, trial, workshop
from . import round as round_
from .deps import PlayServices, Services
from .guard import Guard
from .plays import DiskPlays, StoredPlays
from .proofs import Proofs

FRONT_END: Final = Path(__file__).resolve().parents[3] / "web" / "dist"
REPLAYS: Final = 2
"""Workers that play trials for people who look at them; the queue has its own."""

ROUTERS: Final = (bench.router, round_.router, sheet.router, handing_in.router, trial.router, workshop.router)
"""What needs the database; playing does not."""

log = structlog.get_logger()


def create_app(dsn: str | None = None, *, workers: int = 2, front_end: Path = FRONT_END) -> FastAPI:
    """The application on a database; without one it only describes itself."""

    @contextlib.asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        assert dsn is not None
        store, queue = Store(dsn), Queue(dsn)
        log.info("queued", scripts=queue.defer_all(store))
        async with Crew(REPLAYS) as looking, Crew(workers) as marking, Crew(1) as proving, Players() as players:
            marker = Marker(store, looking)
            plays = StoredPlays(store, marker)
            proofs = Proofs(proving)
            app.state.services = Services(looking, players, plays, store, queue, marker, proofs)
            warming = asyncio.create_task(looking.warm_up())
            working = asyncio.create_task(work(dsn, Marker(store, marking), workers))
            try:
                yield
            finally:
                await proofs.end()
                working.cancel()
                with contextlib.suppress(asyncio.CancelledError, WorkerGoneError):
                    await working
                    await warming
        queue.close()
        store.close()

    return _application(lifespan if dsn else None, *ROUTERS, play.router, live.router, pages=front_end)


def create_disk_app(
    files: dict[str, bytes], read_script: Callable[[], bytes], *, front_end: Path = FRONT_END
) -> FastAPI:
    """The Play screen alone, for an exercise and a script on disk; it needs no database."""

    @contextlib.asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        async with Crew(1) as crew, Players() as players:
            app.state.services = PlayServices(crew, players, DiskPlays(crew, files, read_script))
            yield

    return _application(lifespan, play.router, live.router, pages=front_end)


def _application(lifespan: Lifespan[FastAPI] | None, *routers: APIRouter, pages: Path) -> FastAPI:
    app = FastAPI(
        title="Hob Trial",
        version="1",
        lifespan=lifespan,
        openapi_url="/api/openapi.json",
        docs_url=None,
        redoc_url=None,
    )
    for router in routers:
        app.include_router(router)
    app.add_middleware(GZipMiddleware, minimum_size=2000)
    app.add_middleware(Guard)
    app.add_exception_handler(RequestValidationError, _not_understood)
    app.add_exception_handler(InternalError, _our_fault)
    app.add_exception_handler(Exception, _our_fault)
    _serve_front_end(app, pages)
    return app


async def _not_understood(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    places = "; ".join(f"{'.'.join(str(part) for part in each['loc'])}: {each['msg']}" for each in error.errors())
    return JSONResponse({"detail": f"This request cannot be read: {places}."}, 422)


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
        known = (folder / path).resolve()
        if path and known.is_file() and known.is_relative_to(folder.resolve()):
            return FileResponse(known)
        return FileResponse(folder / "index.html", headers={"cache-control": "no-cache"})
