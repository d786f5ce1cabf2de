"""The queue: jobs in the same PostgreSQL, taken by any number of workers on any machine.

A job is a script to be marked with a version of an exercise, once for each edition of the marking. Deferring joins the
caller's transaction; a job that loses its worker is taken up again; a mark is written once. Everything in the queue can
be told from the records, so its tables may be thrown away and made again.
"""

from __future__ import annotations

import asyncio
from collections.abc import Callable, Iterable
from importlib.metadata import version
from typing import Final

import structlog
from procrastinate import (
    App,
    BaseRetryStrategy,
    Blueprint,
    JobContext,
    PsycopgConnector,
    RetryDecision,
    SyncPsycopgConnector,
)
from procrastinate.exceptions import AlreadyEnqueued
from procrastinate.jobs import Job
from psycopg import connect

from ..core.reporting import EDITION, Fault, Report, unmarked
from ..core.words import HobError
from ..store import AwayError, Desks, Exercises, Reports, Rounds, Store, forget_older_than
from ..store.store import Connection
from .crew import Crew, InternalError, OpenedExercise

QUEUE: Final = f"marking-{EDITION}"
"""Each edition has a queue of its own: an older program beside a newer one leaves the newer one's jobs alone."""
STALLED_SECONDS: Final = 40
"""Seconds without a sign of life after which a worker's job is taken up again."""
POLLING_SECONDS: Final = 0.25
"""A notification can be missed; this is how long a job then waits."""

ROOM_SECONDS: Final = 2
"""Seconds after which a text is tried again whose report the records could not take."""

MARK: Final = "hob:mark"
ROUND: Final = 0
HANDED_IN: Final = 10
DESK_CHECK: Final = 20
"""Whose turn it is first: what is checked at a desk, then what is handed in there, then rounds again."""
TURNS: Final = 1_000
"""Among those, the first text of each exercise goes first, then the second of each: who hands in a hundred texts, or
ones that take long, does not keep other classes waiting."""
_WAITING: Final = """
    SELECT count(*) FROM procrastinate_jobs
    WHERE status = 'todo' AND queue_name = %s AND priority > %s AND priority <= %s
    AND (args ->> 'version_id')::integer = %s
"""

log = structlog.get_logger()


class NewerEditionError(HobError):
    """A newer edition of the marking works on these records."""

    def __init__(self) -> None:
        super().__init__(
            "A newer Hob Trial marks with these records. This one shows them and marks nothing; update it."
        )


class UntilThereIsRoom(BaseRetryStrategy):
    """Whatever goes wrong is tried twice more; what the records could not take, as long as it lasts."""

    def get_retry_decision(self, *, exception: BaseException, job: Job) -> RetryDecision | None:
        """When a job that ended with an error is tried again."""
        if isinstance(exception, AwayError):
            return RetryDecision(retry_in={"seconds": ROOM_SECONDS})
        return RetryDecision(retry_in={"seconds": 0}) if job.attempts < 2 else None


def _tasks() -> Blueprint:
    """The jobs; made again for each app, since adding a blueprint renames its tasks."""
    tasks = Blueprint()

    @tasks.task(name="mark", queue=QUEUE, pass_context=True, retry=UntilThereIsRoom())
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
        await asyncio.to_thread(context.additional_context["defer_waiting"])

    @tasks.periodic(cron="17 3 * * *")
    @tasks.task(name="forget", queue=QUEUE, pass_context=True)
    async def forget(context: JobContext, timestamp: int) -> None:
        await asyncio.to_thread(context.additional_context["forget"])

    return tasks


