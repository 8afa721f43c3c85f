"""A database that is busy, slow or held up says so in time, and nothing waits for ever."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import ExitStack

import pytest
from sqlalchemy import text

from ebbrin.app.cluster import Cluster
from ebbrin.app.schema import NewerSchema, knows_schema, migrate, newest_schema
from ebbrin.ground import store as databases
from ebbrin.ground.errors import StoreBroken, StoreBusy, StoreUnavailable
from ebbrin.ground.store import Database

pytestmark = pytest.mark.database


@pytest.fixture
def database(database_url: str, monkeypatch: pytest.MonkeyPatch) -> Iterator[Database]:
    monkeypatch.setattr(databases, "POOL_WAIT", 0.2)
    monkeypatch.setattr(databases, "TIMEOUTS", {"statement_timeout": 300, "lock_timeout": 200})
    found = Database(database_url)
    yield found
    found.close()


def test_a_pool_that_is_in_use_is_busy_and_no_mistake(database: Database) -> None:
    with ExitStack() as held:
        for _ in range(databases.POOL):
            held.enter_context(database.session()).execute(text("SELECT 1"))
        with pytest.raises(StoreBusy), database.session() as session:
            session.execute(text("SELECT 1"))
        assert not database.ping()
    assert database.ping()


def test_a_statement_that_takes_too_long_is_ended(database: Database) -> None:
    with pytest.raises(StoreBusy), database.session() as session:
        session.execute(text("SELECT pg_sleep(20)"))
    assert database.ping()


def test_a_lock_is_not_waited_for_for_ever(database: Database) -> None:
    with database.session() as holder:
        holder.execute(text("LOCK TABLE builds"))
        with pytest.raises(StoreBusy), database.session() as session:
            session.execute(text("SELECT count(*) FROM builds"))


def test_a_missing_table_is_damage_and_a_lost_connection_is_not(database: Database) -> None:
    with pytest.raises(StoreBroken, match="nothing_here"), database.session() as session:
        session.execute(text("SELECT * FROM nothing_here"))
    with pytest.raises(StoreUnavailable), database.session() as session:
        session.execute(text("SELECT pg_terminate_backend(pg_backend_pid())"))
    assert database.missing_tables() == []


def test_a_newer_schema_is_known_to_be_none_of_ours(database: Database, database_url: str) -> None:
    assert database.schema() == newest_schema()
    assert knows_schema("0001")
    with database.session() as session:
        session.execute(text("UPDATE alembic_version SET version_num = '9999'"))
    with pytest.raises(NewerSchema, match="schema 9999"):
        migrate(database_url)


def test_which_schema_a_database_has_is_read_from_itself(database: Database, cluster: Cluster) -> None:
    assert database.schema() == newest_schema()
    assert knows_schema(newest_schema())
    with database.session() as session:
        session.execute(text("DELETE FROM alembic_version"))
        session.commit()
    assert database.schema() is None  # a table that says nothing
    empty = Database(cluster.ensure_database(f"t_{os.getpid()}_without_any_table"))
    try:
        assert empty.schema() is None
        assert not empty.has_tables()
    finally:
        empty.close()
