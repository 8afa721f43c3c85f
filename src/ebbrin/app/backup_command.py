"""ebbrin backup and ebbrin restore: the whole database as one file, and back."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from ebbrin.app import backup, places, serve
from ebbrin.app.backup import Manifest
from ebbrin.app.keeper import tell_backups
from ebbrin.app.places import DATABASE, BackupError, StartError
from ebbrin.app.programs import ClusterError
from ebbrin.ground.version import version


def backup_to(
    file: Annotated[Path, typer.Argument(help="Where the copy is written; it must not be there yet.")],
) -> None:
    """Copy everything that is stored into one file, while Ebbrin runs or not. Exits 1 if that failed."""
    state = places.state_folder()
    cluster = places.cluster_of(state)
    try:
        if not cluster.folder.exists():
            raise StartError(f"there is no database in {state}; set EBBRIN_STATE to the folder that has it")
        if cluster.running():
            manifest = backup.back_up(cluster, DATABASE, file, version())
        else:
            places.prepared(state)
            with places.only_one(state):
                began = not cluster.running()
                cluster.start()
                try:
                    manifest = backup.back_up(cluster, DATABASE, file, version())
                finally:
                    if began:
                        cluster.stop()
    except (BackupError, ClusterError, StartError) as error:
        typer.echo(f"failed: {error}", err=True)
        raise typer.Exit(1) from error
    typer.echo(f"{file}: {_told(manifest)}")


def restore_from(
    file: Annotated[Path, typer.Argument(help="A backup that ebbrin backup, or Ebbrin by itself, has made.")],
    yes: Annotated[bool, typer.Option("--yes", help="Do not ask.")] = False,
) -> None:
    """Put what a backup holds in the place of what is stored now, which is kept aside. Exits 1 if that failed."""
    state = places.state_folder()
    try:
        manifest = backup.read(file)
        typer.echo(f"{file}: {_told(manifest)}, of {manifest.made_at:%Y-%m-%d %H:%M} UTC")
        question = f"Put this in the place of what is stored in {state}? What is there now is kept aside."
        if not yes and not typer.confirm(question):
            typer.echo("nothing was changed")
            raise typer.Exit(1)
        places.prepared(state)
        with places.only_one(state):
            running = places.holder(state)
            kept = _swapped(state, file)
        typer.echo(f"restored; what was there before lies in {kept}" if kept else "restored")
        tell_backups(state)
        if running is not None:
            serve.up(state, running.port)
        else:
            typer.echo("start it with ./start")
    except (BackupError, ClusterError, StartError) as error:
        typer.echo(f"failed: {error}", err=True)
        raise typer.Exit(1) from error


def _swapped(state: Path, file: Path) -> Path | None:
    """Load the backup beside, then stop what runs and swap."""
    cluster = places.cluster_of(state)
    new = backup.loaded_beside(file, cluster.folder, DATABASE)
    serve.stop_all(state)
    return backup.swap_in(new, cluster.folder)


def _told(manifest: Manifest) -> str:
    rows = manifest.rows
    return (
        f"{rows.get('builds', 0)} builds with {rows.get('revisions', 0)} revisions, "
        f"{rows.get('shelf_parts', 0)} versions of own parts, {rows.get('recordings', 0)} recordings"
    )
