"""A whole database as one file, and back: consistent, with its sums, into a cluster of its own first.

A backup is a zip of two entries: database.dump, as pg_dump writes it in its custom form, and manifest.json, which says
what it is of, how many rows each table has, and the dump's SHA-256.
"""

from __future__ import annotations

import hashlib
import json
import os
import secrets
import subprocess
import zipfile
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from psycopg import sql
from pydantic import BaseModel, ValidationError

from ebbrin.app.cluster import FULL, OWNER, Cluster
from ebbrin.app.places import BackupError
from ebbrin.app.programs import ClusterError, in_order, newest_installed

FORMAT, VERSION = "ebbrin-backup", 1
DUMP, MANIFEST, SUFFIX = "database.dump", "manifest.json", ".ebbrin"
KEPT, DAILY = 14, timedelta(days=1)
"""How many of the daily backups are kept, and how old the newest may become."""
PIECE = 1 << 20


class Manifest(BaseModel):
    """What a backup says of itself."""

    format: str
    version: int
    made_at: datetime
    made_by: str
    postgres: str
    schema_revision: str | None
    rows: dict[str, int]
    sha256: str
    bytes: int


@dataclass(frozen=True)
class Kept:
    """A backup that was made by itself: why, when, and where it lies."""

    reason: str
    made_at: datetime
    path: Path


def back_up(cluster: Cluster, database: str, file: Path, made_by: str) -> Manifest:
    """Write a consistent copy of a running database into ``file``, which must not be there yet.

    Raises
    ------
    BackupError
        If the file exists, cannot be written, or the database cannot be read whole. No file is left then.
    """
    if file.exists():
        raise BackupError(f"{file} is there already; nothing was written. Choose another name.")
    part = file.with_name(f".{file.name}.{secrets.token_hex(4)}.part")
    try:
        descriptor = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "wb") as raw, zipfile.ZipFile(raw, "w") as whole:
            manifest = _dumped(cluster, database, whole, made_by)
            whole.writestr(MANIFEST, manifest.model_dump_json(indent=1))
            whole.close()
            raw.flush()
            os.fsync(raw.fileno())
        os.link(part, file)  # unlike a rename it never takes the place of another
    except FileExistsError as error:
        raise BackupError(f"{file} is there already; nothing was written. Choose another name.") from error
    except OSError as error:
        raise BackupError(f"{file} cannot be written: {error.strerror}. Choose another place.") from error
    finally:
        part.unlink(missing_ok=True)
    return manifest


def _dumped(cluster: Cluster, database: str, whole: zipfile.ZipFile, made_by: str) -> Manifest:
    """Stream the dump into the file and count what is in it, all of one moment."""
    with cluster.connected(database) as connection, connection.transaction():
        connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        snapshot = _one(connection.execute("SELECT pg_export_snapshot()"))
        rows = _rows(connection)
        schema = None
        if "alembic_version" in rows:
            found = connection.execute("SELECT version_num FROM alembic_version").fetchone()
            schema = None if found is None else str(found[0])
        version = str(_one(connection.execute("SHOW server_version")))
        command = [
            cluster.program("pg_dump"), "-Fc", "-Z", "6", "-h", "127.0.0.1", "-p", str(cluster.port()), "-U", OWNER,
            "-w", f"--snapshot={snapshot}", database,
        ]  # fmt: skip
        total, length = hashlib.sha256(), 0
        with subprocess.Popen(
            command, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.PIPE, env=_environment(cluster)
        ) as dump, whole.open(DUMP, "w", force_zip64=True) as out:  # fmt: skip
            assert dump.stdout is not None
            assert dump.stderr is not None
            while piece := dump.stdout.read(PIECE):
                total.update(piece)
                length += len(piece)
                out.write(piece)
            said = dump.stderr.read().decode(errors="replace")
        if dump.returncode != 0:
            raise BackupError(f"The database cannot be read whole: {said.strip()[-600:]}")
    return Manifest(
        format=FORMAT, version=VERSION, made_at=datetime.now(UTC), made_by=made_by, postgres=version,
        schema_revision=schema, rows=rows, sha256=total.hexdigest(), bytes=length,
    )  # fmt: skip


