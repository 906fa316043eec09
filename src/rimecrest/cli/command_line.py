"""All commands of `rimecrest …`, one module per group of them."""

from __future__ import annotations

import typer

from rimecrest.cli import estate, programs
from rimecrest.cli.macro import macro_app
from rimecrest.cli.seat import seat_app

app = typer.Typer(
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    help="Design toolbars, tabs and hotkeys, and roll them out.",
)
app.command()(programs.studio)
app.command("app", context_settings={"allow_extra_args": True, "ignore_unknown_options": True})(
    programs.start_app
)
app.command()(programs.demo)
for command in (estate.check, estate.why, estate.chart, estate.release):
    app.command()(command)
app.add_typer(seat_app, name="seat")
app.add_typer(macro_app, name="macro")
