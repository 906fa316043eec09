"""The command line: `rimecrest …`, one module per group of commands.

Each command imports what it needs, so that all start quickly.
"""

from __future__ import annotations

import sys
from typing import NoReturn

import typer

from rimecrest.cli import estate, programs
from rimecrest.cli.macro import macro_app
from rimecrest.cli.seat import seat_app
from rimecrest.core.errors import RimecrestError

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


def main() -> NoReturn:
    """Run the command line; what a user can mend is told in a sentence, with exit status 2."""
    try:
        app()
    except RimecrestError as error:
        print(error, file=sys.stderr)
        sys.exit(2)
    sys.exit(0)
