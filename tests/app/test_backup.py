"""Backups: whole, checked, and put back without losing what was there."""

from __future__ import annotations

import os
import shutil
import tempfile
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import psycopg
import pytest

from ebbrin.app import backup
from ebbrin.app.cluster import APP, Cluster
from ebbrin.app.places import BackupError
from ebbrin.app.programs import ClusterError
from ebbrin.app.schema import migrate
from ebbrin.features.workshop.service import BuildService
from ebbrin.ground.store import Database
from oracles.builds import linnet

pytestmark = pytest.mark.database
DATABASE = "ebbrin"


@pytest.fixture
def state() -> Iterator[Path]:
    with tempfile.TemporaryDirectory(prefix="ebbrin-state-") as name:
        os.chmod(name, 0o755)
        yield Path(name)
        for folder in Path(name).glob("postgres*"):
            Cluster(folder, durable=False).stop()


@pytest.fixture
def running(state: Path) -> Cluster:
    """A cluster with the demo and one build of three revisions."""
    found = Cluster(state / "postgres", durable=False)
    found.start()
    migrate(found.ensure_database(DATABASE))
    database = Database(found.url(DATABASE))
    service = BuildService(database)
    service.load_demo_when_new()
    made = service.create(linnet())
    for number in (1, 2):
        service.save(made.id, number, linnet().model_copy(update={"name": f"Linnet {number}"}))
    database.close()
    return found


def stored(cluster: Cluster) -> list[tuple[str, int]]:
    database = Database(cluster.url(DATABASE))
    found = [(line.name, line.revision) for line in BuildService(database).summaries(patience=0.0)]
    database.close()
    return found


def test_a_restore_drill(state: Path, running: Cluster) -> None:
    before, file = stored(running), state / "all.ebbrin"
    made = backup.back_up(running, DATABASE, file, "a test")
    assert made.rows["revisions"] == 6
    assert file.stat().st_mode & 0o077 == 0
    database = Database(running.url(DATABASE))
    BuildService(database).reset_to_demo()
    database.close()
    assert stored(running) != before
    manifest, kept = backup.restore(file, running.folder, DATABASE, durable=False)
    assert manifest == made
    again = Cluster(running.folder, durable=False)
    again.start()
    assert stored(again) == before
    # What was there before lies aside, whole.
    assert kept is not None
    again.stop()
    aside = Cluster(kept, durable=False)
    aside.start()
    assert [name for name, _ in stored(aside)] == ["Linnet", "Mule", "Brigade"]


