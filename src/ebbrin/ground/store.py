"""The database: root of the tables, engine and sessions."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import psycopg
from sqlalchemy import Engine, create_engine, inspect, text
from sqlalchemy.exc import DBAPIError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.orm import DeclarativeBase, Session, sessionmaker

from ebbrin.ground.errors import StoreBroken, StoreBusy, StoreError, StoreFull, StoreUnavailable

POOL, POOL_WAIT = 8, 5.0  # connections; how long one is waited for, s
CONNECT_WAIT = 5  # s
TIMEOUTS = {
    "statement_timeout": 20_000,
    "lock_timeout": 5_000,
    "idle_in_transaction_session_timeout": 60_000,
}
"""What one statement, the wait for a lock, and a transaction that does nothing may take [ms]."""


class Base(DeclarativeBase):
    """Root of the tables; each feature's stand in its ``store``."""


class Database:
    """A connection pool to one database."""

    def __init__(self, url: str) -> None:
        options = " ".join(f"-c {name}={value}" for name, value in TIMEOUTS.items())
        self._engine: Engine = create_engine(
            url,
            pool_pre_ping=True,
            pool_size=POOL,
            max_overflow=0,
            pool_timeout=POOL_WAIT,
            connect_args={"connect_timeout": CONNECT_WAIT, "options": options},
        )
        self._sessions = sessionmaker(self._engine, expire_on_commit=False)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A transaction: committed at the end, rolled back on an error.

        Raises
        ------
        StoreUnavailable
            If the database does not answer.
        StoreBusy
            If it has too much to do, or another holds what is wanted for too long. Nothing was changed.
        StoreFull
            If its disk is full. Nothing was changed.
        StoreBroken
            If a table is missing or damaged. Nothing was changed.
        """
        try:
            with self._sessions.begin() as session:
                yield session
        except PoolTimeout as error:
            raise StoreBusy from error
        except DBAPIError as error:
            typed = _typed(error)
            if typed is None:
                raise
            raise typed from error

    def ping(self) -> bool:
        """Whether the database answers."""
        try:
            with self._engine.connect() as connection:
                connection.execute(text("SELECT 1"))
        except (DBAPIError, PoolTimeout):
            return False
        return True

    def missing_tables(self) -> list[str]:
        """Tables that should be there and are not."""
        there = set(inspect(self._engine).get_table_names())
        return sorted(set(Base.metadata.tables) - there)

    def has_tables(self) -> bool:
        """Whether any of Ebbrin's tables is there."""
        return bool(set(inspect(self._engine).get_table_names()) & set(Base.metadata.tables))

    def schema(self) -> str | None:
        """Revision of the schema that the database has; nothing where it is new."""
        with self._engine.connect() as connection:
            if not inspect(connection).has_table("alembic_version"):
                return None
            found: str | None = connection.scalar(text("SELECT version_num FROM alembic_version"))
            return found

    def close(self) -> None:
        """Give all connections back."""
        self._engine.dispose()


def _typed(error: DBAPIError) -> StoreError | None:
    """What the driver says, by the error's own class and not by its words; nothing for a mistake of ours."""
    codes = psycopg.errors
    match error.orig:
        case codes.DiskFull():
            return StoreFull()
        case codes.QueryCanceled() | codes.LockNotAvailable() | codes.TooManyConnections():
            return StoreBusy()
        case codes.UndefinedTable() | codes.UndefinedColumn():
            return StoreBroken(str(error.orig).partition("\n")[0])
        case codes.DataCorrupted() | codes.IndexCorrupted() | codes.UndefinedFile() | codes.IoError():
            return StoreBroken(str(error.orig).partition("\n")[0])
        case _ if isinstance(error, OperationalError) or error.connection_invalidated:
            return StoreUnavailable()
    return None