class Queue:
    """The side that defers jobs; its calls join the transaction of the connection they are given."""

    def __init__(self, dsn: str) -> None:
        self._app = App(connector=SyncPsycopgConnector(conninfo=dsn))
        self._app.open()

    def defer(self, connection: Connection, texts: Iterable[tuple[int, str]], priority: int = ROUND) -> int:
        """Puts texts (version and digest) in the queue, each once however often it is asked for.

        Gives how many were not in it yet.
        """
        places: dict[int, int] = {}
        queued = 0
        for version_id, digest in texts:
            if version_id not in places:
                places[version_id] = self._waiting(connection, version_id, priority)
            place = places[version_id]
            if self._defer(connection, version_id, digest, priority * TURNS - min(place, TURNS - 1)):
                places[version_id] += 1
                queued += 1
        return queued

    def _waiting(self, connection: Connection, version_id: int, priority: int) -> int:
        """How many texts of an exercise wait already."""
        top = priority * TURNS
        row = connection.execute(_WAITING, [QUEUE, top - TURNS, top, version_id]).fetchone()
        return int(row["count"]) if row is not None else 0

    def _defer(self, connection: Connection, version_id: int, digest: str, priority: int) -> bool:
        lock = f"{EDITION}:{version_id}:{digest}"
        task = self._app.configure_task(MARK, connection=connection, queue=QUEUE, queueing_lock=lock, priority=priority)
        try:
            with connection.transaction():  # what is refused must not end the caller's transaction
                task.defer(version_id=version_id, digest=digest)
        except AlreadyEnqueued:
            return False
        return True

    def defer_waiting(self, store: Store) -> int:
        """Queues everything that has no report and is not in the queue. Gives how many."""
        with store.transaction() as connection:
            return self.defer(connection, Rounds.all_unmarked(connection))

    def defer_all(self, store: Store) -> int:
        """Takes away what an older edition made, and queues everything that has no report.

        Gives how many. Raises `NewerEditionError` where a newer edition works on these records.
        """
        with store.transaction() as connection:
            if not Reports.forget_older(connection):
                raise NewerEditionError
        return self.defer_waiting(store)

    def close(self) -> None:
        """Closes the connections."""
        self._app.close()


class Marker:
    """The side that works: reads a text, has the crew mark it, keeps the report."""

    def __init__(self, store: Store, crew: Crew) -> None:
        self.store = store
        self._crew = crew
        self._opened: dict[str, asyncio.Task[OpenedExercise]] = {}
        """By the digest of their files: after a backup was brought back a number may mean another version."""
        self.doing = self.done = 0
        """Texts that are marked just now, and those that were."""
        self.last_error = ""

    async def open(self, version_id: int) -> OpenedExercise:
        """An exercise's version, opened once, also where many ask at the same time."""
        digest = await asyncio.to_thread(self._digest, version_id)
        opening = self._opened.get(digest)
        if opening is None or (opening.done() and (opening.cancelled() or opening.exception() is not None)):
            opening = self._opened[digest] = asyncio.create_task(self._open(version_id))
        return await asyncio.shield(opening)  # one who asks and goes away takes it from nobody

    async def _open(self, version_id: int) -> OpenedExercise:
        return await self._crew.open(await asyncio.to_thread(self._files, version_id))

    async def mark(self, version_id: int, digest: str) -> None:
        """Marks a text unless it is marked already."""
        self.doing += 1
        try:
            await self._mark(version_id, digest)
        except AwayError as error:
            self.last_error = str(error)
            raise
        finally:
            self.doing -= 1
            self.done += 1

    async def _mark(self, version_id: int, digest: str) -> None:
        name, source = await asyncio.to_thread(self._source, version_id, digest)
        if source is None:
            return
        try:
            exercise = await self.open(version_id)
            report = await self._crew.mark(exercise, name, source)
        except InternalError as error:
            report = unmarked(name, 0, Fault("ours", str(error), error.id))
            self.last_error = str(error)
        except HobError as error:
            self.last_error = str(error)
            log.error("a script could not be marked", version_id=version_id, digest=digest[:12], reason=str(error))
            report = unmarked(name, 0, Fault("machine", f"The script could not be marked: {error}"))
        await asyncio.to_thread(self._keep, version_id, digest, report)

    def _digest(self, version_id: int) -> str:
        with self.store.transaction() as connection:
            return Exercises.digest(connection, version_id)

    def _files(self, version_id: int) -> dict[str, bytes]:
        with self.store.transaction() as connection:
            return Exercises.files(connection, version_id)

    def _source(self, version_id: int, digest: str) -> tuple[str, bytes | None]:
        with self.store.transaction() as connection:
            if Reports.has(connection, version_id, digest) or not Desks.is_wanted(connection, version_id, digest):
                return "", None  # marked already, or a newer text came from that desk
            return Reports.source(connection, digest) or ("", None)

    def _keep(self, version_id: int, digest: str, report: Report) -> None:
        with self.store.transaction() as connection:
            kept = Reports.add(connection, version_id, digest, report)
        log.info("marked", version_id=version_id, digest=digest[:12], status=report.status, kept=kept)


