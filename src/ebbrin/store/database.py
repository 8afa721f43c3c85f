"""Engine, sessions and migrations."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker

from ebbrin.store.errors import StoreUnavailable

MIGRATIONS = Path(__file__).with_name("migrations")


class Database:
    """A connection pool to one database."""

    def __init__(self, url: str) -> None:
        self._engine: Engine = create_engine(
            url, pool_pre_ping=True, pool_size=5, connect_args={"connect_timeout": 5}
        )
        self._sessions = sessionmaker(self._engine, expire_on_commit=False)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A transaction: committed at the end, rolled back on an error.

        Raises
        ------
        StoreUnavailable
            If the database does not answer.
        """
        try:
            with self._sessions.begin() as session:
                yield session
        except OperationalError as error:
            raise StoreUnavailable("the database does not answer") from error

    def ping(self) -> bool:
        """Whether the database answers."""
        try:
            with self._engine.connect() as connection:
                connection.execute(text("SELECT 1"))
        except OperationalError:
            return False
        return True

    def close(self) -> None:
        """Give all connections back."""
        self._engine.dispose()


def migrate(url: str) -> None:
    """Bring the database at ``url`` to the newest schema."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("path_separator", "os")
    config.attributes["url"] = url
    command.upgrade(config, "head")