def _one(cursor: Any) -> Any:
    return cursor.fetchone()[0]


def _environment(cluster: Cluster) -> dict[str, str]:
    return os.environ | {"PGPASSWORD": cluster.password()}


def _rows(connection: Any) -> dict[str, int]:
    """How many rows each table has."""
    names = connection.execute(
        "SELECT relname FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' ORDER BY 1"
    ).fetchall()
    count = "SELECT count(*) FROM {}"
    return {
        str(name): int(_one(connection.execute(sql.SQL(count).format(sql.Identifier("public", name)))))
        for (name,) in names
    }


def read(file: Path) -> Manifest:
    """What a backup says of itself, once its sums are right.

    Raises
    ------
    BackupError
    """
    from ebbrin.app.schema import (  # with all stores: not for who only makes backups
        knows_schema,
        newest_schema,
    )

    try:
        with zipfile.ZipFile(file) as whole:
            found = Manifest.model_validate_json(whole.read(MANIFEST))
            if found.format != FORMAT or found.version != VERSION:
                raise BackupError(
                    f"{file} is of the form {found.format} {found.version}; this Ebbrin reads {FORMAT} {VERSION}."
                )
            total = hashlib.sha256()
            with whole.open(DUMP) as dump:
                while piece := dump.read(PIECE):
                    total.update(piece)
    except OSError as error:
        raise BackupError(f"{file} cannot be read: {error.strerror}.") from error
    except (zipfile.BadZipFile, KeyError, ValidationError, ValueError, EOFError) as error:
        raise BackupError(
            f"{file} is no whole backup of Ebbrin's ({type(error).__name__}). Take another one."
        ) from error
    if total.hexdigest() != found.sha256:
        raise BackupError(f"{file} is damaged: its sum is not what it was written with. Take another one.")
    if found.schema_revision is not None and not knows_schema(found.schema_revision):
        raise BackupError(
            f"{file} was made by a newer Ebbrin (schema {found.schema_revision}; this one knows up to "
            f"{newest_schema()}). Restore it with that one."
        )
    return found


def load(file: Path, cluster: Cluster, database: str) -> Manifest:
    """Load a backup into a ``cluster`` that is running and does not have that database yet, and bring it to the newest
    schema.

    Raises
    ------
    BackupError
        If the file is no whole backup, or what was loaded is not what it says.
    """
    from ebbrin.app.schema import NewerSchema, migrate  # with all stores: not for who only makes backups

    manifest = read(file)
    url = cluster.ensure_database(database)
    command = [
        cluster.program("pg_restore"), "-h", "127.0.0.1", "-p", str(cluster.port()), "-U", OWNER, "-w",
        "--exit-on-error", "--single-transaction", "-d", database,
    ]  # fmt: skip
    with zipfile.ZipFile(file) as whole, whole.open(DUMP) as dump, subprocess.Popen(
        command, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, env=_environment(cluster)
    ) as restore:  # fmt: skip
        assert restore.stdin is not None
        assert restore.stderr is not None
        try:
            while piece := dump.read(PIECE):
                restore.stdin.write(piece)
            restore.stdin.close()
        except BrokenPipeError:
            pass  # what it says below tells why
        said = restore.stderr.read().decode(errors="replace")
    if restore.returncode != 0:
        why = "the disk is full" if FULL in said else said.strip()[-600:]
        raise BackupError(f"{file} cannot be loaded: {why}")
    with cluster.connected(database) as connection:
        rows = _rows(connection)
    if rows != manifest.rows:
        odd = sorted(name for name in rows | manifest.rows if rows.get(name) != manifest.rows.get(name))
        raise BackupError(f"What was loaded from {file} is not what it says: {', '.join(odd)} differ.")
    cluster.ensure_database(database)
    try:
        migrate(url)
    except NewerSchema as error:
        raise BackupError(f"{error}.") from error
    return manifest


