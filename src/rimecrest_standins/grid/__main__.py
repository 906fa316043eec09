"""Start Grid: `python -m rimecrest_standins.grid [--profile DIR] [FILE]`."""

import sys

from rimecrest.kit.program import start
from rimecrest_standins.grid.document import GridDocument
from rimecrest_standins.grid.grid import declarations


def main(arguments: list[str] | None = None) -> int:
    return start(declarations, GridDocument, arguments)


if __name__ == "__main__":
    sys.exit(main())
