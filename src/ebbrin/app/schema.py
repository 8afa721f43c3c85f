"""The stored form of the whole database: its tables and the migrations that lead there."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory

# Every feature's tables: importing them makes ground.store.Base know them all.
import ebbrin.features.cause.store
import ebbrin.features.drive.store
import ebbrin.features.fit.store
import ebbrin.features.shelf.store
import ebbrin.features.size.store
import ebbrin.features.workshop.store  # noqa: F401
from ebbrin.ground.errors import EbbrinError
from ebbrin.ground.store import Database

MIGRATIONS = Path(__file__).with_name("migrations")


class NewerSchema(EbbrinError):
    """The database was made by a newer Ebbrin than this one."""

    def __init__(self, found: str, known: str) -> None:
        self.found, self.known = found, known
        super().__init__(f"the database has schema {found}, this Ebbrin knows up to {known}")


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
