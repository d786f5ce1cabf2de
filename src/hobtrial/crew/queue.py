"""The queue: jobs in the same PostgreSQL, taken by any number of workers on any machine.

A job is a script to be marked with a version of an exercise. Deferring joins the caller's
transaction; a job that loses its worker is taken up again; a mark is written once.
"""

from __future__ import annotations

import asyncio
from typing import Final

import structlog
from procrastinate import App, Blueprint, JobContext, PsycopgConnector, SyncPsycopgConnector
from psycopg import connect

from ..core.reporting import Fault, Report, unmarked
from ..core.words import HobError
from ..store import Exercises, Reports, Rounds, Store
from ..store.store import Connection
from .crew import Crew, InternalError, OpenedExercise

QUEUE: Final = "marking"
STALLED_SECONDS: Final = 40
"""Seconds without a sign of life after which a worker's job is taken up again."""
POLLING_SECONDS: Final = 0.25
"""A notification can be missed; this is how long a job then waits."""

MARK: Final = "hob:mark"

log = structlog.get_logger()


def _tasks() -> Blueprint:
    """The jobs; made again for each app, since adding a blueprint renames its tasks."""
    tasks = Blueprint()

    @tasks.task(name="mark", queue=QUEUE, pass_context=True, retry=2)
    async def mark(context: JobContext, version_id: int, digest: str) -> None:
        await context.additional_context["marker"].mark(version_id, digest)

    @tasks.periodic(cron="* * * * *")
    @tasks.task(name="take_up", queue=QUEUE, pass_context=True)
    async def take_up(context: JobContext, timestamp: int) -> None:
        manager = context.app.job_manager
        for job in await manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_SECONDS):
            try:
                await manager.retry_job(job)
            except Exception as error:  # it ended meanwhile
                log.info("a stalled job ended by itself", job=job.id, error=str(error))

    return tasks


class Queue:
    """The side that defers jobs; its calls join the transaction of the connection they are given."""

    def __init__(self, dsn: str) -> None:
        self._app = App(connector=SyncPsycopgConnector(conninfo=dsn))
        self._app.open()

    def defer(self, connection: Connection, version_id: int, digests: list[str]) -> None:
        """Puts texts in the queue."""
        for digest in digests:
            task = self._app.configure_task(MARK, connection=connection, queue=QUEUE)
            task.defer(version_id=version_id, digest=digest)

    def defer_all(self, store: Store) -> int:
        """Queues everything that has no report of this edition of the marking. Gives how many."""
        with store.transaction() as connection:
            Reports.forget_older(connection)
            waiting = Rounds.all_unmarked(connection)
            for version_id, digest in waiting:
                self.defer(connection, version_id, [digest])
        return len(waiting)

    def close(self) -> None:
        """Closes the connections."""
        self._app.close()


class Marker:
    """The side that works: reads a text, has the crew mark it, keeps the report."""

    def __init__(self, store: Store, crew: Crew) -> None:
        self._store = store
        self._crew = crew
        self._opened: dict[int, OpenedExercise] = {}

    async def open(self, version_id: int) -> OpenedExercise:
        """An exercise's version, opened once."""
        if version_id not in self._opened:
            files = await asyncio.to_thread(self._files, version_id)
            self._opened[version_id] = await self._crew.open(files)
        return self._opened[version_id]

    async def mark(self, version_id: int, digest: str) -> None:
        """Marks a text unless it is marked already."""
        name, source = await asyncio.to_thread(self._source, version_id, digest)
        if source is None:
            return
        try:
            exercise = await self.open(version_id)
            report = await self._crew.mark(exercise, name, source)
        except InternalError as error:
            report = unmarked(name, 0, Fault("ours", str(error), error.id))
        except HobError as error:
            log.error("a script could not be marked", version_id=version_id, digest=digest[:12], reason=str(error))
            report = unmarked(name, 0, Fault("machine", f"The script could not be marked: {error}"))
        await asyncio.to_thread(self._keep, version_id, digest, report)

    def _files(self, version_id: int) -> dict[str, bytes]:
        with self._store.transaction() as connection:
            return Exercises.files(connection, version_id)

    def _source(self, version_id: int, digest: str) -> tuple[str, bytes | None]:
        with self._store.transaction() as connection:
            if Reports.has(connection, version_id, digest):
                return "", None
            return Reports.source(connection, digest) or ("", None)

    def _keep(self, version_id: int, digest: str, report: Report) -> None:
        with self._store.transaction() as connection:
            kept = Reports.add(connection, version_id, digest, report)
        log.info("marked", version_id=version_id, digest=digest[:12], status=report.status, kept=kept)


def prepare_queue(dsn: str) -> None:
    """Makes the queue's tables where they are not there yet."""
    with connect(dsn) as connection:
        there = connection.execute("SELECT to_regclass('procrastinate_jobs')").fetchone()
    if there is None or there[0] is None:
        app = App(connector=SyncPsycopgConnector(conninfo=dsn))
        with app.open():
            app.schema_manager.apply_schema()


async def work(dsn: str, marker: Marker, concurrency: int) -> None:
    """Takes jobs until cancelled."""
    app = App(connector=PsycopgConnector(conninfo=dsn))
    app.add_tasks_from(_tasks(), namespace="hob")
    async with app.open_async():
        await app.run_worker_async(
            queues=[QUEUE],
            concurrency=concurrency + 1,  # one more for the taking up of stalled jobs
            additional_context={"marker": marker},
            fetch_job_polling_interval=POLLING_SECONDS,
            install_signal_handlers=False,
            shutdown_graceful_timeout=1,
            delete_jobs="successful",
        )