def _forget(store: Store, months: int | None) -> None:
    if months is None:
        return
    with store.transaction() as connection:
        log.info("forgot", texts=forget_older_than(connection, months), months=months)


_VERSION: Final = f"made by procrastinate {version('procrastinate')}"
_DROPS: Final = r"""
    SELECT format('DROP TABLE IF EXISTS %s CASCADE', oid::regclass) FROM pg_class
    WHERE relname LIKE 'procrastinate\_%' AND relkind = 'r'
    UNION ALL
    SELECT format('DROP FUNCTION IF EXISTS %s CASCADE', oid::regprocedure) FROM pg_proc
    WHERE proname LIKE 'procrastinate\_%'
    UNION ALL
    SELECT format('DROP TYPE IF EXISTS %s CASCADE', oid::regtype) FROM pg_type
    WHERE typname LIKE 'procrastinate\_%' AND typtype IN ('e', 'c')
      AND NOT EXISTS (SELECT FROM pg_class WHERE pg_class.reltype = pg_type.oid AND relkind <> 'c')
"""
"""Statements that take away everything of the queue, whatever a version of the library made of it."""


def prepare_queue(dsn: str) -> None:
    """Makes the queue's tables; makes them again where another version of the library made them."""
    with connect(dsn) as connection:
        there = connection.execute("SELECT obj_description(to_regclass('procrastinate_jobs'))").fetchone()
        made_by = there[0] if there else None
        if made_by == _VERSION:
            return
        for (drop,) in connection.execute(_DROPS).fetchall():
            connection.execute(drop)
    app = App(connector=SyncPsycopgConnector(conninfo=dsn))
    with app.open():
        app.schema_manager.apply_schema()
    with connect(dsn) as connection:
        connection.execute(f"COMMENT ON TABLE procrastinate_jobs IS '{_VERSION}'")


async def work(
    dsn: str,
    marker: Marker,
    concurrency: int,
    began: Callable[[], None] = lambda: None,
    retention_months: int | None = None,
) -> None:
    """Takes jobs until cancelled, or until the database goes away. `began` is called once it answers.

    Every night it deletes what is older than `retention_months`, where that is set.
    """
    queue = Queue(dsn)
    app = App(connector=PsycopgConnector(conninfo=dsn))
    app.add_tasks_from(_tasks(), namespace="hob")
    try:
        await asyncio.to_thread(queue.defer_all, marker.store)
        await app.open_async()
        if (this := asyncio.current_task()) and this.cancelling():
            raise asyncio.CancelledError  # which is lost where it comes just when a connection has opened
        began()
        await app.run_worker_async(
            queues=[QUEUE],
            concurrency=concurrency + 1,  # one more for the taking up of stalled jobs
            additional_context={
                "marker": marker,
                "defer_waiting": lambda: queue.defer_waiting(marker.store),
                "forget": lambda: _forget(marker.store, retention_months),
            },
            fetch_job_polling_interval=POLLING_SECONDS,
            install_signal_handlers=False,
            shutdown_graceful_timeout=1,
            delete_jobs="successful",
        )
    finally:
        await app.close_async()  # also where opening was cut short: what connects then takes no other way to end
        queue.close()
