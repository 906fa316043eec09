"""The command line: `rimecrest …`.

`command_line` has the commands, one module per group of them; `windows` opens the programs that have one.
Each command imports what it needs, so that all start quickly.
"""

from __future__ import annotations

import io
import sys
from typing import NoReturn

from rimecrest.cli.windows import program_asked_for
from rimecrest.core.errors import RimecrestError


def main() -> NoReturn:
    """Run the command line; what a user can mend is told in a sentence, with exit status 2."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):  # a path need not be text that the terminal can show
            stream.reconfigure(errors="backslashreplace")
    try:
        if (start := program_asked_for(sys.argv[1:])) is not None:
            sys.exit(start())
        from rimecrest.cli.command_line import app  # a window opens without what reads all other commands

        app()
    except RimecrestError as error:
        print(error, file=sys.stderr)
        sys.exit(2)
    sys.exit(0)
