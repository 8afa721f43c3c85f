"""Engine, sessions and migrations."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, inspect, text
from sqlalchemy.exc import DBAPIError, OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from sqlalchemy.orm import Session, sessionmaker

from ebbrin.store.errors import StoreBroken, StoreBusy, StoreError, StoreFull, StoreUnavailable
from ebbrin.store.models import Base

MIGRATIONS = Path(__file__).with_name("migrations")
POOL, POOL_WAIT = 8, 5.0  # connections; how long one is waited for, s
CONNECT_WAIT = 5  # s
TIMEOUTS = {
    "statement_timeout": 20_000,
    "lock_timeout": 5_000,
    "idle_in_transaction_session_timeout": 60_000,
}
"""What one statement, the wait for a lock, and a transaction that does nothing may take [ms]."""


class NewerSchema(RuntimeError):  # noqa: N818
    """The database was made by a newer Ebbrin than this one."""

    def __init__(self, found: str, known: str) -> None:
        self.found, self.known = found, known
        super().__init__(f"the database has schema {found}, this Ebbrin knows up to {known}")


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
            raise StoreBusy("all connections to the database are busy") from error
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
            return MigrationContext.configure(connection).get_current_revision()

    def close(self) -> None:
        """Give all connections back."""
        self._engine.dispose()


def _typed(error: DBAPIError) -> StoreError | None:
    """What the driver says, by the error's own class and not by its words; nothing for a mistake of ours."""
    codes = psycopg.errors
    match error.orig:
        case codes.DiskFull():
            return StoreFull("the disk of the database is full")
        case codes.QueryCanceled() | codes.LockNotAvailable() | codes.TooManyConnections():
            return StoreBusy("the database has too much to do")
        case codes.UndefinedTable() | codes.UndefinedColumn():
            return StoreBroken(str(error.orig).partition("\n")[0])
        case codes.DataCorrupted() | codes.IndexCorrupted() | codes.UndefinedFile() | codes.IoError():
            return StoreBroken(str(error.orig).partition("\n")[0])
        case _ if isinstance(error, OperationalError) or error.connection_invalidated:
            return StoreUnavailable("the database does not answer")
    return None


def _config(url: str) -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("path_separator", "os")
    config.attributes["url"] = url
    return config


def newest_schema() -> str:
    """The schema that this Ebbrin brings a database to."""
    found: Any = ScriptDirectory.from_config(_config("")).get_current_head()
    return str(found)


def knows_schema(revision: str) -> bool:
    """Whether this Ebbrin can bring a database of that schema up to its own."""
    return revision in {s.revision for s in ScriptDirectory.from_config(_config("")).walk_revisions()}


def migrate(url: str) -> None:
    """Bring the database at ``url`` to the newest schema.

    Raises
    ------
    NewerSchema
        If a newer Ebbrin made it; nothing is changed then.
    """
    database = Database(url)
    try:
        found = database.schema()
    finally:
        database.close()
    if found is not None and not knows_schema(found):
        raise NewerSchema(found, newest_schema())
    command.upgrade(_config(url), "head")