def swap_in(new: Cluster, place: Path) -> Path | None:
    """Put a cluster that stands still in the ``place`` of another; where the other lies now, if there was one.

    Raises
    ------
    BackupError
    """
    kept = place.with_name(f"{place.name}.before-{_stamp(datetime.now(UTC))}-{secrets.token_hex(2)}")
    had = place.exists()
    try:
        if had:
            place.rename(kept)
        new.folder.rename(place)
    except OSError as error:
        if had and not place.exists():
            kept.rename(place)
        raise BackupError(f"{new.folder} cannot take the place of {place}: {error.strerror}.") from error
    return kept if had else None


def restore(file: Path, place: Path, database: str, durable: bool = True) -> tuple[Manifest, Path | None]:
    """Load a backup into a cluster of its own beside ``place`` and put that there; what it is of, and where the
    cluster that was there lies now. The server of ``place`` is stopped once the backup is known to be whole and loaded.

    Raises
    ------
    BackupError, ClusterError
        What is in ``place`` is as it was then.
    """
    new = loaded_beside(file, place, database, durable)
    if place.exists():
        Cluster(place, durable).stop()
    return read(file), swap_in(new, place)


def loaded_beside(file: Path, place: Path, database: str, durable: bool = True) -> Cluster:
    """A cluster of its own beside ``place`` that holds what a backup does, and stands still.

    Raises
    ------
    BackupError
    """
    read(file)
    new = Cluster(place.with_name(f"{place.name}.restoring-{secrets.token_hex(4)}"), durable)
    try:
        new.start()
        load(file, new, database)
    except (BackupError, ClusterError) as error:
        raise BackupError(f"{error}\nNothing was changed; what was begun lies in {new.folder}.") from error
    finally:
        if new.folder.exists():
            new.stop()
    return new


def outdated(cluster: Cluster) -> str | None:
    """The version of the server that made a cluster's data where a newer one is on this machine."""
    try:
        own = (cluster.data / "PG_VERSION").read_text().strip()
    except OSError:
        return None
    return own if own and in_order(newest_installed()) > in_order(own) else None


def _stamp(at: datetime) -> str:
    return at.strftime("%Y%m%d-%H%M%S")


def kept_in(folder: Path) -> list[Kept]:
    """Backups that were made by themselves, the newest first."""
    found = []
    for path in folder.glob(f"*{SUFFIX}"):
        reason, _, stamp = path.name.removesuffix(SUFFIX).partition(".")
        try:
            at = datetime.strptime(stamp, "%Y%m%d-%H%M%S").replace(tzinfo=UTC)
        except ValueError:
            continue  # somebody's own file
        found.append(Kept(reason, at, path))
    return sorted(found, key=lambda kept: kept.made_at, reverse=True)


def make_kept(cluster: Cluster, database: str, folder: Path, reason: str, made_by: str) -> Path:
    """Make a backup into the folder of those that are made by themselves, and let the oldest daily ones go.

    Parameters
    ----------
    reason : "daily", "schema" or "fresh"; only the daily ones are let go.

    Raises
    ------
    BackupError
    """
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    file = folder / f"{reason}.{_stamp(datetime.now(UTC))}{SUFFIX}"
    back_up(cluster, database, file, made_by)
    for old in [kept for kept in kept_in(folder) if kept.reason == "daily"][KEPT:]:
        old.path.unlink(missing_ok=True)
    return file


def due(folder: Path, now: datetime) -> bool:
    """Whether the newest backup is a day old, or there is none; one from the future does not count."""
    made = [kept.made_at for kept in kept_in(folder) if kept.made_at <= now + timedelta(minutes=5)]
    return not made or now - made[0] >= DAILY


def noted(folder: Path) -> str:
    """What the newest backup is, for those who may not look into the folder."""
    kept = kept_in(folder)
    return json.dumps({"made_at": kept[0].made_at.isoformat() if kept else None, "kept": len(kept)})
