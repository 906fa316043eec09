"""Start Grid: `python -m rimecrest.apps.grid [--profile DIR] [FILE]`."""

import sys

from rimecrest.apps.grid.document import GridDocument
from rimecrest.apps.grid.grid import declarations
from rimecrest.embed.program import start


def main(arguments: list[str] | None = None) -> int:
    return start(declarations, GridDocument, arguments)


if __name__ == "__main__":
    sys.exit(main())
