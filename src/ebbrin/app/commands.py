"""ebbrin: the command line."""

from __future__ import annotations

from typing import Annotated

import typer

from ebbrin.app.backup_command import backup_to, restore_from
from ebbrin.features.cause.command import diagnose_file
from ebbrin.features.drive.command import drive_file
from ebbrin.features.fit.command import mix_for, parts_of_file, plan_of_file
from ebbrin.features.judge.command import evaluate_file
from ebbrin.features.size.command import size_file

app = typer.Typer(no_args_is_help=True, add_completion=False, help="Sizes the cooling system of an engine.")


@app.callback()
def root() -> None:
    """Sizes the cooling system of a modified or swapped engine."""


app.command("evaluate")(evaluate_file)
app.command("size")(size_file)
app.command("drive")(drive_file)
app.command("diagnose")(diagnose_file)
app.command("parts")(parts_of_file)
app.command("plan")(plan_of_file)
app.command("mix")(mix_for)
app.command("backup")(backup_to)
app.command("restore")(restore_from)


@app.command("work")
def work(
    database: Annotated[
        str | None, typer.Option(help="Its address, postgresql://…; that of ./start if left out.")
    ] = None,
) -> None:
    """Do queued sizings until stopped: one worker more, beside that of ./start."""
    from ebbrin.app import places, worker

    given = database and database.replace("postgresql://", "postgresql+psycopg://", 1)
    worker.work(lambda: given or places.database_address(places.state_folder()))


if __name__ == "__main__":
    app()