def test_a_damaged_backup_changes_nothing(state: Path, running: Cluster) -> None:
    before, file = stored(running), state / "all.ebbrin"
    backup.back_up(running, DATABASE, file, "a test")
    whole = file.read_bytes()
    places = {
        "cut short": whole[: len(whole) // 2],
        "flipped": bytearray(whole),
        "empty": b"",
        "text": b"hello",
    }
    places["flipped"][len(whole) // 2] ^= 0xFF  # type: ignore[index]
    for name, content in places.items():
        bad = state / f"{name}.ebbrin"
        bad.write_bytes(bytes(content))
        with pytest.raises(BackupError, match=r"no whole backup|damaged"):
            backup.restore(bad, running.folder, DATABASE, durable=False)
    assert stored(running) == before
    with pytest.raises(BackupError, match="cannot be read: No such file"):
        backup.read(state / "none.ebbrin")


def test_a_backup_that_says_other_than_it_holds_is_refused(state: Path, running: Cluster) -> None:
    file, other = state / "all.ebbrin", state / "other.ebbrin"
    made = backup.back_up(running, DATABASE, file, "a test")
    with zipfile.ZipFile(file) as whole, zipfile.ZipFile(other, "w") as changed:
        changed.writestr(backup.DUMP, whole.read(backup.DUMP))
        rows = made.rows | {"revisions": 7}
        changed.writestr(backup.MANIFEST, made.model_copy(update={"rows": rows}).model_dump_json())
    with pytest.raises(BackupError, match=r"revisions differ\.\nNothing was changed"):
        backup.restore(other, running.folder, DATABASE, durable=False)
    assert running.running()


def test_a_backup_of_a_newer_schema_is_refused(state: Path, running: Cluster) -> None:
    file, other = state / "all.ebbrin", state / "other.ebbrin"
    made = backup.back_up(running, DATABASE, file, "a test")
    with zipfile.ZipFile(file) as whole, zipfile.ZipFile(other, "w") as changed:
        changed.writestr(backup.DUMP, whole.read(backup.DUMP))
        changed.writestr(
            backup.MANIFEST, made.model_copy(update={"schema_revision": "9999"}).model_dump_json()
        )
    with pytest.raises(BackupError, match="newer Ebbrin"):
        backup.read(other)


def test_no_file_is_overwritten_and_none_is_left_half_written(
    state: Path, running: Cluster, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = state / "all.ebbrin"
    file.write_text("somebody's own")
    with pytest.raises(BackupError, match="is there already"):
        backup.back_up(running, DATABASE, file, "a test")
    assert file.read_text() == "somebody's own"
    with pytest.raises(BackupError, match="cannot be written"):
        backup.back_up(running, DATABASE, state / "no" / "folder.ebbrin", "a test")
    monkeypatch.setattr(Cluster, "program", lambda _self, _name: shutil.which("false"))
    with pytest.raises(BackupError, match="cannot be read whole"):
        backup.back_up(running, DATABASE, state / "half.ebbrin", "a test")
    assert [p.name for p in state.iterdir() if "half" in p.name] == []


def test_fourteen_daily_backups_are_kept_and_all_others(state: Path, running: Cluster) -> None:
    folder = state / "backups"
    folder.mkdir()
    now = datetime.now(UTC)
    for days in range(1, 18):
        stamp = (now - timedelta(days=days)).strftime("%Y%m%d-%H%M%S")
        (folder / f"daily.{stamp}.ebbrin").touch()
    (folder / "fresh.20200101-000000.ebbrin").touch()
    (folder / "mine.ebbrin").touch()
    assert backup.due(folder, now + timedelta(minutes=1))
    backup.make_kept(running, DATABASE, folder, "daily", "a test")
    kept = backup.kept_in(folder)
    assert len([k for k in kept if k.reason == "daily"]) == backup.KEPT == 14
    assert kept[-1].reason == "fresh"
    assert (folder / "mine.ebbrin").exists()
    assert not backup.due(folder, now + timedelta(hours=23))
    assert backup.due(folder, now + timedelta(hours=25))


def test_data_of_an_older_server_is_moved_and_the_old_is_kept(
    state: Path, running: Cluster, monkeypatch: pytest.MonkeyPatch
) -> None:
    from ebbrin.app import places, serve

    before = stored(running)
    assert backup.outdated(running) is None
    # As on a machine that has got a newer version beside the one that made the data; both are this one here.
    looks = iter(["8"])
    monkeypatch.setattr(backup, "outdated", lambda _cluster: next(looks, None))
    (state / "backups").mkdir()
    serve._database(state, places.cluster_of(state))
    again = places.cluster_of(state)
    assert stored(again) == before
    assert len(list(state.glob("postgres.before-*/data/PG_VERSION"))) == 1
    assert [k.reason for k in backup.kept_in(state / "backups")] == ["postgresql-8"]
    again.stop()


def test_nothing_that_holds_files_is_removed(state: Path) -> None:
    cluster = Cluster(state / "postgres", durable=False)
    cluster.start()
    cluster.stop()
    (cluster.data / "PG_VERSION").rename(state / "PG_VERSION")
    there = sorted(p.name for p in cluster.data.iterdir())
    with pytest.raises(
        ClusterError, match=r"PG_VERSION is missing.*Nothing in it was changed.*ebbrin restore"
    ):
        cluster.start()
    assert sorted(p.name for p in cluster.data.iterdir()) == there
    (state / "PG_VERSION").rename(cluster.data / "PG_VERSION")
    cluster.start()
    cluster.stop()
    cluster.data.rename(state / "elsewhere")
    with pytest.raises(ClusterError, match="its folder data is gone"):
        cluster.start()
    assert not cluster.data.exists()


def test_a_lost_password_is_set_anew(running: Cluster) -> None:
    before = stored(running)
    (running.folder / "password").unlink()
    again = Cluster(running.folder, durable=False)
    again.start()
    assert stored(again) == before
    (running.folder / "password").write_text("not it")
    with pytest.raises(ClusterError, match=r"is not the database's. Remove that file"):
        again.start()


def test_a_stale_pid_file_does_not_hinder(running: Cluster) -> None:
    running.stop()
    # The number is a stranger's by now: this very test's.
    (running.data / "postmaster.pid").write_text(f"{os.getpid()}\n{running.data}\n1\n5432\n\n127.0.0.1\n")
    if os.geteuid() == 0:
        shutil.chown(running.data / "postmaster.pid", "postgres", "postgres")
    assert not running.running()
    running.start()
    assert stored(running)


def test_what_postgres_says_is_said(running: Cluster) -> None:
    running.stop()
    (running.data / "global" / "pg_control").write_bytes(b"")
    with pytest.raises(ClusterError, match=r"does not start(.|\n)*ebbrin restore"):
        running.start()


def test_the_role_that_works_owns_its_schema_and_nothing_else(running: Cluster) -> None:
    with running.connected(DATABASE) as owner:
        rights = owner.execute(
            "SELECT rolsuper, rolcreatedb, rolcreaterole, rolreplication, rolbypassrls FROM pg_roles WHERE rolname = %s",
            [APP],
        ).fetchone()
        assert rights == (False,) * 5
        assert owner.execute("SHOW data_checksums").fetchone() == ("on",)
        owned = owner.execute(
            "SELECT DISTINCT pg_get_userbyid(relowner) FROM pg_class WHERE relnamespace = 'public'::regnamespace"
        ).fetchall()
        assert owned == [(APP,)]
    plain = running.url(DATABASE).replace("+psycopg", "")
    with psycopg.connect(plain, autocommit=True) as connection:
        for forbidden in (
            "CREATE DATABASE mine",
            "CREATE SCHEMA mine",
            "COPY builds TO '/tmp/x'",
            "CREATE ROLE x",
        ):
            with pytest.raises(psycopg.errors.InsufficientPrivilege):
                connection.execute(forbidden)
    with pytest.raises(psycopg.OperationalError, match="permission denied"):
        psycopg.connect(plain.removesuffix(DATABASE) + "postgres", connect_timeout=5)


def test_what_an_earlier_version_made_is_handed_over(state: Path) -> None:
    cluster = Cluster(state / "postgres", durable=False)
    cluster.start()
    cluster.ensure_database(DATABASE)
    with cluster.connected(DATABASE) as owner:
        owner.execute("ALTER SCHEMA public OWNER TO ebbrin")
    migrate(cluster.url(DATABASE, "ebbrin"))
    cluster.ensure_database(DATABASE)
    database = Database(cluster.url(DATABASE))
    assert BuildService(database).load_demo_when_new()
    migrate(cluster.url(DATABASE))
    database.close()
    with cluster.connected(DATABASE) as owner:
        for table in ("pg_class", "pg_proc", "pg_type"):
            short = {"pg_class": "rel", "pg_proc": "pro", "pg_type": "typ"}[table]
            left = owner.execute(
                f"SELECT count(*) FROM {table} WHERE {short}namespace = 'public'::regnamespace "
                f"AND {short}owner <> '{APP}'::regrole"
            ).fetchone()
            assert left == (0,), table
