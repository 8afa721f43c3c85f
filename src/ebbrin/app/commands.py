"""ebbrin: the command line."""

from __future__ import annotations

import sys
from importlib import import_module
from typing import Annotated, Any

import typer
from typer.core import TyperGroup

from ebbrin.app.process import beginning, leave

COMMANDS = {
    "evaluate": "features.judge.command:evaluate_file",
    "size": "features.size.command:size_file",
    "drive": "features.drive.command:drive_file",
    "diagnose": "features.cause.command:diagnose_file",
    "parts": "features.fit.command:parts_of_file",
    "plan": "features.fit.command:plan_of_file",
    "mix": "features.fit.command:mix_for",
    "backup": "app.backup_command:backup_to",
    "restore": "app.backup_command:restore_from",
}
"""Where each command is. Only the one that is asked for is brought in: the database's packages alone take longer than a
whole verdict."""


class _Asked(TyperGroup):
    def list_commands(self, ctx: Any) -> list[str]:
        return [*COMMANDS, *super().list_commands(ctx)]

    def get_command(self, ctx: Any, cmd_name: str) -> Any:
        if cmd_name not in COMMANDS:
            return super().get_command(ctx, cmd_name)
        module, function = COMMANDS[cmd_name].split(":")
        one = typer.Typer(add_completion=False)
        one.command(cmd_name)(getattr(import_module(f"ebbrin.{module}"), function))
        return typer.main.get_command(one)


app = typer.Typer(
    cls=_Asked, no_args_is_help=True, add_completion=False, help="Sizes the cooling system of an engine."
)


@app.callback()
def root() -> None:
    """Sizes the cooling system of a modified or swapped engine."""


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


def main() -> None:
    """The command line as a program."""
    if not (sys.argv[1:] and sys.argv[1] in COMMANDS):
        app()
    with beginning():  # one of these answers and ends
        try:
            app()
        except SystemExit as end:
            leave(end.code if isinstance(end.code, int) else int(end.code is not None))


if __name__ == "__main__":
    main()
