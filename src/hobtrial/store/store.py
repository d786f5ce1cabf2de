"""The way to the database: a pool of connections, the named queries, the migrations."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Final

import aiosql
import psycopg
from psycopg.rows import dict_row
from psycopg_pool import ConnectionPool, PoolTimeout
from yoyo import get_backend, read_migrations

from ..core.words import HobError

HERE: Final = Path(__file__).parent
POOL: Final = 8
"""Connections at most: the server's threads wait for one, PostgreSQL allows 100."""

Row = dict[str, Any]
Connection = psycopg.Connection[Row]


QUICK_SECONDS: Final = 1.0
"""How long a connection is waited for before it is asked whether the database is there at all."""
BUSY_SECONDS: Final = 20.0
"""How long a connection is waited for while the database is there and all are in use."""


class AwayError(HobError):
    """The database does not answer."""

    def __init__(self, why: str = "The records cannot be reached just now.") -> None:
        super().__init__(f"{why} Nothing is lost, and this page goes on by itself once that has changed.")


def away(error: psycopg.OperationalError, *, broken: bool) -> AwayError | None:
    """What to say of an error of the database that is none of this program's: gone, full, or busy with itself."""
    if isinstance(error, psycopg.errors.DiskFull):
        return AwayError("The disk of the records is full, so that nothing can be kept just now.")
    if broken or isinstance(error, (psycopg.errors.DeadlockDetected, psycopg.errors.AdminShutdown)):
        return AwayError()
    return None


UNUSED_SECONDS: Final = 1.0
"""After so long a connection is asked whether it is still there before it is used again."""
_USED: Final = "hob_used_at"


def _check(connection: Connection) -> None:
    """Raises where a connection is broken. One that was used just now is taken as it is."""
    now = time.monotonic()
    if now - getattr(connection, _USED, 0.0) > UNUSED_SECONDS:
        ConnectionPool.check_connection(connection)
    setattr(connection, _USED, now)


class Store:
    """Connections to one database. Close it at the end."""

    def __init__(self, dsn: str) -> None:
        self.dsn = dsn
        self._pool: ConnectionPool[Connection] = ConnectionPool(
            dsn,
            min_size=1,
            max_size=POOL,
            kwargs={"row_factory": dict_row},
            open=True,
            connection_class=psycopg.Connection[Row],
            check=_check,  # one that a restart of the database broke is replaced
            timeout=BUSY_SECONDS,
            reconnect_timeout=QUICK_SECONDS,  # whoever asks next tries again, not a clock that waits longer and longer
        )

    @contextmanager
    def transaction(self) -> Iterator[Connection]:
        """A connection in a transaction: everything that is done with it happens, or nothing.

        Raises `AwayError` where the database does not answer, or goes away meanwhile.
        """
        connection = self._connection()
        try:
            with connection:
                yield connection
        except psycopg.OperationalError as error:
            found = away(error, broken=connection.broken)
            if found is None:
                raise
            raise found from error
        finally:
            self._pool.putconn(connection)

    @contextmanager
    def looking(self) -> Iterator[Connection]:
        """A connection on which every query stands for itself: for a look at few rows, which needs no transaction.

        Raises `AwayError` where the database does not answer.
        """
        connection = self._connection()
        try:
            connection.autocommit = True
            yield connection
        except psycopg.OperationalError as error:
            found = away(error, broken=connection.broken)
            if found is None:
                raise
            raise found from error
        finally:
            if not connection.broken:
                connection.autocommit = False
            self._pool.putconn(connection)

    def there(self) -> bool:
        """Whether the database answers."""
        try:
            psycopg.connect(self.dsn, connect_timeout=1).close()
        except psycopg.Error:
            return False
        return True

    def _connection(self) -> Connection:
        try:
            return self._pool.getconn(QUICK_SECONDS)
        except PoolTimeout:
            if not self.there():
                raise AwayError from None
        try:
            return self._pool.getconn()
        except PoolTimeout:
            raise AwayError from None

    def close(self) -> None:
        """Closes all connections."""
        self._pool.close()


def queries(subject: str) -> Any:
    """The named queries of `sql/<subject>.sql`."""
    return aiosql.from_path(HERE / "sql" / f"{subject}.sql", "psycopg")


def migrate(dsn: str) -> None:
    """Brings a database to the present tables; does nothing where it is there already."""
    backend: Any = get_backend(  # type: ignore[no-untyped-call]
        dsn.replace("postgresql://", "postgresql+psycopg://", 1)
    )
    try:
        backend.break_lock()  # a migrator that was killed leaves its lock; only one runs at a time here
        migrations = read_migrations(str(HERE / "migrations"))  # type: ignore[no-untyped-call]
        backend.apply_migrations(backend.to_apply(migrations))
    finally:
        backend.connection.close()
